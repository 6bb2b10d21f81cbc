import { createHash, randomBytes } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import { and, arrayContains, asc, desc, eq, getTableColumns, isNotNull, isNull, lt, sql } from 'drizzle-orm'
import { v5 as namedId } from 'uuid'
import type { Freezing, ReviewFile, ReviewPhoto, ReviewSection, Revision } from '../../contract/reviews.ts'
import { FROM_ANOTHER_DEVICE } from '../../contract/reviews.ts'
import type { z } from 'zod'
import { Conflict } from './conflicts.ts'
import { wireColumns } from './database.ts'
import type { Database, Queryable } from './database.ts'
import { reviewPhotos, reviews, reviewSections, revisions, rowVersions } from './schema.ts'

/** What of a section a person wrote, whichever device has counted it how often. */
const contentOf = ({ version: _, ...row }: ReviewSection) => row

/**
 * Stores a section that a device sent, and answers with it as stored. A device that wrote from an older state than the one stored
 * loses nothing: what one moved and another wrote is both kept; what both wrote becomes a section of its own, right after the one
 * it was about, the stored one stays, and the answer is the section of its own, under its own id, for what the device writes
 * next. What one hid stays hidden, and what another wrote of it meanwhile stands beside it. Sent twice it is the same section.
 */
export const writeSection = (db: Database, row: ReviewSection): Promise<ReviewSection> =>
  db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${row.id}, 0))`)
    const [stored] = await tx
      .select(wireColumns(reviewSections))
      .from(reviewSections)
      .where(eq(reviewSections.id, row.id))
    if (!stored || stored.version === row.version) return await keepSection(tx, row, stored)
    if (isDeepStrictEqual(contentOf(stored), contentOf(row))) return stored
    const base = await sectionAt(tx, row)
    if (!base) return await keepBeside(tx, stored, row)
    const [wroteMine, wroteTheirs] = [!sameText(base, row), !sameText(base, stored)]
    const next = mergedSection(base, row, stored)
    if (wroteMine && (wroteTheirs || stored.hidden)) return await keepBeside(tx, stored, row)
    if (wroteTheirs && next.hidden) {
      await putBeside(tx, stored, { ...stored, hidden: false })
      return await keepSection(
        tx,
        { ...next, title: base.title, body: base.body, verdicts: base.verdicts },
        stored,
      )
    }
    return await keepSection(tx, next, stored)
  })

const textOf = ({ title, body, verdicts }: ReviewSection) => [title, body, verdicts ?? null]
const sameText = (a: ReviewSection, b: ReviewSection) => isDeepStrictEqual(textOf(a), textOf(b))

/** A section with what each of two sides changed of it. */
function mergedSection(base: ReviewSection, mine: ReviewSection, theirs: ReviewSection): ReviewSection {
  const changed = Object.entries(contentOf(mine)).filter(
    ([key, value]) => !isDeepStrictEqual(value, base[key as keyof ReviewSection]),
  )
  return { ...theirs, ...Object.fromEntries(changed) }
}

/** Stores a section as the next version of it, and what it was for whoever began from that. */
async function keepSection(
  tx: Queryable,
  row: ReviewSection,
  stored: ReviewSection | undefined,
): Promise<ReviewSection> {
  const next = { ...row, version: (stored?.version ?? 0) + 1 }
  await tx.insert(reviewSections).values(next).onConflictDoUpdate({ target: reviewSections.id, set: next })
  if (stored)
    await tx
      .insert(rowVersions)
      .values({
        ...{ kind: SECTIONS, rowId: row.id, version: stored.version, deviceId: null },
        ...{ sent: {}, stored: contentOf(stored) },
      })
      .onConflictDoNothing()
  // a section is written burst by burst; whoever began from long before is kept beside
  await tx
    .delete(rowVersions)
    .where(
      and(
        eq(rowVersions.kind, SECTIONS),
        eq(rowVersions.rowId, row.id),
        lt(rowVersions.version, next.version - MOST_VERSIONS),
      ),
    )
  return next
}
const MOST_VERSIONS = 200

const SECTIONS = 'review-sections'
/** A section as it was at the version a write began from. */
async function sectionAt(tx: Queryable, { id, version }: ReviewSection): Promise<ReviewSection | undefined> {
  const [then] = await tx
    .select({ stored: rowVersions.stored })
    .from(rowVersions)
    .where(and(eq(rowVersions.kind, SECTIONS), eq(rowVersions.rowId, id), eq(rowVersions.version, version)))
  return then && ({ ...then.stored, version } as unknown as ReviewSection)
}

/** Where what another device wrote stands: just after the section it wrote over. */
const BESIDE = 1e-6
async function keepBeside(tx: Queryable, stored: ReviewSection, row: ReviewSection): Promise<ReviewSection> {
  // only where a section stands, or that it went: nothing that was written is at stake
  if (isDeepStrictEqual([stored.title, stored.body, stored.verdicts], [row.title, row.body, row.verdicts]))
    return stored
  return await putBeside(tx, stored, row)
}

async function putBeside(tx: Queryable, stored: ReviewSection, row: ReviewSection): Promise<ReviewSection> {
  const id = namedId(JSON.stringify([row.title, row.body, row.verdicts]), row.id)
  await tx
    .insert(reviewSections)
    .values({
      ...row,
      id,
      kind: 'own',
      place: stored.place + BESIDE,
      title: `${row.title.slice(0, 90)}${FROM_ANOTHER_DEVICE}`,
      version: 1,
    })
    .onConflictDoNothing()
  const [beside] = await tx
    .select(wireColumns(reviewSections))
    .from(reviewSections)
    .where(eq(reviewSections.id, id))
  return beside!
}

export async function writeReviewPhoto(db: Queryable, { id, reviewId, photo }: ReviewPhoto): Promise<void> {
  if (photo === null) {
    await db.delete(reviewPhotos).where(eq(reviewPhotos.id, id))
    return
  }
  const row = { id, reviewId, kind: photo.kind, bytes: Buffer.from(photo.base64, 'base64') }
  await db.insert(reviewPhotos).values(row).onConflictDoUpdate({ target: reviewPhotos.id, set: row })
}

export async function readReviewPhoto(db: Queryable, id: string) {
  const [row] = await db.select(wireColumns(reviewPhotos)).from(reviewPhotos).where(eq(reviewPhotos.id, id))
  return row
}

/** A revision without its page. */
const { page: _, ...REVISION } = getTableColumns(revisions)
const revisionColumns = { ...REVISION, bytes: sql<number>`octet_length(${revisions.page})::int` }

const revisionsOf = (db: Queryable, reviewId: string): Promise<Revision[]> =>
  db
    .select(revisionColumns)
    .from(revisions)
    .where(eq(revisions.reviewId, reviewId))
    .orderBy(desc(revisions.number))

export async function readReview(db: Queryable, id: string): Promise<ReviewFile | undefined> {
  const [review] = await db.select(wireColumns(reviews)).from(reviews).where(eq(reviews.id, id))
  if (!review) return undefined
  const sections = await db
    .select(wireColumns(reviewSections))
    .from(reviewSections)
    .where(and(eq(reviewSections.reviewId, id), isNull(reviewSections.removedAt)))
    .orderBy(asc(reviewSections.place), asc(reviewSections.createdAt))
  return { review, sections, revisions: await revisionsOf(db, id) }
}

/** Reviews about a trial, or all of them, the latest first. */
export async function readReviews(db: Queryable, trialId?: string) {
  const list = await db
    .select(wireColumns(reviews))
    .from(reviews)
    .where(and(isNull(reviews.removedAt), trialId ? arrayContains(reviews.trialIds, [trialId]) : undefined))
    .orderBy(desc(reviews.createdAt))
  return await Promise.all(
    list.map(async (review) => ({ review, revisions: await revisionsOf(db, review.id) })),
  )
}

/**
 * Freezes a review: its page is kept as it is, under the next number. The same revision sent twice is the same revision.
 *
 * @throws Conflict when there is no such review, or the revision is there with another page
 */
export const freeze = (
  db: Database,
  id: string,
  { reviewId, note, method }: z.infer<typeof Freezing>,
  page: Buffer,
): Promise<Revision> =>
  db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${reviewId}, 1))`)
    const sha256 = createHash('sha256').update(page).digest('hex')
    const [there] = await tx.select(revisionColumns).from(revisions).where(eq(revisions.id, id))
    if (there) {
      if (there.sha256 === sha256) return there
      throw new Conflict('Frozen', 'This revision is frozen; freeze another one.')
    }
    const [review] = await tx.select({ id: reviews.id }).from(reviews).where(eq(reviews.id, reviewId))
    if (!review) throw new Conflict('No review', 'The review is not stored here yet; send it first.')
    const [last] = await tx
      .select({ number: sql<number>`coalesce(max(${revisions.number}), 0)::int` })
      .from(revisions)
      .where(eq(revisions.reviewId, reviewId))
    const number = last!.number + 1
    if (number > 1 && note === '')
      throw new Conflict(
        'Say what changed',
        'A later revision says in words what changed, and why.',
        undefined,
        [{ path: 'note', message: 'must say what changed' }],
      )
    await tx.insert(revisions).values({ id, reviewId, number, note, method, sha256, page })
    const [kept] = await tx.select(revisionColumns).from(revisions).where(eq(revisions.id, id))
    return kept!
  })

/** The page of a revision, byte for byte. */
export async function readPage(db: Queryable, id: string) {
  const [row] = await db
    .select({ page: revisions.page, number: revisions.number, title: reviews.title })
    .from(revisions)
    .innerJoin(reviews, eq(reviews.id, revisions.reviewId))
    .where(eq(revisions.id, id))
  return row
}

/** Bytes of chance in the address of what is published. */
const TOKEN_BYTES = 24
/** Puts a revision under an address nobody guesses, in place of any other of its review, or takes it back. */
export const publish = (db: Database, id: string, published: boolean): Promise<Revision | undefined> =>
  db.transaction(async (tx) => {
    const [row] = await tx
      .select({ reviewId: revisions.reviewId, token: revisions.token })
      .from(revisions)
      .where(eq(revisions.id, id))
      .for('update')
    if (!row) return undefined
    if (published && row.token === null) {
      // the address of a review stays the same from one revision to the next
      const out = and(eq(revisions.reviewId, row.reviewId), isNotNull(revisions.token))
      const [before] = await tx.select({ token: revisions.token }).from(revisions).where(out)
      await tx.update(revisions).set({ token: null, publishedAt: null }).where(out)
      const token = before?.token ?? randomBytes(TOKEN_BYTES).toString('base64url')
      await tx
        .update(revisions)
        .set({ token, publishedAt: new Date().toISOString() })
        .where(eq(revisions.id, id))
    }
    if (!published)
      await tx.update(revisions).set({ token: null, publishedAt: null }).where(eq(revisions.id, id))
    const [now] = await tx.select(revisionColumns).from(revisions).where(eq(revisions.id, id))
    return now
  })

/** What is read under an address; undefined where nothing is, or no longer. */
export async function readPublished(db: Queryable, token: string) {
  const [row] = await db
    .select({ page: revisions.page, listed: reviews.listed })
    .from(revisions)
    .innerJoin(reviews, and(eq(reviews.id, revisions.reviewId), isNull(reviews.removedAt)))
    .where(eq(revisions.token, token))
  return row
}

/** What is published and may be listed, the latest first. */
export const readListed = (db: Queryable) =>
  db
    .select({
      title: reviews.title,
      token: revisions.token,
      publishedAt: revisions.publishedAt,
      number: revisions.number,
      note: revisions.note,
      reviewId: reviews.id,
    })
    .from(revisions)
    .innerJoin(reviews, and(eq(reviews.id, revisions.reviewId), isNull(reviews.removedAt), reviews.listed))
    .where(isNotNull(revisions.token))
    .orderBy(desc(revisions.publishedAt))
