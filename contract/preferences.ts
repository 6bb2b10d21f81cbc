import { z } from 'zod'
import { Id } from './shelf.ts'

export const THEMES = ['day', 'dusk', 'sun'] as const
export const UNITS = ['metric', 'imperial'] as const

/** What one user of the app likes; the id is made on their first visit. */
export const Preferences = z.object({
  id: Id,
  units: z.enum(UNITS, { error: 'must be metric or imperial' }),
  theme: z.enum(THEMES, { error: 'must be day, dusk or sun' }),
})
export type Preferences = z.infer<typeof Preferences>
