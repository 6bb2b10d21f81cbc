import { z } from 'zod'

export const Estimate = z.object({ value: z.number(), sd: z.number() })

/** What a disc has been through: throws since new, logged here and noted, and hits hard enough to hear. */
export const Use = z.object({ throws: z.number(), hardHits: z.number() })

const throws = z.number().nullable()
/** When something ends, throws from now: with one chance in ten, as likely as not, with nine in ten; null further ahead than looked. */
export const Leaving = z.object({ earliest: throws, likely: throws, latest: throws })

/** The middle of what is known, and where it lies with 80 in 100. */
export const Range = z.object({ low: z.number(), middle: z.number(), high: z.number() })

/** What wear does to a disc from here on, learned from re-tests across the shelf. */
export const Foretold = z.object({
  /** Change of stability over the next hundred throws. */
  nextHundred: Estimate,
  /** When it is half a number less stable. */
  halfLess: Leaving,
  /** How much faster than usual for its kind its blend wears. */
  pace: Range,
  /** Throws that a hard hit is worth to its kind of plastic. */
  hit: Range,
  tests: z.object({ blend: z.int(), kind: z.int() }),
})
