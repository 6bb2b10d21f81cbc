import type { Database } from '../store/database.ts'
import { readDrillAnswers, readRecorded } from '../store/drill.ts'
import type { Serve } from './serve.ts'

/** Addresses what eyes said of the flights they were asked about, and throws of one's own to ask about. */
export function drillRoutes(on: Serve, db: Database): void {
  on('GET /api/drill-answers', () => readDrillAnswers(db))
  on('GET /api/recorded-throws', () => readRecorded(db))
}
