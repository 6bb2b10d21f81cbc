import type { DemoState } from '../../contract/demo.ts'
import type { Database } from '../store/database.ts'
import type { Works } from '../work/works.ts'
import type { Serve } from './serve.ts'

/** Sample data that can be put away and brought back. */
export interface Demo {
  readonly state: (db: Database) => Promise<DemoState>
  readonly putAway: (db: Database) => Promise<void>
  /** @throws Conflict where something of one's own has the name of something of the demo */
  readonly bringBack: (db: Database) => Promise<void>
}

export function demoRoutes(on: Serve, db: Database, demo: Demo, works: Works): void {
  on('GET /api/demo', () => demo.state(db))
  for (const [way, act] of [
    ['away', demo.putAway],
    ['back', demo.bringBack],
  ] as const)
    on(`POST /api/demo/${way}`, async () => {
      await act(db)
      works.touchAll()
      return await demo.state(db)
    })
}
