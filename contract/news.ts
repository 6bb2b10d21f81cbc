import { z } from 'zod'
import { Id, Instant } from './shelf.ts'
import { Throw } from './trials.ts'
import { WriteKindName } from './writes.ts'

/** A throw that somebody is about to make. */
export const Held = z.object({
  discId: Id,
  hyzerDeg: Throw.shape.hyzerDeg,
  stroke: Throw.shape.stroke,
  power: Throw.shape.power,
})
export type Held = z.infer<typeof Held>

/** What a device is about to throw; nothing where it stopped logging. */
export const Holding = z.object({ deviceId: Id, held: Held.nullable() })

/** What a device holds, and since when, by the clock of the database. */
export const DeviceHand = z.object({ deviceId: Id, held: Held, since: Instant })
export type DeviceHand = z.infer<typeof DeviceHand>
export const Hands = z.array(DeviceHand)

/** Something was written by somebody, or taken in hand. */
export const News = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('row'),
    kind: WriteKindName,
    id: Id,
    /** As it is stored; none where it is too long to be told. */
    row: z.record(z.string(), z.unknown()).nullable(),
    /** The page that wrote it knows. */
    pageId: Id.nullable(),
  }),
  z.object({ type: z.literal('hands'), trialId: Id }),
  /** So much has changed that everything is read again. */
  z.object({ type: z.literal('everything') }),
])
export type News = z.infer<typeof News>

/** By which a page knows what it wrote itself. */
export const PAGE_HEADER = 'X-Veer-Page'
/** By which the server knows what one browser wrote one after the other. */
export const DEVICE_HEADER = 'X-Veer-Device'
