import type { PlanDisc } from '../core/plan/planning.ts'
import type { ProposedDisc } from '../core/plan/questions/picking.ts'
import { gramsOf, shelved } from './sheet.ts'
import type { ShelvedDisc } from './sheet.ts'
import { WEAR_STATES } from './shelf.ts'
import { stabilityOf } from './shelfPage.ts'
import type { ShelfRow } from './shelfPage.ts'

/** A disc as a plan sees it. */
export const plannedDisc = (d: ShelvedDisc): PlanDisc => ({
  id: d.disc.id,
  numbers: d.inForce.numbers,
  isNew: d.disc.wear === 'new',
})

/** What the order of a trial is first shuffled from: always the same, until somebody shuffles. */
export const seedOf = (trialId: string): number => Number.parseInt(trialId.slice(-5), 16)

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
