import type { Database } from '../store/database.ts'
import { readShelf } from '../store/shelf.ts'
import type { Serve } from './serve.ts'

export function shelfRoutes(on: Serve, db: Database): void {
  on('GET /api/shelf', () => readShelf(db))
}
