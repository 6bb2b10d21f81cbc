import type { Hand, Stroke } from '../flight/hand.ts'
import type { MeasuringMethod } from '../rating/evidence.ts'
import type { RecordedPath } from '../rating/recorded.ts'

/**
 * One line of the field sheet: a throw as the thrower sees it and as it is written down. Metres, m/s, degrees
 * and °C; right is the thrower's right. Absent means not observed.
 */
export interface SheetThrow {
  /** Id of the throw, unique in its sheet. */
  readonly throw: string
  /** ISO 8601. */
  readonly thrownAt?: string
  readonly thrower: string
  readonly hand: Hand
  readonly stroke: Stroke
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
  readonly fullSpeedMps?: number
  /** Share of full power. */
  readonly power: number
  readonly releaseSpeedMps?: number
  /** Hyzer that was meant; anhyzer is negative. */
  readonly hyzerDeg: number
  readonly hyzerCalledDeg?: number
  readonly noseCalledDeg?: number
  readonly launchCalledDeg?: number
  /** Positive from behind. */
  readonly windAlongMps?: number
  /** Positive toward the thrower's right. */
  readonly windAcrossMps?: number
  /** Standard deviation of the wind about that, each way, where gusts were logged. */
  readonly windSdMps?: number
  readonly temperatureC?: number
  readonly altitudeM?: number
  /** First contact, downrange along the aim line. */
  readonly carryM: number
  /** First contact, to the right of the aim line. */
  readonly rightM: number
  readonly midDownM?: number
  readonly midRightM?: number
  readonly hangS?: number
  readonly apexM?: number
  readonly groundM?: number
  readonly counts: boolean
  readonly whyNot?: string
  /** How the landing was measured; not a column of the file, known to the session. */
  readonly method?: MeasuringMethod
  /** The flight as it was recorded, sides to the thrower's right; a file of its own, not a column. */
  readonly path?: RecordedPath
  /** The disc is the trial's control disc; not a column of the file. */
  readonly control?: boolean
  /** Columns nobody here knows, kept as they came; of `in_the_air`, the words a watcher calls are read. */
  readonly notes?: Readonly<Record<string, string>>
}

/** The least and most a number on the sheet can be; beyond, it is a slip of the pen. */
export const SHEET_RANGE = {
  speed: [1, 15],
  glide: [0, 7.5],
  turn: [-5, 2],
  fade: [-1, 6],
  weightG: [100, 220],
  fullSpeedMps: [8, 45],
  power: [0.1, 1.2],
  releaseSpeedMps: [4, 45],
  hyzerDeg: [-80, 80],
  hyzerCalledDeg: [-80, 80],
  noseCalledDeg: [-20, 30],
  launchCalledDeg: [-10, 45],
  windAlongMps: [-25, 25],
  windAcrossMps: [-25, 25],
  windSdMps: [0, 10],
  temperatureC: [-40, 55],
  altitudeM: [-450, 6000],
  carryM: [0.5, 300],
  rightM: [-150, 150],
  midDownM: [0.5, 300],
  midRightM: [-150, 150],
  hangS: [0.2, 20],
  apexM: [0.2, 60],
  groundM: [0, 150],
} as const satisfies Partial<Record<keyof SheetThrow, readonly [number, number]>>

export type SheetNumber = keyof typeof SHEET_RANGE
