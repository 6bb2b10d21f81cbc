import { ratedFromShelf, sheetOf } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import type { Session, Throw, Thrower, WornOn } from '../../contract/trials.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'

/**
 * Throws of whatever trials as the fit of the shelf takes them: lines of the sheet, and the discs that count in them.
 *
 * @param tried control discs of trials: such a disc is one wherever it was thrown
 * @param worn what discs had been through by each outing; as they are now where it is not told
 */
export function shelfSheet(
  discs: readonly ShelvedDisc[],
  throws: Throw[],
  sessions: Session[],
  throwers: readonly Thrower[],
  tried: readonly { readonly control: string | null }[],
  worn: readonly WornOn[] = [],
): { readonly sheet: SheetThrow[]; readonly discs: RatedDisc[]; readonly idOf: Map<string, string> } {
  const counted = new Set(throws.filter((t) => t.counts).map((t) => t.discId))
  const controls = new Set(tried.map((t) => t.control))
  const own = discs.filter((d) => counted.has(d.disc.id))
  return {
    sheet: sheetOf({ trial: { controlDiscId: null }, sessions, throws, worn: [...worn] }, own, throwers),
    discs: own.map((d) => ratedFromShelf(d, controls.has(d.disc.id) ? d.disc.id : null)),
    idOf: new Map(own.map((d) => [d.disc.code, d.disc.id])),
  }
}
