import { ImportProgress } from '../../contract/imports.ts'
import { Refusal } from '../middleware/problems.ts'
import type { Errands } from '../work/errands.ts'
import type { Serve } from './serve.ts'

/** Addresses how far an import is: `GET /api/imports/:id`. */
export function importRoutes(on: Serve, errands: Errands): void {
  on('GET /api/imports/:id', async ({ params }) => {
    const at = await errands.read(params.id)
    if (at?.kind !== 'import' || at.state !== 'under-way')
      throw new Refusal(404, 'Not found', 'There is no such import under way.')
    return ImportProgress.parse(at)
  })
}
