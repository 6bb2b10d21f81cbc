import { lineage, NOT_STATED } from '../../../contract/naming.ts'
import type { InspectedDisc } from '../../../contract/shelfPage.ts'
import { gramsOf } from '../../../contract/sheet.ts'
import { EDGES, FEEL } from '../../../core/shelf/inspection.ts'
import type { Inspection } from '../../../contract/inspection.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { lineAngles } from '../../../core/judge/sameLine.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import { expectedPairs } from '../../../core/judge/expectation.ts'
import { IN_REVIEWS } from '../../../core/judge/answers/answerOf.ts'
import type { Answer, Answered } from '../../../core/judge/answers/answerOf.ts'
import { questionOf as wordsOf } from '../../../core/plan/questions.ts'
import { isSimulated, simulatedWords } from '../../../core/throw/simulated.ts'
import type { TrialFacts } from '../../../core/review/sections.ts'
import { claimWords } from '../../data/claims.ts'
import { kindOf } from '../../data/ask.ts'
import { conditionsOf } from '../../data/conditions.ts'
import type { TrialView } from '../../data/hooks.ts'
import { angleWords, percent } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import type { JudgedClaim } from '../../../core/judge/claims.ts'

/** At which angle each disc finishes on the line, in sentences without their ends. */
export function linesOf(
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

export function factsOf(
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
    simulated: simulatedWords(throws.filter(isSimulated).length, throws.length),
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
