/** Upper bounds of stability (turn + fade) and the word below each. */
const WORDS: readonly (readonly [below: number, word: string])[] = [
  [-2.5, 'very understable'],
  [-1.5, 'understable'],
  [-0.5, 'slightly understable'],
  [0.5, 'straight'],
  [1.5, 'slightly overstable'],
  [2.5, 'overstable'],
  [Number.POSITIVE_INFINITY, 'very overstable'],
]

/** The field's word for a stability (turn + fade). */
export const stabilityWord = (stability: number): string => WORDS.find(([below]) => stability < below)![1]

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
