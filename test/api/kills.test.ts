import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { once as emitted } from 'node:events'
import fs from 'node:fs'
import http from 'node:http'
import os from 'node:os'
import path from 'node:path'
import { expect } from 'chai'
import { randomInt, randomLcg } from 'd3'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { v7 as newId } from 'uuid'
import type { Shelf } from '../../contract/shelf.ts'
import type { TrialSummary } from '../../contract/trials.ts'
import type { Custody, Errand } from '../../contract/custody.ts'
import { isOpen } from '../../contract/custody.ts'
import { loadDemo } from '../../demo/load.ts'
import { clusterFolder, startPostgres } from '../../scripts/database.mjs'
import { halfMade, sweep } from '../../server/custody/file.ts'
import { connect, once, openDatabase } from '../../server/store/database.ts'
import { migrations, statementsIn } from '../../server/custody/migrations.ts'
import type { Connection } from '../../server/store/database.ts'
import { testDatabase } from './server.ts'
import { bundleProgram } from '../../scripts/bundles.mjs'

/** When each migration was made, by its name. */
const journal = () =>
  (
    JSON.parse(
      fs.readFileSync(
        path.join(import.meta.dirname, '../../server/store/migrations/meta/_journal.json'),
        'utf8',
      ),
    ) as { entries: { tag: string; when: number }[] }
  ).entries

const until = async (is: () => boolean | Promise<boolean>) => {
  while (!(await is())) await new Promise((r) => setTimeout(r, 20))
}

describe('killed in the midst of it', function () {
  this.timeout(240_000)
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-kills-'))
  let database: string
  let direct: Connection
  let child: ChildProcess
  let url: string

  async function live(): Promise<void> {
    child = spawn(process.execPath, [await bundleProgram('test/api/keeper.ts'), database, folder], {
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    const [said] = (await emitted(child.stdout!, 'data')) as [Buffer]
    url = String(said).trim()
  }
  async function die(): Promise<void> {
    const gone = emitted(child, 'exit')
    child.kill('SIGKILL')
    await gone
  }
  const ask = async <T>(where: string, method = 'GET', body?: unknown): Promise<T> =>
    (await (
      await fetch(`${url}${where}`, {
        method,
        ...(body !== undefined && {
          body: JSON.stringify(body),
          headers: { 'content-type': 'application/json' },
        }),
      })
    ).json()) as T
  const halves = () => fs.readdirSync(folder).filter((n) => n.endsWith('.part'))
  const copies = async () => (await ask<Custody>('/api/custody')).copies

  before(async () => {
    database = await testDatabase()
    direct = await openDatabase(database)
    await loadDemo(direct.db)
    await live()
    await until(async () => (await copies()).length > 0)
  })
  after(async () => {
    await die()
    await direct.close()
    fs.rmSync(folder, { recursive: true, force: true })
  })

  it('an upload leaves nothing behind after the next start', async () => {
    const { port } = new URL(url)
    const sending = http.request({
      host: '127.0.0.1',
      port,
      method: 'POST',
      path: '/api/restore',
      headers: { 'content-type': 'application/zip', 'content-length': 50_000_000 },
    })
    sending.on('error', () => {})
    sending.write(Buffer.alloc(3_000_000))
    await until(() => halves().length > 0)
    await die()
    expect(halves()).to.have.length(1)
    await live()
    await until(() => halves().length === 0)
  })

  it('a half-made file of somebody who still makes it is left alone', async () => {
    const apart = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-sweep-'))
    const files = [
      halfMade('own.zip'),
      halfMade('other').replace(`-${process.pid}.`, `-${process.ppid}.`),
      halfMade('dead.zip').replace(`-${process.pid}.`, '-999999999.'),
      'elsewhere.another-host-7.part',
      'nobody.part',
      'whole.zip',
    ]
    for (const name of files) fs.writeFileSync(path.join(apart, name), '')
    await sweep(apart, false)
    expect(fs.readdirSync(apart)).to.have.members(files.filter((n) => !n.startsWith('dead')))
    const long = new Date(Date.now() - 2 * 3_600_000)
    for (const name of fs.readdirSync(apart)) fs.utimesSync(path.join(apart, name), long, long)
    await sweep(apart, true)
    expect(fs.readdirSync(apart)).to.have.members([files[1], 'whole.zip'])
    fs.rmSync(apart, { recursive: true })
  })

  it('a restore is whole or not at all, and says that it was done where it was', async () => {
    const random = randomInt.source(randomLcg(20261201))
    const [copy] = await copies()
    let done = 0
    let begun = 0
    for (let round = 0; round < 5; round++) {
      await direct.db.execute(sql`update discs set note = ${`since, ${round}`}`)
      const errand = await ask<Errand>(`/api/copies/${copy!.name}/restore`, 'POST', {})
      // at any moment of it, early once; twice just after it was kept, before that could be said
      if (round % 2 === 1)
        await until(async () => {
          const { rows } = await direct.db.execute<{ n: number }>(
            sql`select count(*)::int as n from discs where note like 'since%'`,
          )
          return rows[0]!.n === 0
        })
      else await new Promise((r) => setTimeout(r, round === 0 ? 40 : random(20, 1800)()))
      await die()
      await live()
      const { rows } = await direct.db.execute<{ kept: number; all: number }>(
        sql`select count(*) filter (where note like 'since%')::int as kept, count(*)::int as all from discs`,
      )
      const { kept, all } = rows[0]!
      expect([0, all], `round ${round}`).to.include(kept)
      const said = await ask<Errand>(`/api/errands/${errand.id}`)
      if (kept === 0) {
        done++
        expect(said.state, `round ${round}`).to.equal('done')
        expect(said.said).to.match(/^Restored: 116 throws.* is the copy of /)
      } else {
        begun++
        expect(said.state, `round ${round}`).to.not.equal('done')
      }
      const aside = await direct.db.execute(
        sql`select 1 from information_schema.schemata where schema_name = 'restoring'`,
      )
      expect(aside.rows).to.deep.equal([])
      await until(() => halves().length === 0)
    }
    expect(done, 'rounds in which it was done').to.be.greaterThan(0)
    expect(begun, 'rounds in which it was not').to.be.greaterThan(0)
  })

  it('a copy is whole or not there, and what it left is swept', async () => {
    const asked: Errand[] = []
    for (const ms of [5, 60, 250]) {
      asked.push(await ask<Errand>('/api/copies', 'POST', {}))
      await new Promise((r) => setTimeout(r, ms))
      await die()
      await live()
      await until(() => halves().length === 0)
      for (const { throws } of await copies()) expect(throws).to.equal(116)
    }
    // one that nobody had begun is made by whoever lives after, though no worker is told of it any more
    await die()
    const told = newId()
    await direct.db.execute(sql`insert into errands (id, kind, state) values (${told}, 'copy', 'waiting')`)
    await live()
    await until(async () => (await ask<Errand>(`/api/errands/${told}`)).state === 'done')
    for (const { id } of asked) await until(async () => !isOpen(await ask<Errand>(`/api/errands/${id}`)))
    for (const { throws } of await copies()) expect(throws).to.equal(116)
    expect(halves()).to.deep.equal([])
  })

  it('a restore that is refused leaves no copy of what it did not change', async () => {
    const before = (await copies()).map((c) => c.name)
    const broken = fs.readFileSync(path.join(folder, before[0]!))
    broken[Math.floor(broken.length / 2)]! ^= 1
    const sent = (await (
      await fetch(`${url}/api/restore`, {
        method: 'POST',
        headers: { 'content-type': 'application/zip' },
        body: broken,
      })
    ).json()) as Errand
    let now = sent
    await until(async () => !isOpen((now = await ask<Errand>(`/api/errands/${sent.id}`))))
    expect(now.state).to.equal('failed')
    expect((await copies()).map((c) => c.name)).to.deep.equal(before)
    await until(() => halves().length === 0)
  })

  it('an import is whole or not at all', async () => {
    const [trial] = await ask<TrialSummary[]>('/api/trials')
    const csv = await (await fetch(`${url}/api/trials/${trial!.trial.id}/throws.csv?all=1`)).text()
    const lines = csv.trimEnd().split('\n')
    const many = [lines[0], ...Array.from({ length: 20 }, () => lines.slice(1)).flat()]
      .join('\n')
      // ids of their own
      .replaceAll(/\n[^,\n]*,/g, () => `\n${newId()},`)
    const counted = async () =>
      (
        await direct.db.execute<{ n: number }>(
          sql`select count(*)::int as n from throws where trial_id = ${trial!.trial.id}`,
        )
      ).rows[0]!.n
    const before = await counted()
    const all = before + 20 * (lines.length - 1)
    const outcomes = new Set<number>()
    for (const ms of [150, 700, 1500, 4000]) {
      void fetch(`${url}/api/trials/${trial!.trial.id}/import?store=1`, {
        method: 'POST',
        headers: { 'content-type': 'text/csv' },
        body: many,
      }).catch(() => {})
      await new Promise((r) => setTimeout(r, ms))
      await die()
      await live()
      const now = await counted()
      expect([before, all], `after ${ms} ms`).to.include(now)
      outcomes.add(now)
      if (now === all) break
    }
    expect(outcomes).to.include(before)
  })

  it('a database is brought forward whole or not at all, and comes up afterwards', async () => {
    const old = await testDatabase()
    await once(old.replace(/\/[^/]*$/, '/postgres'), `create database ${new URL(old).pathname.slice(1)}`)
    const { pool, close } = connect(old)
    // as a release had it that did not know who made a pass, its journal too
    const tags = migrations()
    await pool.query('create schema drizzle')
    await pool.query(
      'create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)',
    )
    const entries = journal()
    for (const tag of tags.slice(0, tags.indexOf('0025_rights_and_versions'))) {
      for (const statement of statementsIn(tag, 'public')) await pool.query(statement)
      await pool.query('insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)', [
        tag,
        entries.find((e) => e.tag === tag)!.when,
      ])
    }
    await pool.query(`insert into people (id, name, role) values (gen_random_uuid(), 'Ida', 'owner')`)
    for (const ms of [150, 250, 350, 450, 600, 800]) {
      const starting = spawn(process.execPath, [await bundleProgram('test/api/keeper.ts'), old, folder], {
        stdio: 'ignore',
      })
      await new Promise((r) => setTimeout(r, ms))
      const gone = emitted(starting, 'exit')
      starting.kill('SIGKILL')
      await gone
      const { rows } = await pool.query<{ applied: number; there: number }>(
        `select (select count(*)::int from drizzle.__drizzle_migrations) as applied,
          (select count(*)::int from information_schema.columns where table_name = 'passes' and column_name = 'made_by_key_id') as there`,
      )
      expect(rows[0]!.applied === tags.length, `after ${ms} ms`).to.equal(rows[0]!.there === 1)
    }
    const up = await openDatabase(old)
    expect((await up.pool.query(`select name from people`)).rows).to.deep.equal([{ name: 'Ida' }])
    await up.close()
    await close()
  })

  it('a database that is slow keeps whoever writes waiting, and nobody else; nothing is lost', async () => {
    const held = new pg.Client(database)
    await held.connect()
    await held.query('begin')
    await held.query('lock table discs in exclusive mode')
    const disc = (await ask<Shelf>('/api/shelf')).discs[0]!
    const written = fetch(`${url}/api/discs/${disc.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...disc, note: 'waited for' }),
    })
    const first = await Promise.race([written, new Promise((r) => setTimeout(() => r('waits'), 1500))])
    expect(first).to.equal('waits')
    expect((await fetch(`${url}/api/health`)).status).to.equal(200)
    expect((await ask<Shelf>('/api/shelf')).discs.length).to.be.greaterThan(3)
    await held.query('commit')
    await held.end()
    expect((await written).status).to.equal(200)
    expect((await ask<Shelf>('/api/shelf')).discs.find((d) => d.id === disc.id)!.note).to.equal('waited for')
  })

  it('a first start leaves no password lying about', async () => {
    const wanted = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-first-'))
    fs.chmodSync(wanted, 0o755)
    const { folder: cluster } = clusterFolder(path.join(wanted, 'postgres'))
    fs.writeFileSync(path.join(cluster, 'pw-4711'), 'of a start that was killed')
    const postgres = await startPostgres(cluster, { fast: true })
    expect(fs.readdirSync(cluster).filter((n) => n.startsWith('pw-'))).to.deep.equal([])
    await postgres.stop()
    fs.rmSync(wanted, { recursive: true, force: true })
  })
})
