import { randomLcg, randomNormal, randomUniform } from 'd3'
import { airDensity } from '../../core/flight/air.ts'
import { pathFeatures, pathPoints } from '../../core/flight/path.ts'
import { calledBanks, WATCHER_SD } from '../../core/rating/calls.ts'
import type { AirCall } from '../../core/rating/calls.ts'
import { RECORDING } from '../../core/rating/recorded.ts'
import type { RecordedPath } from '../../core/rating/recorded.ts'
import { STANDARD_BODY } from '../../core/flight/disc.ts'
import type { FlightNumbers } from '../../core/flight/disc.ts'
import { DEGREE, referenceSpeed } from '../../core/flight/release.ts'
import { CONTROL_PRIOR_SD, DISC_PRIOR_SD } from '../../core/rating/evidence.ts'
import type { Evidence, Kin, MeasuringMethod, RatedDisc, ThrowEvidence } from '../../core/rating/evidence.ts'
import { SHARE, WEAR_PRIOR } from '../../core/rating/kin.ts'
import type { SpreadLevel } from '../../core/rating/kin.ts'
import { throwDisc, USUAL_SPREAD } from '../../core/simulate/thrower.ts'
import type { SimulatedArm, SimulatedThrow } from '../../core/simulate/thrower.ts'

/** A session made up with known truth. */
export interface SimulatedSession {
  readonly evidence: Evidence
  /** True numbers by disc id. */
  readonly truth: ReadonlyMap<string, FlightNumbers>
  readonly arms: readonly SimulatedArm[]
}

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
  /** The first disc is a control disc: its numbers are near what is published. */
  readonly control?: boolean
  /** Where each disc comes from: its truth is then drawn level by level, and kin share what they share. */
  readonly kin?: readonly Kin[]
  /** Share of the variance at each level, if not as the rating believes. */
  readonly shares?: Readonly<Record<SpreadLevel, number>>
  /** How often each disc is thrown, if not alike. */
  readonly throwsOf?: readonly number[]
  /** Spread of the truth about the published numbers, as a share of the prior's. */
  readonly apart?: number
}

/** A disc's difference from its label, drawn level by level; kin draw each shared level once. */
function offOf(
  kin: Kin,
  shares: Readonly<Record<SpreadLevel, number>>,
  sds: readonly number[],
  normal: () => number,
  drawn: Map<string, number[]>,
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
    once('wear', () => WEAR_PRIOR.mean.map((m, k) => m + WEAR_PRIOR.sd[k]! * normal())).map(
      (w) => (kin.wear ?? 0) * w,
    ),
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
function recordingOf({ path }: SimulatedThrow, normal: () => number): RecordedPath {
  const points = pathPoints(path, Math.max(2, Math.round(30 * path.hangS)))
  const error = (sd: { stretch: number; point: number; overM: number }) => {
    let drift = sd.stretch * normal()
    let before = 0
    return (x: number) => {
      const keep = Math.exp(-Math.abs(x - before) / sd.overM)
      before = x
      drift = keep * drift + Math.sqrt(1 - keep * keep) * sd.stretch * normal()
      return drift + sd.point * normal()
    }
  }
  const [side, height, time] = [error(RECORDING.side), error(RECORDING.height), error(RECORDING.time)]
  return {
    downM: points.map((p) => p.x),
    veerM: points.map((p) => p.y + side(p.x)),
    upM: points.map((p) => p.z + height(p.x)),
    timeS: points.map((p) => p.t + time(p.x)),
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
  const labels = new Map<string, { turn: number; fade: number }>()
  const discs: RatedDisc[] = Array.from({ length: nDiscs }, (_, i) => {
    const own = {
      turn: Math.round(between(-2.5, 0)() * 2) / 2,
      fade: Math.round(between(1, 3)() * 2) / 2,
    }
    // discs of one mold carry one label
    const mold = design.kin?.[i]?.mold ?? `disc ${i}`
    if (!labels.has(mold)) labels.set(mold, own)
    const published = { speed: 9, glide: 5, ...labels.get(mold)! }
    const id = `disc-${i}`
    const control = design.control === true && i === 0
    const [sdGlide, sdTurn, sdFade] = control ? CONTROL_PRIOR_SD : DISC_PRIOR_SD
    const apart = design.apart ?? 1
    const kin = design.kin?.[i]
    const sds = [sdGlide, sdTurn, sdFade]
    const off = kin && !control ? offOf(kin, shares, sds, normal, drawn) : sds.map((sd) => sd * normal())
    truth.set(id, {
      speed: 9,
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
  const arms: SimulatedArm[] = Array.from({ length: design.throwers ?? 1 }, (_, i) => ({
    fullSpeedMps: referenceSpeed(9) * (1 - 0.08 * i),
    habit: {
      lnSpeed: 0.08 * bias * normal(),
      launchRad: 2 * DEGREE * bias * normal(),
      hyzerRad: 2 * DEGREE * bias * normal(),
      noseRad: 1.5 * DEGREE * bias * normal(),
    },
    spread: USUAL_SPREAD,
    wobble: design.wobble ?? 0,
  }))
  const density = airDensity(between(2, 28)(), between(0, 600)())
  const wind = between(1.5, 4)()
  const order = design.throwsOf?.flatMap((n, d) => Array.from({ length: n }, () => d))
  const evidence: ThrowEvidence[] = Array.from({ length: order?.length ?? throws }, (_, i) => {
    const disc = discs[order ? order[i]! : i % nDiscs]!
    const armAt = Math.floor(i / nDiscs) % arms.length
    const turn = order ? i : Math.floor(i / (nDiscs * arms.length))
    const hyzerRad = angles[turn % angles.length]! * DEGREE
    const leg = order ? (i % 2 === 0 ? -1 : 1) : Math.floor((2 * i) / throws) === 0 ? -1 : 1
    const air = {
      densityKgM3: density,
      windAlongMps: leg * wind + 0.3 * normal(),
      windTowardFadeMps: 0.5 * normal(),
      shearExponent: 0,
    }
    const blown = {
      ...air,
      windAlongMps: air.windAlongMps + gusts * normal(),
      windTowardFadeMps: air.windTowardFadeMps + gusts * normal(),
    }
    const isBad = uniform() < bad
    const arm = arms[armAt]!
    const thrown = throwDisc(truth.get(disc.id)!, disc.body, arm, { power: 1, hyzerRad }, blown, uniform)
    const { carryM, veerM, hangS } = thrown.landing
    const [sdCarry, sdVeer] = method === 'paced' ? [0.03 * carryM, 0.03 * Math.abs(veerM) + 0.3] : [1, 1]
    const spoiled = isBad
      ? [carryM * (0.55 + 0.3 * uniform()), veerM + 12 * (uniform() - 0.5) * 2]
      : [carryM, veerM]
    const downM = 0.55 * spoiled[0]!
    return {
      id: `throw-${i}`,
      disc: disc.id,
      arm: `arm-${armAt}`,
      power: 1,
      hyzerRad,
      air,
      carryM: Math.max(1, spoiled[0]! + sdCarry! * normal()),
      veerM: spoiled[1]! + sdVeer! * normal(),
      counts: true,
      ...(method ? { method } : {}),
      ...(design.called
        ? {
            hyzerCalledRad: thrown.release.hyzerRad + 1.2 * DEGREE * normal(),
            noseCalledRad: thrown.release.noseRad + 0.8 * DEGREE * normal(),
          }
        : {}),
      ...(design.hang ? { hangS: hangS + 0.25 * normal() } : {}),
      ...(design.watched ? { calls: callsFor(thrown, hyzerRad, normal) } : {}),
      ...(design.recorded ? { path: recordingOf(thrown, normal) } : {}),
      ...(design.mid ? { mid: { downM, veerM: thrown.sideAt(downM) + 1.5 * normal() } } : {}),
    }
  })
  return {
    evidence: {
      discs,
      arms: arms.map((a, i) =>
        design.fullSpeedKnown === false
          ? { id: `arm-${i}` }
          : { id: `arm-${i}`, fullSpeedMps: a.fullSpeedMps },
      ),
      throws: evidence,
    },
    truth,
    arms,
  }
}
