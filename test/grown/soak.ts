// npm run soak: fifty people log a throw a second each for two minutes, on a shelf of 2,000 discs, while one reads a readout, one
// pages the shelf, and one has the board and a disc open. Says what was lost or doubled, how long a write took, and how much
// memory the server held; and fails where, a minute after, it holds more than it should at rest or still works. Loopback only.
// SOAK_SECONDS=600 has it last ten minutes, SOAK_BOARD=0 leaves the board and the disc closed.
import fs from 'node:fs'
import http from 'node:http'
import { quantileSorted } from 'd3'
import { v7 as newId } from 'uuid'
import type { TrialFile } from '../../contract/trials.ts'
import { origin, say, sleep, start, stopped } from './app.ts'
import { fill } from './fill.ts'
import { grownShelf } from './shelf.ts'

const CLIENTS = 50
const SECONDS = Number(process.env['SOAK_SECONDS'] ?? 120)
/** What it may hold and use once it has been at rest for so long, s, MB and share of a core. */
const REST = { withinS: 60, mb: 350, core: 0.03 }
/** Everything that was thrown is weighed by then, s. */
const WEIGHED_S = 300
/** Over so long it is looked how much of a core it uses, s. */
const LOOKED_S = 10
/** Trials that are thrown for, and trials the shelf has behind it. */
const TRIALS = 5
const BEHIND = 12

const agent = new http.Agent({ keepAlive: true, maxSockets: CLIENTS + 20 })
const { port } = new URL(origin)

function asked(method: string, path: string, body?: unknown): Promise<{ status: number; text: string }> {
  return new Promise((answered, failed) => {
    const req = http.request(
      {
        ...{ host: '127.0.0.1', port, method, path, agent },
        headers: body === undefined ? {} : { 'content-type': 'application/json' },
      },
      (res) => {
        let text = ''
        res.setEncoding('utf8')
        res.on('data', (d: string) => (text += d))
        res.on('end', () => answered({ status: res.statusCode!, text }))
      },
    )
    req.on('error', failed)
    req.end(body === undefined ? undefined : JSON.stringify(body))
  })
}

/** Times of one kind of request, ms. */
class Times {
  readonly #ms: number[] = []
  async of<T>(work: () => Promise<T>): Promise<T> {
    const begun = performance.now()
    const result = await work()
    this.#ms.push(performance.now() - begun)
    return result
  }
  get figures() {
    const sorted = this.#ms.toSorted((a, b) => a - b)
    const at = (p: number) => Math.round(10 * (quantileSorted(sorted, p) ?? NaN)) / 10
    return { count: sorted.length, p50: at(0.5), p99: at(0.99), most: at(1) }
  }
}

const child = await start('empty')
const memory = () => {
  const status = fs.readFileSync(`/proc/${child.pid}/status`, 'utf8')
  return Math.round(Number(status.match(/VmRSS:\s+(\d+)/)![1]) / 1024)
}
/** Seconds of processor time it has used. */
const used = () => {
  const [utime, stime] = fs
    .readFileSync(`/proc/${child.pid}/stat`, 'utf8')
    .split(') ')[1]!
    .split(' ')
    .slice(11, 13)
  return (Number(utime) + Number(stime)) / 100
}
/** What it holds and uses now. */
async function atRest() {
  const [begun, before] = [performance.now(), used()]
  await sleep(1000 * LOOKED_S)
  const core = (1000 * (used() - before)) / (performance.now() - begun)
  return { mb: memory(), core: Math.round(1000 * core) / 1000 }
}
const isQuiet = ({ mb, core }: Awaited<ReturnType<typeof atRest>>) => mb <= REST.mb && core <= REST.core
try {
  const all = grownShelf()
  const trials = all.trials.slice(0, BEHIND)
  const ids = new Set(trials.map((t) => t.id))
  const throws = all.throws.filter((t) => ids.has(t.trialId))
  const sessions = new Set(throws.map((t) => t.sessionId))
  await fill({ ...all, trials, throws, sessions: all.sessions.filter((s) => sessions.has(s.id)) })
  const read = async (id: string) => JSON.parse((await asked('GET', `/api/trials/${id}`)).text) as TrialFile
  const thrownFor = trials.slice(0, TRIALS)
  const templates = thrownFor.map((t) => throws.find((x) => x.trialId === t.id)!)
  const before = new Map<string, number>()
  for (const t of thrownFor) before.set(t.id, (await read(t.id)).throws.length)

  const [writes, readout, pages, boards] = [new Times(), new Times(), new Times(), new Times()]
  const acknowledged = new Set<string>()
  const refused: string[] = []
  let heard = 0
  const listening = Array.from({ length: CLIENTS }, () =>
    http.get(
      { host: '127.0.0.1', port, path: '/api/news', headers: { accept: 'text/event-stream' } },
      (res) => {
        res.setEncoding('utf8')
        res.on('data', (d: string) => (heard += d.split('data: ').length - 1))
        res.on('error', () => {})
      },
    ),
  )
  for (const l of listening) l.on('error', () => {})

  const until = performance.now() + 1000 * SECONDS
  const going = () => performance.now() < until
  const logging = Array.from({ length: CLIENTS }, async (_, client) => {
    await sleep((1000 * client) / CLIENTS)
    const template = templates[client % TRIALS]!
    for (let due = performance.now(); going(); due += 1000) {
      const row = { ...template, id: newId(), label: null, version: 0, thrownAt: new Date().toISOString() }
      // an answer that is lost has the device send the row again
      const answer = await writes.of(() => asked('PUT', `/api/throws/${row.id}`, row))
      if (answer.status === 200) acknowledged.add(row.id)
      else refused.push(`${answer.status} ${answer.text.slice(0, 200)}`)
      await sleep(Math.max(0, due + 1000 - performance.now()))
    }
  })
  const reading = (async () => {
    while (going()) {
      const { id } = thrownFor[0]!
      await readout.of(async () => {
        await Promise.all(
          ['', '/known', '/worn', '/short'].map((part) => asked('GET', `/api/trials/${id}${part}`)),
        )
      })
      await sleep(1000)
    }
  })()
  const paging = (async () => {
    for (let page = 0; going(); page = (page + 1) % 60) {
      await pages.of(() => asked('GET', `/api/discs?page=${page}`))
      await sleep(500)
    }
  })()
  // pages that ask again and again as long as what they show is about to change
  const asking =
    process.env['SOAK_BOARD'] === '0' ? [] : ['/api/rotation', `/api/discs/${templates[0]!.discId}/record`]
  const waiting = asking.map(async (path) => {
    while (going()) {
      await boards.of(() => asked('GET', path))
      await sleep(800)
    }
  })
  const rss: number[] = []
  const watching = (async () => {
    while (going()) {
      rss.push(memory())
      await sleep(5000)
    }
  })()
  say(`${CLIENTS} people log for ${SECONDS} s …`)
  await Promise.all([...logging, reading, paging, watching, ...waiting])
  for (const l of listening) l.destroy()
  say('waiting until the ratings are up to date …')
  const begunWeighing = performance.now()
  const behind = async () =>
    (JSON.parse((await asked('GET', '/api/health')).text) as { ratings: string }).ratings === 'behind'
  while ((await behind()) && performance.now() - begunWeighing < 1000 * WEIGHED_S) await sleep(1000)
  const weighedS = Math.round((performance.now() - begunWeighing) / 1000)
  say(`looking how it rests, for ${REST.withinS} s at most …`)
  const begunRest = performance.now()
  let rest = await atRest()
  while (!isQuiet(rest) && performance.now() - begunRest < 1000 * (REST.withinS - LOOKED_S))
    rest = await atRest()
  const restedS = Math.round((performance.now() - begunRest) / 1000)

  const stored = (await Promise.all(thrownFor.map((t) => read(t.id)))).flatMap((f) =>
    f.throws.map((t) => t.id),
  )
  const kept = stored.filter((id) => acknowledged.has(id))
  const half = rss.slice(Math.floor(rss.length / 2))
  process.stdout.write(
    `${JSON.stringify(
      {
        people: CLIENTS,
        seconds: SECONDS,
        acknowledged: acknowledged.size,
        lost: acknowledged.size - new Set(kept).size,
        doubled: stored.length - [...before.values()].reduce((a, b) => a + b) - acknowledged.size,
        refused: refused.length,
        ...(refused.length > 0 && { refusals: [...new Set(refused)].slice(0, 5) }),
        news_heard: heard,
        write_ms: writes.figures,
        readout_ms: readout.figures,
        shelf_page_ms: pages.figures,
        board_ms: boards.figures,
        weighed_after_s: weighedS,
        rest: { after_s: restedS, ...rest, most: REST },
        server_mb: { first: rss[0], half: half[0], last: rss.at(-1), most: Math.max(...rss) },
      },
      null,
      2,
    )}\n`,
  )
  if (!isQuiet(rest))
    say(
      `At rest it holds ${rest.mb} MB and uses ${100 * rest.core} % of a core: more than ${REST.mb} MB and ${100 * REST.core} %.`,
    )
  if (acknowledged.size !== new Set(kept).size || refused.length > 0 || !isQuiet(rest)) process.exitCode = 1
} finally {
  agent.destroy()
  await stopped(child)
}
