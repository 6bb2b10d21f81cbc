import type pg from 'pg'
import { ASIDE, columnsOf, withAside } from './aside.ts'
import type { Under } from './file.ts'
import { quoted, TABLES } from '../store/tables.ts'
import type { TravellingTable } from '../store/tables.ts'
import type { Package } from './zip.ts'

/** What a package brings in beside what is here, and what of it is otherwise here. */
export interface Merged {
  /** Rows that came, by table. */
  readonly added: Readonly<Record<string, number>>
  /** Rows that were here already, just so. */
  readonly same: number
  /** What stands against each other, and what became of it, a sentence each. */
  readonly clashes: readonly string[]
}

/** What of a row says nothing of the thing itself. */
const OF_THE_MOMENT = [
  'created_at',
  'written_at',
  'by_person_id',
  'by_key_id',
  'seen_at',
  'revoked_at',
  'digest',
  'version',
  'made_as',
]
/** Tables whose rows are of one database alone. */
const OURS = new Set(['shed', 'preferences', 'reviews', 'review_sections', 'review_photos', 'revisions'])

/** Things that are the same by what they are called, and where they are referred to. */
const BY_NAME = [
  { table: 'makers', within: undefined, refers: [['molds', 'maker_id']] },
  { table: 'molds', within: 'maker_id', refers: [['plastics', 'mold_id']] },
  {
    table: 'plastics',
    within: 'mold_id',
    refers: [
      ['runs', 'plastic_id'],
      ['discs', 'plastic_id'],
    ],
  },
  { table: 'runs', within: 'plastic_id', refers: [['discs', 'run_id']] },
] as const
/** Things of one name that are not the same for that: two discs of one code, two people of one name. */
const RENAMED = [
  { table: 'discs', column: 'code', called: 'disc' },
  { table: 'throwers', column: 'name', called: 'thrower' },
  { table: 'people', column: 'name', called: 'person' },
] as const
/** A person is told of so many clashes; more say that it is another matter. */
const MOST_TOLD = 60

/**
 * Brings what a package holds in beside what is here. Ids are kept: what is here already is not brought twice, throws of a trial
 * that both have are pooled, and of a row that is otherwise here, ours stays. Makers, molds, plastics and runs of one name are
 * one; discs of one code and people of one name are told apart.
 *
 * @param store whether it is kept, or only found out what would come
 */
export const mergePackage = (
  pool: pg.Pool,
  pack: Package,
  store: boolean,
  under: Under = {},
): Promise<Merged> =>
  withAside(pool, pack, under, async (client) => {
    await loosen(client)
    const clashes: string[] = []
    for (const named of BY_NAME) await becomeOne(client, named, clashes)
    for (const named of RENAMED) await tellApart(client, named, clashes)
    const added: Record<string, number> = {}
    let same = 0
    for (const table of TABLES.filter((t) => !OURS.has(t.name))) {
      under.signal?.throwIfAborted()
      const came = await bringIn(client, table, clashes)
      if (came.added > 0) added[table.name] = came.added
      same += came.same
    }
    return { came: { added, same, clashes: clashes.slice(0, MOST_TOLD) }, keep: store }
  })

/** What was put together aside holds by itself; from here on it refers to what is here. */
async function loosen(client: pg.ClientBase): Promise<void> {
  const { rows } = await client.query<{ table: string; name: string }>(
    `select conrelid::regclass::text as table, conname as name from pg_constraint
     where contype = 'f' and connamespace = $1::regnamespace`,
    [ASIDE],
  )
  for (const { table, name } of rows)
    await client.query(`alter table ${table} drop constraint ${quoted(name)}`)
}

/** Has things of one name be those that are here. */
async function becomeOne(
  client: pg.ClientBase,
  { table, within, refers }: (typeof BY_NAME)[number],
  clashes: string[],
): Promise<void> {
  const { rows } = await client.query<{ theirs: string; ours: string; name: string; differs: boolean }>(
    `select r.id as theirs, p.id as ours, p.name,
            (to_jsonb(r) - $1::text[] - 'id'::text) <> (to_jsonb(p) - $1::text[] - 'id'::text) as differs
     from ${ASIDE}.${table} r join public.${table} p on p.name = r.name and p.id <> r.id
       ${within ? `and p.${within} = r.${within}` : ''}`,
    [OF_THE_MOMENT],
  )
  for (const { theirs, ours, name, differs } of rows) {
    if (differs) clashes.push(`${name} (${table}) is otherwise in the package; yours stays.`)
    for (const [other, key] of refers)
      await client.query(`update ${ASIDE}.${other} set ${key} = $1 where ${key} = $2`, [ours, theirs])
    await client.query(`delete from ${ASIDE}.${table} where id = $1`, [theirs])
  }
}

/** A name like another that nothing here or in the package has. */
export async function freeName(
  client: pg.ClientBase,
  table: string,
  column: string,
  name: string,
): Promise<string> {
  for (let n = 2; ; n++) {
    const free = `${name.slice(0, 110)} (${n})`
    const taken = await client.query(
      `select 1 from public.${table} where lower(${column}) = lower($1)
       union all select 1 from ${ASIDE}.${table} where lower(${column}) = lower($1)`,
      [free],
    )
    if (taken.rowCount === 0) return free
  }
}

/** Gives things of one name that are not the same a name of their own. */
async function tellApart(
  client: pg.ClientBase,
  { table, column, called }: (typeof RENAMED)[number],
  clashes: string[],
): Promise<void> {
  const { rows } = await client.query<{ id: string; name: string }>(
    `select r.id, r.${column} as name from ${ASIDE}.${table} r
     join public.${table} p on lower(p.${column}) = lower(r.${column}) and p.id <> r.id
     where r.id not in (select id from public.${table}) order by 2`,
  )
  for (const { id, name } of rows) {
    const free = await freeName(client, table, column, name)
    await client.query(`update ${ASIDE}.${table} set ${column} = $1 where id = $2`, [free, id])
    if (table !== 'people') clashes.push(`You have a ${called} ${name} already; theirs comes in as ${free}.`)
  }
}

/** Brings the rows of a table in that are not here. */
async function bringIn(
  client: pg.ClientBase,
  { name, primaryKey }: TravellingTable,
  clashes: string[],
): Promise<{ added: number; same: number }> {
  const on = primaryKey.map((key) => `p.${quoted(key)} = r.${quoted(key)}`).join(' and ')
  const both = await client.query<{ id: string; differs: boolean }>(
    `select coalesce(to_jsonb(r)->>'code', to_jsonb(r)->>'name', to_jsonb(r)->>'label', r.${quoted(primaryKey[0]!)}::text) as id,
            (to_jsonb(r) - $1::text[]) <> (to_jsonb(p) - $1::text[]) as differs
     from ${ASIDE}.${quoted(name)} r join public.${quoted(name)} p on ${on}`,
    [OF_THE_MOMENT],
  )
  const told = name.replaceAll('_', ' ')
  if (name !== 'people' && name !== 'device_keys')
    for (const { id, differs } of both.rows)
      if (differs) clashes.push(`${id} (${told}) was changed on one side or both; yours stays.`)
  // whoever is named by another database comes in here by an invitation of this one
  if (name === 'people')
    await client.query(`update ${ASIDE}.people set removed_at = coalesce(removed_at, now()), role = 'reader'`)
  const columns = await columnsOf(client, name)
  const came = await client.query(
    `insert into public.${quoted(name)} (${columns}) select ${columns} from ${ASIDE}.${quoted(name)} r
     where not exists (select 1 from public.${quoted(name)} p where ${on})`,
  )
  return { added: came.rowCount ?? 0, same: both.rows.filter((r) => !r.differs).length }
}
