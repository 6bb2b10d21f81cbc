import { WHY_NOT } from '../../../core/throw/whyNot.ts'
import type { AIR_CALLS } from '../../../core/rating/calls.ts'
import { IN_THE_AIR } from '../../../core/rating/fromSheet.ts'
import type { Proposed } from './useQueue.ts'
import { THROWN_BY } from '../../../core/throw/simulated.ts'
import { SHEET_RANGE } from '../../../core/throw/ranges.ts'
import type { VolunteerReport } from '../../../contract/devices.ts'
import type { Session, Throw } from '../../../contract/trials.ts'
import { landingOf, NOTHING_SEEN } from './draft.ts'
import type { Meant, Seen, FieldStanding } from './draft.ts'

/** Everything the field knows of the throw being logged, and what holds until the next. */
export interface Logging {
  /** Of the throw that is logged: it is one throw however often it is kept. */
  readonly id: string
  readonly session: Session
  readonly standing: FieldStanding
  readonly seen: Seen
  /** What somebody asked for instead of what was proposed. */
  readonly asked: Partial<Meant>
  /** The power that was asked for with it: the plan, should it come up meanwhile, does not change it. */
  readonly askedPower: number | undefined
  /** Proposed throws that were put off. */
  readonly putOff: number
  /** When the stopwatch was started, ms; and whether it runs. */
  readonly startedAt: number | undefined
  readonly timing: boolean
  /** When a landing was first put down, ms. */
  readonly landedAt: number | undefined
  /** The throw of the plan that stroke, power and thrower were taken from. */
  readonly followed: string | undefined
  /** The arm is warm: what the plan still has of warm-up throws is passed over. */
  readonly warm: boolean
  /** Throws kept on this screen so far: what others keep meanwhile changes nothing of the one being logged. */
  readonly kept: number
}

/** What can happen while a throw is logged. */
export type FieldEvent =
  /** Something of it was seen; `meant` is the angle asked for as it stood, `at` now, ms. */
  | {
      readonly type: 'seen'
      readonly change: Partial<Seen>
      readonly meantDeg: number
      readonly discId?: string
      readonly at: number
    }
  /** What holds from throw to throw was changed. */
  | { readonly type: 'stood'; readonly change: Partial<FieldStanding> }
  /** Another throw is wanted than the one proposed. */
  | {
      readonly type: 'chosen'
      readonly meant: Partial<Meant>
      readonly power?: number
      /** Right of the line. */
      readonly aimDeg?: number | null
    }
  /** Something of the throw is wanted otherwise. */
  | { readonly type: 'asked'; readonly change: Partial<Meant> }
  | { readonly type: 'putOff' }
  | { readonly type: 'warmedUp' }
  /** What comes is counted anew: nothing chosen, nothing put off. */
  | { readonly type: 'restarted' }
  | { readonly type: 'outing'; readonly session: Session }
  /** The thrower turned round: the wind is the other way. */
  | { readonly type: 'turned' }
  /** The stopwatch key; `at` now, ms. */
  | { readonly type: 'clocked'; readonly at: number }
  /** The angle out of the hand, by degrees, from what was meant where nothing was called. */
  | { readonly type: 'angled'; readonly by: number; readonly meantDeg: number }
  | { readonly type: 'counted' }
  /** What was seen of it was nothing: it is to land again; with the id it has then. */
  | { readonly type: 'cleared'; readonly nextId: string }
  /** What a watcher called of it in the air, or took back. */
  | { readonly type: 'called'; readonly word: (typeof AIR_CALLS)[number] }
  /** The plan’s next throw came up. */
  | { readonly type: 'followed'; readonly step: string; readonly change: Partial<FieldStanding> }
  | { readonly type: 'volunteered'; readonly thrown: VolunteerReport; readonly at: number }
  /** It was kept; with the id of the next. */
  | { readonly type: 'kept'; readonly nextId: string }

/** Calls of the angle out of the hand end here, degrees. */
const STEEPEST_CALLED = 45

export const startLogging = (
  id: string,
  session: Session,
  standing: FieldStanding,
  seen: Seen = NOTHING_SEEN,
  asked: Partial<Meant> = {},
): Logging => ({
  id,
  session,
  standing,
  seen,
  asked,
  askedPower: undefined,
  putOff: 0,
  startedAt: undefined,
  timing: false,
  landedAt: undefined,
  followed: undefined,
  warm: false,
  kept: 0,
})

/** Which way the thrower faces: out along the aim line until somebody turned. */
export const legOf = ({ standing }: Logging): NonNullable<Throw['leg']> => standing.leg ?? 'out'

/**
 * Stroke, power and thrower follow the plan from throw to throw; within a throw they are the person’s to change.
 *
 * @param turn whose turn it is where the plan does not say
 * @returns undefined where that was followed already
 */
export function followedPlan(
  { kept, putOff, followed }: Logging,
  { disc, hyzerDeg, stroke, power, throwerId }: Proposed,
  throwers: readonly { readonly id: string }[],
  turn: string | undefined,
): FieldEvent | undefined {
  const step = `${kept} ${putOff} ${disc} ${hyzerDeg}`
  if (followed === step) return undefined
  const who = throwerId ?? turn
  const change = {
    ...(stroke !== undefined && { stroke }),
    ...(power !== undefined && { power }),
    ...(who !== undefined && throwers.some((t) => t.id === who) && { throwerId: who }),
  }
  return { type: 'followed', step, change }
}

/** What the air calls of a throw are. */
export const airCalls = (seen: Seen): string[] => (seen.notes[IN_THE_AIR] ?? '').split(', ').filter(Boolean)

/** A throw being logged after something happened. */
export function logging(state: Logging, event: FieldEvent): Logging {
  switch (event.type) {
    case 'seen':
      return seenNow(state, event.change, event, event.at)
    case 'stood':
      return {
        ...state,
        // what is changed by hand is what is asked for from then on
        askedPower: state.askedPower === undefined ? undefined : (event.change.power ?? state.askedPower),
        standing: { ...state.standing, ...event.change },
      }
    case 'chosen':
      return withPower(aimed({ ...state, asked: event.meant, askedPower: event.power }, event.aimDeg ?? null))
    case 'asked':
      return { ...state, asked: { ...state.asked, ...event.change } }
    case 'putOff':
      return aimed({ ...state, asked: {}, askedPower: undefined, putOff: state.putOff + 1 }, null)
    case 'warmedUp':
      return { ...state, warm: true, putOff: 0 }
    case 'restarted':
      return aimed({ ...state, asked: {}, askedPower: undefined, putOff: 0 }, null)
    case 'outing':
      return { ...state, session: event.session }
    case 'turned':
      return { ...state, standing: turnedRound(state.standing, legOf(state)) }
    case 'clocked':
      return clocked(state, event.at)
    case 'angled': {
      const from = state.seen.hyzerCalledDeg ?? event.meantDeg
      const hyzerCalledDeg = Math.max(-STEEPEST_CALLED, Math.min(STEEPEST_CALLED, from + event.by))
      return { ...state, seen: { ...state.seen, hyzerCalledDeg } }
    }
    case 'counted':
      return {
        ...state,
        seen: state.seen.counts
          ? { ...state.seen, counts: false, whyNot: WHY_NOT[0] }
          : { ...state.seen, counts: true, whyNot: null },
      }
    case 'cleared':
      return {
        ...startLogging(event.nextId, state.session, state.standing),
        ...{ asked: state.asked, askedPower: state.askedPower, putOff: state.putOff },
        ...{ followed: state.followed, kept: state.kept, warm: state.warm },
      }
    case 'called':
      return { ...state, seen: { ...state.seen, notes: calledIn(state.seen, event.word) } }
    case 'followed':
      return withPower({
        ...state,
        followed: event.step,
        standing: { ...state.standing, ...event.change },
      })
    case 'volunteered':
      return volunteered(state, event.thrown, event.at)
    case 'kept':
      return {
        ...startLogging(event.nextId, state.session, state.standing),
        followed: state.followed,
        warm: state.warm,
        kept: state.kept + 1,
      }
  }
}

/** Another throw has an aim of its own; one that has landed was aimed as it was. */
const aimed = (state: Logging, aimDeg: number | null): Logging =>
  landingOf(state.seen) ? state : { ...state, seen: { ...state.seen, aimDeg } }

/** With the power that was asked for, where one was. */
const withPower = (state: Logging): Logging =>
  state.askedPower === undefined
    ? state
    : { ...state, standing: { ...state.standing, power: state.askedPower } }

function seenNow(
  state: Logging,
  change: Partial<Seen>,
  { meantDeg, discId }: { readonly meantDeg: number; readonly discId?: string },
  at: number,
): Logging {
  const seen = { ...state.seen, ...change }
  if (landingOf(state.seen) || !landingOf(seen)) return { ...state, seen }
  // what was asked of a throw that has landed no longer follows the wind, nor what others throw meanwhile
  const disc = state.asked.discId ?? discId
  return {
    ...state,
    seen,
    landedAt: at,
    asked: {
      ...state.asked,
      hyzerDeg: state.asked.hyzerDeg ?? meantDeg,
      ...(disc !== undefined && { discId: disc }),
    },
  }
}

const turnedRound = (standing: FieldStanding, leg: NonNullable<Throw['leg']>): FieldStanding => ({
  ...standing,
  leg: leg === 'out' ? 'back' : 'out',
  windAlongMps: negated(standing.windAlongMps),
  windAcrossMps: negated(standing.windAcrossMps),
})
const negated = (v: number | null) => (v === null ? null : -v + 0)

/** First press starts the stopwatch, the next one reads it; what no flight lasts is held to what one may. */
function clocked(state: Logging, at: number): Logging {
  if (!state.timing) return { ...state, startedAt: at, timing: true }
  const [least, most] = SHEET_RANGE.hangS
  const tenths = Math.round((at - state.startedAt!) / 100) / 10
  return {
    ...state,
    timing: false,
    seen: { ...state.seen, hangS: Math.min(most, Math.max(least, tenths)) },
  }
}

function calledIn(seen: Seen, word: string): Seen['notes'] {
  const said = airCalls(seen)
  const { [IN_THE_AIR]: _, ...rest } = seen.notes
  const next = said.includes(word) ? said.filter((w) => w !== word) : [...said, word]
  return next.length === 0 ? rest : { ...rest, [IN_THE_AIR]: next.join(', ') }
}

function volunteered(state: Logging, thrown: VolunteerReport, at: number): Logging {
  return {
    ...state,
    startedAt: at - 1000 * thrown.hangS,
    seen: {
      ...state.seen,
      carryM: thrown.carryM,
      rightM: thrown.rightM,
      midDownM: null,
      midRightM: null,
      hangS: thrown.hangS,
      hyzerCalledDeg: thrown.hyzerCalledDeg,
      path: thrown.path,
      notes: { ...state.seen.notes, [THROWN_BY]: thrown.device },
    },
  }
}

/** A landing is put down about this long after the release, ms. */
const NOTICED_AFTER_MS = 6000

/** When it was released, as near as anybody knows, ms. */
export const releasedAt = ({ startedAt, landedAt }: Logging, now: number): number =>
  startedAt ?? (landedAt ?? now) - NOTICED_AFTER_MS
