import { z } from 'zod'
import { ThrowPath } from './trials.ts'

/** What an anemometer beside the tee shows, in the frame of the aim line on the way out. */
export const WindReport = z.object({
  /** What said it, a stand-in or not. */
  device: z.string(),
  /** ISO 8601. */
  at: z.string(),
  speedMps: z.number(),
  fromDeg: z.number(),
  alongMps: z.number(),
  acrossMps: z.number(),
})
export type WindReport = z.infer<typeof WindReport>

/** Where a range finder says a disc lies. */
export const RangeReport = z.object({
  device: z.string(),
  range: z.object({ distanceM: z.number(), bearingDeg: z.number() }),
  carryM: z.number(),
  rightM: z.number(),
})
export type RangeReport = z.infer<typeof RangeReport>

/** What was seen of a throw that a volunteer made. */
export const VolunteerReport = RangeReport.extend({
  hangS: z.number(),
  hyzerCalledDeg: z.number(),
  path: ThrowPath,
})
export type VolunteerReport = z.infer<typeof VolunteerReport>

/** What a scale shows. */
export const ScaleReport = z.object({ device: z.string(), grams: z.number(), steady: z.boolean() })
export type ScaleReport = z.infer<typeof ScaleReport>

/** The weather of a day at a place, hour by hour. */
export const ForecastReport = z.object({
  device: z.string(),
  hours: z.array(
    z.object({
      at: z.string(),
      windMps: z.number(),
      gustMps: z.number(),
      fromDeg: z.number(),
      temperatureC: z.number(),
      rainMm: z.number(),
      daylight: z.boolean(),
    }),
  ),
})
export type ForecastReport = z.infer<typeof ForecastReport>
