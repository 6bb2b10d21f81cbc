import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import request from 'supertest'
import { makeApp } from '../../server/app.ts'
import { once, openDatabase } from '../../server/store/database.ts'
import { Works } from '../../server/work/works.ts'
import { Line } from './line.ts'
import { testDatabase } from './server.ts'

describe('a database that goes away', () => {
  it('has everybody told who asked it, in the middle of a transaction too, and is found again', async () => {
    const line = new Line(new URL(await testDatabase()))
    const { db, pool, close } = await openDatabase(await line.open())
    try {
      const work = () =>
        db.transaction(async (tx) => {
          await tx.execute(sql`select pg_sleep(0.02)`)
          await tx.execute(sql`select 1`)
          await tx.execute(sql`select pg_sleep(0.02)`)
        })
      const ends = { done: 0, told: 0 }
      let asked = 0
      // how many of each is the machine's affair; that there are some of both is the test's
      for (let round = 0; round < 25 || (round < 400 && Math.min(ends.done, ends.told) < 6); round++) {
        line.state = 'fine'
        const under = Array.from({ length: 6 }, () =>
          work().then(
            () => void ends.done++,
            (e: Error) => {
              expect(e).to.be.instanceOf(Error)
              ends.told++
            },
          ),
        )
        asked += under.length
        await new Promise((r) => setTimeout(r, 5 * round))
        line.cut()
        // a transaction that nobody answers would hold its request for ever
        await Promise.all(under)
      }
      expect(ends.done + ends.told).to.equal(asked)
      expect(ends.told).to.be.greaterThan(5)
      expect(ends.done).to.be.greaterThan(5)
      // none was kept by somebody who will not come back for it
      expect(pool.totalCount).to.equal(pool.idleCount)
      line.state = 'fine'
      // a connection that has just broken may be handed out once more; whoever got it was told, and asks again
      let found = false
      for (let tries = 0; tries < 10 && !found; tries++)
        found = await work().then(
          () => true,
          () => false,
        )
      expect(found).to.equal(true)
    } finally {
      await close()
      line.close()
    }
  })

  it('is told by the health of the server, as it is', async () => {
    const line = new Line(new URL(await testDatabase()))
    const connection = await openDatabase(await line.open())
    const works = new Works(connection, () => {})
    const app = makeApp({ db: connection.db, works, quiet: true }).callback()
    const health = async () => {
      const { status, body } = await request(app).get('/api/health')
      return { status, ...(body as { ok: boolean; database: string; writes: boolean }) }
    }
    try {
      expect(await health()).to.include({ status: 200, ok: true, database: 'takes-writes', writes: true })
      const { rows } = await connection.db.execute<{ name: string }>(sql`select current_database() as name`)
      const { name } = rows[0]!
      const readOnly = (on: boolean) =>
        once(line.far, `alter database "${name}" set default_transaction_read_only = ${on ? 'on' : 'off'}`)
      await readOnly(true)
      line.cut()
      line.state = 'fine'
      expect(await health()).to.include({ status: 200, ok: false, database: 'read-only', writes: false })
      // the way back is through another database: this one takes nothing
      await readOnly(false)
      line.cut()
      expect(await health()).to.include({ status: 503, ok: false, database: 'away', writes: false })
      line.state = 'fine'
      expect(await health()).to.include({ status: 200, ok: true })
    } finally {
      await works.stop()
      await connection.close()
      line.close()
    }
  })
})

describe('the tables', () => {
  it('have an index that begins with the columns of every foreign key, so that nothing is looked for row by row', async () => {
    const { db, close } = await openDatabase(await testDatabase())
    try {
      const { rows } = await db.execute<{ at: string }>(sql`
        select c.conrelid::regclass || ' (' || string_agg(a.attname, ', ' order by k.place) || ')' as at
        from pg_constraint c
        cross join lateral unnest(c.conkey) with ordinality as k (number, place)
        join pg_attribute a on a.attrelid = c.conrelid and a.attnum = k.number
        where c.contype = 'f' and c.connamespace = 'public'::regnamespace and not exists (
          select 1 from pg_index i
          where i.indrelid = c.conrelid and i.indpred is null
            and (i.indkey::int2[])[0 : array_length(c.conkey, 1) - 1] @> c.conkey
        )
        group by c.oid, c.conrelid
        order by 1`)
      // who wrote a row is kept with it; people and their keys are marked as gone, never deleted
      const asked = rows.map((r) => r.at).filter((at) => !/ \(by_(person|key)_id\)$/.test(at))
      expect(asked).to.deep.equal([])
      const known = await db.execute<{ n: number }>(
        sql`select count(*)::int as n from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace`,
      )
      expect(known.rows[0]!.n).to.be.greaterThan(30)
    } finally {
      await close()
    }
  })
})
