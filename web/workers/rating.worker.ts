import { expose } from 'comlink'
import { ranksOf, settlingsOf } from '../../core/judge/card.ts'
import { correctedFlight } from '../../core/judge/corrected.ts'
import type { CorrectedFlight, ThrownHow } from '../../core/judge/corrected.ts'
import type { PlanPoint } from '../../core/flight/path.ts'
import { pathAsThrown } from '../../core/rating/asThrown.ts'
import { forecastThrow } from '../../core/judge/forecast.ts'
import type { PlannedThrow } from '../../core/rating/asThrown.ts'
import type { Forecast } from '../../core/judge/forecast.ts'
import type { Protocol } from '../../core/plan/order.ts'
import type { TellingPlan } from '../../core/plan/telling.ts'
import type { Candidate } from '../../core/plan/information.ts'
import type { Asked, NamedArm } from '../../core/judge/answers/answer.ts'
import type { Answer, Answered } from '../../core/judge/answers/answerOf.ts'
import { answerOf } from '../../core/judge/answers/answerOf.ts'
import type { ShortPlay } from '../../core/judge/answers/shortGame.ts'
import type { Preferences } from '../../contract/preferences.ts'
import { unitsOf, wordingOf } from '../data/units.ts'
import { openAims } from '../../core/judge/asked.ts'
import { aimsOf } from '../../core/plan/ask.ts'
import type { Ask } from '../../core/plan/ask.ts'
import { tellingThrows, worthOf } from '../../core/plan/telling.ts'
import { kindsLike, meantBy } from '../../core/judge/kinds.ts'
import { limitsOf, openPair } from '../../core/judge/limits.ts'
import type { Limit } from '../../core/judge/limits.ts'
import type { PlanQuestion } from '../../core/plan/weighed.ts'
import { lineAngles } from '../../core/judge/sameLine.ts'
import type { Settling } from '../../core/judge/resolve.ts'
import { matchedThrows } from '../../core/judge/matched.ts'
import type { MatchedThrows } from '../../core/judge/matched.ts'
import { judgeSaid } from '../../core/review/judged.ts'
import type { Judged } from '../../core/review/judged.ts'
import type { SaidClaim } from '../../core/review/saidClaims.ts'
import { judgeClaim } from '../../core/judge/claims.ts'
import type { BuiltClaim, JudgedClaim } from '../../core/judge/claims.ts'
import { behindOf } from '../../core/judge/behind.ts'
import type { Behind } from '../../core/judge/behind.ts'
import { againstEye } from '../../core/judge/eye.ts'
import type { AgainstEye } from '../../core/judge/eye.ts'
import type { Spread } from '../../core/judge/likeness.ts'
import { armSpeed, armSpread, busiestArm, flewLike } from '../../core/judge/flewLike.ts'
import { Heard } from './lines.ts'
import type { Lines } from './lines.ts'
import { slippedThrows } from '../../core/judge/slips.ts'
import type { SlippedThrow } from '../../core/judge/slips.ts'
import { turnedWinds, windTurned } from '../../core/judge/turnedWind.ts'
import type { TurnedWind } from '../../core/judge/turnedWind.ts'
import { explainThrow } from '../../core/judge/why.ts'
import type { Why } from '../../core/judge/why.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import type { Arm, RatedDisc, ThrowEvidence } from '../../core/rating/evidence.ts'
import type { LeftOut } from '../../core/rating/digest.ts'
import { fit, fitting } from '../../core/rating/fit.ts'
import type { FitState } from '../../core/rating/state.ts'
import { armId, evidenceOf } from '../../core/rating/fromSheet.ts'
import { outingOf } from '../../core/rating/warm.ts'
import { thinned } from '../../core/rating/thinned.ts'
import { outcomeAbout } from '../../core/rating/known.ts'
import { outcomeOf } from '../../core/rating/outcome.ts'
import type { DiscRanks, Outcome } from '../../core/rating/outcome.ts'

/** A throw the way it most likely flew. */
export interface ThrownPath {
  readonly throw: string
  readonly path: readonly PlanPoint[]
}
/** As many of the latest throws come with a reading. */
const LATEST = 40
/**
 * Of more throws than this a first reading is shown until the answer is there: one that begins where the last one ended, or where
 * there was none is made from as many as can be weighed at once. An answer itself begins at nothing, so that the same throws give
 * the same, however they came.
 */
const MANY = 600
const FIRST_LOOK = 90

/** Everything a screen shows of a trial's throws. */
export interface Reading {
  /** Counts readings: another number is another reading. */
  readonly serial: number
  readonly outcome: Outcome
  /** Ranks of the discs asked about: all but the control disc. */
  readonly ranks: readonly DiscRanks[]
  readonly corrected: readonly CorrectedFlight[]
  /** The latest throws the way they most likely flew; all of them are asked for with {@link rating.paths}. */
  readonly asThrown: readonly ThrownPath[]
  /** Throws that could not be weighed; the rest was, without them. */
  readonly leftOut: readonly LeftOut[]
  /** How long the fit took, ms. */
  readonly tookMs: number
  /** How many throws a first reading is made from, while the answer is worked out; undefined of the answer. */
  readonly firstFrom: number | undefined
}

/** What more throws would do for the pairs that are open. */
export interface Ahead {
  readonly settlings: readonly Settling[]
  /** The evidence that would narrow the pair nearest to being settled most; undefined where none is worth anything. */
  readonly limit: Limit | undefined
}

/** Throws of other trials that a trial is read with, and the discs in them that are not its own. */
export interface Besides {
  readonly sheet: Lines
  readonly discs: readonly RatedDisc[]
}

/** What a reading is about, of all that was weighed. */
interface About {
  readonly discs: ReadonlySet<string>
  readonly throws: ReadonlySet<string>
  readonly arms: ReadonlySet<string>
}
const aboutOf = (sheet: readonly SheetThrow[], discs: readonly RatedDisc[]): About => ({
  discs: new Set(discs.map((d) => d.id)),
  throws: new Set(sheet.map((t) => t.throw)),
  arms: new Set(sheet.map(armId)),
})
/** A fit, what of it is asked about, and what it says of that. */
interface Weighed {
  readonly state: FitState
  readonly about: About
  readonly outcome: Outcome
  /** The counted throws it is about. */
  readonly own: readonly ThrowEvidence[]
}

function weighedOf(state: FitState, about: About): Weighed {
  return {
    state,
    about,
    outcome: outcomeAbout(outcomeOf(state), about.discs, about.throws, about.arms),
    own: state.evidence.throws.filter((t) => t.counts && about.throws.has(t.id)),
  }
}

const limitIn = ({ state, outcome, own }: Weighed, asked: Ask['pair']): Limit | undefined => {
  const pair = openPair(state, outcome, asked)
  return pair && limitsOf(state, pair, kindsLike(own))[0]
}

/** The latest throws a reading is about, the way they most likely flew. */
const pathsOf = ({ state, about: { throws } }: Weighed, most: number): ThrownPath[] =>
  state.terms
    .filter((t) => throws.has(t.evidence.id))
    .slice(-most)
    .map((t) => ({ throw: t.evidence.id, path: pathAsThrown(state, t.evidence) }))

function readingOf(
  now: Weighed,
  discs: readonly RatedDisc[],
  how: Pick<Reading, 'tookMs' | 'firstFrom'>,
): Reading {
  const { about, outcome, state } = now
  const aside = new Set(discs.filter((d) => d.control).map((d) => d.id))
  return {
    serial: ++readings,
    outcome,
    // always the same draws, so that a percentage moves only when a throw moves it
    ranks: ranksOf(outcome, aside),
    corrected: outcome.discs.map((d) => correctedFlight(d)),
    asThrown: pathsOf(now, LATEST),
    leftOut: state.leftOut.filter((t) => about.throws.has(t.throw)),
    ...how,
  }
}

/** What an answer is asked about, as it crosses to the worker. */
export type AskedAbout = Pick<Asked, 'discs' | 'convention' | 'pair'> & {
  readonly names: ReadonlyMap<string, string>
  readonly units: Preferences['units']
  /** Names of throwers, by what a fit knows their arms by. */
  readonly thrown: ReadonlyMap<string, string>
  readonly short: readonly ShortPlay[]
  readonly through: ReadonlyMap<string, number>
}

function answerFrom(
  state: FitState,
  outcome: Outcome,
  question: Answered,
  { names, units, thrown, ...asked }: AskedAbout,
): Answer {
  const arms = [...thrown].flatMap(([arm, name]): NamedArm[] => {
    const armMps = armSpeed(state, arm)
    return armMps === undefined ? [] : [{ name, armMps }]
  })
  const words = wordingOf(unitsOf(units), (code) => names.get(code) ?? code)
  return answerOf(question, { ...asked, state, outcome, arms, words })
}

const heard = new Heard()
let readings = 0
const weighed = new Map<string, Weighed>()
/** How often each trial was asked to be rated. */
const turns = new Map<string, number>()
/** A fit that takes longer lets other questions in, ms. */
const BREATH = 30

/** Runs a fit to its end with pauses in which other messages are answered; undefined where nobody wants it any more. */
async function unhurried(
  steps: Generator<number, FitState, void>,
  wanted: () => boolean,
  onShare: ((share: number) => void) | undefined,
): Promise<FitState | undefined> {
  let breathed = performance.now()
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    if (performance.now() - breathed < BREATH) continue
    onShare?.(step.value)
    await new Promise((next) => setTimeout(next, 0))
    if (!wanted()) return undefined
    breathed = performance.now()
  }
}

/** Fits live here, one a trial. */
const rating = {
  /**
   * Rates a trial. A later call for the same trial ends an earlier one that is still under way, which then has no answer.
   *
   * @param onShare told now and then what share of the way is gone
   * @param onFirst given a first reading where there are many throws
   */
  async rate(
    trial: string,
    lines: Lines,
    discs: readonly RatedDisc[],
    besides: Besides,
    onShare?: (share: number) => void,
    onFirst?: (reading: Reading) => void,
  ): Promise<Reading | undefined> {
    const start = performance.now()
    const sheet = heard.sheet(lines)
    const all = [...sheet, ...heard.sheet(besides.sheet)]
    const turn = (turns.get(trial) ?? 0) + 1
    turns.set(trial, turn)
    const weigh = async (
      throws: readonly SheetThrow[],
      firstFrom?: number,
      warm?: FitState,
    ): Promise<Reading | undefined> => {
      const state = await unhurried(
        fitting(evidenceOf(throws, [...discs, ...besides.discs]), warm),
        () => turns.get(trial) === turn,
        firstFrom === undefined ? onShare : undefined,
      )
      if (!state) return undefined
      const now = weighedOf(state, aboutOf(sheet, discs))
      weighed.set(trial, now)
      return readingOf(now, discs, { tookMs: performance.now() - start, firstFrom })
    }
    if (onFirst && all.length > MANY) {
      const before = weighed.get(trial)?.state
      const some = before ? all : thinned(all, FIRST_LOOK)
      const first = await weigh(some, some.length, before)
      if (!first) return undefined
      onFirst(first)
    }
    return await weigh(all)
  },
  forecast(trial: string, planned: PlannedThrow, arms: readonly Arm[]): Forecast | undefined {
    const state = weighed.get(trial)?.state
    return state && forecastThrow(state, planned, arms)
  },
  /** The angles it takes for discs to finish on the aim line, thrown by an arm in some air. */
  line(
    trial: string,
    discs: readonly string[],
    planned: Pick<PlannedThrow, 'arm' | 'power' | 'air'>,
    arms: readonly Arm[],
  ): ReturnType<typeof lineAngles> | undefined {
    const state = weighed.get(trial)?.state
    return state && lineAngles(state, discs, planned, arms)
  },
  /** What would settle the neighbours on the ladder that are still open, and what further evidence would narrow most. */
  settle(trial: string, { pair }: Ask): Ahead {
    const now = weighed.get(trial)
    if (!now) return { settlings: [], limit: undefined }
    return { settlings: settlingsOf(now.state, now.outcome, now.own), limit: limitIn(now, pair) }
  },
  /** The throws that would tell most about what is asked and still open, best first. */
  telling(
    trial: string,
    candidates: readonly Candidate[],
    arms: readonly Arm[],
    count: number,
    protocol: Protocol,
    ask: Ask,
  ): Candidate[] {
    const now = weighed.get(trial)
    if (!now) return []
    const { state, outcome } = now
    const aimed = meantBy(protocol, state, candidates, arms)
    const { throws } = tellingThrows(state, openAims(state, outcome, ask), aimed, count, arms)
    return throws.map((t) => candidates[aimed.indexOf(t)]!)
  },
  /**
   * What a plan would show, beside an even plan of as many throws: chances to settle what is asked, and the most telling throws
   * for a number of them. By the trial’s own throws, as its answer is read from them.
   *
   * @param spend how many the telling set may hold
   * @param protocol on the same line every throw is weighed at its disc's own angle
   */
  weighPlan(
    lines: Lines,
    discs: readonly RatedDisc[],
    { arms, planned, even, candidates }: PlanQuestion,
    spend: number,
    protocol: Protocol,
    ask: Ask,
  ): {
    /** What the planned throws would do for every disc, whichever pair is asked about. */
    settles: TellingPlan
    planned: TellingPlan
    even: TellingPlan
    telling: TellingPlan
    limit: Limit | undefined
  } {
    const sheet = heard.sheet(lines)
    const state = fit(evidenceOf(sheet, discs))
    const asked = discs.filter((d) => !d.control).map((d) => d.id)
    const armMps = busiestArm(state)?.armMps ?? arms[0]?.fullSpeedMps
    const aims = aimsOf(ask, asked, armMps)
    const aimed = meantBy(protocol, state, candidates, arms)
    const meant = meantBy(protocol, state, planned, arms)
    const telling = tellingThrows(state, aims, aimed, spend, arms)
    return {
      settles: worthOf(state, aimsOf({ ...ask, pair: null }, asked, armMps), meant, arms),
      planned: worthOf(state, aims, meant, arms),
      even: worthOf(state, aims, meantBy(protocol, state, even, arms), arms),
      telling: { ...telling, throws: telling.throws.map((t) => candidates[aimed.indexOf(t)]!) },
      limit: limitIn(weighedOf(state, aboutOf(sheet, discs)), ask.pair),
    }
  },
  /** Corrected flights thrown some other way than at the reference. */
  corrected(trial: string, how: ThrownHow): CorrectedFlight[] {
    return weighed.get(trial)?.outcome.discs.map((d) => correctedFlight(d, how)) ?? []
  },
  /** The answer to a question, of a trial as it was last rated. */
  answer(trial: string, question: Answered, about: AskedAbout): Answer | undefined {
    const now = weighed.get(trial)
    return now && answerFrom(now.state, now.outcome, question, about)
  },
  /** Answers to several questions, as {@link rating.answer}. */
  answers(trial: string, questions: readonly Answered[], about: AskedAbout): Answer[] {
    const now = weighed.get(trial)
    return now ? questions.map((q) => answerFrom(now.state, now.outcome, q, about)) : []
  },
  /** The same had one throw been left out. */
  answerWithout(trial: string, thrown: string, question: Answered, about: AskedAbout): Answer | undefined {
    const now = weighed.get(trial)
    if (!now) return undefined
    const { evidence } = now.state
    const throws = evidence.throws.map((t) => (t.id === thrown ? { ...t, counts: false } : t))
    const state = fit({ ...evidence, throws })
    return answerFrom(state, weighedOf(state, now.about).outcome, question, about)
  },
  /** Outings a trial was thrown on whose wind reads as if it was logged the wrong way round. */
  turnedWinds(trial: string): TurnedWind[] {
    const now = weighed.get(trial)
    return now ? turnedWinds(now.state, new Set(now.own.map(outingOf))) : []
  },
  /** Which of some throws of a trial read as if they were logged wrong. */
  slips(trial: string, throws: readonly string[]): SlippedThrow[] {
    const now = weighed.get(trial)
    return now ? slippedThrows(now.state, new Set(throws), [...new Set(now.own.map((t) => t.disc))]) : []
  },
  /** The answer had the wind of an outing been logged the other way round. */
  answerTurned(
    trial: string,
    { outing, turn }: Pick<TurnedWind, 'outing' | 'turn'>,
    question: Answered,
    about: AskedAbout,
  ): Answer | undefined {
    const now = weighed.get(trial)
    if (!now) return undefined
    const state = fit(windTurned(now.state.evidence, outing, turn))
    return answerFrom(state, weighedOf(state, now.about).outcome, question, about)
  },
  /** How far two throws of one disc meant alike lie apart, arm by arm. */
  spreads(trial: string, arms: readonly string[], disc: string): (Spread | undefined)[] {
    const state = weighed.get(trial)?.state
    return arms.map((arm) => state && armSpread(state, arm, disc))
  },
  /** Whether claims written before the first throw held. */
  judge(trial: string, claims: readonly BuiltClaim[], short: readonly ShortPlay[]): JudgedClaim[] {
    const now = weighed.get(trial)
    return now ? claims.map((c) => judgeClaim(now.state, c, short)) : []
  },
  /** What the throws make of what a review says of some discs. */
  judgeSaid(
    trial: string,
    claims: readonly SaidClaim[],
    discs: readonly string[],
    short: readonly ShortPlay[],
  ): Judged[] {
    const now = weighed.get(trial)
    return now ? claims.map((c) => judgeSaid(now.state, now.outcome, c, discs, short)) : []
  },
  /** The throws behind what is said of some discs. */
  behind(trial: string, discs: readonly string[]): Behind[] {
    const now = weighed.get(trial)
    return now ? behindOf(now.state, now.own, discs) : []
  },
  /** What looking at landings alone would have said, and where that is wrong. */
  eye(trial: string): AgainstEye | undefined {
    const now = weighed.get(trial)
    return now && againstEye(now.state, now.outcome, now.own)
  },
  /** Throws of two discs of a trial that were meant alike, side by side. */
  matched(trial: string, a: string, b: string): MatchedThrows[] {
    const now = weighed.get(trial)
    return now ? matchedThrows(now.state, now.own, a, b) : []
  },
  /** How far apart two discs of a trial fly, as its throws have them, for whoever threw most of them or for another arm (V₉). */
  like(trial: string, disc: string, other: string, armMps?: number): ReturnType<typeof flewLike> {
    const state = weighed.get(trial)?.state
    return state && flewLike(state, disc, other, armMps)
  },
  /** Why a throw finished where it did. */
  why(trial: string, thrown: string): Why | undefined {
    const state = weighed.get(trial)?.state
    const evidence = state?.evidence.throws.find((t) => t.id === thrown)
    return state && evidence && explainThrow(state, evidence)
  },
  /** Every throw of a trial the way it most likely flew. */
  paths(trial: string): ThrownPath[] {
    const now = weighed.get(trial)
    return now ? pathsOf(now, Infinity) : []
  },
  path(trial: string, thrown: ThrowEvidence, arms: readonly Arm[]): PlanPoint[] | undefined {
    const state = weighed.get(trial)?.state
    return state && pathAsThrown(state, thrown, arms)
  },
}

export type RatingWorker = typeof rating
expose(rating)
