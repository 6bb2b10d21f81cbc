import { z } from 'zod'
import { EDGES, FEEL, INSPECTION_RANGE } from '../core/shelf/inspection.ts'
import { SHEET_RANGE } from '../core/throw/ranges.ts'
import { Day, Id, Instant, Note, within } from './shelf.ts'

const measured = (key: keyof typeof INSPECTION_RANGE, unit = ' mm') =>
  within(INSPECTION_RANGE[key], unit).nullable()
const step = (scale: readonly string[]) =>
  z
    .int()
    .min(0)
    .max(scale.length - 1, `must be a step from 0 to ${scale.length - 1}`)
    .nullable()

/** A disc looked at in the hand; what was not measured is null. */
export const Inspection = z.object({
  id: Id,
  discId: Id,
  day: Day,
  diameterMm: measured('diameterMm'),
  heightMm: measured('heightMm'),
  rimDepthMm: measured('rimDepthMm'),
  rimWidthMm: measured('rimWidthMm'),
  partingLineMm: measured('partingLineMm'),
  domeMm: measured('domeMm'),
  noseDeg: measured('noseDeg', '°'),
  warpMm: measured('warpMm'),
  bead: z.boolean().nullable(),
  /** Steps of their scales, from blunt to sharp, soft to stiff, slick to grippy. */
  edge: step(EDGES),
  stiffness: step(FEEL.stiffness),
  grip: step(FEEL.grip),
  /** At which it was felt. */
  temperatureC: within(SHEET_RANGE.temperatureC, ' °C').nullable(),
  note: Note,
})

/** What a disc went through: throws besides those logged here, and hits hard enough to hear. */
export const WearNote = z.object({
  id: Id,
  discId: Id,
  day: Day,
  throws: z.int('must be a whole number').min(0, 'must not be negative').max(100_000),
  hardHits: z.int('must be a whole number').min(0, 'must not be negative').max(10_000),
  note: Note,
  removedAt: Instant.nullable(),
})

export type Inspection = z.infer<typeof Inspection>
export type WearNote = z.infer<typeof WearNote>
