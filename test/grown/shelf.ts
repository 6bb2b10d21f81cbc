import { randomLcg } from 'd3'
import { v5 as uuidOf } from 'uuid'
import { STILL_AIR } from '../../core/flight/air.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import { DEGREE } from '../../core/flight/units.ts'
import { throwDisc, USUAL_SPREAD } from '../../core/simulate/thrower.ts'
import { observedOnSheet } from '../../core/throw/observed.ts'
import type { Shelf } from '../../contract/shelf.ts'
import { NO_WATCHER } from '../../contract/trials.ts'
import type { Session, Throw, Thrower, Trial } from '../../contract/trials.ts'

/** Years of a reviewer: so many trials of so many throws each, and one of many more, over a long shelf. */
export const GROWN = { discs: 2014, trials: 202, throwsEach: 90, longTrial: 2000, discsEach: 10 } as const

const idOf = (...parts: (string | number)[]) =>
  uuidOf(parts.join(' '), 'b1f0c4de-5a0e-4c1e-9a63-0c9d1e5f7a21')
const DAY = 86_400_000
const FIRST = Date.parse('2023-03-01T09:00:00Z')

export interface GrownShelf {
  readonly shelf: Shelf
  readonly throwers: readonly Thrower[]
  readonly trials: readonly Trial[]
  readonly sessions: readonly Session[]
  readonly throws: readonly Throw[]
}

/** Everything such a reviewer has; the same every time. */
export function grownShelf(): GrownShelf {
  const uniform = randomLcg(0.41)
  const maker = { id: idOf('maker'), name: 'Grown & Sons' }
  const molds = Array.from({ length: 100 }, (_, m) => ({
    id: idOf('mold', m),
    makerId: maker.id,
    name: `Mold ${m}`,
    discClass: 'fairway-driver' as const,
    numbers: { speed: 5 + (m % 8), glide: 4 + (m % 3), turn: -(m % 5) / 2, fade: 1 + (m % 5) / 2 },
  }))
  const plastics = molds.flatMap((m) =>
    ['Slate', 'Loam', 'Amber'].map((name) => ({
      id: idOf('plastic', m.id, name),
      moldId: m.id,
      name,
      numbers: null,
      claims: [],
    })),
  )
  const discs = Array.from({ length: GROWN.discs }, (_, i) => ({
    id: idOf('disc', i),
    code: `GR-${String(i).padStart(4, '0')}`,
    plasticId: plastics[i % plastics.length]!.id,
    runId: null,
    stamped: null,
    markedG: 168 + (i % 8),
    weighedG: null,
    source: 'bought' as const,
    provenance: '',
    acquiredOn: null,
    wear: 'seasoned' as const,
    note: '',
    removedAt: null,
  }))
  const throwers: Thrower[] = [0, 1].map((i) => ({
    id: idOf('thrower', i),
    name: ['Tove Marlin', 'Ruben Ashgrove'][i]!,
    hand: 'right',
    backhandMps: [26, 23][i]!,
    forehandMps: null,
    budget: null,
  }))
  const moldOf = (d: (typeof discs)[number]) =>
    molds.find((m) => m.id === plastics.find((p) => p.id === d.plasticId)!.moldId)!
  const truths = discs.map((d) => {
    const { numbers } = moldOf(d)
    return { ...numbers, turn: numbers.turn + uniform() - 0.5, fade: numbers.fade + uniform() - 0.5 }
  })
  const trials: Trial[] = []
  const sessions: Session[] = []
  const throws: Throw[] = []
  for (let t = 0; t <= GROWN.trials; t++) {
    const long = t === GROWN.trials
    const count = long ? GROWN.longTrial : GROWN.throwsEach
    const from = (t * GROWN.discsEach) % (discs.length - 20)
    const own = discs.slice(from, from + (long ? 20 : GROWN.discsEach))
    const id = idOf('trial', t)
    const day = new Date(FIRST + t * 6 * DAY).toISOString()
    trials.push({
      id,
      name: long ? 'The long one' : `Trial ${t}`,
      question: 'Which is more stable?',
      discIds: own.map((d) => d.id),
      controlDiscId: null,
      hyzerDegs: [10, 0, -8],
      plannedThrows: count,
      removedAt: null,
      finishedAt: long || t % 4 === 0 ? null : day,
      plan: null,
    })
    const session: Session = {
      id: idOf('session', t),
      ...NO_WATCHER,
      place: 'Millpond meadow',
      placeId: null,
      timeZone: 'Europe/London',
      day: day.slice(0, 10),
      temperatureC: 15,
      altitudeM: 40,
      method: 'paced',
    }
    sessions.push(session)
    for (let i = 0; i < count; i++) {
      const at = i % own.length
      const thrower = throwers[Math.floor(i / own.length) % 2]!
      const hyzerDeg = [10, 0, -8][Math.floor(i / own.length / 2) % 3]!
      const arm = {
        fullSpeedMps: thrower.backhandMps!,
        habit: { lnSpeed: 0.02, launchRad: 0.01, hyzerRad: 0.02, noseRad: 0.01 },
        spread: USUAL_SPREAD,
        wobble: 0,
      }
      const meant = { power: 1, hyzerRad: hyzerDeg * DEGREE }
      const { landing } = throwDisc(truths[from + at]!, STANDARD_BODY, arm, meant, STILL_AIR, uniform)
      throws.push({
        id: idOf('throw', t, i),
        trialId: id,
        sessionId: session.id,
        discId: own[at]!.id,
        throwerId: thrower.id,
        label: null,
        thrownAt: new Date(Date.parse(day) + i * 40_000).toISOString(),
        ...observedOnSheet({
          hand: 'right',
          stroke: 'backhand',
          power: 1,
          hyzerDeg,
          windAlongMps: 0,
          windAcrossMps: 0,
          carryM: Math.round(10 * landing.carryM) / 10,
          // a right hand’s backhand fades left
          rightM: Math.round(-10 * landing.veerM) / 10,
          counts: true,
        }),
        path: null,
        notes: {},
        takenBackAt: null,
        version: 1,
      })
    }
  }
  return { shelf: { makers: [maker], molds, plastics, runs: [], discs }, throwers, trials, sessions, throws }
}
