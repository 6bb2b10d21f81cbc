import { z } from 'zod'

export const WearEstimate = z.object({ value: z.number(), sd: z.number() })

/** What a disc has been through: throws since new, logged here and noted, and hits hard enough to hear. */
export const WearUse = z.object({ throws: z.number(), hardHits: z.number() })

const throws = z.number().nullable()
/** When something ends, throws from now: with one chance in ten, as likely as not, with nine in ten; null further ahead than looked. */
export const WearLeaving = z.object({ earliest: throws, likely: throws, latest: throws })

/** The middle of what is known, and where it lies with 80 in 100. */
export const WearRange = z.object({ low: z.number(), middle: z.number(), high: z.number() })

/** What wear does to a disc from here on, learned from re-tests across the shelf. */
export const WearForetold = z.object({
  /** Change of stability over the next hundred throws. */
  nextHundred: WearEstimate,
  /** When it is half a number less stable. */
  halfLess: WearLeaving,
  /** How much faster than usual for its kind its blend wears. */
  pace: WearRange,
  /** Throws that a hard hit is worth to its kind of plastic. */
  hit: WearRange,
  tests: z.object({ blend: z.int(), kind: z.int() }),
})
