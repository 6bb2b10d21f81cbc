import { airDensity, REFERENCE_DENSITY } from '../flight/air.ts'
import { STANDARD_BODY } from '../flight/disc.ts'
import { fadeSign, mirrored } from '../flight/hand.ts'
import { DEGREE, RPM } from '../flight/units.ts'
import type { SheetThrow } from '../throw/sheetThrow.ts'
import { usualDrop } from '../shelf/usualWear.ts'
import { wearOf } from '../shelf/wear.ts'
import { UNLOGGED_WIND_SD } from './evidence.ts'
import { isAirCall } from './calls.ts'
import type { AirCall } from './calls.ts'
import type { Arm, Evidence, Kin, RatedDisc, ThrowEvidence } from './evidence.ts'

/** The note of a throw that says what it did in the air. */
export const IN_THE_AIR = 'in_the_air'

/** Between the parts of an arm's name; where a part holds it, it is escaped there. */
const BETWEEN = '|'

/** Names one thrower with one stroke; a person who throws with both hands has more. */
export const armId = (t: Pick<SheetThrow, 'thrower' | 'hand' | 'stroke' | 'habitOf'>): string =>
  [t.thrower, t.hand, t.stroke, ...(t.habitOf === undefined ? [] : [t.habitOf])]
    .map((part) => part.replace(/[%|]/g, encodeURIComponent))
    .join(BETWEEN)

/** Whose an arm is, by the name {@link armId} gave it. */
export function whoseArm(id: string): Pick<SheetThrow, 'thrower' | 'hand' | 'stroke'> {
  const [thrower, hand, stroke] = id.split(BETWEEN).map(decodeURIComponent)
  return { thrower: thrower!, hand: hand as SheetThrow['hand'], stroke: stroke as SheetThrow['stroke'] }
}

/** A day, of an instant. */
const DAY = 'YYYY-MM-DD'.length

const optional = <K extends string, V>(key: K, value: V | undefined): { [P in K]?: V } =>
  (value === undefined ? {} : { [key]: value }) as { [P in K]?: V }

/** The disc of a sheet line as the fit sees it. 175 g where it was not weighed. */
export const ratedDisc = (t: SheetThrow): RatedDisc => ({
  id: t.disc,
  published: { speed: t.speed, glide: t.glide, turn: t.turn, fade: t.fade },
  body: t.weightG === undefined ? STANDARD_BODY : { ...STANDARD_BODY, massKg: t.weightG / 1000 },
  ...(t.mold === undefined
    ? {}
    : {
        kin: { ...kinOf(t.maker, t.mold, t.plastic, t.run), ...optional('wear', t.wear && wearOf(t.wear)) },
      }),
  ...(t.control ? { control: true } : {}),
})

/** What a disc shares with others, by the names on it. */
export const kinOf = (
  maker: string | undefined,
  mold: string,
  plastic: string | undefined,
  run: string | undefined,
): Kin => ({
  mold: maker === undefined ? mold : `${maker} ${mold}`,
  ...optional('plastic', plastic),
  ...optional('run', run),
})

/** One sheet line as evidence: thrower's right becomes the fade side, degrees become radians. */
export function throwEvidence(t: SheetThrow): ThrowEvidence {
  const sign = fadeSign(t.hand, t.stroke)
  const radians = (deg: number | undefined) => (deg === undefined ? undefined : deg * DEGREE)
  return {
    id: t.throw,
    disc: t.disc,
    arm: armId(t),
    ...optional('outing', t.outing ?? t.thrownAt?.slice(0, DAY)),
    ...optional('leg', t.leg),
    fadeSign: sign,
    power: t.power,
    hyzerRad: t.hyzerDeg * DEGREE,
    ...optional('aimRad', t.aimDeg === undefined ? undefined : mirrored(t.aimDeg, sign) * DEGREE),
    air: {
      densityKgM3:
        t.temperatureC === undefined ? REFERENCE_DENSITY : airDensity(t.temperatureC, t.altitudeM ?? 0),
      windAlongMps: t.windAlongMps ?? 0,
      windTowardFadeMps: mirrored(t.windAcrossMps ?? 0, sign),
      shearExponent: 0,
    },
    carryM: t.carryM,
    veerM: mirrored(t.rightM, sign),
    ...optional('windSdMps', t.windAlongMps === undefined ? UNLOGGED_WIND_SD : t.windSdMps),
    ...optional('method', t.method),
    ...(t.midDownM !== undefined && t.midRightM !== undefined
      ? { mid: { downM: t.midDownM, veerM: mirrored(t.midRightM, sign) } }
      : {}),
    ...optional('hangS', t.hangS),
    ...optional('apexM', t.apexM),
    ...optional('releaseSpeedMps', t.releaseSpeedMps),
    ...optional('spinRadps', t.spinRpm === undefined ? undefined : t.spinRpm * RPM),
    ...optional('hyzerCalledRad', radians(t.hyzerCalledDeg)),
    ...optional('noseCalledRad', radians(t.noseCalledDeg)),
    ...optional('launchCalledRad', radians(t.launchCalledDeg)),
    ...optional('watcherSdRad', radians(t.watcherSdDeg)),
    ...optional('calls', callsOf(t)),
    ...optional('path', t.path && { ...t.path, veerM: t.path.veerM.map((m) => mirrored(m, sign)) }),
    counts: t.counts,
  }
}

/** What a watcher called, among whatever was noted of the flight. */
function callsOf(t: SheetThrow): AirCall[] | undefined {
  const calls = (t.notes?.[IN_THE_AIR] ?? '')
    .split(/[,;]/)
    .map((word) => word.trim().toLowerCase())
    .filter(isAirCall)
  return calls.length === 0 ? undefined : calls
}

/**
 * What a disc had usually lost of its stability by a throw, for a disc that wears as its plastic does; undefined where nobody counted
 * what it had been through.
 */
const lostBy = (t: SheetThrow): number | undefined =>
  t.discThrows === undefined
    ? undefined
    : usualDrop(t.plasticKind ?? 'unknown', { throws: t.discThrows, hardHits: t.discHits ?? 0 })

/**
 * A field sheet as evidence: discs and arms in the order they first appear. A disc is what it was when it was last thrown.
 *
 * @param throws lines that agree on every disc's numbers and every arm's full speed
 * @param also discs of the trial that nobody has thrown yet
 */
export function evidenceOf(throws: readonly SheetThrow[], also: readonly RatedDisc[] = []): Evidence {
  const discs = new Map<string, RatedDisc>(also.map((d) => [d.id, d]))
  const arms = new Map<string, Arm>()
  const lost = new Map<string, number>()
  for (const t of throws) {
    lost.set(t.disc, Math.max(lost.get(t.disc) ?? 0, lostBy(t) ?? 0))
    if (!discs.has(t.disc)) discs.set(t.disc, ratedDisc(t))
    const id = armId(t)
    if (!arms.has(id)) arms.set(id, { id, ...optional('fullSpeedMps', t.fullSpeedMps) })
  }
  const evidence = (t: SheetThrow): ThrowEvidence => {
    const then = lostBy(t)
    const worn = then === undefined ? 0 : lost.get(t.disc)! - then
    return { ...throwEvidence(t), ...optional('worn', worn > 0 ? worn : undefined) }
  }
  return { discs: [...discs.values()], arms: [...arms.values()], throws: throws.map(evidence) }
}
