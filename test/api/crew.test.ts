import { once } from 'node:events'
import fs from 'node:fs'
import http from 'node:http'
import https from 'node:https'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import Router from '@koa/router'
import type { DeviceKey, FailedTry, Me, Member, OpenPass, Pass, SharingNow } from '../../contract/crew.ts'
import type { Role } from '../../contract/roles.ts'
import { MOST_PASSES } from '../../contract/crew.ts'
import { mayDo, ROLES } from '../../contract/roles.ts'
import { oneAddress } from '../../server/crew/tries.ts'
import type { Problem } from '../../contract/problems.ts'
import type { Throw, ThrowHistory } from '../../contract/trials.ts'
import { startServer } from '../../server/main.ts'
import { allowed } from '../../server/middleware/who.ts'
import { tidy } from '../../server/store/tidy.ts'
import { ADDRESSES, API } from '../../contract/api.ts'
import type { Need } from '../../contract/api.ts'
import { entry } from './entry.ts'
import { testDatabase } from './server.ts'
import { machineCookie, sharedServer } from './shared.ts'
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
    const opened = (await (await it_.own(`/api/pairings`, { method: 'POST', body: '{}' })).json()) as Pass
    const paired = await it_.ask('POST', '/api/pair', { code: opened.secret, device: 'own phone' })
    expect(paired.status, paired.text).to.equal(200)
    cookies.owner = paired.cookie!
    for (const role of ['scribe', 'reader'] as const) cookies[role] = await joined(role, `the ${role}`)
  })
  after(async () => it_.stop())

  it('asks for a key everywhere but on the machine itself', async () => {
    expect((await it_.ask('GET', '/api/trials')).status).to.equal(401)
    expect((await it_.own(`/api/trials`)).status).to.equal(200)
    const me = (await it_.ask('GET', '/api/me')).body as Me
    expect(me).to.deep.equal({ person: null, keyId: null, lacksMachineKey: false })
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
    for (const route of ADDRESSES) {
      const need: Need = API[route].who
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
      expect(() => allowed(router)).to.throw('GET /api/anything')
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

  it('whose key was taken away, or who may do less, hears no more: at once, of every stream', async () => {
    for (const [role, name, stream, end] of [
      ['reader', 'Sedge', 'news', 'key'],
      ['reader', 'Teasel', 'devices/anemometer?place=Millpond', 'key'],
      ['reader', 'Yarrow', 'news', 'passphrase'],
      ['scribe', 'Vetch', 'devices/scale', 'role'],
      ['scribe', 'Tansy', 'news', 'removal'],
    ] as const) {
      const cookie = await joined(role, name)
      const me = (await it_.ask('GET', '/api/me', undefined, { cookie })).body as Me
      const ended = new Promise<number>((over) => {
        https
          .get(
            `${it_.https}/api/${stream}`,
            { ca: it_.ca, agent: false, headers: { cookie, accept: 'text/event-stream' } },
            (res) => {
              expect(res.statusCode, stream).to.equal(200)
              let beats = 0
              res.on('error', () => {})
              res.on('data', (said) => (beats += String(said).includes('still here') ? 1 : 0))
              res.once('close', () => over(beats))
              res.once('data', () => {
                const standing = { role: end === 'role' ? 'reader' : role, removed: end === 'removal' }
                void (end === 'key'
                  ? it_.ask('DELETE', `/api/keys/${me.keyId}`, undefined, { cookie: owner() })
                  : end === 'passphrase'
                    ? it_
                        .ask('POST', '/api/sign-in', { name, passphrase: PASSPHRASE, device: 'laptop' })
                        .then(({ cookie: other }) =>
                          it_.ask(
                            'PUT',
                            '/api/me',
                            { name, passphrase: 'another nine herons', before: PASSPHRASE },
                            { cookie: other },
                          ),
                        )
                    : it_.ask('PUT', `/api/people/${me.person!.id}`, standing, { cookie: owner() }))
                res.resume()
              })
            },
          )
          .on('error', () => {})
      })
      // before the next sign of life, by which it would be found out otherwise
      expect(await ended, `${stream}: ${end}`).to.equal(0)
    }
  }).timeout(120_000)

  describe('links and codes', () => {
    const passes = async (cookie = owner()) =>
      (await it_.ask('GET', '/api/passes', undefined, { cookie })).body as OpenPass[]
    const takeAllBack = async () => {
      for (const p of await passes())
        await it_.ask('DELETE', `/api/passes/${p.id}`, undefined, { cookie: owner() })
    }
    const open = async (what: 'pairings' | 'invitations', cookie: string, role: Role = 'reader') => {
      const answer = await it_.ask('POST', `/api/${what}`, what === 'pairings' ? {} : { role }, { cookie })
      return { status: answer.status, pass: answer.body as Pass, problem: answer.body as Problem }
    }
    const pair = async (code: string) =>
      (await it_.ask('POST', '/api/pair', { code, device: 'phone' })).status
    const join = async (secret: string, name: string) =>
      (await it_.ask('POST', '/api/join', { secret, name, passphrase: PASSPHRASE, device: 'phone' })).status
    const meOf = async (cookie: string) => (await it_.ask('GET', '/api/me', undefined, { cookie })).body as Me
    const stand = (id: string, role: Role, removed = false) =>
      it_.own(`/api/people/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ role, removed }),
      })
    /** A second owner, made at the machine itself. */
    const secondOwner = async (name: string) => {
      const cookie = await joined('scribe', name)
      const { person } = await meOf(cookie)
      expect((await stand(person!.id, 'owner')).status).to.equal(200)
      return { cookie, id: person!.id }
    }
    beforeEach(takeAllBack)

    it('an invitation dies with what its maker may do, whichever way that goes', async () => {
      const { cookie, id } = await secondOwner('Alder')
      const first = await open('invitations', cookie)
      await stand(id, 'scribe')
      expect(await join(first.pass.secret, 'Nobody one')).to.equal(422)
      await stand(id, 'owner')
      const second = await open('invitations', cookie)
      await stand(id, 'owner', true)
      expect(await join(second.pass.secret, 'Nobody two')).to.equal(422)
      expect(await passes()).to.deep.equal([])
    })

    it('a pass dies with the device it was made on, and a code with the passphrase', async () => {
      const { cookie } = await secondOwner('Aspen')
      const { keyId } = await meOf(cookie)
      const code = await open('pairings', cookie)
      const link = await open('invitations', cookie)
      expect((await it_.ask('DELETE', `/api/keys/${keyId}`, undefined, { cookie: owner() })).status).to.equal(
        200,
      )
      expect(await pair(code.pass.secret)).to.equal(422)
      expect(await join(link.pass.secret, 'Nobody three')).to.equal(422)

      const other = await joined('reader', 'Bracken')
      const own = await open('pairings', other)
      const change = { name: 'Bracken', passphrase: 'reeds by the old weir', before: PASSPHRASE }
      expect((await it_.ask('PUT', '/api/me', change, { cookie: other })).status).to.equal(200)
      expect(await pair(own.pass.secret)).to.equal(422)
    })

    it('are listed without what they open by, and taken back; others’ only by an owner', async () => {
      const reader = await joined('reader', 'Clover')
      const mine = await open('pairings', reader)
      const theirs = await open('invitations', owner(), 'scribe')
      expect((await passes(reader)).map((p) => p.id)).to.deep.equal([mine.pass.id])
      const all = await passes()
      expect(all.map((p) => [p.kind, p.role, p.person, p.device])).to.deep.equal([
        ['pairing', null, 'Clover', 'phone of Clover'],
        ['invitation', 'scribe', 'Owner', 'own phone'],
      ])
      expect(JSON.stringify(all)).to.not.include(mine.pass.secret)
      const takeBack = async (id: string, cookie: string) =>
        (await it_.ask('DELETE', `/api/passes/${id}`, undefined, { cookie })).status
      expect(await takeBack(theirs.pass.id, reader)).to.equal(404)
      expect(await takeBack(theirs.pass.id, owner())).to.equal(200)
      expect(await join(theirs.pass.secret, 'Nobody four')).to.equal(422)
      expect(await takeBack(mine.pass.id, reader)).to.equal(200)
      expect(await pair(mine.pass.secret)).to.equal(422)
    })

    it('five are open at most: another link is refused, another code takes the place of the oldest', async () => {
      const { cookie } = await secondOwner('Cowslip')
      const codes = []
      for (let i = 0; i < 7; i++) codes.push((await open('pairings', cookie)).pass.secret)
      expect(await passes()).to.have.length(MOST_PASSES)
      expect(await pair(codes[0]!)).to.equal(422)
      expect(await pair(codes.at(-1)!)).to.equal(200)
      await takeAllBack()
      for (let i = 0; i < MOST_PASSES; i++) expect((await open('invitations', cookie)).status).to.equal(200)
      const sixth = await open('invitations', cookie)
      expect(sixth.status).to.equal(409)
      expect(sixth.problem.detail).to.match(/5 links or codes of yours are open.*Take one back/)
      expect((await open('invitations', owner())).status).to.equal(200)
      await takeAllBack()
    })

    it('whoever makes an owner shows their passphrase again, and guesses at it are counted', async () => {
      const { cookie } = await secondOwner('Dogwood')
      const invite = (passphrase?: string) =>
        it_.ask('POST', '/api/invitations', { role: 'owner', passphrase }, { cookie })
      expect((await invite()).status).to.equal(409)
      expect(((await invite('not this one')).body as Problem).errors![0]!.path).to.equal('passphrase')
      expect((await invite(PASSPHRASE)).status).to.equal(200)
      const scribe = (await meOf(await joined('scribe', 'Elder'))).person!
      const make = (passphrase?: string) =>
        it_.ask('PUT', `/api/people/${scribe.id}`, { role: 'owner', removed: false, passphrase }, { cookie })
      expect((await make()).status).to.equal(409)
      expect((await make(PASSPHRASE)).status).to.equal(200)
      // back again asks for nothing
      expect(
        (await it_.ask('PUT', `/api/people/${scribe.id}`, { role: 'scribe', removed: false }, { cookie }))
          .status,
      ).to.equal(200)
      const statuses = []
      for (let i = 0; i < 8; i++) statuses.push((await make(`guess number ${i}`)).status)
      expect(statuses.slice(-2)).to.deep.equal([429, 429])
      await it_.db.execute(sql`delete from attempts`)
    })
  })

  describe('tries', () => {
    const signIn = async (name: string, passphrase: string, cookie?: string) =>
      it_.ask('POST', '/api/sign-in', { name, passphrase, device: 'x' }, { cookie })
    afterEach(() => it_.db.execute(sql`delete from attempts`))

    it('one name is one name, however it is spelled', async () => {
      await joined('reader', 'Iris')
      const statuses = []
      for (const name of ['Iris', 'IRIS', 'İris', 'ırıs', 'Ｉris', 'iRİS', 'iris'])
        statuses.push((await signIn(name, 'not this one at all')).status)
      expect(statuses).to.deep.equal([422, 422, 422, 422, 422, 429, 429])
    })

    it('a name that passes for another is refused with what is wrong with it', async () => {
      await joined('reader', 'Linden')
      const cases: readonly (readonly [string, RegExp])[] = [
        ['Lindеn', /mixes Latin and Cyrillic letters/],
        ['Lin\u200bden', /a character that is not seen/],
        ['Ｌinden', /stand for plain ones; write Linden/],
        ['LİNDEN', /is that of somebody here already/],
      ]
      for (const [name, says] of cases) {
        const { secret } = (
          await it_.ask('POST', '/api/invitations', { role: 'reader' }, { cookie: owner() })
        ).body as Pass
        const answer = await it_.ask('POST', '/api/join', {
          secret,
          name,
          passphrase: PASSPHRASE,
          device: 'x',
        })
        expect([409, 422], answer.text).to.include(answer.status)
        expect((answer.body as Problem).errors![0]!.message, name).to.match(says)
        // the invitation still lets somebody in
        const good = { secret, name: `Somebody ${newId().slice(-6)}`, passphrase: PASSPHRASE, device: 'x' }
        expect((await it_.ask('POST', '/api/join', good)).status).to.equal(200)
      }
    })

    it('nobody is kept out by strangers: a device that came in once tries by itself, slowed by itself alone', async () => {
      const cookie = await joined('reader', 'Rowan')
      // signed out, it is still known as one that came in once
      const out = await it_.ask('POST', '/api/sign-out', {}, { cookie })
      const known = (out.headers['set-cookie'] as string[])
        .find((c) => c.startsWith('__Host-veer-line-known='))!
        .split(';')[0]!
      expect((await it_.ask('GET', '/api/trials', undefined, { cookie: known })).status).to.equal(401)
      for (let i = 0; i < 6; i++) await signIn('Rowan', `stranger’s guess ${i}`)
      expect((await signIn('Rowan', PASSPHRASE)).status).to.equal(429)
      expect((await signIn('Rowan', PASSPHRASE, known)).status).to.equal(200)
      // a key that was taken away is of a known device too; what it tries itself is slowed, not locked
      const statuses = []
      for (let i = 0; i < 7; i++) statuses.push((await signIn('Rowan', `own guess ${i}`, known)).status)
      expect(statuses).to.deep.equal([422, 422, 422, 422, 422, 422, 429])
      const slowed = (await signIn('Rowan', PASSPHRASE, known)).body as Problem
      expect(slowed.detail).to.match(/try again in (a second|\d seconds|10 seconds)/)
    })

    it('addresses of one IPv6 network are one address', () => {
      expect(oneAddress('2001:db8:7:9::1')).to.equal(oneAddress('2001:db8:7:9:ffff:1:2:3'))
      expect(oneAddress('2001:db8:7:9::1')).to.not.equal(oneAddress('2001:db8:7:a::1'))
      expect(oneAddress('::ffff:203.0.113.9')).to.equal('203.0.113.9')
      expect(oneAddress('203.0.113.9')).to.not.equal(oneAddress('203.0.113.10'))
    })

    it('guesses at one’s own passphrase are counted', async () => {
      const cookie = await joined('reader', 'Sorrel')
      const statuses = []
      for (let i = 0; i < 8; i++)
        statuses.push(
          (
            await it_.ask(
              'PUT',
              '/api/me',
              { name: 'Sorrel', passphrase: 'reeds by the old weir', before: `guess number ${i}` },
              { cookie },
            )
          ).status,
        )
      expect(statuses.slice(0, 5)).to.deep.equal([409, 409, 409, 409, 409])
      expect(statuses.slice(-2)).to.deep.equal([429, 429])
    })

    it('the owner sees that somebody tries', async () => {
      await it_.db.execute(sql`delete from failed_tries`)
      for (let i = 0; i < 3; i++) await signIn('Iris', `guess number ${i}`)
      await it_.ask('POST', '/api/pair', { code: 'AAAA-AAAA', device: 'x' })
      const seen = (await it_.ask('GET', '/api/failed-tries', undefined, { cookie: owner() }))
        .body as FailedTry[]
      expect(seen.map((t) => [t.what, t.name, t.address, t.tries])).to.deep.equal([
        ['code', '', '127.0.0.1', 1],
        ['passphrase', 'iris', '127.0.0.1', 3],
      ])
      expect(JSON.stringify(seen)).to.not.include('guess')
    })
  })

  it('a plain connection carries no key: it is said before anything is used up', async () => {
    const { secret } = (await it_.ask('POST', '/api/invitations', { role: 'reader' }, { cookie: owner() }))
      .body as Pass
    const joining = { secret, name: 'Willow', passphrase: PASSPHRASE, device: 'x' }
    const plain = await fetch(`${it_.url}/api/join`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(joining),
    })
    expect(plain.status).to.equal(409)
    expect(((await plain.json()) as Problem).detail).to.match(/over HTTPS alone.*Nothing was used up/)
    const people = (await it_.ask('GET', '/api/people', undefined, { cookie: owner() })).body as Member[]
    expect(people.map((p) => p.name)).to.not.include('Willow')
    expect((await it_.ask('POST', '/api/join', joining)).status).to.equal(200)
  })

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
      http.get(
        `${it_.url}/api/trials`,
        { headers: { 'x-forwarded-for': '203.0.113.9', cookie: machineCookie(it_) } },
        (res) => {
          res.resume()
          answered(res.statusCode!)
        },
      ),
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

describe('the machine itself', () => {
  const json = { 'content-type': 'application/json' }
  const started = (databaseUrl: string, folder: string) =>
    startServer({
      databaseUrl,
      host: '127.0.0.1',
      port: 0,
      quiet: true,
      share: { folder, host: '127.0.0.2', httpsPort: 0, httpPort: 0 },
    })
  /** Asks through a proxy that rewrites the host and leaves nothing of itself. */
  const through = (url: string, method: string, where: string, body?: unknown, cookie?: string) =>
    fetch(`${url}${where}`, {
      method,
      headers: { ...json, ...(cookie !== undefined && { cookie }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })

  it('is open as long as nobody was let in; from then on it shows what start printed, and a proxy has nothing to show', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-machine-'))
    const database = await testDatabase()
    let running = await started(database, folder)
    try {
      expect((await through(running.url, 'GET', '/api/trials')).status).to.equal(200)
      expect(running.ownUrl()).to.equal(running.url)
      // whoever lets somebody in goes on in the browser they did it with
      const opened = await through(running.url, 'POST', '/api/invitations', { role: 'reader' })
      expect(opened.status).to.equal(200)
      const cookie = opened.headers.get('set-cookie')!.split(';')[0]!
      expect(opened.headers.get('set-cookie'))
        .to.match(/httponly/i)
        .and.to.match(/samesite=strict/i)
      expect((await through(running.url, 'GET', '/api/trials', undefined, cookie)).status).to.equal(200)
      // anybody else who comes by that way is told what to do
      const stranger = await through(running.url, 'GET', '/api/trials')
      expect(stranger.status).to.equal(401)
      expect(((await stranger.json()) as Problem).detail).to.include('open the address that npm start prints')
      expect(await (await through(running.url, 'GET', '/api/me')).json()).to.include({
        person: null,
        lacksMachineKey: true,
      })
      expect((await through(running.url, 'POST', '/api/pairings', {})).status).to.equal(401)
      const { hash, pathname } = new URL(running.ownUrl())
      expect(pathname).to.equal('/at-machine')
      const come = (secret: string) => through(running.url, 'POST', '/api/at-machine', { secret })
      // strangers who try keep nobody out
      for (let i = 0; i < 40; i++) expect((await come(`guessed ${i}`)).status).to.equal(422)
      const came = await come(hash.slice(1))
      expect(came.status).to.equal(200)
      expect(((await came.json()) as Me).person?.role).to.equal('owner')
      expect(
        (
          await through(
            running.url,
            'GET',
            '/api/trials',
            undefined,
            came.headers.get('set-cookie')!.split(';')[0],
          )
        ).status,
      ).to.equal(200)
      // and so it is after the next start; what was lost is made anew, and nobody comes in with the old one
      await running.stop()
      running = await started(database, folder)
      expect((await through(running.url, 'GET', '/api/trials')).status).to.equal(401)
      expect(new URL(running.ownUrl()).hash).to.equal(hash)
      await running.stop()
      fs.rmSync(path.join(folder, 'machine-key'))
      running = await started(database, folder)
      expect((await through(running.url, 'GET', '/api/trials')).status).to.equal(401)
      expect(new URL(running.ownUrl()).hash).to.not.equal(hash)
    } finally {
      await running.stop()
      fs.rmSync(folder, { recursive: true, force: true })
    }
  })

  it('sharing, a code, and a public name each have it shown', async () => {
    for (const lets of ['sharing', 'pairings', 'a public name'] as const) {
      const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-machine-'))
      const running = await startServer({
        databaseUrl: await testDatabase(),
        host: '127.0.0.1',
        port: 0,
        quiet: true,
        share: {
          folder,
          host: '127.0.0.2',
          httpsPort: 0,
          httpPort: 0,
          ...(lets === 'a public name' && { names: ['veer.example.org'] }),
        },
      })
      try {
        if (lets === 'sharing')
          expect((await through(running.url, 'PUT', '/api/sharing', { on: true })).status).to.equal(200)
        if (lets === 'pairings')
          expect((await through(running.url, 'POST', '/api/pairings', {})).status).to.equal(200)
        expect((await through(running.url, 'GET', '/api/trials')).status, lets).to.equal(401)
      } finally {
        await running.stop()
        fs.rmSync(folder, { recursive: true, force: true })
      }
    }
  })

  it('turns away whatever says that something passed it on', async () => {
    const running = await startServer({
      databaseUrl: await testDatabase(),
      host: '127.0.0.1',
      port: 0,
      quiet: true,
    })
    try {
      for (const header of [
        ...['via', 'x-real-ip', 'cf-connecting-ip', 'x-forwarded-proto', 'x-forwarded-port', 'forwarded'],
        ...[
          'true-client-ip',
          'x-client-ip',
          'cdn-loop',
          'x-envoy-external-address',
          'x-amzn-trace-id',
          'cf-ray',
        ],
      ]) {
        const answer = await fetch(`${running.url}/api/trials`, { headers: { [header]: '203.0.113.9' } })
        expect(answer.status, header).to.equal(403)
      }
      expect((await fetch(`${running.url}/api/trials`)).status).to.equal(200)
    } finally {
      await running.stop()
    }
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
        await it_.own(`/api/sharing`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ on }),
        })
      ).json()) as SharingNow
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
