import { once } from 'node:events'
import http from 'node:http'
import https from 'node:https'
import net from 'node:net'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import Router from '@koa/router'
import type { DeviceKey, Me, Member, Pass, Role, Sharing } from '../../contract/crew.ts'
import { mayDo, ROLES } from '../../contract/crew.ts'
import type { Problem } from '../../contract/imports.ts'
import type { Throw, ThrowHistory } from '../../contract/trials.ts'
import { allowed } from '../../server/middleware/who.ts'
import { tidy } from '../../server/store/tidy.ts'
import { NEEDS } from '../../server/routes/needs.ts'
import { entry } from './entry.ts'
import { sharedServer } from './shared.ts'
import type { SharedServer } from './shared.ts'

const STREAMS = ['GET /api/news', 'GET /api/devices/scale', 'GET /api/devices/anemometer']
const PASSPHRASE = 'nine herons at the weir'

describe('the crew', () => {
  let it_: SharedServer
  const cookies = {} as Record<Role, string>
  const owner = () => cookies.owner

  /** Makes somebody by an invitation, and says what their device comes in with. */
  async function joined(role: Role, name: string): Promise<string> {
    const pass = (await it_.ask('POST', '/api/invitations', { role }, { cookie: owner() })).body as Pass
    const came = await it_.ask('POST', '/api/join', {
      secret: pass.secret,
      name,
      passphrase: PASSPHRASE,
      device: `phone of ${name}`,
    })
    expect(came.status, came.text).to.equal(200)
    return came.cookie!
  }

  before(async () => {
    it_ = await sharedServer()
    // whoever sits at the machine has no need to sign in, and opens a pairing
    const opened = (await (
      await fetch(`${it_.url}/api/pairings`, { method: 'POST', body: '{}' })
    ).json()) as Pass
    const paired = await it_.ask('POST', '/api/pair', { code: opened.secret, device: 'own phone' })
    expect(paired.status, paired.text).to.equal(200)
    cookies.owner = paired.cookie!
    for (const role of ['scribe', 'reader'] as const) cookies[role] = await joined(role, `the ${role}`)
  })
  after(async () => it_.stop())

  it('asks for a key everywhere but on the machine itself', async () => {
    expect((await it_.ask('GET', '/api/trials')).status).to.equal(401)
    expect((await fetch(`${it_.url}/api/trials`)).status).to.equal(200)
    const me = (await it_.ask('GET', '/api/me')).body as Me
    expect(me).to.deep.equal({ person: null, keyId: null })
    const own = (await it_.ask('GET', '/api/me', undefined, { cookie: owner() })).body as Me
    expect(own.person?.role).to.equal('owner')
    expect(own.keyId).to.be.a('string')
  })

  it('gives a browser a cookie that no script reads, no other site sends and no plain connection carries', async () => {
    const opened = (await it_.ask('POST', '/api/pairings', {}, { cookie: owner() })).body as Pass
    const came = await it_.ask('POST', '/api/pair', { code: opened.secret, device: 'tablet' })
    const [set] = came.headers['set-cookie'] as string[]
    for (const word of ['__Host-', 'HttpOnly', 'Secure', 'SameSite=Strict', 'path=/'])
      expect(set!.toLowerCase()).to.include(word.toLowerCase())
  })

  it('keeps neither keys, codes, links nor passphrases as they are', async () => {
    const held = await it_.db.execute<{ all: string }>(
      sql`select (select json_agg(p)::text from people p) || (select json_agg(k)::text from device_keys k) || (select json_agg(x)::text from passes x) as all`,
    )
    const { all } = held.rows[0]!
    expect(all).to.not.include(PASSPHRASE)
    for (const cookie of Object.values(cookies)) expect(all).to.not.include(cookie.split('=')[1])
    expect(all).to.include('scrypt$')
  })

  describe('every route for every role', () => {
    const values: Record<string, string> = { ':id': newId(), ':token': 'none', ':name': 'none' }
    for (const [route, need] of Object.entries(NEEDS)) {
      const [method, path] = route.split(' ') as [string, string]
      const where = path.replace(/:\w+/g, (name) => values[name]!)
      it(`${route}: ${need}`, async () => {
        for (const role of [undefined, ...ROLES]) {
          // with a body that nothing takes, so that whoever gets past the door changes nothing
          const body = method === 'GET' || method === 'DELETE' ? undefined : { nothing: true }
          // signing out is for another test: it ends what this one needs
          if (route === 'POST /api/sign-out' && role !== undefined) continue
          // a copy is made whatever the body says
          if (route === 'POST /api/copies' && role === 'owner') continue
          // they stream for as long as somebody listens
          if (STREAMS.includes(route) && role !== undefined && mayDo(role, need as Role)) continue
          const answer = await it_.ask(method, where, body, {
            cookie: role && cookies[role],
          })
          const wanted = need === 'anyone' ? 'in' : role === undefined ? 401 : mayDo(role, need) ? 'in' : 403
          if (wanted === 'in')
            expect([401, 403], `${role ?? 'nobody'}: ${answer.text}`).to.not.include(answer.status)
          else {
            expect(answer.status, `${role ?? 'nobody'}: ${answer.text}`).to.equal(wanted)
            expect((answer.body as Problem).detail).to.match(/signed in|needs a/)
          }
        }
      })
    }
    it('has no route without a line', () => {
      const router = new Router()
      router.get('/api/anything', () => {})
      expect(() => allowed(router, NEEDS)).to.throw('GET /api/anything')
    })
  })

  it('lets a code in once, however it is typed, and no other', async () => {
    const opened = (await it_.ask('POST', '/api/pairings', {}, { cookie: owner() })).body as Pass
    const typed = ` ${opened.secret.toLowerCase().replace('-', ' ')}`
    const pair = (code: string) => it_.ask('POST', '/api/pair', { code, device: 'second phone' })
    const both = await Promise.all([pair(typed), pair(typed)])
    expect(both.map((a) => a.status).sort()).to.deep.equal([200, 422])
    expect((await pair('AAAA-AAAA')).status).to.equal(422)
    // a code is over after five minutes
    const late = (await it_.ask('POST', '/api/pairings', {}, { cookie: owner() })).body as Pass
    expect(Date.parse(late.expiresAt) - Date.now()).to.be.within(4 * 60_000, 5 * 60_000 + 5000)
    await it_.db.execute(sql`update passes set expires_at = now() where id = ${late.id}`)
    expect((await pair(late.secret)).status).to.equal(422)
  })

  it('an invitation makes one person, of the role it was made for; names are taken once', async () => {
    const invite = async () =>
      ((await it_.ask('POST', '/api/invitations', { role: 'scribe' }, { cookie: owner() })).body as Pass)
        .secret
    const secret = await invite()
    const join = (given: string, name: string, passphrase = PASSPHRASE) =>
      it_.ask('POST', '/api/join', { secret: given, name, passphrase, device: 'phone' })
    const short = await join(secret, 'Orla', 'short')
    expect(short.status).to.equal(422)
    expect((short.body as Problem).errors![0]!.path).to.equal('passphrase')
    expect((await join(secret, 'Orla')).status).to.equal(200)
    expect((await join(secret, 'Orla two')).status).to.equal(422)
    const again = await invite()
    const taken = await join(again, 'ORLA')
    expect(taken.status).to.equal(409)
    expect((taken.body as Problem).detail).to.include('name')
    // a name that was taken does not use the invitation up
    expect((await join(again, 'Bryn')).status).to.equal(200)
    const people = (await it_.ask('GET', '/api/people', undefined, { cookie: owner() })).body as Member[]
    expect(people.find((p) => p.name === 'Bryn')).to.include({ role: 'scribe', hasPassphrase: true })
  })

  it('signs in by name and passphrase, and lets nobody go on guessing', async () => {
    const cookie = await joined('reader', 'Wren')
    expect(cookie).to.be.a('string')
    const signIn = (name: string, passphrase: string) =>
      it_.ask('POST', '/api/sign-in', { name, passphrase, device: 'laptop' })
    expect((await signIn('wren', PASSPHRASE)).status).to.equal(200)
    const wrong = []
    for (let i = 0; i < 7; i++) wrong.push((await signIn('Wren', `wrong number ${i}`)).status)
    expect(wrong).to.deep.equal([422, 422, 422, 422, 422, 429, 429])
    // the right one has to wait too, or guessing would go on
    expect((await signIn('Wren', PASSPHRASE)).status).to.equal(429)
    expect((await signIn('the reader', PASSPHRASE)).status).to.equal(200)
    await it_.db.execute(sql`delete from attempts`)
  })

  it('counts tries that come at once', async () => {
    await joined('reader', 'Moss')
    const tries = await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        it_.ask('POST', '/api/sign-in', { name: 'Moss', passphrase: `guess number ${i}`, device: 'x' }),
      ),
    )
    expect(tries.filter((t) => t.status === 422)).to.have.length(5)
    await it_.db.execute(sql`delete from attempts`)
  })

  it('takes a device away, and everything of a person who is removed', async () => {
    const cookie = await joined('scribe', 'Finn')
    const keys = (await it_.ask('GET', '/api/keys', undefined, { cookie: owner() })).body as DeviceKey[]
    const phone = keys.find((k) => k.person === 'Finn')!
    expect(phone.name).to.equal('phone of Finn')
    // a scribe sees and takes away their own devices only
    const own = (await it_.ask('GET', '/api/keys', undefined, { cookie })).body as DeviceKey[]
    expect(own.map((k) => k.person)).to.deep.equal(['Finn'])
    const others = keys.find((k) => k.person !== 'Finn')!
    expect((await it_.ask('DELETE', `/api/keys/${others.id}`, undefined, { cookie })).status).to.equal(404)
    expect(
      (await it_.ask('DELETE', `/api/keys/${phone.id}`, undefined, { cookie: owner() })).status,
    ).to.equal(200)
    expect((await it_.ask('GET', '/api/trials', undefined, { cookie })).status).to.equal(401)

    const again = (
      await it_.ask('POST', '/api/sign-in', { name: 'Finn', passphrase: PASSPHRASE, device: 'phone' })
    ).cookie
    const removed = await it_.ask(
      'PUT',
      `/api/people/${phone.personId}`,
      { role: 'scribe', removed: true },
      { cookie: owner() },
    )
    expect(removed.status).to.equal(200)
    expect((await it_.ask('GET', '/api/trials', undefined, { cookie: again })).status).to.equal(401)
    const signIn = await it_.ask('POST', '/api/sign-in', {
      name: 'Finn',
      passphrase: PASSPHRASE,
      device: 'phone',
    })
    expect(signIn.status).to.equal(422)
  })

  it('whose key was taken away hears no more news', async () => {
    const cookie = await joined('reader', 'Sedge')
    const me = (await it_.ask('GET', '/api/me', undefined, { cookie })).body as Me
    const ended = new Promise<void>((over) => {
      https
        .get(
          `${it_.https}/api/news`,
          { ca: it_.ca, agent: false, headers: { cookie, accept: 'text/event-stream' } },
          (res) => {
            expect(res.statusCode).to.equal(200)
            res.on('error', () => {})
            res.once('close', over)
            res.once('data', () => {
              void it_.ask('DELETE', `/api/keys/${me.keyId}`, undefined, { cookie: owner() })
              res.resume()
            })
          },
        )
        .on('error', () => {})
    })
    // as soon as it is next asked whether it is still there
    await ended
  }).timeout(60_000)

  it('lets go of codes, tries and errands that are long over, and of nothing else', async () => {
    const open = (await it_.ask('POST', '/api/pairings', {}, { cookie: owner() })).body as Pass
    const over = (await it_.ask('POST', '/api/pairings', {}, { cookie: owner() })).body as Pass
    await it_.db.execute(sql`update passes set expires_at = now() - interval '31 days' where id = ${over.id}`)
    await it_.db.execute(
      sql`insert into attempts (key, points, expire) values ('old', 3, now() - interval '2 days'), ('new', 3, now() + interval '1 hour')`,
    )
    await tidy(it_.db)
    const { rows } = await it_.db.execute<{ id: string }>(
      sql`select id::text from passes where id in (${open.id}, ${over.id}) union all select key from attempts where key in ('old', 'new')`,
    )
    expect(rows.map((r) => r.id).sort()).to.deep.equal([open.id, 'new'].sort())
    await it_.db.execute(sql`delete from attempts`)
  })

  it('leaves somebody who can do everything', async () => {
    const people = (await it_.ask('GET', '/api/people', undefined, { cookie: owner() })).body as Member[]
    const last = people.find((p) => p.role === 'owner')!
    const change = { role: 'reader', removed: false }
    const answer = await it_.ask('PUT', `/api/people/${last.id}`, change, { cookie: owner() })
    expect(answer.status).to.equal(409)
    expect((answer.body as Problem).detail).to.include('only owner')
  })

  it('another passphrase asks for the one before, and signs other devices out', async () => {
    const cookie = await joined('reader', 'Tamsin')
    const other = (
      await it_.ask('POST', '/api/sign-in', { name: 'Tamsin', passphrase: PASSPHRASE, device: 'laptop' })
    ).cookie
    const change = (before: string) =>
      it_.ask('PUT', '/api/me', { name: 'Tamsin', passphrase: 'reeds by the old weir', before }, { cookie })
    expect((await change('not this one')).status).to.equal(409)
    expect((await change(PASSPHRASE)).status).to.equal(200)
    expect((await it_.ask('GET', '/api/trials', undefined, { cookie })).status).to.equal(200)
    expect((await it_.ask('GET', '/api/trials', undefined, { cookie: other })).status).to.equal(401)
  })

  it('turns away foreign pages and names, on every write and stream', async () => {
    const as = (headers: Record<string, string>) => ({ cookie: owner(), headers })
    const foreign = { origin: 'https://elsewhere.example' }
    expect((await it_.ask('POST', '/api/pairings', {}, as(foreign))).status).to.equal(403)
    expect(
      (await it_.ask('GET', '/api/devices/scale', undefined, as({ ...foreign, accept: 'text/event-stream' })))
        .status,
    ).to.equal(403)
    expect(
      (await it_.ask('GET', '/api/trials', undefined, as({ 'sec-fetch-site': 'cross-site' }))).status,
    ).to.equal(403)
    expect(
      (await it_.ask('GET', '/api/trials', undefined, as({ host: 'elsewhere.example' }))).status,
    ).to.equal(403)
    // the machine itself does not take a stranger for its owner because something passed them on
    const passed = await new Promise<number>((answered) =>
      http.get(`${it_.url}/api/trials`, { headers: { 'x-forwarded-for': '203.0.113.9' } }, (res) => {
        res.resume()
        answered(res.statusCode!)
      }),
    )
    expect(passed).to.equal(403)
  })

  it('keeps who changed which throw, when, from which device; a scribe changes their own', async () => {
    const entered = entry('HS-901')
    const put = (
      kind: string,
      row: { readonly id: string } & Readonly<Record<string, unknown>>,
      cookie: string,
    ) => it_.ask('PUT', `/api/${kind}/${row.id}`, row, { cookie })
    expect((await put('entries', entered, owner())).status).to.equal(200)
    const trial = {
      id: newId(),
      name: 'What does it do?',
      question: '',
      discIds: [entered.disc.id],
      controlDiscId: null,
      hyzerDegs: [0],
      plannedThrows: 4,
      finishedAt: null,
      plan: null,
    }
    const made = await put('trials', trial, owner())
    expect(made.status, made.text).to.equal(200)
    const thrower = {
      id: newId(),
      name: 'Ines',
      hand: 'right',
      backhandMps: null,
      forehandMps: null,
      budget: null,
    }
    const session = {
      id: newId(),
      place: 'Millpond meadow',
      placeId: null,
      timeZone: null,
      day: '2026-05-09',
      temperatureC: null,
      altitudeM: null,
      method: 'eye',
    }
    expect((await put('throwers', thrower, cookies.scribe)).status).to.equal(200)
    expect((await put('sessions', session, cookies.scribe)).status).to.equal(200)
    const thrown = {
      id: newId(),
      trialId: trial.id,
      sessionId: session.id,
      discId: entered.disc.id,
      throwerId: thrower.id,
      label: null,
      thrownAt: '2026-05-09T10:00:00.000Z',
      hand: 'right',
      stroke: 'backhand',
      power: 1,
      hyzerDeg: 0,
      carryM: 81,
      rightM: -4,
      counts: true,
      notes: {},
      takenBackAt: null,
      version: 0,
    }
    const logged = await put('throws', thrown, cookies.scribe)
    expect(logged.status, logged.text).to.equal(200)
    expect((await put('throws', { ...thrown, id: newId() }, cookies.reader)).status).to.equal(403)
    const mended = await put('throws', { ...(logged.body as Throw), carryM: 84 }, owner())
    expect(mended.status, mended.text).to.equal(200)
    // the owner wrote it last: it is no longer the scribe's to change
    const back = await put(
      'throws',
      { ...(mended.body as Throw), takenBackAt: '2026-05-09T11:00:00.000Z' },
      cookies.scribe,
    )
    expect(back.status).to.equal(409)
    expect((back.body as Problem).detail).to.include('Somebody else logged this throw')
    // the same write come again is the same write, and no change
    expect((await put('throws', thrown, cookies.scribe)).status).to.equal(200)
    const history = (
      await it_.ask('GET', `/api/throws/${thrown.id}/history`, undefined, { cookie: cookies.reader })
    ).body as ThrowHistory
    expect(history.map((h) => [h.person, h.device, h.throw.carryM])).to.deep.equal([
      ['Owner', 'own phone', 84],
      ['the scribe', 'phone of the scribe', 81],
    ])
    expect(Date.parse(history[0]!.at)).to.be.greaterThan(Date.parse(history[1]!.at))
    expect(history[1]!.throw.thrownAt).to.equal('2026-05-09T10:00:00.000Z')
  })
})

describe('being reached', () => {
  let it_: SharedServer
  before(async () => {
    it_ = await sharedServer()
  })
  after(async () => it_.stop())

  it('says where it is reached, and is switched off and on at the machine', async () => {
    const state = it_.sharing!.state()
    expect(state.on).to.equal(true)
    expect(state.fingerprint).to.match(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)
    const turn = async (on: boolean) =>
      (await (
        await fetch(`${it_.url}/api/sharing`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ on }),
        })
      ).json()) as Sharing
    // somebody who has come to the door and says nothing keeps nobody from closing it
    const silent = net.connect(Number(new URL(it_.https).port), '127.0.0.2')
    silent.on('error', () => {})
    await once(silent, 'connect')
    expect((await turn(false)).urls).to.deep.equal([])
    await it_.ask('GET', '/api/me').then(
      () => expect.fail('it still answers'),
      (e: NodeJS.ErrnoException) => expect(e.code).to.equal('ECONNREFUSED'),
    )
    const on = await turn(true)
    expect(on.urls[0]).to.match(/^https:\/\/127\.0\.0\.2:\d+$/)
    expect(on.fingerprint).to.equal(state.fingerprint)
  })
})
