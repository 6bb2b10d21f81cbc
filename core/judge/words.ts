/** The field's words for stability, from the least stable. */
export const STABILITY_WORDS = [
  'very understable',
  'understable',
  'slightly understable',
  'straight',
  'slightly overstable',
  'overstable',
  'very overstable',
] as const
export type StabilityWord = (typeof STABILITY_WORDS)[number]

/** Upper bounds of stability (turn + fade) of each word. */
const BELOW = [-2.5, -1.5, -0.5, 0.5, 1.5, 2.5, Number.POSITIVE_INFINITY] as const
const WORDS = STABILITY_WORDS.map((word, i) => [BELOW[i]!, word] as const)

/** Between which stabilities a word holds: the lower bound belongs to it. */
export function boundsOf(word: StabilityWord): { readonly low: number; readonly high: number } {
  const i = STABILITY_WORDS.indexOf(word)
  return { low: i === 0 ? Number.NEGATIVE_INFINITY : BELOW[i - 1]!, high: BELOW[i]! }
}

/** The field's word for a stability (turn + fade). */
export const stabilityWord = (stability: number): StabilityWord =>
  WORDS.find(([below]) => stability < below)![1]

/**
 * The same with honest hedging: one word when the middle two thirds of what is believed lie within it, two when
 * they straddle a bound, and no word when they straddle more.
 *
 * @param sd standard deviation of the stability
 */
export function hedgedStability(stability: number, sd: number): string {
  const at = (s: number) => WORDS.findIndex(([below]) => s < below)
  const [low, high] = [at(stability - sd), at(stability + sd)]
  if (low === high) return WORDS[low]![1]
  if (high - low === 1) return `${WORDS[low]![1]} or ${WORDS[high]![1]}`
  return `between ${WORDS[low]![1]} and ${WORDS[high]![1]}`
}
