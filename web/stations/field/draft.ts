import { v7 as newId } from 'uuid'
import { Throw } from '../../../contract/trials.ts'
import type { Session, Thrower, ThrowPath } from '../../../contract/trials.ts'
import type { SheetThrow } from '../../../core/formats/sheet.ts'
import { gramsOf, recordedOf } from '../../../contract/sheet.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'

/** What holds from throw to throw until somebody changes it. */
export interface Standing {
  readonly throwerId: string
  readonly stroke: Throw['stroke']
  readonly power: number
  readonly sessionId: string
  readonly windAlongMps: number | null
  readonly windAcrossMps: number | null
  /** How far gusts may have taken it from that, where they were logged. */
  readonly windSdMps: number | null
}

/** What is seen of one throw; everything starts as “not observed”. */
export interface Seen {
  readonly landing: { readonly carryM: number; readonly rightM: number } | null
  readonly mid: { readonly downM: number; readonly rightM: number } | null
  readonly hyzerCalledDeg: number | null
  readonly noseCalledDeg: number | null
  readonly launchCalledDeg: number | null
  readonly releaseSpeedMps: number | null
  readonly hangS: number | null
  readonly apexM: number | null
  readonly groundM: number | null
  /** The flight as a camera recorded it. */
  readonly path: ThrowPath | null
  readonly counts: boolean
  readonly whyNot: string | null
  /** Things said of the throw that the numbers do not use yet: how it came out, what it did in the air. */
  readonly notes: Readonly<Record<string, string>>
}

export const NOTHING_SEEN: Seen = {
  landing: null,
  mid: null,
  hyzerCalledDeg: null,
  noseCalledDeg: null,
  launchCalledDeg: null,
  releaseSpeedMps: null,
  hangS: null,
  apexM: null,
  groundM: null,
  path: null,
  counts: true,
  whyNot: null,
  notes: {},
}

export const NOSES = [
  { value: -3, label: 'down' },
  { value: 0, label: 'level' },
  { value: 3, label: 'up' },
  { value: 6, label: 'high' },
] as const
export const HEIGHTS = [
  { value: 7, label: 'low' },
  { value: 10.4, label: 'as meant' },
  { value: 14, label: 'high' },
] as const
/** Why a throw that warms the arm does not count. */
export const WARM_UP = 'warm-up'
export const WHY_NOT = ['hit a branch', 'gust', 'slipped', 'not my throw'] as const

/** What was seen of a throw already stored, for editing it. */
export const seenOf = (t: Throw): Seen => ({
  landing: { carryM: t.carryM, rightM: t.rightM },
  mid: t.midDownM === null || t.midRightM === null ? null : { downM: t.midDownM, rightM: t.midRightM },
  hyzerCalledDeg: t.hyzerCalledDeg,
  noseCalledDeg: t.noseCalledDeg,
  launchCalledDeg: t.launchCalledDeg,
  releaseSpeedMps: t.releaseSpeedMps,
  hangS: t.hangS,
  apexM: t.apexM,
  groundM: t.groundM,
  path: t.path,
  counts: t.counts,
  whyNot: t.whyNot,
  notes: t.notes,
})

export const standingOf = (t: Throw): Standing => ({
  throwerId: t.throwerId,
  stroke: t.stroke,
  power: t.power,
  sessionId: t.sessionId,
  windAlongMps: t.windAlongMps,
  windAcrossMps: t.windAcrossMps,
  windSdMps: t.windSdMps,
})

export interface Meant {
  readonly discId: string
  readonly hyzerDeg: number
}

/** Reads a draft as a throw to keep, or says what is missing or out of range. */
export function toThrow(
  trialId: string,
  meant: Meant,
  standing: Standing,
  seen: Seen,
  thrower: Thrower,
  old: Throw | undefined,
): { readonly ok: true; readonly row: Throw } | { readonly ok: false; readonly why: string } {
  if (!seen.landing) return { ok: false, why: 'Tap where it landed first.' }
  const { landing, mid, ...rest } = seen
  const read = Throw.safeParse({
    id: old?.id ?? newId(),
    trialId,
    ...meant,
    ...standing,
    label: old?.label ?? null,
    thrownAt: old?.thrownAt ?? new Date().toISOString(),
    hand: old && old.throwerId === thrower.id ? old.hand : thrower.hand,
    ...rest,
    whyNot: seen.counts ? null : seen.whyNot,
    carryM: round(landing.carryM),
    rightM: round(landing.rightM),
    midDownM: mid && round(mid.downM),
    midRightM: mid && round(mid.rightM),
    takenBackAt: old?.takenBackAt ?? null,
    version: old?.version ?? 0,
  })
  if (read.success) return { ok: true, row: read.data }
  const [issue] = read.error.issues
  return {
    ok: false,
    why: `${FIELD_WORDS[String(issue!.path[0])] ?? String(issue!.path[0])} ${issue!.message}.`,
  }
}

/** To the decimetre: nobody measures closer. */
const round = (m: number) => Math.round(m * 10) / 10 + 0

const FIELD_WORDS: Record<string, string> = {
  carryM: 'The landing',
  rightM: 'The distance off the line',
  hyzerDeg: 'The release angle',
  hyzerCalledDeg: 'The angle out of the hand',
  windAlongMps: 'The wind along',
  windAcrossMps: 'The wind across',
  midDownM: 'The bend',
  midRightM: 'The bend',
  hangS: 'The hang time',
  apexM: 'The height at the top',
  groundM: 'The ground play',
  releaseSpeedMps: 'The release speed',
  power: 'The power',
}

/** A draft as a line of the sheet, for drawing its path before it is kept. */
export function draftLine(
  disc: ShelvedDisc,
  thrower: Thrower,
  session: Session | undefined,
  meant: Meant,
  standing: Standing,
  seen: Seen,
): SheetThrow {
  const full = standing.stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps
  const line = {
    throw: 'draft',
    thrower: thrower.name,
    hand: thrower.hand,
    stroke: standing.stroke,
    disc: disc.disc.code,
    ...disc.inForce.numbers,
    weightG: gramsOf(disc.disc),
    fullSpeedMps: full,
    power: standing.power,
    hyzerDeg: meant.hyzerDeg,
    hyzerCalledDeg: seen.hyzerCalledDeg,
    noseCalledDeg: seen.noseCalledDeg,
    launchCalledDeg: seen.launchCalledDeg,
    windAlongMps: standing.windAlongMps,
    windAcrossMps: standing.windAcrossMps,
    windSdMps: standing.windSdMps,
    temperatureC: session?.temperatureC,
    altitudeM: session?.altitudeM,
    carryM: seen.landing?.carryM ?? 1,
    rightM: seen.landing?.rightM ?? 0,
    midDownM: seen.mid?.downM,
    midRightM: seen.mid?.rightM,
    hangS: seen.hangS,
    apexM: seen.apexM,
    path: seen.path && recordedOf(seen.path),
    counts: seen.counts,
  }
  return Object.fromEntries(
    Object.entries(line).filter(([, v]) => v !== null && v !== undefined),
  ) as unknown as SheetThrow
}
