import { looksOf } from '../../strip/hues.ts'
import { createContext, useContext, useEffect, useMemo } from 'react'
import { trialNames } from '../../../contract/naming.ts'
import type { InspectedDisc } from '../../../contract/shelfPage.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { mainArm } from '../../data/mainArm.ts'
import { IN_REVIEWS } from '../../../core/judge/answers/answerOf.ts'
import type { Answer, Answered } from '../../../core/judge/answers/answerOf.ts'
import type { TrialFacts } from '../../../core/review/sections.ts'
import type { ShortPlay } from '../../../core/judge/answers/shortGame.ts'
import { useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import type { Units } from '../../data/units.ts'
import { useInspections } from '../../data/shelfPage.ts'
import { useAbout, useAnswers, answeredFirst } from '../../workers/useAnswer.ts'
import { useAsked } from '../../data/useAsked.ts'
import { askRating, useRating } from '../../workers/rating.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { factsOf, linesOf } from './facts.ts'

/** A trial as a review needs it: what was thrown, how it was rated, what it answers. */
export interface Source {
  readonly view: TrialView
  readonly reading: Reading
  readonly ratingKey: string
  readonly names: ReadonlyMap<string, string>
  readonly name: (code: string) => string
  readonly look: (code: string) => number
  readonly answers: Readonly<Partial<Record<Answered, Answer>>>
  readonly question: Answered
  readonly facts: TrialFacts
  /** What its facts are said in. */
  readonly units: Units['kind']
  readonly short: readonly ShortPlay[]
  /** Inspected discs of the trial, as it has them in order. */
  readonly inspected: readonly InspectedDisc[]
}

/** Trials of the review that is looked at, by id; null of one that cannot be read any more. */
export type Sources = ReadonlyMap<string, Source | null>
const Context = createContext<Sources>(new Map())
export const SourcesProvider = Context.Provider
export const useSources = (): Sources => useContext(Context)

/** Reads and rates a trial, and tells what comes of it; shows nothing. */
export function ReadSource({
  trialId,
  onSource,
}: {
  readonly trialId: string
  readonly onSource: (trialId: string, source: Source | null) => void
}) {
  const { view, error } = useTrial(trialId)
  const gone = error !== undefined && !view
  useEffect(() => {
    if (gone) onSource(trialId, null)
  }, [gone, trialId, onSource])
  return view ? <Rated view={view} onSource={onSource} /> : null
}

function Rated({
  view,
  onSource,
}: {
  readonly view: TrialView
  readonly onSource: (trialId: string, source: Source | null) => void
}) {
  const { reading, key } = useRating(view)
  return reading && reading.firstFrom === undefined ? (
    <Told {...{ view, reading, onSource }} ratingKey={key} />
  ) : null
}

function Told({
  view,
  reading,
  ratingKey,
  onSource,
}: {
  readonly view: TrialView
  readonly reading: Reading
  readonly ratingKey: string
  readonly onSource: (trialId: string, source: Source | null) => void
}) {
  const units = useUnits()
  const names = useMemo(() => trialNames(view.discs), [view])
  const { short } = useAbout(view, names)
  const question = answeredFirst(view)
  const asked = useAnswers(view, ratingKey, reading, names, [...new Set([question, ...IN_REVIEWS])])
  const codeOf = (id: string) => view.discs.find((d) => d.disc.id === id)?.disc.code ?? id
  const built = (view.trial.plan?.built ?? []).map((c) => ({
    disc: codeOf(c.discId),
    says: c.says,
    than: c.thanId === null ? null : codeOf(c.thanId),
    by: c.by,
  }))
  const judged = useAsked(
    built.length === 0 ? null : JSON.stringify([ratingKey, reading.serial, built, short.length]),
    () => askRating((w) => w.judge(ratingKey, built, short)),
    { about: view.trial.id },
  )
  const codes = view.discs.map((d) => d.disc.code)
  const main = mainArm(view)
  const line = useAsked(
    main ? JSON.stringify([ratingKey, reading.serial, codes, main]) : null,
    () =>
      askRating((w) => w.line(ratingKey, codes, { arm: main!.arm, power: main!.power, air: STILL_AIR }, [])),
    { about: view.trial.id },
  )
  const all = useInspections()
  const inspected = useMemo(
    () => view.discs.flatMap((d) => all.find((i) => i.row.disc.id === d.disc.id) ?? []),
    [view, all],
  )
  const settled = !asked.working && !line.working && (built.length === 0 || !judged.working)
  const source = useMemo<Source | undefined>(() => {
    if (!settled) return undefined
    const name = (code: string) => names.get(code) ?? code
    const answers: Partial<Record<Answered, Answer>> = Object.fromEntries(
      (asked.value ?? []).map((a) => [a.question, a]),
    )
    return {
      view,
      reading,
      ratingKey,
      names,
      name,
      look: looksOf(view.discs.map((d) => d.disc.code)),
      answers,
      question,
      short,
      inspected,
      units: units.kind,
      facts: {
        ...factsOf(view, reading, answers, question, inspected, judged.value ?? [], units, name),
        lines: linesOf(line.value, main?.who, name),
      },
    }
    // the answers change with the reading
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settled, reading, asked.value, judged.value, line.value, inspected, units])
  useEffect(() => {
    if (source) onSource(view.trial.id, source)
  }, [source, view.trial.id, onSource])
  return null
}
