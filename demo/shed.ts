import { v5 as uuidOf } from 'uuid'
import type { FlightNumbers } from '../core/flight/disc.ts'
import type { SimulatedArm } from '../core/simulate/thrower.ts'
import { DEGREE } from '../core/flight/units.ts'
import type { Disc, Maker, Mold, Plastic, Run } from '../contract/shelf.ts'
import type { Thrower } from '../contract/trials.ts'

/** Ids of the demo follow from names, so that loading it twice writes the same rows. */
const NAMESPACE = '7d1c6a40-5f0e-4a7e-9a52-0c6a1d4b9e11'
export const demoId = (...parts: string[]): string => uuidOf(parts.join('/'), NAMESPACE)

const n = (speed: number, glide: number, turn: number, fade: number): FlightNumbers => ({
  speed,
  glide,
  turn,
  fade,
})

const maker = (name: string): Maker => ({ id: demoId('maker', name), name })
const mold = (of: string, name: string, discClass: Mold['discClass'], numbers: FlightNumbers): Mold => ({
  id: demoId('mold', name),
  makerId: demoId('maker', of),
  name,
  discClass,
  numbers,
})
const plastic = (
  of: string,
  name: string,
  numbers: FlightNumbers | null = null,
  claims: string[] = [],
): Plastic => ({
  id: demoId('plastic', of, name),
  moldId: demoId('mold', of),
  name,
  numbers,
  claims,
})
const run = (of: string, blend: string, name: string, numbers: FlightNumbers | null = null): Run => ({
  id: demoId('run', of, blend, name),
  plasticId: demoId('plastic', of, blend),
  name,
  numbers,
})

export const demoMakers: Maker[] = [maker('Eskwright'), maker('Fellmoor'), maker('Brackwater')]

export const demoMolds: Mold[] = [
  mold('Eskwright', 'Tarnwick', 'fairway-driver', n(9, 5, -1, 2)),
  mold('Eskwright', 'Pennrath', 'midrange', n(5, 5, -1, 1)),
  mold('Fellmoor', 'Harrogill', 'fairway-driver', n(9, 5, -0.5, 2)),
  mold('Brackwater', 'Skelmire', 'fairway-driver', n(9, 4, 0, 3)),
  mold('Eskwright', 'Ormsgarth', 'putter', n(3, 3, 0, 1)),
]

export const demoPlastics: Plastic[] = [
  plastic('Tarnwick', 'Loam'),
  plastic('Tarnwick', 'Slate', n(9, 5, -0.5, 2.5), ['finishes a whole number harder than the Loam']),
  plastic('Tarnwick', 'Amber', null, ['flies like the Slate, with more glide']),
  plastic('Tarnwick', 'Tallow', null, ['keeps its line in the cold']),
  plastic('Pennrath', 'Loam'),
  plastic('Pennrath', 'Amber'),
  plastic('Harrogill', 'Flint'),
  plastic('Harrogill', 'Reed'),
  plastic('Skelmire', 'Resin'),
  plastic('Skelmire', 'Bark'),
  plastic('Ormsgarth', 'Loam'),
  plastic('Ormsgarth', 'Slate'),
]

export const demoRuns: Run[] = [
  run('Tarnwick', 'Slate', 'first run, 2024'),
  run('Tarnwick', 'Amber', 'second run, 2025', n(9, 5, -1, 2.5)),
  run('Skelmire', 'Resin', 'first run, 2025'),
]

interface ShedDisc {
  readonly code: string
  readonly mold: string
  readonly plastic: string
  readonly run?: string
  readonly wear: Disc['wear']
  readonly marked?: number
  readonly weighed?: number
  readonly source?: Disc['source']
  readonly provenance?: string
  readonly acquiredOn?: string
  readonly stamped?: FlightNumbers
  readonly note?: string
  /** How it really flies: hidden from the app, known to the simulated throwers. */
  readonly truth: FlightNumbers
}

// prettier-ignore
export const SHED: readonly ShedDisc[] = [
  { code: 'HS-002', mold: 'Pennrath', plastic: 'Loam', wear: 'seasoned', marked: 177, weighed: 176.2, truth: n(5, 5, -1.05, 1), note: 'The disc everybody at the shed knows; thrown in every session.' },
  { code: 'HS-005', mold: 'Pennrath', plastic: 'Amber', wear: 'new', marked: 178, truth: n(5, 4.8, -0.6, 1.3) },
  { code: 'HS-009', mold: 'Tarnwick', plastic: 'Loam', wear: 'beaten', marked: 173, weighed: 171.8, truth: n(9, 5, -2.7, 1), note: 'Lent 61 times. Rim chewed on one side.' },
  { code: 'HS-011', mold: 'Harrogill', plastic: 'Flint', wear: 'new', marked: 175, weighed: 174.6, source: 'sent-by-the-maker', provenance: 'Fellmoor, for the autumn test', acquiredOn: '2026-09-12', truth: n(9, 4.9, -0.8, 2.2) },
  { code: 'HS-012', mold: 'Harrogill', plastic: 'Reed', wear: 'worn', marked: 172, truth: n(9, 5.1, -1.6, 1.6) },
  { code: 'HS-014', mold: 'Tarnwick', plastic: 'Loam', wear: 'seasoned', marked: 174, weighed: 173.5, truth: n(9, 5.1, -2, 1.5) },
  { code: 'HS-017', mold: 'Tarnwick', plastic: 'Loam', wear: 'new', marked: 175, weighed: 174.1, truth: n(9, 5.1, -1.7, 1.7) },
  { code: 'HS-021', mold: 'Tarnwick', plastic: 'Slate', run: 'first run, 2024', wear: 'new', marked: 175, weighed: 173.1, acquiredOn: '2024-06-02', truth: n(9, 4.6, -0.2, 2.8) },
  { code: 'HS-026', mold: 'Tarnwick', plastic: 'Tallow', wear: 'new', marked: 174, weighed: 174.9, truth: n(9, 5.3, -2, 1.4) },
  { code: 'HS-030', mold: 'Tarnwick', plastic: 'Amber', run: 'second run, 2025', wear: 'new', marked: 175, weighed: 173.4, source: 'sent-by-the-maker', provenance: 'Eskwright, with the second run', acquiredOn: '2026-08-30', truth: n(9, 5.1, -0.7, 2.2) },
  { code: 'HS-033', mold: 'Skelmire', plastic: 'Resin', run: 'first run, 2025', wear: 'new', marked: 175, weighed: 175.3, truth: n(9, 4.1, -0.2, 2.6) },
  { code: 'HS-034', mold: 'Skelmire', plastic: 'Bark', wear: 'seasoned', marked: 172, truth: n(9, 4.3, -0.5, 2.3) },
  { code: 'HS-040', mold: 'Ormsgarth', plastic: 'Loam', wear: 'new', marked: 173, weighed: 172.6, source: 'lent', provenance: 'lent by Wren', truth: n(3, 3.1, -0.2, 1.1) },
  { code: 'HS-041', mold: 'Ormsgarth', plastic: 'Slate', wear: 'seasoned', marked: 174, truth: n(3, 2.9, 0.1, 1.4) },
  { code: 'HS-044', mold: 'Harrogill', plastic: 'Flint', wear: 'seasoned', marked: 174, weighed: 173, source: 'found', stamped: n(9, 5, -1, 2), truth: n(9, 5, -1.1, 2) },
]

export const demoDiscs: Disc[] = SHED.map((d) => ({
  id: demoId('disc', d.code),
  code: d.code,
  plasticId: demoId('plastic', d.mold, d.plastic),
  runId: d.run === undefined ? null : demoId('run', d.mold, d.plastic, d.run),
  stamped: d.stamped ?? null,
  markedG: d.marked ?? null,
  weighedG: d.weighed ?? null,
  source: d.source ?? 'bought',
  provenance: d.provenance ?? '',
  acquiredOn: d.acquiredOn ?? null,
  wear: d.wear,
  note: d.note ?? '',
  removedAt: null,
}))

/** A volunteer of the shed: what the app knows of them, and how they really throw. */
export interface DemoVolunteer {
  readonly thrower: Thrower
  readonly backhand: SimulatedArm
}

const volunteer = (
  name: string,
  hand: Thrower['hand'],
  backhandMps: number,
  forehandMps: number | null,
  habitDeg: [launch: number, hyzer: number, nose: number],
  lnSpeed: number,
  steadiness = 1,
): DemoVolunteer => ({
  thrower: { id: demoId('thrower', name), name, hand, backhandMps, forehandMps, budget: null },
  backhand: {
    fullSpeedMps: backhandMps,
    habit: {
      lnSpeed,
      launchRad: habitDeg[0] * DEGREE,
      hyzerRad: habitDeg[1] * DEGREE,
      noseRad: habitDeg[2] * DEGREE,
    },
    spread: {
      lnSpeed: 0.03 * steadiness,
      launchRad: 1.4 * steadiness * DEGREE,
      hyzerRad: 2.3 * steadiness * DEGREE,
      noseRad: 1.4 * steadiness * DEGREE,
      azimuthRad: 1.5 * steadiness * DEGREE,
    },
    wobble: 0.03,
  },
})

export const ODILE = volunteer('Odile Fenn', 'right', 26.2, 23.5, [0.8, 1.9, 0.3], -0.02)
export const TOBIT = volunteer('Tobit Marl', 'left', 25.1, null, [-0.6, -1.2, 0.9], 0.01, 1.1)
export const WREN = volunteer('Wren Ashdown', 'right', 20.4, 18.8, [1.2, 0.6, 1.1], 0.02)
export const VOLUNTEERS = [ODILE, TOBIT, WREN]
