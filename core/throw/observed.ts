import { HANDS, STROKES } from '../flight/hand.ts'
import { LEGS } from './leg.ts'

/** Units a figure of a throw is stored in. */
export type ObservedUnit = '' | 'm' | 'm/s' | '°' | 's' | 'rpm'

interface Common {
  /** Name of its column, in files and in the database. */
  readonly column: string
  /** What it is called in the middle of a sentence. */
  readonly words: string
  /** Every throw has it, or it may not have been observed. */
  readonly need: 'always' | 'seen'
}
interface FigureRow extends Common {
  readonly kind: 'figure'
  /** The least and most it can be; beyond, it is a slip of the pen. */
  readonly range: readonly [number, number]
  readonly unit: ObservedUnit
  /** What it is where a file does not say. */
  readonly usual?: number
  /** Read off a device or a watch and typed while a throw is logged. */
  readonly typed?: true
}
interface ChoiceRow extends Common {
  readonly kind: 'choice'
  readonly choices: readonly string[]
}
interface TruthRow extends Common {
  readonly kind: 'truth'
  readonly usual?: boolean
}
interface TextRow extends Common {
  readonly kind: 'text'
  readonly longest: number
}

/**
 * Everything that can be observed of a throw, a row each: the schema of the wire, the columns of a file and their
 * twins, the columns of the database with their checks, blanks, labels and copies are all made from it. A further row
 * is a further thing to observe; what it says to the rating stands in `core/rating/evidence.ts`.
 *
 * Right is the thrower's right. Along is positive from behind, in the frame of the throw.
 */
export const OBSERVED = {
  hand: { kind: 'choice', column: 'hand', choices: HANDS, words: 'hand', need: 'always' },
  stroke: { kind: 'choice', column: 'stroke', choices: STROKES, words: 'stroke', need: 'always' },
  /** Which way of the walk it was thrown on. */
  leg: { kind: 'choice', column: 'leg', choices: LEGS, words: 'leg', need: 'seen' },
  /** Share of full power. */
  power: {
    kind: 'figure',
    column: 'power',
    range: [0.1, 1.2],
    unit: '',
    words: 'power',
    need: 'always',
    usual: 1,
  },
  releaseSpeedMps: {
    kind: 'figure',
    column: 'release_speed_mps',
    range: [4, 45],
    unit: 'm/s',
    words: 'release speed',
    need: 'seen',
    typed: true,
  },
  /** Spin, whichever way it turns. */
  spinRpm: {
    kind: 'figure',
    column: 'spin_rpm',
    range: [60, 3000],
    unit: 'rpm',
    words: 'spin',
    need: 'seen',
    typed: true,
  },
  /** Hyzer that was meant; anhyzer is negative. */
  hyzerDeg: {
    kind: 'figure',
    column: 'hyzer_deg',
    range: [-80, 80],
    unit: '°',
    words: 'release angle',
    need: 'always',
  },
  /** How far off the line it was aimed on purpose, to the right; nothing said is along the line. */
  aimDeg: {
    kind: 'figure',
    column: 'aim_deg',
    range: [-45, 45],
    unit: '°',
    words: 'aim right of the line',
    need: 'seen',
    typed: true,
  },
  hyzerCalledDeg: {
    kind: 'figure',
    column: 'hyzer_called_deg',
    range: [-80, 80],
    unit: '°',
    words: 'angle out of the hand',
    need: 'seen',
  },
  noseCalledDeg: {
    kind: 'figure',
    column: 'nose_called_deg',
    range: [-20, 30],
    unit: '°',
    words: 'nose angle',
    need: 'seen',
  },
  launchCalledDeg: {
    kind: 'figure',
    column: 'launch_called_deg',
    range: [-10, 45],
    unit: '°',
    words: 'launch angle',
    need: 'seen',
  },
  windAlongMps: {
    kind: 'figure',
    column: 'wind_along_mps',
    range: [-25, 25],
    unit: 'm/s',
    words: 'wind along the line',
    need: 'seen',
  },
  windAcrossMps: {
    kind: 'figure',
    column: 'wind_across_mps',
    range: [-25, 25],
    unit: 'm/s',
    words: 'wind across the line',
    need: 'seen',
  },
  /** Standard deviation of the wind about that, each way, where gusts were logged. */
  windSdMps: {
    kind: 'figure',
    column: 'wind_sd_mps',
    range: [0, 10],
    unit: 'm/s',
    words: 'spread of the wind',
    need: 'seen',
  },
  /** First contact, downrange along the aim line. */
  carryM: {
    kind: 'figure',
    column: 'carry_m',
    range: [0.5, 300],
    unit: 'm',
    words: 'landing down the line',
    need: 'always',
  },
  /** First contact, to the right of the aim line. */
  rightM: {
    kind: 'figure',
    column: 'right_m',
    range: [-150, 150],
    unit: 'm',
    words: 'landing off the line',
    need: 'always',
  },
  midDownM: {
    kind: 'figure',
    column: 'mid_down_m',
    range: [0.5, 300],
    unit: 'm',
    words: 'bend down the line',
    need: 'seen',
  },
  midRightM: {
    kind: 'figure',
    column: 'mid_right_m',
    range: [-150, 150],
    unit: 'm',
    words: 'bend off the line',
    need: 'seen',
  },
  hangS: {
    kind: 'figure',
    column: 'hang_s',
    range: [0.2, 20],
    unit: 's',
    words: 'hang time',
    need: 'seen',
    typed: true,
  },
  apexM: {
    kind: 'figure',
    column: 'apex_m',
    range: [0.2, 60],
    unit: 'm',
    words: 'apex',
    need: 'seen',
    typed: true,
  },
  /** Skip or roll, from first contact to rest. */
  groundM: {
    kind: 'figure',
    column: 'ground_m',
    range: [0, 150],
    unit: 'm',
    words: 'ground play',
    need: 'seen',
    typed: true,
  },
  /** False leaves it out of the fit; it is still shown and explained. */
  counts: { kind: 'truth', column: 'counts', words: 'whether it counts', need: 'always', usual: true },
  /** The log was looked at again, and stands as it is: nobody is asked whether it was a slip of the pen. */
  checked: { kind: 'truth', column: 'checked', words: 'whether the log was looked at again', need: 'seen' },
  whyNot: { kind: 'text', column: 'why_not', longest: 200, words: 'reason', need: 'seen' },
} as const satisfies Record<string, FigureRow | ChoiceRow | TruthRow | TextRow>

export type ObservedRow = FigureRow | ChoiceRow | TruthRow | TextRow
export type ObservedKey = keyof typeof OBSERVED
type KeyWhere<P> = {
  [K in ObservedKey]: (typeof OBSERVED)[K] extends P ? K : never
}[ObservedKey]
/** What every throw has, and what may not have been observed of it. */
export type AlwaysKey = KeyWhere<{ need: 'always' }>
export type SeenKey = KeyWhere<{ need: 'seen' }>
export type FigureKey = KeyWhere<{ kind: 'figure' }>

type ValueOf<R> = R extends { kind: 'figure' }
  ? number
  : R extends { kind: 'choice'; choices: readonly (infer C)[] }
    ? C
    : R extends { kind: 'truth' }
      ? boolean
      : string
export type ObservedValue<K extends ObservedKey> = ValueOf<(typeof OBSERVED)[K]>

/** What was observed of a throw; null is not observed. */
export type Observed = { readonly [K in AlwaysKey]: ObservedValue<K> } & {
  readonly [K in SeenKey]: ObservedValue<K> | null
}
/** The same as a line of a sheet has it: what was not observed is not there. */
export type ObservedOnSheet = { readonly [K in AlwaysKey]: ObservedValue<K> } & {
  readonly [K in SeenKey]?: ObservedValue<K>
}

export const OBSERVED_KEYS = Object.keys(OBSERVED) as ObservedKey[]
export const SEEN_KEYS = OBSERVED_KEYS.filter((k): k is SeenKey => OBSERVED[k].need === 'seen')
export const FIGURE_KEYS = OBSERVED_KEYS.filter((k): k is FigureKey => OBSERVED[k].kind === 'figure')
/** A row of the table, whatever its kind. */
export const rowOf = (key: ObservedKey): ObservedRow => OBSERVED[key]

/** Nothing seen. */
export const NOTHING_OBSERVED = Object.fromEntries(SEEN_KEYS.map((k) => [k, null])) as {
  readonly [K in SeenKey]: null
}

/** What was observed of a throw, and nothing else of it. */
export const observedOf = (t: Observed): Observed =>
  Object.fromEntries(OBSERVED_KEYS.map((k) => [k, t[k]])) as unknown as Observed

/** What a line of a sheet says was observed. */
export const observedOnSheet = (t: ObservedOnSheet): Observed =>
  Object.fromEntries(OBSERVED_KEYS.map((k) => [k, t[k] ?? null])) as unknown as Observed

/** A record without what is null or missing in it. */
export type Present<T> = {
  [K in keyof T as null extends T[K] ? never : undefined extends T[K] ? never : K]: T[K]
} & {
  [K in keyof T as null extends T[K] ? K : undefined extends T[K] ? K : never]?: NonNullable<T[K]>
}
/** A row without what was not observed. */
export const present = <T extends object>(row: T): Present<T> =>
  Object.fromEntries(Object.entries(row).filter(([, v]) => v !== null && v !== undefined)) as Present<T>

/** A rule between things observed of a throw that it breaks, at what. */
export interface BrokenRule {
  readonly key: ObservedKey
  readonly message: string
}

/** What of a throw does not go together. */
export function brokenRules(t: Partial<Observed> | Partial<ObservedOnSheet>): BrokenRule[] {
  const [down, right] = [t.midDownM ?? null, t.midRightM ?? null]
  if ((down === null) !== (right === null))
    return [
      down === null
        ? { key: 'midDownM', message: 'must be given beside how far off the line it was, or neither' }
        : { key: 'midRightM', message: 'must be given beside how far down the line it was, or neither' },
    ]
  if (down !== null && t.carryM != null && down >= t.carryM)
    return [{ key: 'midDownM', message: 'must lie short of the landing' }]
  return []
}
