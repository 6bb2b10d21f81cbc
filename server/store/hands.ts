import { and, eq, gt, sql } from 'drizzle-orm'
import type { DeviceHand, Held } from '../../contract/news.ts'
import type { Queryable } from './database.ts'
import { hands } from './schema.ts'

/** Whoever has not been heard of for so long holds nothing. */
const FORGOTTEN = sql`interval '15 minutes'`

export const readHands = (db: Queryable, trialId: string): Promise<DeviceHand[]> =>
  db
    .select({ deviceId: hands.deviceId, held: hands.held, since: hands.since })
    .from(hands)
    .where(and(eq(hands.trialId, trialId), gt(hands.seenAt, sql`now() - ${FORGOTTEN}`)))
    .orderBy(hands.since, hands.deviceId)

/** Notes what a device is about to throw; since when stays while it is the same throw. */
export async function hold(
  db: Queryable,
  trialId: string,
  deviceId: string,
  held: Held | null,
): Promise<void> {
  if (held === null) {
    await db.delete(hands).where(and(eq(hands.trialId, trialId), eq(hands.deviceId, deviceId)))
    return
  }
  const now = sql`clock_timestamp()`
  await db
    .insert(hands)
    .values({ trialId, deviceId, held, since: now, seenAt: now })
    .onConflictDoUpdate({
      target: [hands.trialId, hands.deviceId],
      set: {
        held,
        seenAt: now,
        since: sql`case when ${hands.held} = excluded.held then ${hands.since} else ${now} end`,
      },
    })
}
