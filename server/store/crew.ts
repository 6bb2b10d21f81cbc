import { and, eq, gt, isNull, ne, sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import type { DeviceKey, Member, Pass, Role } from '../../contract/crew.ts'
import { digestOf, fits, hashPassphrase, newCode, newToken } from '../crew/secrets.ts'
import { Conflict } from './conflicts.ts'
import type { Database, Queryable } from './database.ts'
import { deviceKeys, passes, people } from './schema.ts'

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
    const names = (await tx.select({ name: people.name }).from(people)).map((p) => p.name.toLowerCase())
    const free = [FIRST_NAME, ...names.map((_, i) => `${FIRST_NAME} ${i + 2}`)]
    const name = free.find((n) => !names.includes(n.toLowerCase()))!
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
  if (found.old)
    await db
      .update(deviceKeys)
      .set({ seenAt: sql`now()` })
      .where(eq(deviceKeys.id, found.keyId))
  return { person: found.person, keyId: found.keyId }
}

/** Whether a device may still come in. */
export async function stillHolds(db: Queryable, keyId: string): Promise<boolean> {
  const [found] = await db
    .select({ id: deviceKeys.id })
    .from(deviceKeys)
    .innerJoin(people, eq(people.id, deviceKeys.personId))
    .where(and(eq(deviceKeys.id, keyId), isNull(deviceKeys.revokedAt), isNull(people.removedAt)))
  return found !== undefined
}

/** Lets a device of somebody in; the token is told once. */
export async function admit(db: Queryable, personId: string, device: string): Promise<string> {
  const token = newToken()
  await db.insert(deviceKeys).values({ id: newId(), personId, name: device, digest: digestOf(token) })
  return token
}

/** Who has a name and a passphrase; undefined where they do not fit. */
export async function knownBy(db: Queryable, name: string, passphrase: string): Promise<string | undefined> {
  const [found] = await db
    .select({ id: people.id, passphrase: people.passphrase })
    .from(people)
    .where(and(sql`lower(${people.name}) = lower(${name})`, isNull(people.removedAt)))
  return (await fits(passphrase, found?.passphrase ?? null)) ? found!.id : undefined
}

const PAIRING_LASTS = sql`interval '5 minutes'`
const INVITATION_LASTS = sql`interval '7 days'`

/** Makes what lets a device of somebody in, once. */
export async function openPairing(db: Queryable, personId: string): Promise<Pass> {
  const secret = newCode()
  return await opened(db, secret, { kind: 'pairing', personId, madeById: personId }, PAIRING_LASTS)
}

/** Makes what lets somebody new in, once. */
export async function openInvitation(db: Queryable, role: Role, madeById: string): Promise<Pass> {
  return await opened(db, newToken(), { kind: 'invitation', role, madeById }, INVITATION_LASTS)
}

async function opened(
  db: Queryable,
  secret: string,
  row: Pick<typeof passes.$inferInsert, 'kind' | 'personId' | 'role' | 'madeById'>,
  lasts: typeof PAIRING_LASTS,
): Promise<Pass> {
  const id = newId()
  const [made] = await db
    .insert(passes)
    .values({ ...row, id, digest: digestOf(secret), expiresAt: sql`now() + ${lasts}` })
    .returning({ expiresAt: passes.expiresAt })
  return { id, kind: row.kind, secret, expiresAt: made!.expiresAt }
}

/** Uses a pass up; undefined where it is not known, over, or used. Of two that come with one, one is let in. */
async function used(db: Queryable, secret: string, kind: Pass['kind']) {
  const [row] = await db
    .update(passes)
    .set({ usedAt: sql`now()` })
    .where(
      and(
        eq(passes.digest, digestOf(secret)),
        eq(passes.kind, kind),
        isNull(passes.usedAt),
        gt(passes.expiresAt, sql`now()`),
      ),
    )
    .returning({ personId: passes.personId, role: passes.role })
  return row
}

/** Lets a device in by its code. */
export const pair = (db: Database, code: string, device: string): Promise<string | undefined> =>
  db.transaction(async (tx) => {
    const pass = await used(tx, code, 'pairing')
    return pass && (await admit(tx, pass.personId!, device))
  })

/** Makes the person somebody was invited as, and lets their device in. */
export async function join(
  db: Database,
  { secret, name, passphrase, device }: Readonly<Record<'secret' | 'name' | 'passphrase' | 'device', string>>,
): Promise<string | undefined> {
  const hashed = await hashPassphrase(passphrase)
  return await db.transaction(async (tx) => {
    const pass = await used(tx, secret, 'invitation')
    if (!pass) return undefined
    const id = newId()
    await tx.insert(people).values({ id, name, role: pass.role!, passphrase: hashed })
    return await admit(tx, id, device)
  })
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
export const changeMember = (
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
 * Changes what somebody is called and signs in with. Another passphrase signs their other devices out.
 *
 * @throws Conflict where the passphrase before is not theirs
 */
export async function changeMyself(
  db: Database,
  { person, keyId }: Who,
  {
    name,
    passphrase,
    before,
  }: { name: string; passphrase?: string | undefined; before?: string | undefined },
): Promise<Member> {
  // whoever sits at the machine itself may set another
  if (passphrase !== undefined && person.hasPassphrase && keyId !== null) {
    if ((await knownBy(db, person.name, before ?? '')) !== person.id)
      throw new Conflict('Not yours', 'The passphrase you have now is another one.', undefined, [
        { path: 'before', message: 'is not the passphrase you have now' },
      ])
  }
  const hashed = passphrase === undefined ? undefined : await hashPassphrase(passphrase)
  return await db.transaction(async (tx) => {
    const [changed] = await tx
      .update(people)
      .set({ name, ...(hashed !== undefined && { passphrase: hashed }) })
      .where(eq(people.id, person.id))
      .returning(MEMBER)
    if (hashed !== undefined) await revokeAll(tx, person.id, keyId)
    return changed!
  })
}
