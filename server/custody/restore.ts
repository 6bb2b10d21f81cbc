import type pg from 'pg'
import { ASIDE, columnsOf, withAside } from './aside.ts'
import type { Under } from './file.ts'
import { ofEverything } from './kind.ts'
import { keepPublic, notePublic, replaceCrew } from './standing.ts'
import { quoted, TABLES, WORKED_OUT } from '../store/tables.ts'
import type { Package } from './zip.ts'

/** Tables whose rows stay as they are here: who can come in goes on coming in, as what they are here. */
const CREW = ['people', 'device_keys']

/** What was restored, in rows of what people count. */
export interface Restored {
  readonly throws: number
  readonly trials: number
  readonly discs: number
}

/** Who restores, and what an owner asks for beyond the data. */
export interface RestoreAsked {
  /** Ids of people and of revisions that stand as in the package: see {@link Standing}. */
  readonly take?: readonly string[]
  readonly byId?: string
  /** Told in the transaction itself: what it writes stands if, and only if, all of it does. */
  readonly committing?: (client: pg.ClientBase, came: Restored) => Promise<void>
}

/**
 * Puts what a package holds in the place of what the database holds: all of it, or nothing. The package may be of any
 * released schema. Who may do what, and what is public, stays as it is here.
 *
 * @throws BadPackage where it holds one trial, or its rows break a rule of the database
 */
export const restorePackage = async (
  pool: pg.Pool,
  pack: Package,
  under: Under = {},
  { take = [], byId, committing }: RestoreAsked = {},
): Promise<Restored> =>
  withAside(pool, ofEverything(pack), under, async (client, told) => {
    told({ stage: 'putting in place', done: 0, total: 1 })
    await replace(client, take, byId)
    const { rows } = await client.query<Restored>(
      `select (select count(*)::int from public.throws where taken_back_at is null) as throws,
              (select count(*)::int from public.trials) as trials, (select count(*)::int from public.discs) as discs`,
    )
    await committing?.(client, rows[0]!)
    return { came: rows[0]!, keep: true }
  })

/** Puts what was put together in the place of what is there. */
async function replace(
  client: pg.ClientBase,
  take: readonly string[],
  byId: string | undefined,
): Promise<void> {
  await notePublic(client)
  const names = TABLES.map((t) => t.name).filter((name) => !CREW.includes(name))
  await client.query(
    `truncate ${[...names, ...WORKED_OUT].map((name) => `public.${quoted(name)}`).join(', ')}`,
  )
  await replaceCrew(client, take, byId)
  for (const name of names) {
    const columns = await columnsOf(client, name)
    await client.query(
      `insert into public.${quoted(name)} (${columns}) select ${columns} from ${ASIDE}.${quoted(name)}`,
    )
  }
  await keepPublic(client, take)
}
