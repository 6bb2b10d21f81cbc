import { randomBytes } from 'node:crypto'
import type pg from 'pg'
import type { CopyStanding } from '../../contract/custody.ts'
import { ASIDE, withAside } from './aside.ts'
import type { Under } from './file.ts'
import { ofEverything } from './kind.ts'
import { freeName } from './merge.ts'
import { BadPackage } from './zip.ts'
import type { Package } from './zip.ts'

/**
 * Who may do what here, and what is public here, is of this server: a package brings data, and none of either unless an owner
 * asks for it person by person and page by page.
 */

/** Whether nobody has ever been let in here: people of a package come as they were then, and each comes in anew. */
const NOBODY_YET = `not exists (select 1 from public.people where passphrase is not null)
  and not exists (select 1 from public.device_keys where digest not like 'restored:%')`

/** Pages that anybody can read here now. */
const PUBLIC_NOW = `select r.id, r.page, r.review_id, r.token, r.published_at, v.listed
  from public.revisions r join public.reviews v on v.id = r.review_id
  where r.token is not null and v.removed_at is null`
/** Pages of a package that anybody could read where it was made. */
const PUBLIC_THERE = `select r.id, r.page, r.review_id, r.number, r.published_at, v.title, v.listed
  from ${ASIDE}.revisions r join ${ASIDE}.reviews v on v.id = r.review_id
  where r.published_at is not null and v.removed_at is null`

/** What of a package would be otherwise than it stands here, and stays as it is here unless it is asked for. */
export const copyStandingOf = (pool: pg.Pool, pack: Package, under: Under = {}): Promise<CopyStanding[]> =>
  withAside(
    pool,
    ofEverything(pack),
    under,
    async (client) => {
      const { rows } = await client.query<CopyStanding>(
        `with said as (
           select r.id, r.name, case when r.removed_at is null then r.role else 'removed' end as there,
             case when p.id is null then 'removed' when p.removed_at is null then p.role else 'removed' end as here
           from ${ASIDE}.people r left join public.people p on p.id = r.id
           where p.id is not null or not (${NOBODY_YET}))
         select id, 'person' as what, name, here, there from said where here <> there
         union all
         select r.id, 'page', r.title || ', revision ' || r.number, 'not public', 'public' from (${PUBLIC_THERE}) r
         where not exists (select 1 from (${PUBLIC_NOW}) p where p.id = r.id and p.page = r.page)
         order by 2 desc, 3`,
      )
      return { came: rows, keep: false }
    },
    (table) => ['people', 'reviews', 'revisions'].includes(table),
  )

/** Notes which pages are public, before what is here gives way. */
export const notePublic = (client: pg.ClientBase) =>
  client.query(`create temp table public_before on commit drop as ${PUBLIC_NOW}`)

/**
 * Has those pages be public that were so here and are the same, byte for byte, and those that are asked for.
 *
 * @param take ids of revisions that are published again as in the package; each gets an address of its own
 */
export async function keepPublic(client: pg.ClientBase, take: readonly string[]): Promise<void> {
  await client.query(`update public.revisions set token = null, published_at = null where token is not null`)
  await client.query(
    `update public.revisions r set token = b.token, published_at = b.published_at
     from pg_temp.public_before b, public.reviews v
     where b.id = r.id and b.page = r.page and v.id = r.review_id and v.removed_at is null`,
  )
  await client.query(
    `update public.reviews v set listed = b.listed from pg_temp.public_before b where b.review_id = v.id`,
  )
  const { rows } = await client.query<{ id: string; review_id: string; published_at: Date; listed: boolean }>(
    `select id, review_id, published_at, listed from (${PUBLIC_THERE}) r where id::text = any($1)`,
    [take],
  )
  for (const { id, review_id, published_at, listed } of rows) {
    await client.query(
      'update public.revisions set token = null, published_at = null where review_id = $1 and id <> $2',
      [review_id, id],
    )
    await client.query(
      'update public.revisions set token = $2, published_at = $3 where id = $1 and token is null',
      [id, randomBytes(24).toString('base64url'), published_at],
    )
    await client.query('update public.reviews set listed = $2 where id = $1', [review_id, listed])
  }
}

/**
 * Has people and their devices stand as they do here. Those of the package who are not here come by name, so that what they
 * logged is theirs, and come in no more; where nobody was ever let in, they come as they were, without what they came in with.
 *
 * @param take ids of people who get the role they have in the package
 * @param byId who asks for it; stays an owner
 * @throws BadPackage where nobody would be left who can do everything
 */
export async function replaceCrew(
  client: pg.ClientBase,
  take: readonly string[],
  byId: string | undefined,
): Promise<void> {
  const { rows } = await client.query<{ yes: boolean }>(`select ${NOBODY_YET} as yes`)
  const nobodyYet = rows[0]!.yes
  if (nobodyYet) {
    const goes = `select p.id from public.people p where p.id not in (select id from ${ASIDE}.people)`
    await client.query(`delete from public.passes where person_id in (${goes}) or made_by_id in (${goes})`)
    await client.query(`delete from public.device_keys where person_id in (${goes})`)
    await client.query(`delete from public.people where id in (${goes})`)
    await client.query(
      `update public.people p set role = r.role, removed_at = r.removed_at, created_at = r.created_at
       from ${ASIDE}.people r where r.id = p.id`,
    )
  }
  const alike = await client.query<{ id: string; name: string }>(
    `select r.id, r.name from ${ASIDE}.people r join public.people p on lower(p.name) = lower(r.name) and p.id <> r.id
     where r.id not in (select id from public.people)`,
  )
  for (const { id, name } of alike.rows)
    await client.query(`update ${ASIDE}.people set name = $2 where id = $1`, [
      id,
      await freeName(client, 'people', 'name', name),
    ])
  await client.query(
    `insert into public.people (id, name, role, removed_at, created_at)
     select id, name, case when $1 or id::text = any($2) then role else 'reader' end,
       case when $1 or id::text = any($2) then removed_at else coalesce(removed_at, now()) end, created_at
     from ${ASIDE}.people r where not exists (select 1 from public.people p where p.id = r.id)`,
    [nobodyYet, take],
  )
  await client.query(
    `update public.people p set role = r.role, removed_at = r.removed_at from ${ASIDE}.people r
     where r.id = p.id and r.id::text = any($1)`,
    [take],
  )
  await client.query(
    `update public.device_keys k set revoked_at = coalesce(k.revoked_at, now()) from public.people p
     where p.id = k.person_id and p.removed_at is not null`,
  )
  await client.query(
    `insert into public.device_keys select * from ${ASIDE}.device_keys r
     where not exists (select 1 from public.device_keys k where k.id = r.id)`,
  )
  // at a machine that let nobody in, whoever sits there is an owner
  if (nobodyYet) return
  const left = await client.query(
    `select 1 from public.people where role = 'owner' and removed_at is null and ($1::text is null or id::text = $1)`,
    [byId ?? null],
  )
  if (left.rowCount === 0)
    throw new BadPackage(
      'Nobody would be left who can do everything: whoever restores stays an owner. Nothing was changed.',
    )
}
