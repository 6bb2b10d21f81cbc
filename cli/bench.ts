import { randomLcg } from 'd3'
import { baseOf } from '../core/rating/base.ts'
import { fit } from '../core/rating/fit.ts'
import { follow, ratingAfter } from '../core/rating/follow.ts'
import { discsOf } from '../core/rating/outcome.ts'
import type { FitState } from '../core/rating/state.ts'
import type { Evidence } from '../core/rating/evidence.ts'
import { DEGREE } from '../core/flight/units.ts'
import { STANDARD_BODY } from '../core/flight/disc.ts'
import { STILL_AIR } from '../core/flight/air.ts'
import { throwDisc, USUAL_SPREAD } from '../core/simulate/thrower.ts'
import { order } from '../core/plan/aims.ts'
import { tellingThrows } from '../core/plan/telling.ts'
import { crewOfTwo } from './crew.ts'
import { benchFlights } from './bench-flights.ts'

/** A made-up session: every disc thrown alike over three angles, out and back, by two throwers. */
function session(throws: number, discs: number, kin = false): Evidence {
  const uniform = randomLcg(0.75)
  const kinds = Array.from({ length: discs }, (_, i) => ({
    id: `disc-${i}`,
    published: { speed: 7 + (i % 5), glide: 5, turn: -(i % 4) * 0.5, fade: 1 + (i % 3) * 0.5 },
    body: STANDARD_BODY,
    ...(kin && { kin: { mold: `mold-${Math.floor(i / 6)}`, plastic: `plastic-${i % 3}` } }),
  }))
  const arms = [27, 23].map((fullSpeedMps, i) => ({ id: `arm-${i}`, fullSpeedMps }))
  return {
    discs: kinds,
    arms,
    throws: Array.from({ length: throws }, (_, i) => {
      const disc = kinds[i % discs]!
      const arm = arms[Math.floor(i / discs) % 2]!
      const hyzerRad = [10, 0, -8][Math.floor(i / discs / 2) % 3]! * DEGREE
      const air = { ...STILL_AIR, windAlongMps: (i < throws / 2 ? -1 : 1) * (1 + uniform()) }
      const truth = {
        ...disc.published,
        turn: disc.published.turn + uniform() - 0.5,
        fade: disc.published.fade + uniform() - 0.5,
      }
      const habit = { lnSpeed: 0.02, launchRad: 0.01, hyzerRad: 0.02, noseRad: 0.01 }
      const thrown = throwDisc(
        truth,
        disc.body,
        { fullSpeedMps: arm.fullSpeedMps, habit, spread: USUAL_SPREAD, wobble: 0 },
        { power: 1, hyzerRad },
        air,
        uniform,
      )
      const { carryM, veerM } = thrown.landing
      return { id: `${i}`, disc: disc.id, arm: arm.id, power: 1, hyzerRad, air, carryM, veerM, counts: true }
    }),
  }
}

/** Median time of several runs, ms. */
function median(rounds: number, run: () => void): number {
  const times = Array.from({ length: rounds }, () => {
    const start = performance.now()
    run()
    return performance.now() - start
  }).sort((a, b) => a - b)
  return times[Math.floor(rounds / 2)]!
}

/** Time of one more throw on a settled fit: each round adds another of the session's last throws. */
function onePlus(evidence: Evidence, rounds: number): number {
  const from = evidence.throws.length - rounds
  let state: FitState = fit({ ...evidence, throws: evidence.throws.slice(0, from) })
  let next = from
  return median(rounds, () => {
    next++
    state = fit({ ...evidence, throws: evidence.throws.slice(0, next) }, { warm: state })
  })
}

/** What one more throw takes on top of all the others, and how far that lies from a full fit of them. */
function following(evidence: Evidence) {
  const last = evidence.throws.at(-1)!
  const first = fit({ ...evidence, throws: evidence.throws.slice(0, -1) })
  const base = baseOf(first)
  const touched = {
    discs: evidence.discs.filter((d) => d.id === last.disc),
    arms: evidence.arms,
    throws: [last],
  }
  const rated = () => follow(base, touched).discs.map((d) => ratingAfter(base, d))
  const ms = median(5, rated)
  const full = discsOf(fit(evidence, { warm: first }))
  const apart = rated().map((d, i) => (d.stability.value - full[i]!.stability.value) / full[i]!.stability.sd)
  const own = full.findIndex((d) => d.disc === last.disc)
  return {
    ms,
    apartOwn: Math.abs(apart[own]!),
    apartRms: Math.hypot(...apart) / Math.sqrt(apart.length),
    apartMost: Math.max(...apart.map(Math.abs)),
  }
}

/** Throws and discs at which the growth of a fit is shown. */
const GROWTH = [
  [36, 6],
  [72, 6],
  [144, 6],
  [288, 12],
  [576, 24],
  [1152, 48],
  [2304, 96],
  [2304, 12],
] as const

/** Sixty cells: twenty discs at three angles. */
const cellsOf = (e: Evidence) =>
  e.discs.slice(0, 20).flatMap(({ id }) =>
    [10, 0, -8].map((deg) => ({
      disc: id,
      arm: e.arms[0]!.id,
      power: 1,
      hyzerRad: deg * DEGREE,
      air: STILL_AIR,
      angleCalled: true,
    })),
  )
/** Neighbours on the ladder of twenty discs. */
const neighbours = (e: Evidence) =>
  e.discs.slice(1, 20).map((d, i) => [e.discs[i]!.id, d.id] as [string, string])

const json = process.argv.includes('--json')
const flights = benchFlights()
const small = session(72, 6)
const large = session(1500, 60)
const largest = session(10_000, 300, true)
for (let i = 0; i < 3; i++) fit(small)
const planned = fit(session(120, 20))
const [cells, pairs] = [cellsOf(planned.evidence), neighbours(planned.evidence)]
const two = await crewOfTwo()
const followed = following(largest)
const figures = {
  flights_per_s: Math.round(flights.perS),
  flights_per_s_odex: Math.round(flights.perSOdex),
  fit_72_ms: round(median(9, () => fit(small))),
  fit_plus_one_ms: round(onePlus(session(81, 6), 9)),
  fit_1500_ms: round(median(3, () => fit(large))),
  telling_1_of_60_ms: round(median(9, () => tellingThrows(planned, pairs.map(order), cells, 1))),
  telling_24_of_60_ms: round(median(5, () => tellingThrows(planned, pairs.map(order), cells, 24))),
  follow_10000_ms: round(followed.ms),
  follow_apart_sd: followed.apartOwn,
  follow_apart_rms_sd: followed.apartRms,
  follow_apart_most_sd: followed.apartMost,
  fit_10000_ms: round(median(1, () => fit(largest))),
  fit_10000_two_threads_ms: round(median(1, () => fit(largest, { crew: two.crew }))),
}
await two.end()
function round(ms: number): number {
  return Math.round(ms * 10) / 10
}

if (json) console.log(JSON.stringify(figures))
else {
  const line = (name: string, value: string) => console.log(`${name.padEnd(44)} ${value}`)
  const cm = (m: number) => `${(100 * m).toFixed(2)} cm`
  line('flights a second, one core', figures.flights_per_s.toLocaleString('en'))
  line('  worst landing error on 500 of them', cm(flights.worstM))
  line('  the same flights by odex, tolerance 1e-5', figures.flights_per_s_odex.toLocaleString('en'))
  line('  worst landing error of odex', cm(flights.worstOdexM))
  line('worst landing error, 2,000 wide-ranging flights', cm(flights.worstWideM))
  line('72 throws of six discs', `${figures.fit_72_ms} ms`)
  line('one more throw, warm start', `${figures.fit_plus_one_ms} ms`)
  line('1,500 throws of sixty discs', `${figures.fit_1500_ms} ms`)
  line('the most telling of 60 throws, 19 pairs', `${figures.telling_1_of_60_ms} ms`)
  line('  the most telling 24', `${figures.telling_24_of_60_ms} ms`)
  line('one more throw on 10,000, without a full fit', `${figures.follow_10000_ms} ms`)
  const sd = (v: number) => `${v.toFixed(3)} sd`
  line('  its disc against a full fit', sd(followed.apartOwn))
  line('  all discs against it, rms', sd(followed.apartRms))
  line('  the one furthest from it', sd(followed.apartMost))
  line('10,000 throws of 300 discs of 50 molds', `${figures.fit_10000_ms} ms`)
  line('  the same on two threads', `${figures.fit_10000_two_threads_ms} ms`)
  console.log('\nhow a fit grows, one core, ms\n')
  for (const [throws, discs] of GROWTH) {
    const evidence = session(throws, discs)
    const ms = median(3, () => fit(evidence))
    line(
      `${throws.toLocaleString('en')} throws of ${discs} discs`,
      `${ms.toFixed(0)} ms, ${((1000 * ms) / throws).toFixed(0)} µs a throw`,
    )
  }
}
