import { z } from 'zod'
import { useEffect, useState } from 'react'
import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useKept } from '../../data/useKept.ts'
import { percent } from '../../data/units.ts'

/** What an answer was when it was last looked at. */
const Seen = z.object({
  /** What was asked then: the answer to another question has not moved. */
  question: z.string(),
  sentence: z.string(),
  probability: z.number().nullable(),
  settled: z.boolean(),
  /** What it claimed, however it was worded. */
  claim: z.string(),
  throws: z.array(z.string()),
})
type Seen = z.infer<typeof Seen>
const NOTHING: Seen = { question: '', sentence: '', probability: null, settled: false, claim: '', throws: [] }

/** That the answer says something else than when it was last looked at on this device, and after which throws. */
export function MovedCard({ view, answer }: { view: TrialView; answer: Answer }) {
  const [seen, keep] = useKept(`veer-line.answer.${view.trial.id}`, view.trial.id, Seen, NOTHING)
  // what was seen before this visit, whatever is seen during it
  const [before] = useState(seen)
  const counted = view.throws.filter((t) => t.counts).map((t) => t.id)
  const claim = JSON.stringify(answer.claim ?? null)
  useEffect(() => {
    keep({
      question: answer.question,
      sentence: answer.sentence,
      probability: answer.probability ?? null,
      settled: answer.settled,
      claim,
      throws: counted,
    })
    // eslint-disable-next-line react-hooks/exhaustive-deps -- kept once an answer, not once a drawing
  }, [answer])
  if (before.question !== answer.question || before.claim === claim) return null
  const old = new Set(before.throws)
  const since = view.throws.flatMap((t, i) => (t.counts && !old.has(t.id) ? [i + 1] : []))
  const gone = before.throws.filter((id) => !counted.includes(id)).length
  const which =
    since.length === 0
      ? gone > 0
        ? `${gone} ${gone === 1 ? 'throw has' : 'throws have'} been left out since.`
        : 'What is known besides has changed since.'
      : `Since then: ${since.length === 1 ? 'throw' : 'throws'} ${ranges(since)}.`
  return (
    <p role="status" className="mt-2 rounded-lg border-l-4 border-water bg-tint px-3 py-2">
      <strong>The answer has moved since you last looked.</strong> Then: “{before.sentence}”
      {before.probability !== null && `, ${percent(before.probability)}`}. {which}
    </p>
  )
}

/** “3, 7 to 12”. */
function ranges(list: readonly number[]): string {
  const parts: [number, number][] = []
  for (const n of list) {
    const last = parts.at(-1)
    if (last && last[1] === n - 1) last[1] = n
    else parts.push([n, n])
  }
  return parts.map(([a, b]) => (a === b ? `${a}` : `${a} to ${b}`)).join(', ')
}
