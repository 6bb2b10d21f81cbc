import { createContext, useContext, useEffect, useMemo } from 'react'
import { lineage, NOT_STATED, trialNames } from '../../../contract/naming.ts'
import type { InspectedDisc } from '../../../contract/shelfPage.ts'
import { gramsOf } from '../../../contract/sheet.ts'
import { EDGES, FEEL } from '../../../core/shelf/inspection.ts'
import type { Inspection } from '../../../contract/inspection.ts'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { lineAngles } from '../../../core/judge/sameLine.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import { mainArm } from '../../data/mainArm.ts'
import { expectedPairs } from '../../../core/judge/expectation.ts'
import { IN_REVIEWS } from '../../../core/judge/answers/answerOf.ts'
import type { Answer, Answered } from '../../../core/judge/answers/answerOf.ts'
import { questionOf as wordsOf } from '../../../core/plan/questions.ts'
import type { TrialFacts } from '../../../core/review/sections.ts'
import type { ShortPlay } from '../../../core/judge/answers/shortGame.ts'
import { claimWords } from '../../data/claims.ts'
import { kindOf } from '../../data/ask.ts'
import { conditionsOf } from '../../data/conditions.ts'
import { useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { useInspections } from '../../data/shelfPage.ts'
import { angleWords, percent } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'
import { useAbout, useAnswers, questionOf } from '../../workers/useAnswer.ts'
import { useAsked } from '../../data/useAsked.ts'
import { askRating, useRating } from '../../workers/rating.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import type { JudgedClaim } from '../../../core/judge/claims.ts'

/** A trial as a review needs it: what was thrown, how it was rated, what it answers. */
export interface Source {
  readonly view: TrialView
  readonly reading: Reading
  readonly ratingKey: string
  readonly names: ReadonlyMap<string, string>
  readonly name: (code: string) => string
  readonly place: (code: string) => number
  readonly answers: Readonly<Partial<Record<Answered, Answer>>>
  readonly question: Answered
  readonly facts: TrialFacts
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
  const question = questionOf(view)
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
      place: (code) => view.discs.findIndex((d) => d.disc.code === code),
      answers,
      question,
      short,
      inspected,
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

/** At which angle each disc finishes on the line, in sentences without their ends. */
function linesOf(
  told: ReturnType<typeof lineAngles> | undefined,
  who: string | undefined,
  name: (code: string) => string,
): string[] {
  return (told?.angles ?? []).flatMap((a) => {
    if (!a.found) return []
    const by = Math.max(1, Math.round((Z90 * a.sdRad) / DEGREE))
    return [
      `${name(a.disc)} finishes on the line at ${angleWords(Math.round(a.hyzerRad / DEGREE))} (±${by}°), thrown by ${who} in still air`,
    ]
  })
}

/** Temperatures outside of this call for a word of caution, °C. */
const MILD = [5, 28] as const
const CAUTIONS = {
  trees:
    'Throws hit branches. Nobody stands near a tree that is thrown at: a stiff disc comes back tens of metres.',
  heat: 'It was hot: water, shade and pauses belong to such a session.',
  cold: 'It was cold: warm up longer; stiff discs rebound farther.',
  arm: 'So many throws are a load on an arm: warm up, count them, stop on pain. This is no medical advice; see a professional.',
}
/** Full throws of one arm in a trial that call for a word on arms. */
const MANY_THROWS = 60

function cautionsOf({ throws, sessions }: TrialView): string[] {
  const held = sessions.filter((s) => throws.some((t) => t.sessionId === s.id))
  const air = held.flatMap((s) => s.temperatureC ?? [])
  const byArm = new Map<string, number>()
  for (const t of throws) byArm.set(t.throwerId, (byArm.get(t.throwerId) ?? 0) + 1)
  return [
    throws.some((t) => /branch|tree/i.test(t.whyNot ?? '')) && CAUTIONS.trees,
    air.some((c) => c > MILD[1]) && CAUTIONS.heat,
    air.some((c) => c < MILD[0]) && CAUTIONS.cold,
    [...byArm.values()].some((n) => n >= MANY_THROWS) && CAUTIONS.arm,
  ].filter((c) => c !== false)
}

/** What an inspection says, in words with their temperature. */
function inHandOf(i: Inspection, units: Units): string[] {
  const mm = (words: string, v: number | null) => (v === null ? [] : [`${words} ${v.toFixed(1)} mm`])
  const measured = [
    ...mm('rim', i.rimWidthMm),
    ...mm('parting line', i.partingLineMm),
    ...mm('dome', i.domeMm),
    ...(i.edge === null ? [] : [`edge ${EDGES[i.edge]}`]),
    ...(i.bead === null ? [] : [i.bead ? 'a bead' : 'no bead']),
  ]
  const felt = [
    ...(i.stiffness === null ? [] : [FEEL.stiffness[i.stiffness]!]),
    ...(i.grip === null ? [] : [FEEL.grip[i.grip]!]),
  ]
  const at = i.temperatureC === null ? '' : ` at ${units.temperature.show(i.temperatureC, 0)}`
  return [
    ...(measured.length > 0 ? [`${measured.join(', ')}.`] : []),
    ...(felt.length > 0 ? [`it feels ${felt.join(' and ')}${at}.`] : []),
    ...(i.note === '' ? [] : [i.note]),
  ]
}

function factsOf(
  view: TrialView,
  reading: Reading,
  answers: Partial<Record<Answered, Answer>>,
  question: Answered,
  inspected: readonly InspectedDisc[],
  judged: readonly JudgedClaim[],
  units: Units,
  name: (code: string) => string,
): Omit<TrialFacts, 'lines'> {
  const { trial, throws } = view
  const reasons = new Map<string, number>()
  for (const t of throws)
    if (!t.counts) {
      const why = t.whyNot ?? 'no reason noted'
      reasons.set(why, (reasons.get(why) ?? 0) + 1)
    }
  const codeOf = (id: string) => view.discs.find((d) => d.disc.id === id)?.disc.code ?? id
  const expected = (trial.plan?.expected ?? []).filter((id) => id !== trial.controlDiscId).map(codeOf)
  return {
    trial: trial.id,
    name: trial.name,
    question: trial.question || wordsOf(kindOf(view)).words,
    discs: view.discs.map((d) => ({
      code: d.disc.code,
      name: name(d.disc.code),
      lineage: lineage(d),
      maker: d.maker.name === NOT_STATED ? undefined : d.maker.name,
      wear: d.disc.wear,
      grams: gramsOf(d.disc),
      source: d.disc.source,
      provenance: d.disc.provenance,
      control: d.disc.id === trial.controlDiscId,
      inHand: inspected
        .filter((i) => i.row.disc.id === d.disc.id)
        .flatMap((i) => inHandOf(i.inspection, units)),
    })),
    answer: answers[question],
    // what was found is said once
    ...Object.fromEntries(
      IN_REVIEWS.flatMap((q) => (q === question || !answers[q] ? [] : [[q, answers[q]]])),
    ),
    conditions: conditionsOf(view, units),
    angles: [...new Set(throws.map((t) => t.hyzerDeg))]
      .sort((a, b) => b - a)
      .map((deg) => angleWords(deg))
      .join(', '),
    counted: throws.filter((t) => t.counts).length,
    leftOut: [...reasons].map(([why, count]) => ({ why, count })),
    expected: [
      ...expectedPairs(reading.outcome, expected).map(
        (p) =>
          `${name(p.above)} was expected over ${name(p.below)}: ${p.verdict}, ${percent(p.verdict === 'the other way' ? 1 - p.probability : p.probability)}`,
      ),
      ...(trial.plan?.built ?? []).map((c, i) => {
        const j = judged[i]
        const p = j?.probability
        const words = claimWords(c, (id) => name(codeOf(id)), units)
        return `${words}: ${j?.verdict ?? 'not settled'}${p === undefined ? '' : `, ${percent(j!.verdict === 'not held' ? 1 - p : p)}`}`
      }),
      ...(trial.plan?.claims ?? []).map((c) => `Claimed: ${c}`),
    ],
    cautions: cautionsOf(view),
  }
}
