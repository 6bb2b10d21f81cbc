import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import type { Me, Pass } from '../../contract/crew.ts'
import { once } from '../../server/store/database.ts'
import { ADDRESSES, API } from '../../contract/api.ts'
import { sharedServer } from './shared.ts'
import type { SharedServer } from './shared.ts'
import { testDatabase } from './server.ts'

const json = { 'content-type': 'application/json' }

describe('a database that takes nothing', () => {
  let it_: SharedServer
  let url: string
  let cookie: string
  before(async () => {
    url = await testDatabase()
    it_ = await sharedServer(url)
    await it_.own('/api/demo/back', { method: 'POST' })
    const code = (await (
      await it_.own('/api/pairings', { method: 'POST', headers: json, body: '{}' })
    ).json()) as Pass
    cookie = (await it_.ask('POST', '/api/pair', { code: code.secret, device: 'phone' })).cookie!
  })
  after(async () => it_.stop())

  /** Has every line to the database be one that only reads, or not. */
  async function readOnly(is: boolean): Promise<void> {
    const name = new URL(url).pathname.slice(1)
    await once(
      url.replace(name, 'postgres'),
      `alter database ${name} ${is ? 'set default_transaction_read_only = on' : 'reset default_transaction_read_only'};
       select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`,
    )
  }

  it('is read on by phones that were not seen for a while: reading never depends on writing', async () => {
    await it_.db.execute(sql`update device_keys set seen_at = now() - interval '1 hour'`)
    const ids = {
      ...((
        await it_.db.execute<Record<string, string>>(sql`select (select id from trials limit 1) as trials,
          (select id from discs limit 1) as discs, (select id from sessions limit 1) as sessions,
          (select id from throws limit 1) as throws`)
      ).rows[0] as Record<string, string>),
    }
    await readOnly(true)
    try {
      const read = ADDRESSES.filter(
        (route) =>
          route.startsWith('GET /api/') &&
          API[route].who !== 'anyone' &&
          !/devices\/(scale|anemometer)|\/news|errands|imports|copies/.test(route),
      )
      let asked = 0
      for (const route of read) {
        const path = route.slice(4)
        const kind = path.split('/')[2]!
        if (path.includes(':') && !(kind in ids)) continue
        const answer = await it_.ask('GET', path.replace(/:\w+/, ids[kind] ?? ''), undefined, { cookie })
        expect([500, 503, 401], `${route}: ${answer.text.slice(0, 200)}`).to.not.include(answer.status)
        asked++
      }
      expect(asked).to.be.greaterThan(25)
      expect(((await it_.ask('GET', '/api/me', undefined, { cookie })).body as Me).person?.role).to.equal(
        'owner',
      )
      // writing says why, and a row waits for it
      const put = await it_.ask('PUT', `/api/sessions/${ids['sessions']}`, {}, { cookie })
      expect([422, 503]).to.include(put.status)
    } finally {
      await readOnly(false)
    }
  }).timeout(120_000)
})
