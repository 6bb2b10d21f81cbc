import { z } from 'zod'

/** Whether the demo is in the database, and how much of one's own is there beside it. */
export const DemoState = z.object({
  demo: z.enum(['here', 'away']),
  /** Throws in trials of one's own; from the first one on a press does not bring the demo back any more. */
  ownThrows: z.int(),
  /** Throws that somebody tried in the demo's own trials: they go with it when it is put away. */
  tried: z.int(),
})
export type DemoState = z.infer<typeof DemoState>
