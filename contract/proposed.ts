import type { ProposedDisc } from '../core/plan/propose.ts'
import { gramsOf, shelved } from './sheet.ts'
import { WEAR_STATES } from './shelf.ts'
import { stabilityOf } from './shelfPage.ts'
import type { ShelfRow } from './shelfPage.ts'

/** A line of the shelf as a question sees it. */
export function proposedOf(row: ShelfRow): ProposedDisc {
  const { numbers } = shelved(row).inForce
  return {
    id: row.disc.id,
    mold: `${row.maker.name} ${row.mold.name}`,
    plastic: row.plastic.name,
    run: row.run?.name ?? null,
    discClass: row.mold.discClass,
    wear: WEAR_STATES.indexOf(row.disc.wear),
    grams: gramsOf(row.disc),
    speed: numbers.speed,
    stability: row.rating ? stabilityOf(row.rating).value : numbers.turn + numbers.fade,
    throws: row.throws,
  }
}
