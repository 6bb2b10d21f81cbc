import { createHash } from 'node:crypto'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import fc from 'fast-check'
import Papa from 'papaparse'
import { v7 as newId } from 'uuid'
import { strToU8, unzipSync, zipSync } from 'fflate'
import { loadDemo } from '../../demo/load.ts'
import { withPackage } from '../../server/custody/file.ts'
import { migrations, statementsIn } from '../../server/custody/migrations.ts'
import { restorePackage } from '../../server/custody/restore.ts'
import { copyStandingOf } from '../../server/custody/standing.ts'
import { TABLES } from '../../server/store/tables.ts'
import { writePackage } from '../../server/custody/write.ts'
import type { ErrandProgress } from '../../server/store/errands.ts'
import { BadPackage, Package } from '../../server/custody/zip.ts'
import { openDatabase } from '../../server/store/database.ts'
import type { Connection } from '../../server/store/database.ts'
import { admit, overwriteMember, firstOwner, readMembers, whoHolds } from '../../server/store/crew.ts'
import { freeze, publish } from '../../server/store/reviews.ts'
import { testDatabase } from './server.ts'

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-custody-'))
after(() => fs.rmSync(folder, { recursive: true, force: true }))
const fileIn = (name: string) => path.join(folder, name)

async function packed({ pool }: Connection, name = `${newId()}.zip`): Promise<string> {
  const file = fileIn(name)
  await writePackage(pool, fs.createWriteStream(file))
  return file
}
async function restored({ pool }: Connection, file: string) {
  return await withPackage(file, {}, (pack) => restorePackage(pool, pack))
}
/** Every row of every table that travels, secrets away. */
async function everything({ db }: Connection): Promise<Record<string, readonly string[]>> {
  const all: Record<string, readonly string[]> = {}
  for (const { name, columns } of TABLES) {
    const list = sql.raw(columns.map((c) => `"${c.name}"`).join(', '))
    const { rows } = await db.execute<{ row: string }>(
      sql`select row_to_json(t)::text as row from (select ${list} from ${sql.identifier(name)}) t order by 1`,
    )
    all[name] = rows.map((r) => r.row)
  }
  return all
}

const text = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 60 }).map((t) => t.replaceAll('\0', '')),
  fc.constantFrom('', '\\.', '"', 'a,"b"\r\nc', '\\N', ' ', 'NULL', '{1,2}', 'ﬁeld – Ærø 🥏'),
)
const anything = fc.record({
  notes: fc.dictionary(fc.string({ minLength: 1, maxLength: 10, unit: 'grapheme-ascii' }), text, {
    maxKeys: 3,
  }),
  note: text,
  label: fc.option(text),
  claims: fc.array(text, { maxLength: 4 }),
  figures: fc.array(fc.double({ noNaN: true, noDefaultInfinity: true, min: -60, max: 60 }), {
    minLength: 1,
    maxLength: 5,
  }),
  micros: fc.nat(999_999),
  photo: fc.uint8Array({ minLength: 1, maxLength: 3000 }),
  page: fc.uint8Array({ minLength: 1, maxLength: 3000 }),
})

/** Gives a database of the demo what generators come up with, in every kind of column. */
async function strewn({ db }: Connection, a: typeof anything extends fc.Arbitrary<infer T> ? T : never) {
  const [review, section, revision, person] = Array.from({ length: 4 }, () => newId())
  const hex = (bytes: Uint8Array) => Buffer.from(bytes)
  const moment = `2026-05-09T10:24:00.${String(a.micros).padStart(6, '0')}+00`
  await db.execute(sql`update throws set notes = ${JSON.stringify(a.notes)}::jsonb, label = ${a.label}, thrown_at = ${moment},
    power = ${0.5 + Math.abs(a.figures[0]! % 1) / 2} where id in (select id from throws order by id limit 40)`)
  await db.execute(
    sql`update discs set note = ${a.note} where id in (select id from discs order by id limit 9)`,
  )
  await db.execute(sql`update plastics set claims = ${JSON.stringify(a.claims)}::jsonb`)
  await db.execute(sql`insert into wind_logs (id, session_id, started_at, ended_at, along_mps, across_mps)
    select gen_random_uuid(), id, ${moment}::timestamptz, now(), array[${sql.join(
      a.figures.map((f) => sql`${f}::float8`),
      sql`, `,
    )}],
      array[${sql.join(
        a.figures.map((f) => sql`${-f}::float8`),
        sql`, `,
      )}] from sessions limit 2`)
  await db.execute(sql`insert into photos (disc_id, kind, bytes) select id, 'image/webp', ${hex(a.photo)} from discs order by id limit 2
    on conflict do nothing`)
  await db.execute(
    sql`insert into reviews (id, title, trial_ids) select ${review}, 'A review', array_agg(id) from trials`,
  )
  await db.execute(sql`insert into review_sections (id, review_id, kind, place, title, body)
    values (${section}, ${review}, 'verdict', 0.1, 'Verdict', ${JSON.stringify({ type: 'doc', text: a.note })}::jsonb)`)
  await db.execute(sql`insert into revisions (id, review_id, number, method, sha256, page)
    values (${revision}, ${review}, 1, '1', 'x', ${hex(a.page)})`)
  await db.execute(
    sql`insert into people (id, name, role, passphrase) values (${person}, 'Orla', 'scribe', 'scrypt$secret')`,
  )
  await admit(db, person!, 'phone')
  await db.execute(sql`update throws set by_person_id = ${person}, by_key_id = (select id from device_keys limit 1)
    where id in (select id from throws order by id desc limit 5)`)
}

async function demoDatabase(): Promise<Connection> {
  const connection = await openDatabase(await testDatabase())
  await loadDemo(connection.db)
  return connection
}

describe('a package of everything', () => {
  let demo: Connection
  before(async () => {
    demo = await demoDatabase()
  })
  after(async () => demo.close())

  it('comes back equal, row for row, of whatever stands in the database', async function () {
    this.timeout(300_000)
    await fc.assert(
      fc.asyncProperty(anything, async (given) => {
        const [from, to] = [await demoDatabase(), await openDatabase(await testDatabase())]
        try {
          await strewn(from, given)
          const before = await everything(from)
          const file = await packed(from)
          await restored(to, file)
          expect(await everything(to)).to.deep.equal(before)
          // and once more, over what is there now
          await restored(to, file)
          expect(await everything(to)).to.deep.equal(before)
        } finally {
          await Promise.all([from.close(), to.close()])
        }
      }),
      { numRuns: 8, seed: 20261127 },
    )
  })

  it('is a data package that others read: Table Schemas beside their CSV files, with hashes, and no secrets', async () => {
    const own = await demoDatabase()
    try {
      await strewn(own, fc.sample(anything, { numRuns: 1, seed: 1 })[0]!)
      const files = unzipSync(fs.readFileSync(await packed(own)))
      const words = Object.entries(files).map(
        ([name, bytes]) => [name, Buffer.from(bytes).toString('utf8')] as const,
      )
      for (const [name, said] of words) expect(said, name).to.not.include('scrypt$')
      const said = JSON.parse(Buffer.from(files['datapackage.json']!).toString()) as {
        profile: string
        resources: {
          name: string
          path: string
          schema?: { fields: { name: string; type: string }[]; primaryKey: string[] }
        }[]
      }
      expect(said.profile).to.equal('data-package')
      expect(said.resources.map((r) => r.path).sort()).to.deep.equal(
        Object.keys(files)
          .filter((n) => n !== 'datapackage.json')
          .sort(),
      )
      const thrown = said.resources.find((r) => r.name === 'throws')!
      expect(thrown.schema!.primaryKey).to.deep.equal(['id'])
      expect(thrown.schema!.fields.find((f) => f.name === 'carry_m')!.type).to.equal('number')
      const header = Buffer.from(files['throws.csv']!).toString('utf8').split('\n')[0]!
      expect(header.split(',')).to.deep.equal(thrown.schema!.fields.map((f) => f.name))
      expect(said.resources.map((r) => r.name)).to.not.include.members([
        'passes',
        'attempts',
        'ratings',
        'cards',
      ])
    } finally {
      await own.close()
    }
  })

  it('a package written by the schema before this one is restored, and brought forward', async () => {
    // as that schema has it: its tables, its columns, its name
    const file = await packed(demo)
    const files = unzipSync(fs.readFileSync(file))
    // ids were words then
    for (const name of ['molds.csv', 'discs.csv', 'trials.csv'])
      edit(files, name, (t) => t.replaceAll(WERE_WORDS, (id) => id.replaceAll('-', ' ')))
    const old = aged(files, '0014_reviews', await tablesOf(demo, '0014_reviews'))
    fs.writeFileSync(fileIn('old.zip'), old)
    const to = await openDatabase(await testDatabase())
    try {
      const owner = await firstOwner(to.db)
      expect((await restored(to, fileIn('old.zip'))).throws).to.be.greaterThan(50)
      const now = await everything(to)
      const before = await everything(demo)
      const bare = (rows: readonly string[]) =>
        rows.map((r) => JSON.stringify({ ...(JSON.parse(r) as object), written_at: null }))
      expect(bare(now['throws']!)).to.deep.equal(bare(before['throws']!))
      expect(bare(now['discs']!)).to.deep.equal(bare(before['discs']!))
      expect(bare(now['molds']!)).to.deep.equal(bare(before['molds']!))
      expect(bare(now['trials']!)).to.deep.equal(bare(before['trials']!))
      // somebody is there who can do everything
      expect((await firstOwner(to.db)).name).to.equal(owner.name)
    } finally {
      await to.close()
    }
  })

  describe('that is not right', () => {
    const CASES: readonly (readonly [string, (files: Record<string, Uint8Array>) => void, RegExp])[] = [
      ['a file that was changed', (f) => (f['discs.csv']![200]! ^= 1), /discs\.csv: was changed/],
      ['a file that is missing', (f) => delete f['throws.csv'], /throws\.csv: is missing/],
      ['a file too many', (f) => (f['more.csv'] = strToU8('x')), /more\.csv: nobody says/],
      ['no description', (f) => delete f['datapackage.json'], /holds no datapackage\.json/],
      [
        'a description of something else',
        (f) => (f['datapackage.json'] = strToU8('{"name":"x","resources":[]}')),
        /not as it should be/,
      ],
      [
        'a newer schema',
        (f) =>
          edit(f, 'datapackage.json', (t) =>
            t.replace(/"migration": "\d+_\w+"/, '"migration": "0999_later"'),
          ),
        /newer Veer Line/,
      ],
    ]
    for (const [what, spoil, says] of CASES)
      it(`${what}: is refused whole, and said`, async () => {
        const files = unzipSync(fs.readFileSync(await packed(demo)))
        spoil(files)
        const file = fileIn('spoilt.zip')
        fs.writeFileSync(file, zipSync(files))
        const before = await everything(demo)
        const e = await restored(demo, file).then(
          () => undefined,
          (x: unknown) => x as BadPackage,
        )
        expect(e).to.be.instanceOf(BadPackage)
        expect([e!.message, ...e!.problems].join('\n')).to.match(says)
        expect(await everything(demo)).to.deep.equal(before)
      })

    it('rows that break a rule: nothing of it is stored', async () => {
      const files = unzipSync(fs.readFileSync(await packed(demo)))
      rehashed(files, 'throws.csv', (t) => t.replace(/,backhand,/, ',overhead,'))
      fs.writeFileSync(fileIn('rule.zip'), zipSync(files))
      const before = await everything(demo)
      const e = await restored(demo, fileIn('rule.zip')).catch((x: unknown) => x as BadPackage)
      expect(e).to.be.instanceOf(BadPackage)
      expect((e as BadPackage).message).to.match(/throws\.csv .*does not take.*stroke/)
      expect(await everything(demo)).to.deep.equal(before)
    })

    it('that is cut off anywhere is no package', async () => {
      const whole = fs.readFileSync(await packed(demo))
      for (const share of [0, 0.1, 0.5, 0.9, 0.999]) {
        fs.writeFileSync(fileIn('cut.zip'), whole.subarray(0, Math.floor(share * whole.length)))
        const e = await Package.open(fileIn('cut.zip')).catch((x: unknown) => x)
        expect(e, String(share)).to.be.instanceOf(BadPackage)
      }
    })
  })

  it('broken off in the middle changes nothing', async () => {
    const file = await packed(demo)
    const before = await everything(demo)
    for (const stage of ['reading', 'putting in place']) {
      const stop = new AbortController()
      const pack = await Package.open(file)
      const told = (p: ErrandProgress) => {
        if (p.stage === stage) stop.abort(new Error('enough'))
      }
      await restorePackage(demo.pool, pack, { told, signal: stop.signal }).then(
        () => expect.fail('it went on'),
        (e: Error) => expect(e.message).to.equal('enough'),
      )
      pack.close()
      expect(await everything(demo)).to.deep.equal(before)
    }
    const stop = new AbortController()
    const half = fs.createWriteStream(fileIn('half.zip'))
    await writePackage(demo.pool, half, {
      told: (p) => p.done > 0 && stop.abort(new Error('enough')),
      signal: stop.signal,
    }).then(
      () => expect.fail('it went on'),
      () => {},
    )
    expect(await Package.open(fileIn('half.zip')).catch((x: unknown) => x)).to.be.instanceOf(BadPackage)
    expect(demo.pool.totalCount).to.equal(demo.pool.idleCount)
  })

  it('who may do what stays as it is here; whoever is of the package alone comes by name, and comes in no more', async () => {
    const [from, to] = [await demoDatabase(), await openDatabase(await testDatabase())]
    try {
      const there = await firstOwner(from.db)
      await admit(from.db, there.id, 'phone there')
      const here = await firstOwner(to.db)
      await to.db.execute(sql`update people set passphrase = 'scrypt$mine'`)
      const token = await admit(to.db, here.id, 'phone here')
      await restored(to, await packed(from))
      const members = await readMembers(to.db)
      expect(members.map((m) => [m.id, m.name, m.role, m.removedAt !== null])).to.have.deep.members([
        [here.id, 'Owner', 'owner', false],
        [there.id, 'Owner (2)', 'reader', true],
      ])
      const keys = await to.db.execute<{ name: string; revoked: boolean }>(
        sql`select name, revoked_at is not null as revoked from device_keys order by name`,
      )
      // a key does not travel: the device there has to come in anew here
      expect(keys.rows).to.deep.equal([
        { name: 'phone here', revoked: false },
        { name: 'phone there', revoked: true },
      ])
      expect((await whoHolds(to.db, token))?.person.role).to.equal('owner')
    } finally {
      await Promise.all([from.close(), to.close()])
    }
  })

  describe('restored after people were removed and pages taken back', () => {
    let it_: Connection
    let file: string
    let ids: { owner: string; orla: string; bryn: string; page: string }
    const standings = () => withPackage(file, {}, (pack) => copyStandingOf(it_.pool, pack))
    const rolesNow = async () =>
      Object.fromEntries(
        (await readMembers(it_.db)).map((m) => [m.name, m.removedAt === null ? m.role : 'removed']),
      )
    const tokens = async () =>
      (
        await it_.db.execute<{ token: string | null }>(sql`select token from revisions order by number`)
      ).rows.map((r) => r.token)

    beforeEach(async () => {
      it_ = await demoDatabase()
      const { db } = it_
      const owner = await firstOwner(db)
      ids = { owner: owner.id, orla: newId(), bryn: newId(), page: newId() }
      await db.execute(sql`insert into people (id, name, role, passphrase) values
        (${ids.orla}, 'Orla', 'owner', 'scrypt$orla'), (${ids.bryn}, 'Bryn', 'scribe', 'scrypt$bryn')`)
      await admit(db, owner.id, 'own phone')
      const review = newId()
      await db.execute(
        sql`insert into reviews (id, title, trial_ids, listed) values (${review}, 'Loam', array[]::uuid[], true)`,
      )
      for (const [id, number] of [
        [ids.page, 1],
        [newId(), 2],
      ] as const)
        await freeze(
          db,
          id,
          { reviewId: review, note: `revision ${number}`, method: '1' },
          Buffer.from(`<p>${number}`),
        )
      await publish(db, ids.page, true)
      file = await packed(it_)
      // what has happened since
      await overwriteMember(db, ids.orla, { role: 'owner', removed: true })
      await overwriteMember(db, ids.bryn, { role: 'owner', removed: false })
      await publish(db, ids.page, false)
    })
    afterEach(async () => it_.close())

    it('changes nobody’s rights and publishes nothing again', async () => {
      const before = await rolesNow()
      await restored(it_, file)
      expect(await rolesNow()).to.deep.equal(before)
      expect(before).to.deep.equal({ Owner: 'owner', Orla: 'removed', Bryn: 'owner' })
      expect(await tokens()).to.deep.equal([null, null])
    })

    it('says what stays as it is here, and takes what an owner asks for, one by one', async () => {
      const said = await standings()
      expect(said.map(({ what, name, here, there }) => [what, name, here, there])).to.deep.equal([
        ['person', 'Bryn', 'owner', 'scribe'],
        ['person', 'Orla', 'removed', 'owner'],
        ['page', 'Loam, revision 1', 'not public', 'public'],
      ])
      const take = [ids.bryn, ids.page]
      await withPackage(file, {}, (pack) => restorePackage(it_.pool, pack, {}, { take, byId: ids.owner }))
      expect(await rolesNow()).to.deep.equal({ Owner: 'owner', Orla: 'removed', Bryn: 'scribe' })
      const [first, second] = await tokens()
      expect(first).to.match(/^[\w-]{32}$/)
      expect(second).to.equal(null)
      expect((await standings()).map((s) => s.name)).to.deep.equal(['Orla'])
    })

    it('what is public here stays so under its address, where it is the same page', async () => {
      await publish(it_.db, ids.page, true)
      const [address] = await tokens()
      await restored(it_, file)
      expect(await tokens()).to.deep.equal([address, null])
      // a page of the same number that says something else is another page
      await it_.db.execute(sql`update revisions set page = 'another' where id = ${ids.page}`)
      await restored(it_, file)
      expect(await tokens()).to.deep.equal([null, null])
    })

    it('leaves whoever restores an owner, or changes nothing', async () => {
      await overwriteMember(it_.db, ids.bryn, { role: 'owner', removed: false })
      const e = await withPackage(file, {}, (pack) =>
        restorePackage(it_.pool, pack, {}, { take: [ids.bryn], byId: ids.bryn }),
      ).catch((x: unknown) => x as BadPackage)
      expect(e).to.be.instanceOf(BadPackage)
      expect((e as BadPackage).message).to.include('stays an owner')
      expect((await rolesNow())['Bryn']).to.equal('owner')
    })

    it('no address travels: neither in a package, nor out of one somebody made up', async () => {
      await publish(it_.db, ids.page, true)
      const [address] = await tokens()
      const files = unzipSync(fs.readFileSync(await packed(it_)))
      for (const [name, bytes] of Object.entries(files))
        expect(Buffer.from(bytes).toString('utf8'), name).to.not.include(address)
      rehashed(files, 'revisions.csv', (t) =>
        t
          .trimEnd()
          .split('\n')
          .map((line, i) => (i === 0 ? `${line},token` : `${line},chosen-by-somebody-${i}`))
          .join('\n'),
      )
      fs.writeFileSync(fileIn('made-up.zip'), zipSync(files))
      const to = await openDatabase(await testDatabase())
      try {
        await restored(to, fileIn('made-up.zip'))
        const { rows } = await to.db.execute<{ token: string | null }>(sql`select token from revisions`)
        expect(rows.map((r) => r.token)).to.deep.equal([null, null])
      } finally {
        await to.close()
      }
    })
  })
})

const edit = (files: Record<string, Uint8Array>, name: string, change: (text: string) => string) =>
  (files[name] = strToU8(change(Buffer.from(files[name]!).toString('utf8'))))

/** Changes a file of a package and what the description says of it. */
function rehashed(files: Record<string, Uint8Array>, name: string, change: (text: string) => string): void {
  edit(files, name, change)
  edit(files, 'datapackage.json', (t) => described(t, files))
}

interface Said {
  resources: { path: string; name: string; bytes: number; hash: string }[]
  veerLine: { migration: string }
}
/** A description with sizes and hashes as the files are now. */
function described(text: string, files: Record<string, Uint8Array>): string {
  const said = JSON.parse(text) as Said
  said.resources = said.resources.filter((r) => r.path in files)
  for (const r of said.resources) {
    const bytes = files[r.path]!
    r.bytes = bytes.length
    r.hash = `sha256:${createHash('sha256').update(bytes).digest('hex')}`
  }
  return JSON.stringify(said)
}

/** The tables an earlier schema had, and their columns. */
async function tablesOf({ pool }: Connection, last: string): Promise<ReadonlyMap<string, readonly string[]>> {
  const client = await pool.connect()
  try {
    await client.query('begin')
    await client.query('create schema earlier')
    await client.query('set local search_path to earlier')
    const tags = migrations()
    for (const tag of tags.slice(0, tags.indexOf(last) + 1))
      for (const statement of statementsIn(tag, 'earlier')) await client.query(statement)
    const { rows } = await client.query<{ table: string; columns: string[] }>(
      `select table_name as table, array_agg(column_name::text) as columns from information_schema.columns
       where table_schema = 'earlier' group by 1`,
    )
    return new Map(rows.map((r) => [r.table, r.columns]))
  } finally {
    await client.query('rollback')
    client.release()
  }
}

/** A package as an earlier schema wrote it: without what has come since. */
function aged(
  files: Record<string, Uint8Array>,
  migration: string,
  tables: ReadonlyMap<string, readonly string[]>,
): Uint8Array {
  const isTable = (name: string) => name.endsWith('.csv')
  const kept = Object.fromEntries(
    Object.entries(files).filter(([name]) => !isTable(name) || tables.has(name.replace('.csv', ''))),
  )
  for (const name of Object.keys(kept).filter(isTable)) {
    const then = tables.get(name.replace('.csv', ''))!
    const { data } = Papa.parse<string[]>(Buffer.from(kept[name]!).toString('utf8').trimEnd())
    const keep = data[0]!.map((column) => then.includes(column))
    // what is empty and quoted is a text, what is empty is nothing: as it stands in the file
    if (keep.includes(false)) kept[name] = strToU8(cut(Buffer.from(kept[name]!).toString('utf8'), keep))
  }
  edit(kept, 'datapackage.json', (t) => {
    const said = JSON.parse(t) as Said
    said.veerLine.migration = migration
    return described(JSON.stringify(said), kept)
  })
  return zipSync(kept)
}

/** Ids of the demo that were words once. */
const WERE_WORDS =
  /fairway-driver|distance-driver|sent-by-the-maker|short-game|least-to-most-stable|same-(?:release|line)|(?:is|flies|has|finishes|skips)-[a-z-]+-than/g

/** A CSV text without some of its columns, its quotes as they were. */
function cut(csv: string, keep: readonly boolean[]): string {
  let out = ''
  let column = 0
  let cell = ''
  let inQuotes = false
  const end = (separator: string) => {
    if (keep[column]) out += (out === '' || out.endsWith('\n') ? '' : ',') + cell
    cell = ''
    column++
    if (separator === '\n') {
      out += '\n'
      column = 0
    }
  }
  for (const c of csv) {
    if (c === '"') inQuotes = !inQuotes
    if (!inQuotes && (c === ',' || c === '\n')) end(c)
    else cell += c
  }
  return out
}
