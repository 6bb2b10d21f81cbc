import type pg from 'pg'
import { ASIDE, columnsOf, withAside } from './aside.ts'
import type { Under } from './file.ts'
import { quoted, TABLES, WORKED_OUT } from './tables.ts'
import type { Package } from './zip.ts'

/** Tables whose rows stay beside those of a package: who can come in here goes on coming in. */
const CREW = ['people', 'device_keys']

/** What was restored, in rows of what people count. */
export interface Restored {
  readonly throws: number
  readonly trials: number
  readonly discs: number
}

/**
 * Puts what a package holds in the place of what the database holds: all of it, or nothing. The package may be of any
 * released schema.
 *
 * @throws BadPackage where its rows break a rule of the database
 */
export const restorePackage = (pool: pg.Pool, pack: Package, under: Under = {}): Promise<Restored> =>
  withAside(pool, pack, under, async (client, told) => {
    told({ stage: 'putting in place', done: 0, total: 1 })
    await replace(client)
    const { rows } = await client.query<Restored>(
      `select (select count(*)::int from public.throws where taken_back_at is null) as throws,
              (select count(*)::int from public.trials) as trials, (select count(*)::int from public.discs) as discs`,
    )
    return { came: rows[0]!, keep: true }
  })

/** Puts what was put together in the place of what is there. */
async function replace(client: pg.ClientBase): Promise<void> {
  const names = TABLES.map((t) => t.name).filter((name) => !CREW.includes(name))
  await client.query(
    `truncate ${[...names, ...WORKED_OUT].map((name) => `public.${quoted(name)}`).join(', ')}`,
  )
  await replaceCrew(client)
  for (const name of names) {
    const columns = await columnsOf(client, name)
    await client.query(
      `insert into public.${quoted(name)} (${columns}) select ${columns} from ${ASIDE}.${quoted(name)}`,
    )
  }
}

/**
 * People of the package come as they were there. Whoever can come in here stays beside them, under a name that tells them
 * apart; whoever cannot, and is not of the package, goes.
 */
async function replaceCrew(client: pg.ClientBase): Promise<void> {
  const comesIn = `(p.passphrase is not null or exists (
    select 1 from public.device_keys k where k.person_id = p.id and k.revoked_at is null))`
  const goes = `select p.id from public.people p where not ${comesIn} and p.id not in (select id from ${ASIDE}.people)`
  await client.query(`delete from public.passes where person_id in (${goes}) or made_by_id in (${goes})`)
  await client.query(`delete from public.device_keys where person_id in (${goes})`)
  await client.query(`delete from public.people where id in (${goes})`)
  await client.query(
    `update public.people p set name = left(p.name, 100) || ' (' || left(p.id::text, 8) || ')'
     where exists (select 1 from ${ASIDE}.people r where lower(r.name) = lower(p.name) and r.id <> p.id)`,
  )
  await client.query(
    `insert into public.people (id, name, role, removed_at, created_at)
     select id, name, role, removed_at, created_at from ${ASIDE}.people
     on conflict (id) do update set name = excluded.name, role = excluded.role, removed_at = excluded.removed_at,
       created_at = excluded.created_at`,
  )
  await client.query(
    `insert into public.device_keys select * from ${ASIDE}.device_keys r
     where not exists (select 1 from public.device_keys k where k.id = r.id)`,
  )
}
