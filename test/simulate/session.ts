import { randomLcg, randomNormal, randomUniform } from 'd3'
import { airDensity } from '../../core/flight/air.ts'
import { pathFeatures, pathPoints } from '../../core/flight/path.ts'
import type { Oddities } from '../../core/flight/path.ts'
import { ARM_SLOPE } from '../../core/flight/arm.ts'
import { sideOf, sideSlopesOf, sideTraced } from '../../core/flight/side.ts'
import type { Side } from '../../core/flight/side.ts'
import { calledBanks, WATCHER_SD } from '../../core/rating/calls.ts'
import type { AirCall } from '../../core/rating/calls.ts'
import { RECORDING } from '../../core/rating/recorded.ts'
import type { RecordedPath } from '../../core/throw/recordedPath.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { referenceSpeed, SPIN_PER_MPS } from '../../core/flight/release.ts'
import { DEGREE } from '../../core/flight/units.ts'
import { AIM_LINE_SD, CONTROL_PRIOR_SD, DISC_PRIOR_SD, HABIT_SD } from '../../core/rating/evidence.ts'
import type { Evidence, Kin, RatedDisc, ThrowEvidence } from '../../core/rating/evidence.ts'
import type { MeasuringMethod } from '../../core/throw/method.ts'
import { SHARE, WEAR_PRIOR } from '../../core/rating/kin.ts'
import type { SpreadLevel } from '../../core/rating/kin.ts'
import { WEAR_TURNS } from '../../core/shelf/usualWear.ts'
import { throwDisc, USUAL_SPREAD } from '../../core/simulate/thrower.ts'
import { HABIT } from '../../core/rating/places.ts'
import type { SimulatedArm, SimulatedThrow } from '../../core/simulate/thrower.ts'

/** A session made up with known truth. */
export interface SimulatedSession {
  readonly evidence: Evidence
  /** True numbers by disc id. */
  readonly truth: ReadonlyMap<string, FlightNumbers>
  /** Where each disc truly flies, by the aerodynamics it truly has. */
  readonly sides: ReadonlyMap<string, Side>
  /** In what the aerodynamics of discs differ from the model's, by disc id; none where nature is as modelled. */
  readonly odd: ReadonlyMap<string, Oddities>
  /** How far throws were aimed to the right of the line that landings were measured from, rad. */
  readonly aimRad: number
  readonly arms: readonly SimulatedArm[]
  /** What wear from new to beaten does to glide, turn and fade, where discs are worn. */
  readonly wear: readonly number[] | undefined
  /** Glide, turn and fade that discs of one kin have in common, as “mold Ash”, “blend soft”, “plastic Ash soft”, “run Ash soft 1”. */
  readonly shared: ReadonlyMap<string, readonly number[]>
}

/** Seeds far apart for sessions one after the other. */
export const seedOf = (k: number): number => (k * 0.6180339887498949) % 1

export interface SessionDesign {
  readonly seed: number
  readonly discs?: number
  readonly throws?: number
  readonly angles?: readonly number[]
  /** Standard deviation of wind nobody recorded, m/s each way. */
  readonly gusts?: number
  readonly method?: MeasuringMethod
  /** Share of throws that are bad and unflagged. */
  readonly bad?: number
  readonly wobble?: number
  /** How many times the prior's habit a thrower may have. */
  readonly bias?: number
  readonly throwers?: number
  readonly called?: boolean
  readonly fullSpeedKnown?: boolean
  readonly hang?: boolean
  readonly mid?: boolean
  /** Somebody calls what the disc does in the air. */
  readonly watched?: boolean
  /** A camera records the path, askew by some and each point by itself. */
  readonly recorded?: boolean
  /** How large the camera's errors are against what is believed. */
  readonly camera?: number
  /** Share of paths in which the camera lost the disc. */
  readonly lost?: number
  /** The first disc is a control disc: its numbers are near what is published. */
  readonly control?: boolean
  /** Where each disc comes from: its truth is then drawn level by level, and kin share what they share. */
  readonly kin?: readonly Kin[]
  /** Share of the variance at each level, if not as the rating believes. */
  readonly shares?: Readonly<Record<SpreadLevel, number>>
  /** Discs fly the same however worn they are. */
  readonly wearless?: boolean
  /** How often each disc is thrown, if not alike. */
  readonly throwsOf?: readonly number[]
  /** Spread of the truth about the published numbers, as a share of the prior's. */
  readonly apart?: number
  /** Speed numbers of the discs, in turn; 9 where absent. */
  readonly speeds?: readonly number[]
  /** Hyzer that an arm adds with each speed number, degrees; none with a mid of speed 5. */
  readonly hyzerByClassDeg?: number
  /** On so many outings the throws were made, one after the other, each with habits of its day, its wind and its aim line. */
  readonly outings?: number
  /** The aim line, paced out so far wrong, degrees either way; drawn from the prior where absent. */
  readonly aimOffDeg?: number
  /**
   * Between the first outing and the last discs wore, each by the next of these, m in 100 of where it flies.
   */
  readonly lostM?: readonly number[]
  /** What discs of their plastic usually lose by the wear that is noted of them, in the same units; what they lose, where absent. */
  readonly notedM?: readonly number[]
  /** In which ways nature is unlike the model. */
  readonly unlike?: readonly Unlike[]
}

/** Stability that takes so many metres in 100 of where a disc flies. */
function lossOf(now: FlightNumbers, lostM: number): number {
  const [, turn, fade] = sideSlopesOf(now).sideBy
  return lostM / (WEAR_TURNS * turn! + (1 - WEAR_TURNS) * fade!)
}

/**
 * Drag and lift 5–8 % off and a cubic moment, mold by mold; spin 15 % off; gusts that last for several throws; a field that
 * slopes; landings marked where the disc came to rest.
 */
export const UNLIKE = ['aerodynamics', 'spin', 'fronts', 'slope', 'at rest'] as const
export type Unlike = (typeof UNLIKE)[number]

/** A disc's difference from its label, drawn level by level; kin draw each shared level once. */
function offOf(
  kin: Kin,
  shares: Readonly<Record<SpreadLevel, number>>,
  sds: readonly number[],
  normal: () => number,
  drawn: Map<string, number[]>,
  wearless: boolean,
): number[] {
  const draw = (share: number) => sds.map((sd) => Math.sqrt(share) * sd * normal())
  const once = (key: string, make: () => number[]) => {
    if (!drawn.has(key)) drawn.set(key, make())
    return drawn.get(key)!
  }
  const parts = [
    once(`mold ${kin.mold}`, () => draw(shares.mold)),
    once(`blend ${kin.plastic}`, () => draw(shares.blend)),
    once(`plastic ${kin.mold} ${kin.plastic}`, () => draw(shares.plastic)),
    once(`run ${kin.mold} ${kin.plastic} ${kin.run}`, () => draw(shares.run)),
    draw(shares.disc),
    once('wear', () =>
      WEAR_PRIOR.mean.map((m, k) => (wearless ? 0 : 1) * (m + WEAR_PRIOR.sd[k]! * normal())),
    ).map((w) => (kin.wear ?? 0) * w),
  ]
  return sds.map((_, k) => parts.reduce((s, p) => s + p[k]!, 0))
}

/** What a watcher calls, whose bounds lie a little elsewhere each time. */
function callsFor({ path }: SimulatedThrow, hyzerRad: number, normal: () => number): AirCall[] {
  const { minBankRad, endBankRad } = pathFeatures(path)
  const banks = [minBankRad + WATCHER_SD * normal(), endBankRad + WATCHER_SD * normal()]
  const holds = (call: AirCall) => {
    const [{ low, high } = { low: 0, high: 0 }] = calledBanks([call], hyzerRad)
    return banks[0]! > low && banks[0]! < high
  }
  const came = (
    hyzerRad > 0 ? (['held', 'stood up', 'turned'] as const) : (['held', 'turned'] as const)
  ).filter(holds)
  const ends = (call: AirCall) => {
    const said = calledBanks([call], hyzerRad)
    const { low, high } = said[said.length - 1]!
    return banks[1]! > low && banks[1]! < high
  }
  // nobody says of a hyzer that it fought back, and of a flat throw only when it had turned
  const fought = hyzerRad < 0 || (hyzerRad === 0 && came.includes('turned'))
  const ended = (fought ? (['dumped', 'fought back'] as const) : (['dumped'] as const)).filter(ends)
  return [...came, ...ended]
}

/** A recording at 30 Hz with an error that lasts and one that does not. */
function recordingOf(
  { path }: SimulatedThrow,
  normal: () => number,
  camera: number,
  lost: boolean,
): RecordedPath {
  const points = pathPoints(path, Math.max(2, Math.round(30 * path.hangS)))
  const error = (sd: { stretch: number; point: number; overM: number }) => {
    let drift = sd.stretch * normal()
    let before = 0
    return (x: number) => {
      const keep = Math.exp(-Math.abs(x - before) / sd.overM)
      before = x
      drift = keep * drift + Math.sqrt(1 - keep * keep) * sd.stretch * normal()
      return camera * (drift + sd.point * normal())
    }
  }
  const [side, height, time] = [error(RECORDING.side), error(RECORDING.height), error(RECORDING.time)]
  return {
    downM: points.map((p) => p.x),
    // the camera follows something else
    veerM: points.map((p) => p.y + side(p.x) + (lost ? 0.0015 * p.x * p.x : 0)),
    upM: points.map((p) => p.z + height(p.x)),
    timeS: points.map((p) => p.t + time(p.x)),
  }
}

/**
 * Where a landing is marked: on sloping ground the disc meets it sooner or later; at rest it has gone on; and from a line that
 * lies off the one that was thrown along it looks aside.
 *
 * @param slope rise of the ground downrange
 * @param onM how far the disc went on along its last heading
 */
function markedOf({ path, landing }: SimulatedThrow, slope: number, onM: number, aimRad: number) {
  const points = pathPoints(path, 200)
  const last = points.at(-1)!
  const before = points.at(-2)!
  const heading = Math.atan2(last.y - before.y, last.x - before.x)
  const fall = Math.max(0.1, Math.atan2(before.z - last.z, Math.hypot(last.x - before.x, last.y - before.y)))
  const further = onM - (slope * landing.carryM) / (Math.tan(fall) + slope)
  const [x, y] = [landing.carryM + further * Math.cos(heading), landing.veerM + further * Math.sin(heading)]
  return {
    carryM: x * Math.cos(aimRad) - y * Math.sin(aimRad),
    veerM: x * Math.sin(aimRad) + y * Math.cos(aimRad),
  }
}

/** Throws spread over discs, three angles, out and back in the wind; truth drawn from the priors. */
export function simulateSession(design: SessionDesign): SimulatedSession {
  const {
    seed,
    discs: nDiscs = design.kin?.length ?? 6,
    throws = 72,
    angles = [10, 0, -8],
    gusts = 0,
    method,
    bad = 0,
    bias = 1,
  } = design
  const uniform = randomLcg(seed)
  const normal = randomNormal.source(uniform)()
  const between = randomUniform.source(uniform)
  const truth = new Map<string, FlightNumbers>()
  const drawn = new Map<string, number[]>()
  const shares = design.shares ?? SHARE
  const unlike = (way: Unlike) => design.unlike?.includes(way) === true
  const either = () => (uniform() < 0.5 ? -1 : 1)
  const outings = design.outings ?? 1
  const drawAim = () =>
    design.aimOffDeg === undefined ? AIM_LINE_SD * normal() : either() * design.aimOffDeg * DEGREE
  const aims = Array.from({ length: outings }, drawAim)
  const aimRad = aims[0]!
  const slope = unlike('slope') ? 0.02 * either() : 0
  const odd = new Map<string, Oddities>()
  const oddities = (mold: string): Oddities | undefined => {
    if (!unlike('aerodynamics')) return undefined
    const known = odd.get(mold)
    if (known) return known
    const off = () => 1 + between(0.05, 0.08)() * either()
    const drawn = { drag: off(), lift: off(), cubicMoment: 0.02 * either() }
    odd.set(mold, drawn)
    return drawn
  }
  const moldOf = (i: number) => design.kin?.[i]?.mold ?? `disc ${i}`
  const labels = new Map<string, { turn: number; fade: number }>()
  const discs: RatedDisc[] = Array.from({ length: nDiscs }, (_, i) => {
    const own = {
      turn: Math.round(between(-2.5, 0)() * 2) / 2,
      fade: Math.round(between(1, 3)() * 2) / 2,
    }
    // discs of one mold carry one label
    const mold = moldOf(i)
    if (!labels.has(mold)) labels.set(mold, own)
    const speed = design.speeds?.[i % design.speeds.length] ?? 9
    const published = { speed, glide: 5, ...labels.get(mold)! }
    const id = `disc-${i}`
    const control = design.control === true && i === 0
    const [sdGlide, sdTurn, sdFade] = control ? CONTROL_PRIOR_SD : DISC_PRIOR_SD
    const apart = design.apart ?? 1
    const kin = design.kin?.[i]
    const sds = [sdGlide, sdTurn, sdFade]
    const off =
      kin && !control
        ? offOf(kin, shares, sds, normal, drawn, design.wearless === true)
        : sds.map((sd) => sd * normal())
    truth.set(id, {
      speed,
      glide: published.glide + apart * off[0]!,
      turn: published.turn + apart * off[1]!,
      fade: published.fade + apart * off[2]!,
    })
    return {
      id,
      published,
      body: { ...STANDARD_BODY, massKg: between(0.166, 0.177)() },
      ...(kin ? { kin } : {}),
      ...(control ? { control } : {}),
    }
  })
  const drawHabit = (): SimulatedArm['habit'] => ({
    lnSpeed: 0.08 * bias * normal(),
    launchRad: 2 * DEGREE * bias * normal(),
    hyzerRad: 2 * DEGREE * bias * normal(),
    noseRad: 1.5 * DEGREE * bias * normal(),
  })
  const tiltRad = (design.hyzerByClassDeg ?? 0) * DEGREE
  // true with a mid
  const tilted = (habit: SimulatedArm['habit']) => ({ ...habit, hyzerRad: habit.hyzerRad + 4 * tiltRad })
  const arms: SimulatedArm[] = Array.from({ length: design.throwers ?? 1 }, (_, i) => ({
    fullSpeedMps: referenceSpeed(9) * (1 - 0.08 * i),
    classSlope: ARM_SLOPE + HABIT_SD[HABIT.byClass]! * normal(),
    spinPerMps:
      SPIN_PER_MPS * (unlike('spin') ? 1 + 0.15 * either() : Math.exp(HABIT_SD[HABIT.lnSpin]! * normal())),
    habit: tilted(drawHabit()),
    hyzerSlopeRad: tiltRad,
    spread: USUAL_SPREAD,
    wobble: design.wobble ?? 0,
  }))
  /** The same arms on each outing: what they are, with the habits of that day. */
  const armsOf = Array.from({ length: outings }, (_, o) =>
    o === 0 ? arms : arms.map((arm) => ({ ...arm, habit: tilted(drawHabit()) })),
  )
  const density = airDensity(between(2, 28)(), between(0, 600)())
  const wind = between(1.5, 4)()
  const sides = new Map(
    discs.map((d, i) => {
      const own = oddities(moldOf(i))
      return [d.id, own ? sideTraced(truth.get(d.id)!, own) : sideOf(truth.get(d.id)!)]
    }),
  )
  let front = { along: 0, across: 0 }
  const order = design.throwsOf?.flatMap((n, d) => Array.from({ length: n }, () => d))
  const evidence: ThrowEvidence[] = Array.from({ length: order?.length ?? throws }, (_, i) => {
    const discAt = order ? order[i]! : i % nDiscs
    const disc = discs[discAt]!
    const armAt = Math.floor(i / nDiscs) % arms.length
    const outing = Math.floor((i * outings) / (order?.length ?? throws))
    const turn = order ? i : Math.floor(i / (nDiscs * arms.length))
    const hyzerRad = angles[turn % angles.length]! * DEGREE
    const leg = order ? (i % 2 === 0 ? -1 : 1) : Math.floor((2 * i) / throws) === 0 ? -1 : 1
    const air = {
      densityKgM3: density,
      windAlongMps: leg * wind + 0.3 * normal(),
      windTowardFadeMps: 0.5 * normal(),
      shearExponent: 0,
    }
    // a front lasts for some throws and is gone
    if (unlike('fronts')) {
      const next = (v: number) => 0.7 * v + Math.sqrt(1 - 0.7 ** 2) * 0.8 * normal()
      front = { along: next(front.along), across: next(front.across) }
    }
    const blown = {
      ...air,
      windAlongMps: air.windAlongMps + front.along + gusts * normal(),
      windTowardFadeMps: air.windTowardFadeMps + front.across + gusts * normal(),
    }
    const isBad = uniform() < bad
    const { lostM, notedM = lostM } = design
    // share of the wear that was still to come
    const fresh = outings > 1 ? 1 - outing / (outings - 1) : 0
    const now = truth.get(disc.id)!
    const of = (list: readonly number[] | undefined) =>
      list === undefined ? 0 : fresh * lossOf(now, list[discAt % list.length]!)
    const lost = of(lostM)
    const arm = armsOf[outing]![armAt]!
    const thrown = throwDisc(
      { ...now, turn: now.turn + WEAR_TURNS * lost, fade: now.fade + (1 - WEAR_TURNS) * lost },
      disc.body,
      arm,
      { power: 1, hyzerRad },
      blown,
      uniform,
      oddities(moldOf(discAt)),
    )
    const { hangS } = thrown.landing
    const { carryM, veerM } = markedOf(
      thrown,
      leg * slope,
      unlike('at rest') ? 1 + 4 * uniform() : 0,
      aims[outing]!,
    )
    const [sdCarry, sdVeer] = method === 'paced' ? [0.03 * carryM, 0.03 * Math.abs(veerM) + 0.3] : [1, 1]
    const spoiled = isBad
      ? [carryM * (0.55 + 0.3 * uniform()), veerM + 12 * (uniform() - 0.5) * 2]
      : [carryM, veerM]
    const downM = 0.55 * spoiled[0]!
    return {
      id: `throw-${i}`,
      disc: disc.id,
      arm: outings > 1 ? `arm-${armAt} on ${outing}` : `arm-${armAt}`,
      ...(outings > 1 && { outing: `outing ${outing}` }),
      leg: leg === -1 ? ('out' as const) : ('back' as const),
      power: 1,
      hyzerRad,
      air,
      carryM: Math.max(1, spoiled[0]! + sdCarry! * normal()),
      veerM: spoiled[1]! + sdVeer! * normal(),
      counts: true,
      ...(notedM && { worn: of(notedM) }),
      ...(method ? { method } : {}),
      ...(design.called
        ? {
            hyzerCalledRad: thrown.release.hyzerRad + 1.2 * DEGREE * normal(),
            noseCalledRad: thrown.release.noseRad + 0.8 * DEGREE * normal(),
          }
        : {}),
      ...(design.hang ? { hangS: hangS + 0.25 * normal() } : {}),
      ...(design.watched ? { calls: callsFor(thrown, hyzerRad, normal) } : {}),
      ...(design.recorded
        ? { path: recordingOf(thrown, normal, design.camera ?? 1, uniform() < (design.lost ?? 0)) }
        : {}),
      ...(design.mid ? { mid: { downM, veerM: thrown.sideAt(downM) + 1.5 * normal() } } : {}),
    }
  })
  return {
    evidence: {
      discs,
      arms: armsOf
        .flatMap((list, o) => list.map((a, i) => ({ a, id: outings > 1 ? `arm-${i} on ${o}` : `arm-${i}` })))
        .map(({ a, id }) =>
          design.fullSpeedKnown === false ? { id } : { id, fullSpeedMps: a.fullSpeedMps },
        ),
      throws: evidence,
    },
    truth,
    sides,
    odd: new Map(
      discs.flatMap((d, i) => {
        const own = oddities(moldOf(i))
        return own ? [[d.id, own] as const] : []
      }),
    ),
    aimRad,
    arms,
    wear: drawn.get('wear'),
    shared: drawn,
  }
}
