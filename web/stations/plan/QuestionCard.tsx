import { PROTOCOLS } from '../../../core/plan/order.ts'
import type { Plan } from '../../../contract/trials.ts'
import { QUESTION_KINDS } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import { Card } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { SelectInput } from '../../parts/Inputs.tsx'
import { questionOf } from '../../../core/plan/questions.ts'

interface QuestionCardProps {
  readonly plan: Plan
  readonly onProtocol: (protocol: Plan['protocol']) => void
  readonly onKind: (kind: QuestionKind) => void
}

/** What the trial asks, and how its numbers and throws are read. */
export function QuestionCard({ plan, onProtocol, onKind }: QuestionCardProps) {
  const question = questionOf(plan.kind)
  return (
    <Card className="space-y-2.5 p-4" label="Question">
      <h1 className="text-lead">{question.words}</h1>
      <p className="text-note text-quiet">
        Wants {question.discs}. Answered by {question.measure}.
      </p>
      <SelectInput
        label="Question"
        value={plan.kind}
        onChange={(e) => onKind(e.target.value as QuestionKind)}
      >
        {QUESTION_KINDS.map((k) => (
          <option key={k} value={k}>
            {questionOf(k).words}
          </option>
        ))}
      </SelectInput>
      <Choice
        label="Every disc is thrown with the"
        showLabel
        value={plan.protocol}
        options={PROTOCOLS.map((c) => ({ value: c, label: c }))}
        onChange={onProtocol}
      />
      {plan.protocol === 'same line' && (
        <p className="text-note text-quiet">
          Every disc at the angle that brings it back to the aim line. The Field says which and learns it; the
          angle it took is the result.
        </p>
      )}
    </Card>
  )
}
