import { createHash } from 'node:crypto'
import type { Disc } from '../../contract/shelf.ts'

/** Discs weigh a little less than is marked, each by its own amount, g. */
const LIGHTER_BY = [-0.4, 2.4] as const
const UNMARKED_G = 174

/** What a disc weighs on the stand-in scale: what it weighed before, or an amount of its own near the marked weight. */
export function trueGrams(disc: Pick<Disc, 'id' | 'weighedG' | 'markedG'>): number {
  if (disc.weighedG !== null) return disc.weighedG
  const share = createHash('sha256').update(disc.id).digest().readUInt32BE(0) / 2 ** 32
  const [least, most] = LIGHTER_BY
  return (disc.markedG ?? UNMARKED_G) - (least + share * (most - least))
}
