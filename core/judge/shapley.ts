/** Weight of a coalition of each size of `n` causes in the Shapley value. */
function weightsOf(n: number): number[] {
  const factorial = (k: number): number => (k < 2 ? 1 : k * factorial(k - 1))
  return Array.from({ length: n }, (_, size) => (factorial(size) * factorial(n - size - 1)) / factorial(n))
}
function bits(set: number): number {
  let n = 0
  for (let rest = set; rest > 0; rest >>= 1) n += rest & 1
  return n
}

/**
 * What each of `n` causes adds to some figures: its effect averaged over every order in which the causes could be named, so that
 * the answer does not depend on which is named first (Shapley 1953). All of it together is the difference between every cause and
 * none.
 *
 * @param figuresOf the figures where the causes of a set act: bit i of it is cause i; called 2ⁿ times
 * @returns a row for each cause
 */
export function shapley(n: number, figuresOf: (set: number) => readonly number[]): number[][] {
  const weights = weightsOf(n)
  const all = Array.from({ length: 1 << n }, (_, set) => figuresOf(set))
  return Array.from({ length: n }, (_, i) => {
    const sums = all[0]!.map(() => 0)
    for (let set = 0; set < 1 << n; set++) {
      if (set & (1 << i)) continue
      const weight = weights[bits(set)]!
      sums.forEach((_, f) => (sums[f]! += weight * (all[set | (1 << i)]![f]! - all[set]![f]!)))
    }
    return sums
  })
}
