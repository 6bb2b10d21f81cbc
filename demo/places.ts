import type { Place } from '../contract/trials.ts'
import { demoId } from './shed.ts'

/** Clocks of the shed. */
export const SHED_ZONE = 'Europe/London'

const place = (
  name: string,
  fieldLengthM: number,
  bearingDeg: number,
  altitudeM: number,
  surface: string,
  hazards: string,
): Place => ({
  id: demoId('place', name),
  name,
  fieldLengthM,
  bearingDeg,
  altitudeM,
  surface,
  hazards,
  timeZone: SHED_ZONE,
  removedAt: null,
})

/** Where the shed throws. */
export const demoPlaces: Place[] = [
  place('Millpond meadow', 135, 250, 210, 'mown grass', 'footpath beyond the far end'),
  place('Lakeside field', 100, 205, 205, 'rough grass', 'the lake on the right, walkers on Sundays'),
]
