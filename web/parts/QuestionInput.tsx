import { QUESTION_KINDS, questionOf } from '../../core/plan/questions.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import { SelectInput } from './Inputs.tsx'

/** Which of the questions that a trial can ask is asked. */
export function QuestionInput({
  label,
  hint,
  autoFocus,
  value,
  onChange,
}: {
  readonly label: string
  readonly hint?: string
  readonly autoFocus?: boolean
  readonly value: QuestionKind
  readonly onChange: (kind: QuestionKind) => void
}) {
  return (
    <SelectInput
      {...{ label, hint, autoFocus, value }}
      onChange={(e) => onChange(QUESTION_KINDS.find((k) => k === e.target.value)!)}
    >
      {QUESTION_KINDS.map((k) => (
        <option key={k} value={k}>
          {questionOf(k).words}
        </option>
      ))}
    </SelectInput>
  )
}
