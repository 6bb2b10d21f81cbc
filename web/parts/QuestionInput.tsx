import { QUESTION_KINDS, questionOf } from '../../core/plan/questions.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import { Select } from './Select.tsx'

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
    <Select
      {...{ label, hint, autoFocus, value, onChange }}
      options={QUESTION_KINDS.map((k) => ({ value: k, words: questionOf(k).words }))}
    />
  )
}
