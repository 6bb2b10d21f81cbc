// npm run fuzz: 20,000 malformed requests over every route, as nobody, reader, scribe and owner, from a seed that is printed. Says
// how each was answered; fails where one was answered by 5xx but 503, where anything that was stored is lost or doubled, or where
// the server does not answer at once afterwards. FUZZ_SEED=7 has another, FUZZ_REQUESTS=2000 fewer. Loopback only.
import { gzipSync, deflateSync, brotliCompressSync } from 'node:zlib'
import { randomInt, randomLcg, rollups } from 'd3'
import { v7 as newId } from 'uuid'
import type { Pass } from '../../contract/crew.ts'
import type { Role } from '../../contract/roles.ts'
import type { TrialFile, TrialSummary } from '../../contract/trials.ts'
import { ADDRESSES } from '../../contract/api.ts'
import { sharedServer } from '../api/shared.ts'
import { stopCluster } from '../api/server.ts'

const REQUESTS = Number(process.env['FUZZ_REQUESTS'] ?? 20_000)
const SEED = Number(process.env['FUZZ_SEED'] ?? 20261201)
const say = (line: string) => process.stderr.write(`${line}\n`)
say(`seed ${SEED}, ${REQUESTS} requests`)

const random = randomLcg(SEED / 2 ** 32)
const int = (most: number) => randomInt.source(random)(most)()
const one = <T>(list: readonly T[]): T => list[int(list.length)]!
const PASSPHRASE = 'nine herons at the weir'

const it_ = await sharedServer()
await it_.own('/api/demo/back', { method: 'POST' })
const json = { 'content-type': 'application/json' }
const code = (await (
  await it_.own('/api/pairings', { method: 'POST', headers: json, body: '{}' })
).json()) as Pass
const cookies: Partial<Record<Role, string>> = {
  owner: (await it_.ask('POST', '/api/pair', { code: code.secret, device: 'own' })).cookie!,
}
for (const role of ['scribe', 'reader'] as const) {
  const { secret } = (await it_.ask('POST', '/api/invitations', { role }, { cookie: cookies.owner }))
    .body as Pass
  cookies[role] = (
    await it_.ask('POST', '/api/join', { secret, name: `the ${role}`, passphrase: PASSPHRASE, device: 'x' })
  ).cookie!
}
const asOwner = async <T>(where: string) =>
  (await it_.ask('GET', where, undefined, { cookie: cookies.owner })).body as T

const trials = await asOwner<TrialSummary[]>('/api/trials')
const held = async (): Promise<string> => {
  const files = await Promise.all(trials.map((t) => asOwner<TrialFile>(`/api/trials/${t.trial.id}`)))
  return JSON.stringify(
    files.map((f) => f.throws.map((t) => [t.id, t.carryM, t.rightM, t.version, t.takenBackAt])),
  )
}
const file = await asOwner<TrialFile>(`/api/trials/${trials[0]!.trial.id}`)
const before = await held()

/** Not asked for: they would end what the others need, or go on for as long as somebody listens. */
const NOT = new Set([
  ...[
    'POST /api/sign-out',
    'PUT /api/sharing',
    'POST /api/demo/away',
    'POST /api/demo/back',
    'POST /api/restore',
  ],
  ...[
    'POST /api/copies/:name/restore',
    'DELETE /api/keys/:id',
    'PUT /api/people/:id',
    'PUT /api/me',
    'POST /api/copies',
  ],
  ...[
    'GET /api/news',
    'GET /api/devices/scale',
    'GET /api/devices/anemometer',
    'POST /api/merge',
    'POST /api/standing',
  ],
])
const ROUTES = ADDRESSES.filter((route) => !NOT.has(route))

const STRANGE = [
  ...[
    '',
    ' ',
    '\0',
    '\ud800',
    '%',
    '%00',
    '%zz',
    '../../etc/passwd',
    "' or 1=1 --",
    '<script>alert(1)</script>',
  ],
  ...[
    '__proto__',
    'constructor',
    'null',
    'NaN',
    '1e999',
    '-1',
    '9'.repeat(400),
    'ａ',
    'İ',
    '\u202eabc',
    'x'.repeat(5000),
  ],
]
const scalar = (): unknown =>
  one([
    null,
    true,
    0,
    -1,
    1e308,
    -1e308,
    0.1,
    2 ** 53,
    [],
    {},
    one(STRANGE),
    newId(),
    '2026-02-30',
    '0000-00-00T00:00:00Z',
  ])
const deep = (n: number): string => one(['[', '{"a":']).repeat(n)

/** Rows that would be taken, to be spoiled. */
const GOOD: readonly Readonly<Record<string, unknown>>[] = [
  { ...file.throws[0]! },
  { ...file.trial },
  { ...file.sessions[0]! },
  { name: 'Ida', passphrase: PASSPHRASE, device: 'x', code: 'AAAA-AAAA', secret: 'x' },
  { id: newId(), discs: [] },
  { take: [newId()] },
]
/** A row with some of it spoiled. */
function spoilt(): unknown {
  const row: Record<string, unknown> = structuredClone(one(GOOD))
  // whatever of it is taken is a row of its own
  if ('id' in row) row['id'] = newId()
  for (let n = 1 + int(3); n > 0; n--) row[one([...Object.keys(row), one(STRANGE)])] = scalar()
  return row
}
function body(): { bytes: Uint8Array | string; type: string; encoding?: string } {
  const type = one([
    'application/json',
    'application/json',
    'application/json',
    'text/csv',
    'text/html',
    'application/zip',
    'x',
  ])
  const text = one([
    () => JSON.stringify(spoilt()),
    () => JSON.stringify(spoilt()),
    () => JSON.stringify(scalar()),
    () => JSON.stringify(spoilt()).slice(0, int(200)),
    () => deep(1 + int(20_000)),
    () => `[${'0,'.repeat(int(3000))}0]`,
    () => one(STRANGE).repeat(1 + int(20)),
    () => `throw,disc,${one(STRANGE)}\n${`${one(STRANGE)},${one(STRANGE)}\n`.repeat(int(50))}`,
  ])()
  const encoding = one([
    undefined,
    undefined,
    undefined,
    'gzip',
    'deflate',
    'br',
    'identity',
    'zstd',
    'gzip, br',
  ])
  if (encoding === undefined) return { bytes: text, type }
  const folded = one([
    text,
    gzipSync(text),
    deflateSync(text),
    brotliCompressSync(text),
    gzipSync(text).subarray(0, int(30)),
  ])
  return { bytes: folded, type, encoding }
}
const value = () =>
  one([
    newId(),
    encodeURIComponent(Buffer.from(one(STRANGE)).toString()),
    one(['%00', '%zz', '..', '.', '~']),
    file.trial.id,
  ])
const query = () =>
  int(3) > 0
    ? ''
    : `?${one(['trial', 'since', 'page', 'disc', 'kind', 'store', 'name', 'take', 'job', 'arm', 'trials', 'place'])}=${value()}`

let asked = 0
const answers: { readonly route: string; readonly status: number }[] = []
const broken: string[] = []
let slowest = { ms: 0, what: '' }

async function fire(): Promise<void> {
  const route = one(ROUTES)
  const [method, path] = route.split(' ') as [string, string]
  const where = path.replace(/:\w+/g, value) + query()
  const role = one([undefined, 'reader', 'scribe', 'owner', 'owner'] as const)
  const cookie = role === undefined ? one([undefined, '__Host-veer-line=guess']) : cookies[role]
  const { bytes, type, encoding } = body()
  const begun = performance.now()
  const { status, text } = await sent(
    one([method, method, method, one(['PATCH', 'OPTIONS', 'POST'])]),
    where,
    {
      ...(cookie !== undefined && { cookie }),
      ...(int(20) === 0 && {
        [one(['x-veer-wire', 'x-veer-page', 'x-veer-device', 'accept', 'range'])]: one([
          '0',
          '99',
          'x',
          '\t',
        ]),
      }),
      'content-type': type,
      ...(encoding !== undefined && { 'content-encoding': encoding }),
    },
    method === 'GET' || method === 'DELETE' ? undefined : bytes,
  )
  const ms = performance.now() - begun
  if (ms > slowest.ms) slowest = { ms: Math.round(ms), what: `${route} ${type} ${encoding ?? ''}` }
  answers.push({ route, status })
  if (status >= 500 && status !== 503)
    broken.push(`${status} ${method} ${where.slice(0, 200)}: ${text.slice(0, 300)}`)
}

/** Asks over HTTPS as a phone does, with whatever bytes. */
async function sent(
  method: string,
  where: string,
  headers: Readonly<Record<string, string>>,
  bytes: Uint8Array | string | undefined,
): Promise<{ status: number; text: string }> {
  const { request } = await import('node:https')
  const at = new URL(it_.https)
  return await new Promise((answered) => {
    const req = request(
      { host: at.hostname, port: at.port, method, path: where, ca: it_.ca, headers, agent },
      (res) => {
        let text = ''
        res.setEncoding('utf8')
        res.on('data', (d: string) => (text.length < 500 ? (text += d) : undefined))
        res.on('end', () => answered({ status: res.statusCode!, text }))
        res.on('error', () => answered({ status: res.statusCode!, text }))
      },
    )
    // a server that ends a line it was sent nonsense on has answered
    req.on('error', (e) => answered({ status: 0, text: e.message }))
    req.end(bytes)
  })
}
const { Agent } = await import('node:https')
const agent = new Agent({ keepAlive: true, maxSockets: 16 })

try {
  const begun = performance.now()
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (asked++ < REQUESTS) {
        await fire()
        // tries that fail are not what is looked at: whoever comes in is let try again
        if (asked % 500 === 0) await it_.db.execute('delete from attempts')
      }
    }),
  )
  const seconds = Math.round((performance.now() - begun) / 1000)
  const healthMs = await (async () => {
    const at = performance.now()
    const { status } = await it_.ask('GET', '/api/health')
    return status === 200 ? Math.round(performance.now() - at) : Infinity
  })()
  // a file of nothing but lines is refused, and not read to its end
  const blankAt = performance.now()
  const blank = await sent(
    'POST',
    `/api/trials/${file.trial.id}/import?store=1`,
    { cookie: cookies.owner!, 'content-type': 'text/csv' },
    '\n'.repeat(7_000_000),
  )
  const blankMs = Math.round(performance.now() - blankAt)
  if (blank.status !== 422) broken.push(`${blank.status} for a file of blank lines`)
  const after = JSON.parse(await held()) as unknown[][][]
  const was = JSON.parse(before) as unknown[][][]
  const [kept, now] = [was, after].map((all) => new Map(all.flat().map((t) => [t[0], JSON.stringify(t)])))
  const lost = [...kept!].filter(([id, told]) => now!.get(id) !== told).length
  const doubled = after.flat().length - now!.size
  process.stdout.write(
    `${JSON.stringify(
      {
        seed: SEED,
        requests: answers.length,
        routes: new Set(answers.map((a) => a.route)).size,
        seconds,
        statuses: Object.fromEntries(
          rollups(
            answers,
            (list) => list.length,
            (a) => a.status,
          ).toSorted(([a], [b]) => a - b),
        ),
        broken: broken.length,
        ...(broken.length > 0 && { first: broken.slice(0, 8) }),
        lost,
        doubled,
        slowest,
        health_after_ms: healthMs,
        blank_file_ms: blankMs,
      },
      null,
      2,
    )}\n`,
  )
  if (broken.length > 0 || lost > 0 || doubled > 0 || healthMs > 1000) process.exitCode = 1
} finally {
  agent.destroy()
  await it_.stop()
  await stopCluster()
}
