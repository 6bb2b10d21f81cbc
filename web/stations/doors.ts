import type { Door } from '../parts/door.ts'
import { bench } from './bench/station.ts'
import { drill } from './drill/station.ts'
import { field } from './field/station.ts'
import { lab } from './lab/station.ts'
import { plan } from './plan/station.ts'
import { readout } from './readout/station.ts'
import { review } from './review/station.ts'
import { rotation } from './rotation/station.ts'
import { settings } from './settings/station.ts'
import { shelf } from './shelf/station.ts'

/** Every station, in the order of the work: those of the shed, then those of a trial. */
export const DOORS: readonly Door[] = [
  bench,
  shelf,
  rotation,
  lab,
  drill,
  plan,
  field,
  readout,
  review,
  settings,
]
