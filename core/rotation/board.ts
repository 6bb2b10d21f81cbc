import type { FlightNumbers } from '../flight/disc.ts'
import { Doing, FlownAt, StableAt } from './doing.ts'
import { WEAR_TURNS } from '../shelf/usualWear.ts'
import type { CarriedDisc, Prospect } from './doing.ts'
import { FLOWN, flownBy } from './job.ts'
import type { JobFlight, Job, Throwing } from './job.ts'
import { precisionOfThrow, throwsThatTell } from './retest.ts'
import { hasGrown } from './scatter.ts'
import type { Growth } from './scatter.ts'
import { stabilityAfter } from './wear.ts'
import type { Way } from './wear.ts'

/** A disc on a lane: what it may do for the job, and where it stands on its way through it. */
export interface OnLane {
  readonly discId: string
  /** Whether it is carried for the job; others could be. */
  readonly assigned: boolean
  readonly prospect: Prospect
  /**
   * Where it is on its way, now and a hundred throws on: below 0 it has yet to wear in, from 0 to 1 it does the job, beyond 1 it
   * has left. Undefined where it never does it.
   */
  readonly along: { readonly now: number; readonly soon: number } | undefined
  /**
   * Of one that is carried for it, throws that tell whether it does it, right four times in five; 0 where that is known, null where
   * no test of a day tells it.
   */
  readonly retest: number | null
}
export interface Lane {
  readonly jobId: string
  readonly discs: readonly OnLane[]
}

/** A disc no less likely to do a job, now or later, is shown beside those that are carried for it. */
const WORTH_SHOWING = 0.35
/** Others that are shown beside them, at most. */
const OTHERS = 4
/** Soon is so many throws on. */
export const SOON = 100

type Seen = Pick<OnLane, 'prospect' | 'along'> & {
  readonly range: { readonly low: number; readonly high: number } | undefined
}

/** What a disc may do for a job, and where it is on its way through it. */
function seenFor(disc: CarriedDisc, job: Job, flownAt?: FlownAt): Seen {
  const doing = new Doing(disc, job, flownAt)
  const prospect = doing.prospect()
  const range = doing.range()
  if (!range || range.high <= range.low) return { prospect, along: undefined, range: undefined }
  const { kind, ways, use } = disc
  const at = (throws: number) => {
    const { value } = stabilityAfter(kind, ways, { ...use, throws: use.throws + throws })
    return (range.high - value) / (range.high - range.low)
  }
  return { prospect, along: { now: at(0), soon: at(SOON) }, range }
}

/** How many throws tell whether a disc does a job. */
const retestOf = (disc: CarriedDisc, { throwing }: Job, { range }: Seen): number | null =>
  range
    ? throwsThatTell(
        stabilityAfter(disc.kind, disc.ways, disc.use),
        range,
        precisionOfThrow(disc, throwing.armMps),
      )
    : null

/** What was worked out of two things, as long as it is asked for each time. */
class Kept<T> {
  #before = new Map<string, Map<string, T>>()
  #now = new Map<string, Map<string, T>>()
  /** @returns a function, for what is asked of one thing and many others */
  of(a: string): (b: string, make: () => T) => T {
    const before = this.#before.get(a)
    const now = this.#now.get(a) ?? new Map<string, T>()
    this.#now.set(a, now)
    return (b, make) => {
      const known = now.get(b)
      if (known !== undefined) return known
      const found = before?.get(b) ?? make()
      now.set(b, found)
      return found
    }
  }
  /** Lets go of what was not asked for since the last time. */
  sweep(): void {
    this.#before = this.#now
    this.#now = new Map()
  }
}

/** A disc with what it is known by: discs of which the same is told do the same. */
interface Told {
  readonly disc: CarriedDisc
  readonly told: string
  readonly numbers: string
  readonly flies: string
  readonly stable: StableAt
  /** How much less stable it is by now than its numbers, which are those of all its throws. */
  readonly already: number
}
const waysTold = new WeakMap<readonly Way[], string>()
function toldOf(disc: CarriedDisc, remembered: Remembered): Told {
  const { id: _, ways, ...rest } = disc
  const flies = JSON.stringify([disc.published, disc.numbers, disc.covariance])
  const stable = remembered.stable(flies, disc)
  const told = waysTold.get(ways) ?? JSON.stringify(ways)
  waysTold.set(ways, told)
  return {
    disc,
    told: `${JSON.stringify(rest)} ${told}`,
    numbers: JSON.stringify(disc.numbers),
    flies,
    stable,
    already: stable.stability - stabilityAfter(disc.kind, ways, disc.use).value,
  }
}

/** Remembers what was worked out of discs and jobs, as long as neither changes. */
export class Remembered {
  readonly #seen = new Kept<Seen>()
  readonly #flights = new Kept<readonly (JobFlight | undefined)[]>()
  readonly #slopes = new Kept<FlownAt>()
  readonly #misses = new Kept<Miss>()
  readonly #retests = new Kept<{ readonly throws: number | null }>()
  readonly #stable = new Kept<StableAt>()

  /** How stable a disc is by its numbers. */
  stable(flies: string, disc: CarriedDisc): StableAt {
    return this.#stable.of('')(flies, () => new StableAt(disc))
  }

  /** What discs may do for a job. */
  forJob(job: Job) {
    const key = JSON.stringify(job)
    const thrown = JSON.stringify(job.throwing)
    const [seen, misses, retests] = [this.#seen.of(key), this.#misses.of(key), this.#retests.of(key)]
    const [flights, slopes] = [this.#flights.of(thrown), this.#slopes.of(thrown)]
    const flownOf = ({ disc, numbers }: Told, first: number) =>
      flights(`${first} ${numbers}`, () =>
        Array.from({ length: GLANCED_STEPS }, (_, i) => flownWorn(disc.numbers, first + i, job.throwing)),
      )
    const seenOf = (d: Told): Seen =>
      seen(d.told, () =>
        seenFor(
          d.disc,
          job,
          slopes(d.flies, () => new FlownAt(d.stable, job.throwing)),
        ),
      )
    return {
      seen: seenOf,
      retest: (d: Told): number | null =>
        retests(d.told, () => ({ throws: retestOf(d.disc, job, seenOf(d)) })).throws,
      miss: (d: Told): Miss => misses(d.told, () => missBy(d, job, (first) => flownOf(d, first))),
    }
  }

  sweep(): void {
    for (const kept of [this.#seen, this.#flights, this.#slopes, this.#misses, this.#retests, this.#stable])
      kept.sweep()
  }
}

/** How a disc flies that has lost so many steps of stability of its numbers. */
function flownWorn(numbers: FlightNumbers, steps: number, throwing: Throwing): JobFlight | undefined {
  const lost = steps * GLANCE
  return flownBy(
    {
      ...numbers,
      turn: numbers.turn - WEAR_TURNS * lost,
      fade: numbers.fade - (1 - WEAR_TURNS) * lost,
    },
    throwing,
  )
}

/** Steps of stability at which a disc is flown for a first look at whether it comes near a job. */
const GLANCE = 0.5
/** From how much more stable than it is to how much less it is looked at. */
const GLANCED = { before: 0.4, after: 1.6 }
const BETWEEN = 0.1
/** So many that come nearest as they are, and as they may be, are looked at closely. */
const CLOSELY = { now: 8, ever: 6 }

interface Miss {
  readonly now: number
  /** Where it comes nearest, as it wears. */
  readonly ever: number
}
/** So many steps are flown of a disc that is looked at first. */
const GLANCED_STEPS = Math.ceil((GLANCED.before + GLANCED.after) / GLANCE) + 2
/** How near a disc comes to a job, at a first look. */
function missBy(
  { already }: Told,
  job: Job,
  flownFrom: (first: number) => readonly (JobFlight | undefined)[],
): Miss {
  const first = Math.floor((already - GLANCED.before) / GLANCE)
  const flown = flownFrom(first)
  const missAt = (lost: number) => {
    const place = lost / GLANCE - first
    const step = Math.floor(place)
    const [a, b] = [flown[step], flown[step + 1]]
    if (!a || !b) return Infinity
    const share = place - step
    const { wanted, within } = job
    let miss = 0
    for (const part of FLOWN) {
      const off = Math.abs((1 - share) * a[part] + share * b[part] - wanted[part]) / within[part]
      if (off > miss) miss = off
    }
    return miss
  }
  let ever = Infinity
  for (let by = -GLANCED.before; by <= GLANCED.after; by += BETWEEN)
    ever = Math.min(ever, missAt(already + by))
  return { now: missAt(already), ever }
}

const surest = (a: OnLane, b: OnLane) =>
  b.prospect.now - a.prospect.now || b.prospect.best.probability - a.prospect.best.probability

/** The lane of a job: those that are carried for it, then a few others that could be, the surest first. */
function laneOf(jobId: string, own: readonly OnLane[], others: readonly OnLane[]): Lane {
  const worth = others.filter(
    ({ prospect }) => Math.max(prospect.now, prospect.best.probability) >= WORTH_SHOWING,
  )
  return { jobId, discs: [...own.toSorted(surest), ...worth.toSorted(surest).slice(0, OTHERS)] }
}

/** A job with its id. */
export interface NamedJob {
  readonly id: string
  readonly job: Job
}

/** A job as its lane is made. */
interface Making extends NamedJob {
  readonly assigned: ReadonlyMap<string, string>
  readonly of: ReturnType<Remembered['forJob']>
}
const isOwn = ({ id, assigned }: Making, { disc }: Told) => assigned.get(disc.id) === id
const seenOn = (making: Making, d: Told): OnLane => {
  const { prospect, along } = making.of.seen(d)
  const assigned = isOwn(making, d)
  return { discId: d.disc.id, assigned, prospect, along, retest: assigned ? making.of.retest(d) : null }
}

/** A lane for which every disc is looked at, one of those that are alike for all. */
function wholeLane(making: Making, all: readonly Told[]): Lane {
  const own = all.filter((d) => isOwn(making, d))
  const alike = new Map<string, Told>()
  for (const d of all) if (!isOwn(making, d) && !alike.has(d.told)) alike.set(d.told, d)
  const looked = [...alike.values()]
    .map((d) => ({ d, miss: making.of.miss(d) }))
    .filter(({ miss }) => miss.ever < FAR)
  const nearest = (when: 'now' | 'ever') =>
    looked.toSorted((a, b) => a.miss[when] - b.miss[when]).slice(0, CLOSELY[when])
  const near = [...new Set([...nearest('now'), ...nearest('ever')])]
  return laneOf(
    making.id,
    own.map((d) => seenOn(making, d)),
    near.map(({ d }) => seenOn(making, d)),
  )
}

/**
 * Every job with the discs that are carried for it, and those that could be, the surest first. Of discs that are alike in all
 * that is known, one is named beside those that are carried.
 *
 * @param discs those that can be thrown
 * @param assigned the job each disc is carried for
 * @param remembered what was worked out before; kept up
 */
export function lanesOf(
  discs: readonly CarriedDisc[],
  jobs: readonly NamedJob[],
  assigned: ReadonlyMap<string, string>,
  remembered = new Remembered(),
): Lane[] {
  const all = discs.map((d) => toldOf(d, remembered))
  const lanes = jobs.map((named) => wholeLane({ ...named, assigned, of: remembered.forJob(named.job) }, all))
  remembered.sweep()
  return lanes
}

/**
 * The board after some discs have changed: those are looked at anew, the others stand as they stood. A job that was not on it is
 * looked at with every disc.
 *
 * @param before the board as it was
 * @param changed ids of discs that are otherwise, come back, or have gone
 */
export function lanesAfter(
  before: readonly Lane[],
  changed: ReadonlySet<string>,
  discs: readonly CarriedDisc[],
  jobs: readonly NamedJob[],
  assigned: ReadonlyMap<string, string>,
  remembered = new Remembered(),
): Lane[] {
  const known = new Map(before.map((l) => [l.jobId, l]))
  const anew = discs.filter((d) => changed.has(d.id)).map((d) => toldOf(d, remembered))
  const isNew = jobs.some((j) => !known.has(j.id))
  const all = isNew ? discs.map((d) => toldOf(d, remembered)) : anew
  const lanes = jobs.map((named): Lane => {
    const making = { ...named, assigned, of: remembered.forJob(named.job) }
    const lane = known.get(named.id)
    if (!lane) return wholeLane(making, all)
    const stand = lane.discs
      .filter((d) => !changed.has(d.discId))
      .map((d) => ({ ...d, assigned: assigned.get(d.discId) === named.id }))
    const seen = anew
      .filter((d) => isOwn(making, d) || making.of.miss(d).ever < NEAR)
      .map((d) => seenOn(making, d))
    const on = [...stand, ...seen]
    return laneOf(
      named.id,
      on.filter((d) => d.assigned),
      on.filter((d) => !d.assigned),
    )
  })
  remembered.sweep()
  return lanes
}
/** A disc that comes no nearer to a job, in what is near enough, hardly does it. */
const NEAR = 2.5

/** How surely a disc does each job now; one that comes near a job by no means does not do it. */
export function doesNow(
  disc: CarriedDisc,
  jobs: readonly NamedJob[],
  remembered = new Remembered(),
): ReadonlyMap<string, number> {
  const told = toldOf(disc, remembered)
  return new Map(
    jobs.map(({ id, job }) => [
      id,
      remembered.forJob(job).miss(told).ever < FAR ? new Doing(disc, job).after(0) : 0,
    ]),
  )
}
/** A disc that comes no nearer than that, in what is near enough, does a job once in a hundred at most. */
const FAR = 5

/** What of a lane and its discs says that a backup is due. */
export interface LaneKnown {
  /** Throws a day each disc is used, as it was of late. */
  readonly paceOf: (discId: string) => number
  /** Whether the reviewer keeps it away from water or trees. */
  readonly isSpared: (discId: string) => boolean
  /** Whether its plastic is no longer made. */
  readonly isOutOfMake: (discId: string) => boolean
  /** How its scatter has grown, where it was tested often enough. */
  readonly growthOf: (discId: string) => Growth | undefined
}
export type DueSign =
  | { readonly kind: 'nobody does it' }
  | { readonly kind: 'a single copy'; readonly discId: string }
  | { readonly kind: 'spared'; readonly discId: string }
  | { readonly kind: 'out of make'; readonly discId: string }
  | { readonly kind: 'leaves soon'; readonly discId: string; readonly days: number }
  | { readonly kind: 'has left'; readonly discId: string }
  | { readonly kind: 'scatter grows'; readonly discId: string; readonly times: number }

/** A season is so many days. */
export const SEASON_DAYS = 120
/** A disc that is this likely to do a job does it. */
export const DOES = 0.5

/** Days until a disc has thrown so many more; Infinity where it is not thrown. */
export const daysUntil = (throws: number, aDay: number): number => (aDay > 0 ? throws / aDay : Infinity)

/** Signs that a backup is due for a job, each by itself. */
export function dueOf({ discs }: Lane, { paceOf, isSpared, isOutOfMake, growthOf }: LaneKnown): DueSign[] {
  const own = discs.filter((d) => d.assigned)
  const doing = own.filter((d) => d.prospect.now >= DOES)
  const signs: DueSign[] = own
    .filter((d) => d.along !== undefined && d.along.now > 1 && d.prospect.now < DOES)
    .map(({ discId }) => ({ kind: 'has left', discId }))
  if (doing.length === 0) return [...signs, { kind: 'nobody does it' }]
  if (doing.length === 1) signs.push({ kind: 'a single copy', discId: doing[0]!.discId })
  for (const { discId, prospect } of doing) {
    if (isSpared(discId)) signs.push({ kind: 'spared', discId })
    if (isOutOfMake(discId)) signs.push({ kind: 'out of make', discId })
    const growth = growthOf(discId)
    if (hasGrown(growth)) signs.push({ kind: 'scatter grows', discId, times: growth.times })
    const days =
      prospect.leaves.likely === null ? Infinity : daysUntil(prospect.leaves.likely, paceOf(discId))
    if (days <= SEASON_DAYS) signs.push({ kind: 'leaves soon', discId, days: Math.round(days) })
  }
  return signs
}

/** A disc that comes into the job it is carried for, or leaves it. */
export interface Move {
  readonly discId: string
  readonly jobId: string
  readonly kind: 'enters' | 'leaves'
  /** Throws until it is as likely as not to have moved. */
  readonly throws: number
  /** The same in days, at the pace it is used; Infinity where it is not thrown. */
  readonly days: number
}

/**
 * Discs that move next, the soonest first: by the days until then, and those that nobody throws by their throws.
 *
 * @param paceOf throws a day each disc is used
 */
export function movesOf(lanes: readonly Lane[], paceOf: (discId: string) => number): Move[] {
  return lanes
    .flatMap(({ jobId, discs }) =>
      discs.flatMap(({ discId, assigned, prospect: { now, enters, leaves } }): Move[] => {
        if (!assigned) return []
        const move = (kind: Move['kind'], throws: number | null): Move[] =>
          throws === null || throws === 0
            ? []
            : [{ discId, jobId, kind, throws, days: daysUntil(throws, paceOf(discId)) }]
        return now >= DOES ? move('leaves', leaves.likely) : move('enters', enters)
      }),
    )
    .sort((a, b) => (a.days === b.days ? 0 : a.days - b.days) || a.throws - b.throws)
}

/**
 * The surest of those that do a job already and are carried for nothing; undefined where there is none.
 *
 * @param isFree whether a disc is carried for no other job
 */
export function backupNow({ discs }: Lane, isFree: (discId: string) => boolean): OnLane | undefined {
  return discs
    .filter((d) => !d.assigned && isFree(d.discId) && d.prospect.now >= DOES)
    .sort((a, b) => b.prospect.now - a.prospect.now)[0]
}

/** A copy to start wearing in, so that it does the job when the one that does it now no longer will. */
export interface WearIn {
  readonly discId: string
  /** Throws until it does the job rather than not. */
  readonly throws: number
}

/**
 * The copy that comes into a job soonest of those that do not do it yet and are carried for nothing else.
 *
 * @param isFree whether a disc is carried for no other job
 */
export function wearInNext({ discs }: Lane, isFree: (discId: string) => boolean): WearIn | undefined {
  return discs
    .flatMap(({ discId, assigned, prospect }) =>
      (assigned || isFree(discId)) && prospect.enters !== null && prospect.enters > 0
        ? [{ discId, throws: prospect.enters }]
        : [],
    )
    .sort((a, b) => a.throws - b.throws)[0]
}

/** A job that a disc flies into as it leaves the one it is carried for. */
export interface JobOffer {
  readonly discId: string
  readonly from: string
  readonly to: string
  readonly now: number
}
/** From here on its way a disc is about to leave its job. */
const LEAVING = 0.85

/** Discs that leave their jobs, or have left them, each with the other job it does most surely. */
export function offersOf(lanes: readonly Lane[]): JobOffer[] {
  return lanes.flatMap(({ jobId: from, discs }) =>
    discs.flatMap(({ discId, assigned, along }): JobOffer[] => {
      if (!assigned || along === undefined || along.now < LEAVING) return []
      const best = lanes
        .flatMap(({ jobId, discs: on }) => {
          const there = jobId === from ? undefined : on.find((d) => d.discId === discId)
          return there && there.prospect.now >= DOES ? [{ jobId, now: there.prospect.now }] : []
        })
        .sort((a, b) => b.now - a.now)[0]
      return best ? [{ discId, from, to: best.jobId, now: best.now }] : []
    }),
  )
}
