import type { LeftOrRight } from '../flight/hand.ts'
import type { PlanPoint } from '../flight/path.ts'
import type { Answer, Answered } from '../judge/answers/answerOf.ts'
import { answerOf } from '../judge/answers/answerOf.ts'
import type { NamedArm } from '../judge/answers/answer.ts'
import type { AskedOfShort, ShortPlay } from '../judge/answers/shortGame.ts'
import { openAims } from '../judge/asked.ts'
import { behindOf } from '../judge/behind.ts'
import type { Behind } from '../judge/behind.ts'
import { settlingsOf } from '../judge/card.ts'
import { judgeClaim } from '../judge/claims.ts'
import type { BuiltClaim, JudgedClaim } from '../judge/claims.ts'
import { correctedFlight } from '../judge/corrected.ts'
import type { CorrectedFlight, ThrownHow } from '../judge/corrected.ts'
import { againstEye } from '../judge/eye.ts'
import type { AgainstEye } from '../judge/eye.ts'
import { armSpeed, armSpread, busiestArm, flewLike } from '../judge/flewLike.ts'
import { forecastThrow } from '../judge/forecast.ts'
import type { Forecast } from '../judge/forecast.ts'
import { meantBy } from '../judge/kinds.ts'
import type { FlightSpread } from '../judge/likeness.ts'
import type { Limit } from '../judge/limits.ts'
import { matchedThrows } from '../judge/matched.ts'
import type { MatchedThrows } from '../judge/matched.ts'
import type { Settling } from '../judge/resolve.ts'
import { lineAngles } from '../judge/sameLine.ts'
import { slippedThrows } from '../judge/slips.ts'
import type { SlippedThrow } from '../judge/slips.ts'
import { turnedWinds, windTurned } from '../judge/turnedWind.ts'
import type { TurnedWind } from '../judge/turnedWind.ts'
import { explainThrow } from '../judge/why.ts'
import type { Why } from '../judge/why.ts'
import { aimsOf } from '../plan/ask.ts'
import type { Ask } from '../plan/ask.ts'
import type { Candidate } from '../plan/information.ts'
import type { Protocol } from '../plan/order.ts'
import { tellingThrows, worthOf } from '../plan/telling.ts'
import type { TellingPlan } from '../plan/telling.ts'
import type { PlanQuestion } from '../plan/weighed.ts'
import { pathAsThrown } from '../rating/asThrown.ts'
import type { PlannedThrow } from '../rating/asThrown.ts'
import type { Arm, RatedDisc, ThrowEvidence } from '../rating/evidence.ts'
import { fit, fitting } from '../rating/fit.ts'
import { evidenceOf } from '../rating/fromSheet.ts'
import type { FitState } from '../rating/state.ts'
import { thinned } from '../rating/thinned.ts'
import { outingKey } from '../rating/warm.ts'
import { judgeSaid } from '../review/judged.ts'
import type { Judged } from '../review/judged.ts'
import type { SaidClaim } from '../review/saidClaims.ts'
import type { SheetThrow } from '../throw/sheetThrow.ts'
import { aboutOf, limitIn, pathsOf, readingOf, weighedOf } from './reading.ts'
import type { Reading, ThrownPath, Weighed } from './reading.ts'

/**
 * Of more throws than this a first reading is shown until the answer is there: one that begins where the last one ended, or where
 * there was none is made from as many as can be weighed at once. An answer itself begins at nothing, so that the same throws give
 * the same, however they came.
 */
const MANY = 600
const FIRST_LOOK = 90
/** A fit that takes longer lets other questions in, ms. */
const BREATH = 30

/** Throws of a trial, and its discs. */
export interface Thrown {
  readonly sheet: readonly SheetThrow[]
  readonly discs: readonly RatedDisc[]
}

/** What more throws would do for the pairs that are open. */
export interface Ahead {
  readonly settlings: readonly Settling[]
  /** The evidence that would narrow the pair nearest to being settled most; undefined where none is worth anything. */
  readonly limit: Limit | undefined
}

/** Who drives a fit: how late it is, ms, and a pause in which whatever else was asked is answered. */
export interface Pace {
  readonly now: () => number
  readonly breathe: () => Promise<void>
}

/** What an answer is asked about, besides the trial it is read from. */
export type AskedAbout = Required<
  Pick<AskedOfShort, 'discs' | 'convention' | 'pair' | 'words' | 'short' | 'through'>
> & {
  /** Names of throwers, by what a fit knows their arms by. */
  readonly thrown: ReadonlyMap<string, string>
  /** Somebody the answer is told to who threw none of it: their arm where it is known, and the side their throws fade to. */
  readonly listener?: { readonly name: string; readonly armMps?: number; readonly fadeSide: LeftOrRight }
}

/** What a plan would show, beside an even plan of as many throws. */
export interface PlanWorth {
  /** What the planned throws would do for every disc, whichever pair is asked about. */
  readonly settles: TellingPlan
  readonly planned: TellingPlan
  readonly even: TellingPlan
  readonly telling: TellingPlan
  readonly limit: Limit | undefined
}

function answerFrom(state: FitState, of: Weighed['outcome'], question: Answered, about: AskedAbout): Answer {
  const { thrown, listener, ...asked } = about
  const arms = [...thrown].flatMap(([arm, name]): NamedArm[] => {
    const armMps = armSpeed(state, arm)
    return armMps === undefined ? [] : [{ name, armMps }]
  })
  if (!listener) return answerOf(question, { ...asked, state, outcome: of, arms })
  const { name, armMps, fadeSide } = listener
  return answerOf(question, {
    ...asked,
    state,
    outcome: { ...of, fadeSide },
    arms: armMps === undefined ? arms : [...arms, { name, armMps }],
  })
}

/**
 * The engine of trials: what was thrown is weighed, one fit a trial, and everything that is asked of it is answered from that fit.
 * Of a trial that was never rated nothing is known, and every question to it has no answer.
 */
export class Trials {
  readonly #weighed = new Map<string, Weighed>()
  /** How often each trial was asked to be rated. */
  readonly #turns = new Map<string, number>()
  #readings = 0

  constructor(private readonly pace: Pace) {}

  /**
   * Rates a trial. A later call for the same trial ends an earlier one that is still under way, which then has no answer.
   *
   * @param besides throws of other trials that it is read with, and the discs in them that are not its own
   * @param onShare told now and then what share of the way is gone
   * @param onFirst given a first reading where there are many throws
   * @throws RangeError when a throw names a disc that is not there
   */
  async weigh(
    trial: string,
    { sheet, discs }: Thrown,
    besides: Thrown,
    onShare?: (share: number) => void,
    onFirst?: (reading: Reading) => void,
  ): Promise<Reading | undefined> {
    const start = this.pace.now()
    const all = [...sheet, ...besides.sheet]
    const turn = (this.#turns.get(trial) ?? 0) + 1
    this.#turns.set(trial, turn)
    const weigh = async (
      throws: readonly SheetThrow[],
      firstFrom?: number,
      warm?: FitState,
    ): Promise<Reading | undefined> => {
      const state = await this.#unhurried(
        fitting(evidenceOf(throws, [...discs, ...besides.discs]), warm),
        () => this.#turns.get(trial) === turn,
        firstFrom === undefined ? onShare : undefined,
      )
      if (!state) return undefined
      const now = weighedOf(state, aboutOf(sheet, discs))
      this.#weighed.set(trial, now)
      const how = { serial: ++this.#readings, tookMs: this.pace.now() - start, firstFrom }
      return readingOf(now, discs, how)
    }
    if (onFirst && all.length > MANY) {
      const before = this.#weighed.get(trial)?.state
      const some = before ? all : thinned(all, FIRST_LOOK)
      const first = await weigh(some, some.length, before)
      if (!first) return undefined
      onFirst(first)
    }
    return await weigh(all)
  }

  /** Runs a fit to its end with pauses; undefined where nobody wants it any more. */
  async #unhurried(
    steps: Generator<number, FitState, void>,
    wanted: () => boolean,
    onShare: ((share: number) => void) | undefined,
  ): Promise<FitState | undefined> {
    let breathed = this.pace.now()
    for (;;) {
      const step = steps.next()
      if (step.done) return step.value
      if (this.pace.now() - breathed < BREATH) continue
      onShare?.(step.value)
      await this.pace.breathe()
      if (!wanted()) return undefined
      breathed = this.pace.now()
    }
  }

  /** What is asked of a trial that was rated; of any other there is no answer. */
  #of<T>(trial: string, ask: (now: Weighed) => T): T | undefined {
    const now = this.#weighed.get(trial)
    return now && ask(now)
  }

  /** Where a throw of an arm is likely to land; undefined of a disc or a trial nothing is known of. */
  forecast(trial: string, planned: PlannedThrow, arms: readonly Arm[]): Forecast | undefined {
    return this.#of(trial, ({ state }) => forecastThrow(state, planned, arms))
  }

  /** The angles it takes for discs to finish on the aim line, thrown by an arm in some air. */
  line(
    trial: string,
    discs: readonly string[],
    planned: Pick<PlannedThrow, 'arm' | 'power' | 'air'>,
    arms: readonly Arm[],
  ): ReturnType<typeof lineAngles> | undefined {
    return this.#of(trial, ({ state }) => lineAngles(state, discs, planned, arms))
  }

  /** What would settle the neighbours on the ladder that are still open, and what further evidence would narrow most. */
  settle(trial: string, { pair }: Ask): Ahead {
    const ahead = (now: Weighed): Ahead => ({
      settlings: settlingsOf(now.state, now.outcome, now.own),
      limit: limitIn(now, pair),
    })
    return this.#of(trial, ahead) ?? { settlings: [], limit: undefined }
  }

  /** The throws that would tell most about what is asked and still open, best first. */
  telling(
    trial: string,
    candidates: readonly Candidate[],
    arms: readonly Arm[],
    count: number,
    protocol: Protocol,
    ask: Ask,
  ): Candidate[] {
    const best = ({ state, outcome }: Weighed) => {
      const aimed = meantBy(protocol, state, candidates, arms)
      const { throws } = tellingThrows(state, openAims(state, outcome, ask), aimed, count, arms)
      return throws.map((t) => candidates[aimed.indexOf(t)]!)
    }
    return this.#of(trial, best) ?? []
  }

  /**
   * What a plan would show, beside an even plan of as many throws: chances to settle what is asked, and the most telling throws
   * for a number of them. By the trial’s own throws, as its answer is read from them.
   *
   * @param spend how many the telling set may hold
   * @param protocol on the same line every throw is weighed at its disc's own angle
   */
  planned(
    { sheet, discs }: Thrown,
    { arms, planned, even, candidates }: PlanQuestion,
    spend: number,
    protocol: Protocol,
    ask: Ask,
  ): PlanWorth {
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
  }

  /** Corrected flights thrown some other way than at the reference. */
  corrected(trial: string, how: ThrownHow): CorrectedFlight[] {
    return this.#of(trial, ({ outcome }) => outcome.discs.map((d) => correctedFlight(d, how))) ?? []
  }

  /** The answer to a question, of a trial as it was last rated. */
  answered(trial: string, question: Answered, about: AskedAbout): Answer | undefined {
    return this.#of(trial, ({ state, outcome }) => answerFrom(state, outcome, question, about))
  }

  /** The same had one throw been left out. */
  answeredWithout(trial: string, thrown: string, question: Answered, about: AskedAbout): Answer | undefined {
    return this.#of(trial, (now) => {
      const { evidence } = now.state
      const throws = evidence.throws.map((t) => (t.id === thrown ? { ...t, counts: false } : t))
      const state = fit({ ...evidence, throws })
      return answerFrom(state, weighedOf(state, now.about).outcome, question, about)
    })
  }

  /** The same had the wind of an outing been logged the other way round. */
  answeredTurned(
    trial: string,
    { outing, turn }: Pick<TurnedWind, 'outing' | 'turn'>,
    question: Answered,
    about: AskedAbout,
  ): Answer | undefined {
    return this.#of(trial, (now) => {
      const state = fit(windTurned(now.state.evidence, outing, turn))
      return answerFrom(state, weighedOf(state, now.about).outcome, question, about)
    })
  }

  /** Outings a trial was thrown on whose wind reads as if it was logged the wrong way round. */
  turnedWinds(trial: string): TurnedWind[] {
    return this.#of(trial, ({ state, own }) => turnedWinds(state, new Set(own.map(outingKey)))) ?? []
  }

  /** Which of some throws of a trial read as if they were logged wrong. */
  slips(trial: string, throws: readonly string[]): SlippedThrow[] {
    const slipped = ({ state, own }: Weighed) =>
      slippedThrows(state, new Set(throws), [...new Set(own.map((t) => t.disc))])
    return this.#of(trial, slipped) ?? []
  }

  /** How far two throws of one disc meant alike lie apart, arm by arm. */
  spreads(trial: string, arms: readonly string[], disc: string): (FlightSpread | undefined)[] {
    return arms.map((arm) => this.#of(trial, ({ state }) => armSpread(state, arm, disc)))
  }

  /** Whether claims written before the first throw held. */
  judge(trial: string, claims: readonly BuiltClaim[], short: readonly ShortPlay[]): JudgedClaim[] {
    return this.#of(trial, ({ state }) => claims.map((c) => judgeClaim(state, c, short))) ?? []
  }

  /** What the throws make of what a review says of some discs. */
  judgeSaid(
    trial: string,
    claims: readonly SaidClaim[],
    discs: readonly string[],
    short: readonly ShortPlay[],
  ): Judged[] {
    const judged = ({ state, outcome }: Weighed) =>
      claims.map((c) => judgeSaid(state, outcome, c, discs, short))
    return this.#of(trial, judged) ?? []
  }

  /** The throws behind what is said of some discs. */
  behind(trial: string, discs: readonly string[]): Behind[] {
    return this.#of(trial, ({ state, own }) => behindOf(state, own, discs)) ?? []
  }

  /** What looking at landings alone would have said, and where that is wrong. */
  eye(trial: string): AgainstEye | undefined {
    return this.#of(trial, ({ state, outcome, own }) => againstEye(state, outcome, own))
  }

  /** Throws of two discs of a trial that were meant alike, side by side. */
  matched(trial: string, a: string, b: string): MatchedThrows[] {
    return this.#of(trial, ({ state, own }) => matchedThrows(state, own, a, b)) ?? []
  }

  /** How far apart two discs of a trial fly, as its throws have them, for whoever threw most of them or for another arm (V₉). */
  like(trial: string, disc: string, other: string, armMps?: number): ReturnType<typeof flewLike> {
    return this.#of(trial, ({ state }) => flewLike(state, disc, other, armMps))
  }

  /** Why a throw finished where it did. */
  why(trial: string, thrown: string): Why | undefined {
    return this.#of(trial, ({ state }) => {
      const evidence = state.evidence.throws.find((t) => t.id === thrown)
      return evidence && explainThrow(state, evidence)
    })
  }

  /** Every throw of a trial the way it most likely flew. */
  paths(trial: string): ThrownPath[] {
    return this.#of(trial, (now) => pathsOf(now, Infinity)) ?? []
  }

  /** A throw that is not among those of the trial the way it most likely flew. */
  path(trial: string, thrown: ThrowEvidence, arms: readonly Arm[]): PlanPoint[] | undefined {
    return this.#of(trial, ({ state }) => pathAsThrown(state, thrown, arms))
  }
}
