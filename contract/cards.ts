import { z } from 'zod'
import { Id } from './shelf.ts'

const Point = z.object({ x: z.number(), y: z.number() })

/** What a trial says so far, small enough for a card: its flights, and the sentences nearest to a question still open. */
export const TrialCard = z.object({
  trialId: Id,
  flights: z.array(
    z.object({
      /** Code of the disc. */
      disc: z.string(),
      /** What it is called in its trial. */
      name: z.string(),
      carryM: z.number(),
      path: z.array(Point),
      band: z.array(z.object({ x: z.number(), low: z.number(), high: z.number() })),
    }),
  ),
  sentences: z.array(
    z.object({
      kind: z.enum(['extreme', 'order', 'alike', 'open', 'label']),
      discs: z.array(z.string()),
      probability: z.number().optional(),
      text: z.string(),
      detail: z.string(),
      settled: z.boolean(),
      throws: z.int(),
    }),
  ),
})
export type TrialCard = z.infer<typeof TrialCard>

/** Cards of as many trials are asked for at once. */
export const MOST_CARDS = 120
