/** How a disc loses stability as it is used, before anything is known of it. */

/** What a plastic is made of, as far as wear goes. */
export const PLASTIC_KINDS = ['base', 'premium', 'soft', 'unknown'] as const
export type PlasticKind = (typeof PLASTIC_KINDS)[number]

/** How stability falls as a disc is used, for a disc that wears as its kind usually does. */
interface WearCurve {
  /** What it loses at first, and over how many hundred throws, as the edge rounds. */
  readonly breaksIn: number
  readonly over: number
  /** What it goes on losing, per hundred throws. */
  readonly goesOn: number
  /** Throws that a hit hard enough to hear is worth. */
  readonly hitThrows: number
}

/**
 * What is believed of each kind before any re-test: a base blend changes fast and goes on changing, a stiff premium slowly and
 * then holds. Of an unknown plastic the middle between them.
 */
export const WEAR_CURVES: Readonly<Record<PlasticKind, WearCurve>> = {
  base: { breaksIn: 0.3, over: 1.5, goesOn: 0.16, hitThrows: 20 },
  premium: { breaksIn: 0.5, over: 6, goesOn: 0.015, hitThrows: 12 },
  soft: { breaksIn: 0.3, over: 3, goesOn: 0.08, hitThrows: 10 },
  unknown: { breaksIn: 0.35, over: 3, goesOn: 0.1, hitThrows: 16 },
}

/** How much a disc has been through. */
export interface Use {
  readonly throws: number
  readonly hardHits: number
}

/**
 * Stability lost by then, by a disc that wears as its kind usually does.
 *
 * @param hitThrows throws that a hard hit is worth
 */
export function usualDrop(
  kind: PlasticKind,
  { throws, hardHits }: Use,
  hitThrows = WEAR_CURVES[kind].hitThrows,
): number {
  const { breaksIn, over, goesOn } = WEAR_CURVES[kind]
  const hundreds = (throws + hitThrows * hardHits) / 100
  return breaksIn * (1 - Math.exp(-hundreds / over)) + goesOn * hundreds
}

/** Of what wear takes from a disc’s stability, so much is turn, and the rest fade. */
export const WEAR_TURNS = 0.6
