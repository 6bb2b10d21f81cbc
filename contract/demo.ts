import { z } from 'zod'

/** Whether the demo is in the database, and how much of one's own is there beside it. */
export const DemoState = z.object({
  demo: z.enum(['here', 'away']),
  /** Throws that the demo did not bring; from the first one on it is neither put away nor brought back by a press. */
  ownThrows: z.int(),
})
export type DemoState = z.infer<typeof DemoState>
