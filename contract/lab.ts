import { z } from 'zod'
import { airDensity } from '../core/flight/air.ts'
import type { Air } from '../core/flight/air.ts'
import { NUMBER_RANGE } from '../core/flight/disc.ts'
import { REFERENCE_LAUNCH } from '../core/flight/release.ts'
import { DEGREE } from '../core/flight/units.ts'
import { HANDS, STROKES } from '../core/flight/hand.ts'
import { OF_HABIT } from '../core/rating/places.ts'
import { REFERENCE_ARM_MPS } from '../core/flight/arm.ts'
import { SHEET_RANGE } from '../core/throw/ranges.ts'
import { Id } from './shelf.ts'

/** Discs flown beside each other; more are not told apart. */
export const MOST_FLOWN = 4
/** Things on the field. */
export const MOST_OBSTACLES = 24

const between = (low: number, high: number) => z.number().min(low).max(high)
const number = (key: keyof typeof NUMBER_RANGE) => between(NUMBER_RANGE[key][0], NUMBER_RANGE[key][1])
export const LabNumbers = z.object({
  speed: number('speed'),
  glide: number('glide'),
  turn: number('turn'),
  fade: number('fade'),
})

/** A disc of the shelf, or any four numbers. */
export const LabFlown = z.union([z.object({ id: Id }), z.object({ numbers: LabNumbers })])
export type LabFlown = z.infer<typeof LabFlown>

/** What may be set of a throw, and the least and most of it. */
export const LAB_RANGE = {
  armMps: SHEET_RANGE.fullSpeedMps,
  power: [0.3, 1],
  hyzerDeg: [-45, 45],
  noseDeg: [-10, 15],
  launchDeg: [-5, 40],
  aimDeg: [-45, 45],
  spin: [0.5, 1.5],
  scatter: [0, 3],
  windAlongMps: [-15, 15],
  windTowardFadeMps: [-15, 15],
  temperatureC: SHEET_RANGE.temperatureC,
  altitudeM: SHEET_RANGE.altitudeM,
} as const satisfies Record<string, readonly [number, number]>
const inRange = (key: keyof typeof LAB_RANGE) => between(LAB_RANGE[key][0], LAB_RANGE[key][1])

export const LabThrown = z.object({
  armMps: inRange('armMps'),
  power: inRange('power'),
  hyzerDeg: inRange('hyzerDeg'),
  noseDeg: inRange('noseDeg'),
  launchDeg: inRange('launchDeg'),
  aimDeg: inRange('aimDeg'),
  spin: inRange('spin'),
  scatter: inRange('scatter'),
})
export type LabThrown = z.infer<typeof LabThrown>

export const Weather = z.object({
  windAlongMps: inRange('windAlongMps'),
  windTowardFadeMps: inRange('windTowardFadeMps'),
  temperatureC: inRange('temperatureC'),
  altitudeM: inRange('altitudeM'),
})
export type Weather = z.infer<typeof Weather>

/** Where something may stand on the field, and how large it may be, m. */
const FIELD_RANGE = {
  downM: [0, 200],
  sideM: [-100, 100],
  radiusM: [0.1, 50],
  heightM: [0.1, 60],
} as const satisfies Record<string, readonly [number, number]>
const place = z.object({
  downM: between(...FIELD_RANGE.downM),
  sideM: between(...FIELD_RANGE.sideM),
})
const radiusM = between(...FIELD_RANGE.radiusM)
const heightM = between(...FIELD_RANGE.heightM)
export const LabObstacle = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('tree'), at: place, radiusM, heightM }),
  z.object({ kind: z.literal('ceiling'), fromM: place.shape.downM, toM: place.shape.downM, heightM }),
  z.object({ kind: z.literal('line'), from: place, to: place, water: z.boolean() }),
  z.object({ kind: z.literal('pond'), at: place, radiusM }),
  z.object({ kind: z.literal('zone'), at: place, radiusM }),
])
export type LabObstacle = z.infer<typeof LabObstacle>

type FieldFigure = keyof typeof FIELD_RANGE
const held = (of: FieldFigure, v: number) => Math.max(FIELD_RANGE[of][0], Math.min(FIELD_RANGE[of][1], v))
const heldPlace = (p: z.infer<typeof place>) => ({
  downM: held('downM', p.downM),
  sideM: held('sideM', p.sideM),
})
/** An obstacle brought back onto the field and to a size it may have, where it was pulled or written beyond. */
export function onField(o: LabObstacle): LabObstacle {
  switch (o.kind) {
    case 'tree':
      return {
        ...o,
        at: heldPlace(o.at),
        radiusM: held('radiusM', o.radiusM),
        heightM: held('heightM', o.heightM),
      }
    case 'ceiling':
      return {
        ...o,
        fromM: held('downM', o.fromM),
        toM: held('downM', o.toM),
        heightM: held('heightM', o.heightM),
      }
    case 'line':
      return { ...o, from: heldPlace(o.from), to: heldPlace(o.to) }
    case 'pond':
    case 'zone':
      return { ...o, at: heldPlace(o.at), radiusM: held('radiusM', o.radiusM) }
  }
}

/** Whose arm throws: their habits are in the flight, and what is not known of them in the cloud. */
export const ByArm = z.object({ thrower: z.string().max(120), stroke: z.enum(STROKES) })
export type ByArm = z.infer<typeof ByArm>

/** An arm as all its throws have shown it; see core/lab/who.ts. */
export const KnownArm = z.object({
  thrower: z.string(),
  hand: z.enum(HANDS),
  stroke: z.enum(STROKES),
  throws: z.int(),
  scatter: z.number(),
  habit: z.array(z.number()).length(OF_HABIT).readonly(),
  covariance: z
    .array(z.number())
    .length(OF_HABIT ** 2)
    .readonly(),
})
export type KnownArm = z.infer<typeof KnownArm>

/** What is compared: a disc, how it is thrown, and the weather. */
export const OneThrow = z.object({ disc: LabFlown, throw: LabThrown, weather: Weather })
export type OneThrow = z.infer<typeof OneThrow>

/** Everything that is set in the lab. */
export const LabSetup = z.object({
  discs: z.array(LabFlown).min(1).max(MOST_FLOWN),
  throw: LabThrown,
  weather: Weather,
  /** Which side the disc fades to, as the thrower sees it. */
  fade: z.enum(['left', 'right']),
  obstacles: z.array(LabObstacle).max(MOST_OBSTACLES),
  /** What the first disc’s throw is compared with. */
  before: OneThrow.nullable(),
  /** Whoever throws it; nobody, and it is thrown as it is meant. */
  by: ByArm.nullable().optional(),
})
export type LabSetup = z.infer<typeof LabSetup>

/** A usual throw of a usual disc, before anything was set. */
export const FIRST_SETUP: LabSetup = {
  discs: [{ numbers: { speed: 9, glide: 5, turn: -1, fade: 2 } }],
  throw: {
    armMps: Math.round(REFERENCE_ARM_MPS * 10) / 10,
    power: 1,
    hyzerDeg: 0,
    noseDeg: 0,
    launchDeg: Math.round((REFERENCE_LAUNCH / DEGREE) * 10) / 10,
    aimDeg: 0,
    spin: 1,
    scatter: 1,
  },
  weather: { windAlongMps: 0, windTowardFadeMps: 0, temperatureC: 20, altitudeM: 0 },
  fade: 'left',
  obstacles: [],
  before: null,
}

/** The parameter of an address that holds a setup. */
const HELD = 'setup'
/** Figures are kept as closely as anybody reads them. */
const rounded = (_key: string, value: unknown) =>
  typeof value === 'number' ? Math.round(value * 10_000) / 10_000 : value
/** Part of a setup with its figures as the link keeps them, so that a link shows what was seen. */
export const asKept = (part: Partial<LabSetup>): Partial<LabSetup> =>
  JSON.parse(JSON.stringify(part, rounded)) as Partial<LabSetup>

/** The part of an address that holds a whole setup. */
export const linkOf = (setup: LabSetup): string =>
  new URLSearchParams({ [HELD]: JSON.stringify(setup, rounded) }).toString()

/** The setup an address holds: undefined where it holds none, null where what it holds is none. */
export function setupOf(search: string): LabSetup | null | undefined {
  const held = new URLSearchParams(search).get(HELD)
  if (held === null) return undefined
  try {
    return LabSetup.parse(JSON.parse(held))
  } catch {
    return null
  }
}

/** The air of some weather. */
export const airOf = (w: Weather): Air => ({
  densityKgM3: airDensity(w.temperatureC, w.altitudeM),
  windAlongMps: w.windAlongMps,
  windTowardFadeMps: w.windTowardFadeMps,
  shearExponent: 0,
})

/** A throw that somebody means to make next, as the field takes it. */
export const Intended = z.object({
  discId: Id,
  hyzerDeg: inRange('hyzerDeg'),
  power: inRange('power'),
  /** Positive to the fade side of whoever throws it. */
  aimDeg: inRange('aimDeg').default(0),
})
export type Intended = z.infer<typeof Intended>

/** The parameter of the field’s address that holds it. */
export const INTENDED = 'meant'
export const intendedLink = (intended: Intended): string =>
  new URLSearchParams({ [INTENDED]: JSON.stringify(intended, rounded) }).toString()
/** What the field’s address says is meant next; undefined where it says nothing that can be read. */
export function intendedOf(held: string | null): Intended | undefined {
  try {
    return Intended.safeParse(JSON.parse(held ?? '')).data
  } catch {
    return undefined
  }
}
