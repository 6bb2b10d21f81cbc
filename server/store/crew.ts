import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, ne, sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import { folded, MOST_PASSES } from '../../contract/crew.ts'
import type { DeviceKey, FailedTry, Member, OpenPass, Pass, TRY_KINDS } from '../../contract/crew.ts'
import type { Role } from '../../contract/roles.ts'
import { digestOf, fits, hashPassphrase, newCode, newToken } from './secrets.ts'
import { Conflict } from './conflicts.ts'
import type { Database, Queryable } from './database.ts'
import { deviceKeys, failedTries, passes, people } from './schema.ts'

/** Who asks, and with which device; no key on the machine itself. */
export interface Who {
  readonly person: Member
  readonly keyId: string | null
}

const MEMBER = {
  id: people.id,
  name: people.name,
  role: people.role,
  removedAt: people.removedAt,
  hasPassphrase: sql<boolean>`${people.passphrase} is not null`,
}

/** What the person is called who has no name yet. */
const FIRST_NAME = 'Owner'

async function readFirstOwner(db: Queryable): Promise<Member | undefined> {
  const [owner] = await db
    .select(MEMBER)
    .from(people)
    .where(and(eq(people.role, 'owner'), isNull(people.removedAt)))
    .orderBy(people.createdAt, people.id)
    .limit(1)
  return owner
}

/** The person at the machine itself: the first owner, made where there is none. */
export async function firstOwner(db: Database): Promise<Member> {
  const there = await readFirstOwner(db)
  if (there) return there
  return await db.transaction(async (tx) => {
    // one of several instances makes it
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('first owner', 0))`)
    const made = await readFirstOwner(tx)
    if (made) return made
    const names = (await tx.select({ name: people.name }).from(people)).map((p) => folded(p.name))
    const free = [FIRST_NAME, ...names.map((_, i) => `${FIRST_NAME} ${i + 2}`)]
    const name = free.find((n) => !names.includes(folded(n)))!
    const row = { id: newId(), name, role: 'owner' as const, removedAt: null }
    await tx.insert(people).values(row)
    return { ...row, hasPassphrase: false }
  })
}

/** A key that was used is noted to be so at most once a minute. */
const NOTED_EVERY = sql`interval '1 minute'`

/** Who has come in with a token; undefined where nobody has, or it was taken away. */
export async function whoHolds(db: Queryable, token: string): Promise<Who | undefined> {
  const [found] = await db
    .select({
      person: MEMBER,
      keyId: deviceKeys.id,
      old: sql<boolean>`${deviceKeys.seenAt} < now() - ${NOTED_EVERY}`,
    })
    .from(deviceKeys)
    .innerJoin(people, eq(people.id, deviceKeys.personId))
    .where(
      and(eq(deviceKeys.digest, digestOf(token)), isNull(deviceKeys.revokedAt), isNull(people.removedAt)),
    )
  if (!found) return undefined
  // whoever reads does not wait for that, and reads on where nothing can be noted
  if (found.old)
    void db
      .update(deviceKeys)
      .set({ seenAt: sql`now()` })
      .where(eq(deviceKeys.id, found.keyId))
      .then(undefined, () => {})
  return { person: found.person, keyId: found.keyId }
}

/** What devices that come in may do, of some: by key; those that come in no more are not among them. */
export async function stillHold(
  db: Queryable,
  keyIds: readonly string[],
): Promise<ReadonlyMap<string, Role>> {
  if (keyIds.length === 0) return new Map()
  const rows = await db
    .select({ id: deviceKeys.id, role: people.role })
    .from(deviceKeys)
    .innerJoin(people, eq(people.id, deviceKeys.personId))
    .where(and(inArray(deviceKeys.id, [...keyIds]), isNull(deviceKeys.revokedAt), isNull(people.removedAt)))
  return new Map(rows.map((r) => [r.id, r.role]))
}

/** Which device once came in as somebody, by any of the tokens a browser shows; its key may have been taken away since. */
export async function knownDevice(
  db: Queryable,
  name: string,
  tokens: readonly string[],
): Promise<string | undefined> {
  if (tokens.length === 0) return undefined
  const rows = await db
    .select({ id: deviceKeys.id, name: people.name })
    .from(deviceKeys)
    .innerJoin(people, eq(people.id, deviceKeys.personId))
    .where(inArray(deviceKeys.digest, tokens.map(digestOf)))
  return rows.find((r) => folded(r.name) === folded(name))?.id
}

/** Lets a device of somebody in; the token is told once. */
export async function admit(db: Queryable, personId: string, device: string): Promise<string> {
  const token = newToken()
  await db.insert(deviceKeys).values({ id: newId(), personId, name: device, digest: digestOf(token) })
  return token
}

/** Who has a name and a passphrase; undefined where they do not fit. */
export async function knownBy(db: Queryable, name: string, passphrase: string): Promise<string | undefined> {
  const all = await db
    .select({ id: people.id, name: people.name, passphrase: people.passphrase })
    .from(people)
    .where(isNull(people.removedAt))
  const found = all.find((p) => folded(p.name) === folded(name))
  return (await fits(passphrase, found?.passphrase ?? null)) ? found!.id : undefined
}

/**
 * Holds names still while one is given.
 *
 * @throws Conflict where it passes for that of somebody else
 */
async function freeOf(tx: Queryable, name: string, but?: string): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended('names of people', 0))`)
  const all = await tx.select({ id: people.id, name: people.name }).from(people)
  if (all.some((p) => p.id !== but && folded(p.name) === folded(name)))
    throw new Conflict(
      'That does not fit what is stored',
      'The name is that of somebody here already.',
      undefined,
      [{ path: 'name', message: 'is that of somebody here already' }],
    )
}

const PAIRING_LASTS = sql`interval '5 minutes'`
const INVITATION_LASTS = sql`interval '7 days'`

/** Makes what lets a device of somebody in, once. */
export const makePairing = (db: Database, by: Maker): Promise<Pass> =>
  opened(db, newCode(), by, { kind: 'pairing', personId: by.person.id }, PAIRING_LASTS)

/** Makes what lets somebody new in, once. */
export const openInvitation = (db: Database, role: Role, by: Maker): Promise<Pass> =>
  opened(db, newToken(), by, { kind: 'invitation', role }, INVITATION_LASTS)

/** Whoever makes a pass, on which device; no key at the machine itself. */
type Maker = { readonly person: Pick<Member, 'id'>; readonly keyId: string | null }

/**
 * A pass opens what it was made for as long as whoever made it could make it again: they are here, may do that, and so may the
 * device it was made on.
 */
const isOpen = and(
  isNull(passes.usedAt),
  gt(passes.expiresAt, sql`now()`),
  sql`exists (select 1 from ${people} m where m.id = ${passes.madeById} and m.removed_at is null
    and (${passes.kind} = 'pairing' or m.role = 'owner'))`,
  sql`(${passes.personId} is null or exists (select 1 from ${people} f where f.id = ${passes.personId} and f.removed_at is null))`,
  sql`(${passes.madeByKeyId} is null or exists (
    select 1 from ${deviceKeys} k where k.id = ${passes.madeByKeyId} and k.revoked_at is null))`,
)

async function opened(
  db: Database,
  secret: string,
  { person, keyId }: Maker,
  row: Pick<typeof passes.$inferInsert, 'kind' | 'personId' | 'role'>,
  lasts: typeof PAIRING_LASTS,
): Promise<Pass> {
  const id = newId()
  return await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${person.id}, 2))`)
    const own = await tx
      .select({ id: passes.id, kind: passes.kind })
      .from(passes)
      .where(and(eq(passes.madeById, person.id), isOpen))
      .orderBy(asc(passes.createdAt))
    if (own.length >= MOST_PASSES) {
      // a code is for the minutes somebody looks at it: the oldest gives way
      const oldest = row.kind === 'pairing' ? own.find((p) => p.kind === 'pairing') : undefined
      if (!oldest)
        throw new Conflict(
          'Too many open',
          `${MOST_PASSES} links or codes of yours are open already. Take one back in Settings, or wait until one is used.`,
          undefined,
          [{ path: '', message: `has ${MOST_PASSES} open already` }],
        )
      await tx.delete(passes).where(eq(passes.id, oldest.id))
    }
    const [made] = await tx
      .insert(passes)
      .values({
        ...row,
        id,
        digest: digestOf(secret),
        madeById: person.id,
        madeByKeyId: keyId,
        expiresAt: sql`now() + ${lasts}`,
      })
      .returning({ expiresAt: passes.expiresAt })
    return { id, kind: row.kind, secret, expiresAt: made!.expiresAt }
  })
}

/** Links and codes that are open: of one person, or all. */
export const readPasses = (db: Queryable, personId?: string): Promise<OpenPass[]> =>
  db
    .select({
      id: passes.id,
      kind: passes.kind,
      role: passes.role,
      person: people.name,
      personId: people.id,
      device: deviceKeys.name,
      madeAt: passes.createdAt,
      expiresAt: passes.expiresAt,
    })
    .from(passes)
    .innerJoin(people, eq(people.id, passes.madeById))
    .leftJoin(deviceKeys, eq(deviceKeys.id, passes.madeByKeyId))
    .where(and(isOpen, personId === undefined ? undefined : eq(passes.madeById, personId)))
    .orderBy(asc(passes.createdAt))

/** Takes a link or code back; of one person only where one is named. @returns whether there was such a one */
export async function dropPass(db: Queryable, id: string, personId?: string): Promise<boolean> {
  const gone = await db
    .delete(passes)
    .where(
      and(
        eq(passes.id, id),
        isNull(passes.usedAt),
        personId === undefined ? undefined : eq(passes.madeById, personId),
      ),
    )
    .returning({ id: passes.id })
  return gone.length > 0
}

/** Uses a pass up; undefined where it is not known, over, taken back or used. Of two that come with one, one is let in. */
async function used(db: Queryable, secret: string, kind: Pass['kind']) {
  const [row] = await db
    .update(passes)
    .set({ usedAt: sql`now()` })
    .where(and(eq(passes.digest, digestOf(secret)), eq(passes.kind, kind), isOpen))
    .returning({ personId: passes.personId, role: passes.role })
  return row
}

/** Lets a device in by its code. */
export const takePairing = (db: Database, code: string, device: string): Promise<string | undefined> =>
  db.transaction(async (tx) => {
    const pass = await used(tx, code, 'pairing')
    return pass && (await admit(tx, pass.personId!, device))
  })

/** Makes the person somebody was invited as, and lets their device in. */
export async function takeInvitation(
  db: Database,
  { secret, name, passphrase, device }: Readonly<Record<'secret' | 'name' | 'passphrase' | 'device', string>>,
): Promise<string | undefined> {
  const hashed = await hashPassphrase(passphrase)
  return await db.transaction(async (tx) => {
    const pass = await used(tx, secret, 'invitation')
    if (!pass) return undefined
    await freeOf(tx, name)
    const id = newId()
    await tx.insert(people).values({ id, name, role: pass.role!, passphrase: hashed })
    return await admit(tx, id, device)
  })
}

/** Addresses and names of failed tries that are kept. */
const MOST_TRIES = 500

/** Notes that somebody tried to come in and could not. */
export async function noteTry(
  db: Queryable,
  what: (typeof TRY_KINDS)[number],
  name: string,
  address: string,
): Promise<void> {
  await db
    .insert(failedTries)
    .values({ id: newId(), what, name: name.slice(0, 120), address })
    .onConflictDoUpdate({
      target: [failedTries.what, failedTries.name, failedTries.address],
      set: { tries: sql`${failedTries.tries} + 1`, lastAt: sql`now()` },
    })
  await db
    .delete(failedTries)
    .where(
      inArray(
        failedTries.id,
        db
          .select({ id: failedTries.id })
          .from(failedTries)
          .orderBy(desc(failedTries.lastAt))
          .offset(MOST_TRIES),
      ),
    )
}

/** Who tried and could not, the latest first. */
export const readTries = (db: Queryable): Promise<FailedTry[]> =>
  db.select().from(failedTries).orderBy(desc(failedTries.lastAt)).limit(50)

/** Whether anybody was ever let in, or is about to be. */
export async function somebodyLetIn(db: Queryable): Promise<boolean> {
  const [keys, open, more] = await Promise.all([
    db
      .select({ n: count() })
      .from(deviceKeys)
      .where(sql`${deviceKeys.digest} not like 'restored:%'`),
    db.select({ n: count() }).from(passes),
    db.select({ n: count() }).from(people).where(isNotNull(people.passphrase)),
  ])
  return [keys, open, more].some(([row]) => row!.n > 0)
}

export const readMembers = (db: Queryable): Promise<Member[]> =>
  db.select(MEMBER).from(people).orderBy(people.createdAt, people.id)

/** Devices that can come in: of one person, or all. */
export const readKeys = (db: Queryable, personId?: string): Promise<DeviceKey[]> =>
  db
    .select({
      id: deviceKeys.id,
      personId: deviceKeys.personId,
      person: people.name,
      name: deviceKeys.name,
      madeAt: deviceKeys.createdAt,
      seenAt: deviceKeys.seenAt,
    })
    .from(deviceKeys)
    .innerJoin(people, eq(people.id, deviceKeys.personId))
    .where(and(isNull(deviceKeys.revokedAt), personId === undefined ? undefined : eq(people.id, personId)))
    .orderBy(deviceKeys.createdAt)

/** Takes a device's key away; of one person only where one is named. @returns whether there was such a key */
export async function revoke(db: Queryable, keyId: string, personId?: string): Promise<boolean> {
  const gone = await db
    .update(deviceKeys)
    .set({ revokedAt: sql`coalesce(${deviceKeys.revokedAt}, now())` })
    .where(
      and(eq(deviceKeys.id, keyId), personId === undefined ? undefined : eq(deviceKeys.personId, personId)),
    )
    .returning({ id: deviceKeys.id })
  return gone.length > 0
}

const revokeAll = (db: Queryable, personId: string, but: string | null) =>
  db
    .update(deviceKeys)
    .set({ revokedAt: sql`now()` })
    .where(
      and(
        eq(deviceKeys.personId, personId),
        isNull(deviceKeys.revokedAt),
        but === null ? undefined : ne(deviceKeys.id, but),
      ),
    )

/**
 * Gives somebody another role, removes them, or takes them back. A removed person stays on file, so that what they wrote has
 * a name; none of their devices comes in.
 *
 * @throws Conflict where nobody would be left to do everything
 */
export const overwriteMember = (
  db: Database,
  id: string,
  { role, removed }: { readonly role: Role; readonly removed: boolean },
): Promise<Member | undefined> =>
  db.transaction(async (tx) => {
    const owners = await tx
      .select({ id: people.id })
      .from(people)
      .where(and(eq(people.role, 'owner'), isNull(people.removedAt)))
      .for('update')
    if ((role !== 'owner' || removed) && owners.length === 1 && owners[0]!.id === id)
      throw new Conflict(
        'The last owner',
        'This is the only owner; somebody has to be left who can do everything. Make somebody else an owner first.',
        undefined,
        [{ path: 'role', message: 'is that of the last owner' }],
      )
    const [changed] = await tx
      .update(people)
      .set({ role, removedAt: removed ? sql`coalesce(${people.removedAt}, now())` : null })
      .where(eq(people.id, id))
      .returning(MEMBER)
    if (removed) await revokeAll(tx, id, null)
    return changed
  })

/**
 * Whether somebody who asks with a device has shown that it is them; whoever sits at the machine itself need not.
 *
 * @throws Conflict where they have no passphrase to show, or it is another one
 */
export async function assured(
  db: Queryable,
  { person, keyId }: Who,
  passphrase: string | undefined,
  field = 'passphrase',
): Promise<void> {
  if (keyId === null) return
  const say = (detail: string, message: string) =>
    new Conflict('Not yours', detail, undefined, [{ path: field, message }])
  if (!person.hasPassphrase)
    throw say(
      'Only somebody with a passphrase does that from a device. Set one in Settings first, or do it at the machine itself.',
      'is not set yet',
    )
  if ((await knownBy(db, person.name, passphrase ?? '')) !== person.id)
    throw say('The passphrase you have now is another one.', 'is not the passphrase you have now')
}

/** Changes what somebody is called and signs in with. Another passphrase signs their other devices out, and ends their codes. */
export async function overwriteMyself(
  db: Database,
  { person, keyId }: Who,
  { name, passphrase }: { name: string; passphrase?: string | undefined },
): Promise<Member> {
  const hashed = passphrase === undefined ? undefined : await hashPassphrase(passphrase)
  return await db.transaction(async (tx) => {
    if (folded(name) !== folded(person.name)) await freeOf(tx, name, person.id)
    const [changed] = await tx
      .update(people)
      .set({ name, ...(hashed !== undefined && { passphrase: hashed }) })
      .where(eq(people.id, person.id))
      .returning(MEMBER)
    if (hashed !== undefined) {
      await revokeAll(tx, person.id, keyId)
      await tx.delete(passes).where(and(eq(passes.personId, person.id), isNull(passes.usedAt)))
    }
    return changed!
  })
}
