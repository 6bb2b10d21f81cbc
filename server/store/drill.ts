import { desc } from 'drizzle-orm'
import type { DrillAnswer } from '../../contract/drill.ts'
import { wireColumns } from './database.ts'
import type { Queryable } from './database.ts'
import { drillAnswers } from './schema.ts'

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
