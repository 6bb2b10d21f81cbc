import { dayAt } from '../../core/throw/day.ts'
import type { Works } from '../work/works.ts'
import { JsonText } from './serve.ts'
import type { Serve } from './serve.ts'

/** Addresses the board of jobs and the discs that do them. */
export function rotationRoutes(on: Serve, works: Works): void {
  on('GET /api/rotation', async () => new JsonText(await works.pages.board(dayAt(Date.now(), null))))
}
