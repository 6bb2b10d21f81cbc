import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import { loadDemo } from '../../demo/load.ts'
import { withPackage } from '../../server/custody/file.ts'
import { mergePackage } from '../../server/custody/merge.ts'
import { rowsOfTrial } from '../../server/custody/trialRows.ts'
import { writePackage } from '../../server/custody/write.ts'
import { admit, firstOwner, readMembers } from '../../server/store/crew.ts'
import { openDatabase } from '../../server/store/database.ts'
import type { Connection } from '../../server/store/database.ts'
import { testDatabase } from './server.ts'

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-merge-'))
after(() => fs.rmSync(folder, { recursive: true, force: true }))

const merged = ({ pool }: Connection, file: string, store = true) =>
  withPackage(file, {}, (pack) => mergePackage(pool, pack, store))
const count = async ({ db }: Connection, table: string, where = 'true'): Promise<number> => {
  const { rows } = await db.execute<{ n: number }>(
    sql.raw(`select count(*)::int as n from ${table} where ${where}`),
  )
  return rows[0]!.n
}

describe('a trial of somebody else', () => {
  let theirs: Connection
  let trial: string
  let thrown: number
  /** A package of the trial with most throws, as their machine writes it now. */
  async function packed(): Promise<string> {
    const file = path.join(folder, `${newId()}.zip`)
    await writePackage(theirs.pool, fs.createWriteStream(file), { rows: rowsOfTrial(trial), kind: 'trial' })
    return file
  }
  const throwAgain = async ({ db }: Connection, carry: number): Promise<string> => {
    const id = newId()
    const { rows } = await db.execute<{ list: string }>(
      sql`select string_agg(quote_ident(attname), ', ') as list from pg_attribute
          where attrelid = 'throws'::regclass and attnum > 0 and not attisdropped and attname not in ('id', 'carry_m')`,
    )
    const { list } = rows[0]!
    await db.execute(
      sql.raw(
        `insert into throws (id, carry_m, ${list}) select '${id}', ${carry}, ${list} from throws where trial_id = '${trial}' limit 1`,
      ),
    )
    return id
  }
  before(async () => {
    theirs = await openDatabase(await testDatabase())
    await loadDemo(theirs.db)
    const { rows } = await theirs.db.execute<{ id: string; n: number }>(
      sql`select trial_id as id, count(*)::int as n from throws group by 1 order by 2 desc limit 1`,
    )
    ;({ id: trial, n: thrown } = rows[0]!)
  })
  after(async () => theirs.close())

  it('comes in whole beside one’s own, with its discs and people, and only once', async () => {
    const ours = await openDatabase(await testDatabase())
    try {
      const owner = await firstOwner(ours.db)
      const person = await firstOwner(theirs.db)
      await admit(theirs.db, person.id, 'phone there')
      await theirs.db
        .execute(sql`update throws set by_person_id = ${person.id}, by_key_id = (select id from device_keys limit 1)
        where id = (select id from throws where trial_id = ${trial} limit 1)`)
      const file = await packed()
      // at first it is only found out what would come
      const would = await merged(ours, file, false)
      expect(would.added['throws']).to.equal(thrown)
      expect(await count(ours, 'throws')).to.equal(0)

      const first = await merged(ours, file)
      expect(first).to.deep.equal(would)
      expect(first.clashes).to.deep.equal([])
      expect(await count(ours, 'throws')).to.equal(thrown)
      expect(await count(ours, 'trials')).to.equal(1)
      expect(await count(ours, 'discs')).to.equal(await count(theirs, 'trial_discs', `trial_id = '${trial}'`))
      // who logged it is named, and comes in by nothing of theirs
      const named = (await readMembers(ours.db)).find((m) => m.id === person.id)!
      expect(named.removedAt).to.be.a('string')
      expect((await firstOwner(ours.db)).id).to.equal(owner.id)

      const again = await merged(ours, file)
      expect(again.added).to.deep.equal({})
      expect(again.same).to.be.greaterThan(thrown)
    } finally {
      await ours.close()
    }
  })

  it('that both have is pooled: throws of each are kept, and ours stay as they are', async () => {
    const ours = await openDatabase(await testDatabase())
    try {
      await merged(ours, await packed())
      const [own, other] = [await throwAgain(ours, 61), await throwAgain(theirs, 62)]
      await ours.db.execute(
        sql`update throws set ground_m = 3 where id = (select id from throws where trial_id = ${trial} and id <> ${own} order by id limit 1)`,
      )
      const came = await merged(ours, await packed())
      expect(came.added).to.deep.equal({ throws: 1 })
      expect(came.clashes).to.have.length(1)
      expect(came.clashes[0]).to.match(/\(throws\) was changed on one side or both; yours stays/)
      expect(await count(ours, 'throws', `id in ('${own}', '${other}')`)).to.equal(2)
      expect(await count(ours, 'throws', 'ground_m = 3')).to.be.at.least(1)
    } finally {
      await ours.close()
    }
  })

  it('finds makers and molds of ours by their names, and tells discs of one code apart', async () => {
    const ours = await openDatabase(await testDatabase())
    try {
      // a shelf of one's own with the same maker, and another disc of a code of theirs
      const { rows } = await theirs.db.execute<{
        maker: string
        mold: string
        class: string
        numbers: object
        code: string
        thrower: string
      }>(
        sql`select mk.name as maker, m.name as mold, m.disc_class as class, m.numbers, d.code,
              (select th.name from throws t join throwers th on th.id = t.thrower_id where t.trial_id = ${trial} limit 1) as thrower
            from trial_discs td join discs d on d.id = td.disc_id join plastics p on p.id = d.plastic_id
              join molds m on m.id = p.mold_id join makers mk on mk.id = m.maker_id
            where td.trial_id = ${trial} limit 1`,
      )
      const their = rows[0]!
      const [maker, mold, plastic, disc] = [newId(), newId(), newId(), newId()]
      const numbers = JSON.stringify({ ...their.numbers, glide: 1 })
      await ours.db.execute(sql`insert into makers (id, name) values (${maker}, ${their.maker})`)
      await ours.db.execute(sql`insert into molds (id, maker_id, name, disc_class, numbers)
        values (${mold}, ${maker}, ${their.mold}, ${their.class}, ${numbers}::jsonb)`)
      await ours.db.execute(
        sql`insert into plastics (id, mold_id, name) values (${plastic}, ${mold}, 'Ours alone')`,
      )
      await ours.db.execute(
        sql`insert into discs (id, code, plastic_id, source, wear) values (${disc}, ${their.code}, ${plastic}, 'bought', 'new')`,
      )
      await ours.db.execute(
        sql`insert into throwers (id, name, hand) values (${newId()}, ${their.thrower}, 'left')`,
      )
      const came = await merged(ours, await packed())
      expect(await count(ours, 'makers', `name = '${their.maker}'`)).to.equal(1)
      expect(await count(ours, 'molds', `name = '${their.mold}'`)).to.equal(1)
      const said = came.clashes.join('\n')
      expect(said).to.include(`${their.mold} (molds) is otherwise in the package; yours stays`)
      expect(said).to.include(`You have a disc ${their.code} already; theirs comes in as ${their.code} (2)`)
      expect(said).to.include(
        `You have a thrower ${their.thrower} already; theirs comes in as ${their.thrower} (2)`,
      )
      // their discs hang on our mold now, and every throw came
      expect(await count(ours, 'discs', `code = '${their.code} (2)'`)).to.equal(1)
      expect(await count(ours, 'throws')).to.equal(came.added['throws'])
      expect(came.added['throws']).to.be.at.least(thrown)
    } finally {
      await ours.close()
    }
  })
})
