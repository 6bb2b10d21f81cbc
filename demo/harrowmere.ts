import { randomLcg, randomNormal, shuffler } from 'd3'
import { airDensity } from '../core/flight/air.ts'
import { STANDARD_BODY } from '../core/flight/disc.ts'
import type { FlightNumbers } from '../core/flight/disc.ts'
import { fadeSign, mirrored } from '../core/flight/hand.ts'
import { DEGREE } from '../core/flight/units.ts'
import { landingSd } from '../core/rating/evidence.ts'
import { NOTHING_OBSERVED } from '../core/throw/observed.ts'
import { throwDisc } from '../core/simulate/thrower.ts'
import { NO_WATCHER, Plan } from '../contract/trials.ts'
import type { Session, Throw, Trial } from '../contract/trials.ts'
import { orderThrows } from '../core/plan/order.ts'
import { LEGS } from '../core/throw/leg.ts'
import { demoInspections, demoWearNotes } from './inspected.ts'
import { demoDiscEvents, demoJobs, demoPlasticWear } from './rotation.ts'
import { demoPlaces, SHED_ZONE } from './places.ts'
import {
  demoId,
  demoDiscs,
  demoMakers,
  demoMolds,
  ODILE,
  demoPlastics,
  demoRuns,
  SHED,
  TOBIT,
  VOLUNTEERS,
  WREN,
} from './shed.ts'
import type { DemoVolunteer } from './shed.ts'

const outingAt = (place: string) => ({
  ...NO_WATCHER,
  place,
  placeId: demoId('place', place),
  timeZone: SHED_ZONE,
})

/** One outing of the demo, thrown by simulated volunteers from a fixed seed. */
interface Outing {
  readonly trial: string
  readonly session: Session
  readonly seed: number
  readonly discs: readonly string[]
  readonly throwers: readonly DemoVolunteer[]
  readonly hyzerDegs: readonly number[]
  /** Rounds over discs and angles on each leg, out and back. */
  readonly rounds: number
  /** Mean wind along on the way out (negative: in the face) and across, m/s. */
  readonly wind: readonly [along: number, across: number]
  /** Only so many throws were made before the outing ended. */
  readonly stopAfter?: number
  readonly startsAt: string
  /** How discs flew that day that were less worn than today. */
  readonly lessWorn?: Readonly<Record<string, FlightNumbers>>
}

const trial = (
  key: string,
  name: string,
  question: string,
  codes: string[],
  planned: number,
  finishedAt: string | null,
  hyzerDegs = [10, 0, -8],
): Trial => ({
  id: demoId('trial', key),
  name,
  question,
  discIds: codes.map((c) => demoId('disc', c)),
  controlDiscId: demoId('disc', 'HS-002'),
  hyzerDegs,
  plannedThrows: planned,
  plan: null,
  finishedAt,
  removedAt: null,
})

const FOUR = ['HS-021', 'HS-030', 'HS-017', 'HS-026', 'HS-009', 'HS-002']
const FAIRWAYS = ['HS-033', 'HS-011', 'HS-017', 'HS-002']
const LOANED = ['HS-009', 'HS-014', 'HS-002']

/** How the finished trial was planned, and what the volunteers expected: the order of the blends, softer ones stable. */
const planOfFour: Plan = Plan.parse({
  kind: 'plastics',
  throws: orderThrows(
    FOUR.flatMap((code) =>
      [10, 0, -8].flatMap((hyzerDeg) =>
        LEGS.map((leg) => ({ disc: demoId('disc', code), hyzerDeg, leg, throws: 2 })),
      ),
    ),
    { kind: 'shuffled', seed: 41 },
  ).map(({ disc, ...t }) => ({ ...t, discId: disc })),
  order: 'shuffled',
  seed: 41,
  power: 1,
  windMps: 3,
  convention: 'fresh',
  pair: null,
  protocol: 'same-release',
  expected: ['HS-021', 'HS-026', 'HS-030', 'HS-017', 'HS-009', 'HS-002'].map((c) => demoId('disc', c)),
  claims: ['Tallow: keeps its line in the cold', 'Amber: flies like the Slate, with more glide'],
  built: [
    {
      discId: demoId('disc', 'HS-030'),
      says: 'has-more-glide-than',
      thanId: demoId('disc', 'HS-021'),
      by: 0,
    },
    {
      discId: demoId('disc', 'HS-026'),
      says: 'is-more-stable-than',
      thanId: demoId('disc', 'HS-009'),
      by: 0,
    },
    { discId: demoId('disc', 'HS-021'), says: 'flies-farther-than', thanId: demoId('disc', 'HS-026'), by: 2 },
  ],
  placeId: demoId('place', 'Millpond meadow'),
})

export const demoTrials: Trial[] = [
  trial(
    'season',
    'The Loam through a season',
    'What does a season on loan do to the base blend?',
    LOANED,
    24,
    '2026-06-27T11:20:00.000Z',
    [0, -8],
  ),
  {
    ...trial(
      'four',
      'Tarnwick in four plastics',
      'What does the plastic change, and what has wear done to the base blend?',
      FOUR,
      72,
      '2026-10-04T12:40:00.000Z',
    ),
    plan: planOfFour,
  },
  trial(
    'fairways',
    'Which fairway for the lake wind',
    'Harrogill, Skelmire or Tarnwick: which is the most stable, and by how much?',
    FAIRWAYS,
    48,
    null,
  ),
  trial(
    'putters',
    'Is the Ormsgarth true to its label',
    'Does the shed’s putter fly to its numbers in both plastics?',
    ['HS-040', 'HS-041', 'HS-002'],
    36,
    null,
    [8, 0],
  ),
]

/** A day on which what is out on loan was tested again. */
const retested = (
  day: string,
  seed: number,
  temperatureC: number,
  wind: Outing['wind'],
  lessWorn: Outing['lessWorn'],
): Outing => ({
  trial: 'season',
  session: {
    id: demoId('session', 'season', day),
    ...outingAt('Millpond meadow'),
    day,
    temperatureC,
    altitudeM: 210,
    method: 'ranged',
  },
  seed,
  discs: LOANED,
  throwers: [ODILE, TOBIT],
  hyzerDegs: [0, -8],
  rounds: 1,
  wind,
  startsAt: `${day}T09:40:00.000Z`,
  lessWorn,
})

const OUTINGS: readonly Outing[] = [
  retested('2026-04-18', 0.2291, 11, [-2.2, 0.5], {
    'HS-009': { speed: 9, glide: 5, turn: -2.1, fade: 1.4 },
    'HS-014': { speed: 9, glide: 5.1, turn: -1.8, fade: 1.65 },
  }),
  retested('2026-06-27', 0.6173, 19, [-1.8, -0.6], {
    'HS-009': { speed: 9, glide: 5, turn: -2.4, fade: 1.2 },
    'HS-014': { speed: 9, glide: 5.1, turn: -1.9, fade: 1.55 },
  }),
  {
    trial: 'four',
    session: {
      id: demoId('session', 'four'),
      ...outingAt('Millpond meadow'),
      day: '2026-10-04',
      temperatureC: 9,
      altitudeM: 210,
      method: 'ranged',
    },
    seed: 0.4137,
    discs: FOUR,
    throwers: [ODILE, ODILE, TOBIT],
    hyzerDegs: [10, 0, -8],
    rounds: 2,
    wind: [-3.1, 0.7],
    startsAt: '2026-10-04T09:30:00.000Z',
  },
  {
    trial: 'fairways',
    session: {
      id: demoId('session', 'fairways'),
      ...outingAt('Lakeside field'),
      day: '2026-11-15',
      temperatureC: 6,
      altitudeM: 205,
      method: 'paced',
    },
    seed: 0.7719,
    discs: FAIRWAYS,
    throwers: [ODILE, WREN],
    hyzerDegs: [10, 0, -8],
    rounds: 2,
    wind: [-2.6, -0.9],
    stopAfter: 20,
    startsAt: '2026-11-15T13:10:00.000Z',
  },
]

/** Every so many throws one does not count; the reasons a sheet gives. */
const SPOILED = ['hit a branch', 'slipped', 'gust', 'not my throw'] as const

function thrownIn(outing: Outing): Throw[] {
  const { session, seed } = outing
  const uniform = randomLcg(seed)
  const normal = randomNormal.source(uniform)()
  const shuffle = shuffler(uniform)
  const density = airDensity(session.temperatureC!, session.altitudeM!)
  const legs = [1, -1].flatMap((leg) =>
    Array.from({ length: outing.rounds }, () =>
      shuffle(outing.discs.flatMap((code) => outing.hyzerDegs.map((hyzerDeg) => ({ code, hyzerDeg, leg })))),
    ).flat(),
  )
  let [gustAlong, gustAcross] = [0, 0]
  return legs.slice(0, outing.stopAfter).map(({ code, hyzerDeg, leg }, i): Throw => {
    const shed = SHED.find((d) => d.code === code)!
    const { thrower, backhand } = outing.throwers[i % outing.throwers.length]!
    const sign = fadeSign(thrower.hand, 'backhand')
    // a breeze that wanders and comes back
    gustAlong = 0.8 * gustAlong + 0.5 * normal()
    gustAcross = 0.8 * gustAcross + 0.35 * normal()
    const windAlongMps = leg * outing.wind[0] + gustAlong
    const windAcrossMps = leg * outing.wind[1] + gustAcross
    const spoiled = i % 17 === 13 ? SPOILED[Math.floor(i / 17) % SPOILED.length]! : undefined
    const thrown = throwDisc(
      outing.lessWorn?.[code] ?? shed.truth,
      { ...STANDARD_BODY, massKg: (shed.weighed ?? shed.marked ?? 175) / 1000 },
      backhand,
      { power: 1, hyzerRad: hyzerDeg * DEGREE },
      {
        densityKgM3: density,
        windAlongMps: windAlongMps + 0.4 * normal(),
        windTowardFadeMps: mirrored(windAcrossMps, sign) + 0.4 * normal(),
        shearExponent: 0,
      },
      uniform,
    )
    const { carryM, veerM, hangS } = thrown.landing
    const [sdCarry, sdVeer] = landingSd(session.method, carryM, veerM)
    const shortened = spoiled === 'hit a branch' ? 0.55 : spoiled === 'slipped' ? 0.8 : 1
    const carry = carryM * shortened + sdCarry * normal()
    const downM = Math.round(0.55 * carry)
    const [called, timed, bent] = [uniform() < 0.7, uniform() < 0.6 && !spoiled, uniform() < 0.35 && !spoiled]
    // divided, not multiplied: 3.8 is to be 3.8, not 3.8000000000000003
    const round = (v: number, step: number) => Math.round(v / step) / (1 / step) + 0
    return {
      id: demoId('throw', ...(outing.lessWorn ? [outing.trial, session.day] : [outing.trial]), String(i)),
      trialId: demoId('trial', outing.trial),
      sessionId: session.id,
      discId: demoId('disc', code),
      throwerId: thrower.id,
      label: null,
      thrownAt: new Date(Date.parse(outing.startsAt) + i * 75_000).toISOString(),
      ...NOTHING_OBSERVED,
      hand: thrower.hand,
      stroke: 'backhand',
      leg: leg > 0 ? 'out' : 'back',
      power: 1,
      hyzerDeg,
      hyzerCalledDeg: called ? round(thrown.release.hyzerRad / DEGREE + 1.2 * normal(), 1) : null,
      noseCalledDeg:
        called && uniform() < 0.5 ? round(thrown.release.noseRad / DEGREE + 0.8 * normal(), 0.5) : null,
      windAlongMps: round(windAlongMps, 0.1),
      windAcrossMps: round(windAcrossMps, 0.1),
      carryM: round(carry, 0.1),
      rightM: round(mirrored(veerM * shortened + sdVeer * normal(), sign), 0.1),
      midDownM: bent ? downM : null,
      midRightM: bent ? round(mirrored(thrown.sideAt(downM) + normal(), sign), 0.5) : null,
      hangS: timed ? round(hangS + 0.2 * normal(), 0.1) : null,
      groundM: uniform() < 0.3 ? round(1 + 4 * uniform(), 0.5) : null,
      path: null,
      counts: spoiled === undefined,
      whyNot: spoiled ?? null,
      notes: {},
      takenBackAt: null,
      version: 1,
    }
  })
}

/** The whole demo: shelf, throwers, trials, sessions and throws. */
export function harrowmere() {
  return {
    makers: demoMakers,
    molds: demoMolds,
    plastics: demoPlastics,
    runs: demoRuns,
    discs: demoDiscs,
    inspections: demoInspections,
    wearNotes: demoWearNotes,
    jobs: demoJobs,
    discEvents: demoDiscEvents,
    plasticWear: demoPlasticWear,
    places: demoPlaces,
    throwers: VOLUNTEERS.map((v) => v.thrower),
    trials: demoTrials,
    sessions: OUTINGS.map((o) => o.session),
    throws: OUTINGS.flatMap(thrownIn),
  }
}
