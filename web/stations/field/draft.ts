import { observedOf, OBSERVED_KEYS, present } from '../../../core/throw/observed.ts'
import type { Observed, ObservedKey } from '../../../core/throw/observed.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { Throw } from '../../../contract/trials.ts'
import type { Session, Thrower } from '../../../contract/trials.ts'
import { gramsOf, recordedOf } from '../../../contract/sheet.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { wrongWords } from '../../../contract/words.ts'

/** Of what can be observed of a throw, what holds from throw to throw until somebody changes it. */
const STANDS = ['stroke', 'leg', 'power', 'windAlongMps', 'windAcrossMps', 'windSdMps'] as const
/** And what is asked of it or belongs to its arm. Everything else is seen of one throw. */
const ASKED = ['hand', 'hyzerDeg'] as const
type StandsKey = (typeof STANDS)[number]
type SeenOfOne = Exclude<ObservedKey, StandsKey | (typeof ASKED)[number]>

const SEEN_OF_ONE = OBSERVED_KEYS.filter(
  (k): k is SeenOfOne => !([...STANDS, ...ASKED] as ObservedKey[]).includes(k),
)
const picked = <K extends ObservedKey>(keys: readonly K[], t: Observed) =>
  Object.fromEntries(keys.map((k) => [k, t[k]])) as unknown as Pick<Observed, K>

/** What holds from throw to throw until somebody changes it. */
export interface FieldStanding extends Pick<Observed, StandsKey> {
  readonly throwerId: string
  readonly sessionId: string
}

/** What is seen of one throw; everything starts as “not observed”. */
export type Seen = { readonly [K in Exclude<SeenOfOne, 'counts'>]: Observed[K] | null } & {
  readonly counts: boolean
} & Pick<Throw, 'path' | 'notes'>

export const NOTHING_SEEN: Seen = {
  ...(Object.fromEntries(SEEN_OF_ONE.map((k) => [k, null])) as unknown as { [K in SeenOfOne]: null }),
  counts: true,
  path: null,
  notes: {},
}

export interface DraftSpot {
  readonly carryM: number
  readonly rightM: number
}
/** Where it landed, once that is known. */
export const landingOf = ({ carryM, rightM }: Seen): DraftSpot | null =>
  carryM === null || rightM === null ? null : { carryM, rightM }
/** Where it bent, once that is known. */
export const draftBend = ({ midDownM, midRightM }: Seen) =>
  midDownM === null || midRightM === null ? null : { downM: midDownM, rightM: midRightM }

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

/** What was seen of a throw already stored, for editing it. */
export const seenOf = (t: Throw): Seen => ({ ...picked(SEEN_OF_ONE, t), path: t.path, notes: t.notes })

export const fieldStandingOf = (t: Throw): FieldStanding => ({
  ...picked(STANDS, t),
  throwerId: t.throwerId,
  sessionId: t.sessionId,
})

export interface Meant {
  readonly discId: string
  readonly hyzerDeg: number
}

/** Reads a draft as a throw to keep, or says what is missing or out of range. @param id its own; that of the throw it changes */
export function toThrow(
  id: string,
  trialId: string,
  meant: Meant,
  standing: FieldStanding,
  seen: Seen,
  thrower: Thrower,
  old: Throw | undefined,
  now: string,
): { readonly ok: true; readonly row: Throw } | { readonly ok: false; readonly why: string } {
  if (!landingOf(seen)) return { ok: false, why: 'Tap where it landed first.' }
  const read = Throw.safeParse({
    id,
    trialId,
    ...meant,
    ...standing,
    label: old?.label ?? null,
    thrownAt: old?.thrownAt ?? now,
    hand: handOf(thrower, old),
    ...seen,
    whyNot: seen.counts ? null : seen.whyNot,
    carryM: decimetres(seen.carryM),
    rightM: decimetres(seen.rightM),
    midDownM: decimetres(seen.midDownM),
    midRightM: decimetres(seen.midRightM),
    takenBackAt: old?.takenBackAt ?? null,
    version: old?.version ?? 0,
  })
  return read.success
    ? { ok: true, row: read.data }
    : { ok: false, why: `${wrongWords(read.error.issues[0]!)}.` }
}

/** The hand it was thrown with; of a throw already made, the hand of that day. */
const handOf = (thrower: Thrower, old: Throw | undefined) =>
  old && old.throwerId === thrower.id ? old.hand : thrower.hand

/** To the decimetre: nobody measures closer. */
const decimetres = (m: number | null) => m && Math.round(m * 10) / 10 + 0

/** A draft as a line of the sheet, for drawing its path before it is kept. */
export function draftLine(
  disc: ShelvedDisc,
  thrower: Thrower,
  session: Session | undefined,
  meant: Meant,
  standing: FieldStanding,
  seen: Seen,
): SheetThrow {
  const observed = observedOf({
    ...standing,
    ...seen,
    hand: thrower.hand,
    hyzerDeg: meant.hyzerDeg,
    // what is forecast does not depend on where it lands
    carryM: seen.carryM ?? 1,
    rightM: seen.rightM ?? 0,
  })
  return present({
    throw: 'draft',
    thrower: thrower.name,
    disc: disc.disc.code,
    ...disc.inForce.numbers,
    weightG: gramsOf(disc.disc),
    fullSpeedMps: standing.stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps,
    ...observed,
    temperatureC: session?.temperatureC,
    altitudeM: session?.altitudeM,
    path: seen.path && recordedOf(seen.path),
    notes: seen.notes,
  })
}
