import { group } from 'd3'

/**
 * Some of many throws, for a first look while all are weighed: of every disc as many, spread evenly over the order they are in,
 * and all of a disc that has few. In the order they came.
 *
 * @param most how many at most; at least one of every disc is taken
 */
export function thinned<T extends { readonly disc: string }>(
  throws: readonly T[],
  most: number,
): readonly T[] {
  if (throws.length <= most) return throws
  const discs = [...group(throws, (t) => t.disc).values()].sort((a, b) => a.length - b.length)
  let left = most
  const taken = new Set<T>()
  for (const [i, of] of discs.entries()) {
    const share = Math.max(1, Math.min(of.length, Math.floor(left / (discs.length - i))))
    left -= share
    for (let k = 0; k < share; k++) taken.add(of[Math.floor(((k + 0.5) * of.length) / share)]!)
  }
  return throws.filter((t) => taken.has(t))
}
