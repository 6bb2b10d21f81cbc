import type Router from '@koa/router'
import { dayAt } from '../../core/throw/day.ts'
import type { Works } from '../work/works.ts'
import { answerJson } from './router.ts'

/** Addresses the board of jobs and the discs that do them. */
export function rotationRoutes(router: Router, works: Works): void {
  router.get('/api/rotation', async (ctx) => {
    answerJson(ctx, await works.pages.board(dayAt(Date.now(), null)))
  })
}
