import type Router from '@koa/router'
import type { DemoState } from '../../contract/demo.ts'
import type { Database } from '../store/database.ts'
import type { Works } from '../work/works.ts'

/** Sample data that can be put away and brought back. */
export interface Demo {
  readonly state: (db: Database) => Promise<DemoState>
  readonly putAway: (db: Database) => Promise<void>
  /** @throws Conflict where something of one's own has the name of something of the demo */
  readonly bringBack: (db: Database) => Promise<void>
}

export function demoRoutes(router: Router, db: Database, demo: Demo, works: Works): void {
  router.get('/api/demo', async (ctx) => {
    ctx.body = await demo.state(db)
  })
  for (const [way, act] of [
    ['away', demo.putAway],
    ['back', demo.bringBack],
  ] as const)
    router.post(`/api/demo/${way}`, async (ctx) => {
      await act(db)
      works.touchAll()
      ctx.body = await demo.state(db)
    })
}
