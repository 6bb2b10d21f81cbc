import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { DrillAnswer, DrillRecorded } from '../../contract/drill.ts'
import type { ThrowPath } from '../../contract/trials.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { discs, drillAnswers, ratings, sessions, throws } from './schema.ts'

/** As many answers say what an eye is like by now. */
const LATEST = 2000

export const overwriteDrillAnswer = (db: Queryable, row: DrillAnswer) =>
  db.insert(drillAnswers).values(row).onConflictDoUpdate({ target: drillAnswers.id, set: row })

/** The latest answers, the oldest of them first. */
export const readDrillAnswers = async (db: Queryable): Promise<DrillAnswer[]> =>
  (
    await db
      .select(wireColumns(drillAnswers))
      .from(drillAnswers)
      .orderBy(desc(drillAnswers.answeredAt), desc(drillAnswers.id))
      .limit(LATEST)
  ).reverse()

/** Recorded throws that are shown again, the latest, and points of each: a flight is smooth. */
const RECORDED = 60
const POINTS = 90

/** The latest throws of which the whole path was recorded, with times and heights. */
export async function readRecorded(db: Queryable): Promise<DrillRecorded[]> {
  const rows = await db
    .select({
      throwId: throws.id,
      trialId: throws.trialId,
      day: sessions.day,
      place: sessions.place,
      disc: discs.code,
      hand: throws.hand,
      stroke: throws.stroke,
      hyzerDeg: throws.hyzerDeg,
      hyzerCalledDeg: throws.hyzerCalledDeg,
      noseCalledDeg: throws.noseCalledDeg,
      windAlongMps: throws.windAlongMps,
      windAcrossMps: throws.windAcrossMps,
      carryM: throws.carryM,
      rightM: throws.rightM,
      path: throws.path,
      turn: ratings.turn,
      fade: ratings.fade,
      covariance: ratings.covariance,
    })
    .from(throws)
    .innerJoin(sessions, eq(sessions.id, throws.sessionId))
    .innerJoin(discs, eq(discs.id, throws.discId))
    .leftJoin(ratings, eq(ratings.discId, throws.discId))
    .where(
      and(
        isNotNull(throws.path),
        isNull(throws.takenBackAt),
        throws.counts,
        sql`jsonb_array_length(${throws.path}->'timeS') > 0`,
        sql`jsonb_array_length(${throws.path}->'upM') > 0`,
      ),
    )
    .orderBy(desc(throws.thrownAt))
    .limit(RECORDED)
  return rows.map(({ path, turn, fade, covariance, ...row }) => ({
    ...row,
    path: thinned(path!),
    rated:
      turn === null || fade === null || covariance === null
        ? null
        : {
            turn: { value: turn, sd: Math.sqrt(covariance[4]!) },
            fade: { value: fade, sd: Math.sqrt(covariance[8]!) },
          },
  }))
}

/** Evenly chosen points of a path, its ends among them. */
function thinned({ timeS, downM, rightM, upM }: ThrowPath): ThrowPath {
  const last = downM.length - 1
  if (last < POINTS) return { timeS, downM, rightM, upM }
  const kept = Array.from({ length: POINTS }, (_, i) => Math.round((i * last) / (POINTS - 1)))
  const of = (column: readonly number[]) => kept.map((i) => column[i]!)
  return { timeS: of(timeS), downM: of(downM), rightM: of(rightM), upM: of(upM) }
}
