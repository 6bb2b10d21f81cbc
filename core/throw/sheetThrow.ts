import type { MeasuringMethod } from './method.ts'
import type { PlasticKind } from '../shelf/usualWear.ts'
import type { WearState } from '../shelf/wear.ts'
import type { RecordedPath } from './recordedPath.ts'
import type { ObservedOnSheet } from './observed.ts'

/**
 * One line of the field sheet: a throw as the thrower sees it and as it is written down, with what was observed of it
 * (see {@link OBSERVED}). Metres, m/s, degrees and °C; right is the thrower's right. Absent means not observed.
 */
export interface SheetThrow extends ObservedOnSheet {
  /** Id of the throw, unique in its sheet. */
  readonly throw: string
  /** ISO 8601. */
  readonly thrownAt?: string
  readonly thrower: string
  /** The specimen's code. */
  readonly disc: string
  readonly mold?: string
  readonly maker?: string
  readonly plastic?: string
  readonly run?: string
  readonly speed: number
  readonly glide: number
  readonly turn: number
  readonly fade: number
  readonly weightG?: number
  /** How worn it is. */
  readonly wear?: WearState
  /** How many throws its disc had been through before that day, and how many hits hard enough to hear; and what its plastic is. */
  readonly discThrows?: number
  readonly discHits?: number
  readonly plasticKind?: PlasticKind
  /** Full-power release speed with a disc of speed 9. */
  readonly fullSpeedMps?: number
  readonly temperatureC?: number
  readonly altitudeM?: number
  /** How far off whoever called its angles sees them, standard deviation, where that was measured and is to count. */
  readonly watcherSdDeg?: number
  /** The outing it was thrown on, which has one aim line; the day where it is not told. */
  readonly outing?: string
  /** Whoever threw it has a habit of its own in this throw's company (another trial's day); not a column of the file. */
  readonly habitOf?: string
  /** How the landing was measured. */
  readonly method?: MeasuringMethod
  /** The flight as it was recorded, sides to the thrower's right; a file of its own, not a column. */
  readonly path?: RecordedPath
  /** The disc is the trial's control disc. */
  readonly control?: boolean
  /** Columns nobody here knows, kept as they came; of `in_the_air`, the words a watcher calls are read. */
  readonly notes?: Readonly<Record<string, string>>
}
