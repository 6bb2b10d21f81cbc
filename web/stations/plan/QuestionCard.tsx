import { PROTOCOLS, PROTOCOL_WORDS } from '../../../core/plan/order.ts'
import type { Plan } from '../../../contract/trials.ts'
import { CONVENTIONS } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import { QuestionInput } from '../../parts/QuestionInput.tsx'
import { Card } from '../../parts/Card.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { Choice } from '../../parts/Choice.tsx'

import { questionOf } from '../../../core/plan/questions.ts'
import { Select } from '../../parts/Select.tsx'

interface QuestionCardProps {
  readonly plan: Plan
  readonly onProtocol: (protocol: Plan['protocol']) => void
  readonly onKind: (kind: QuestionKind) => void
  /** The question as it was typed; empty where nobody typed one. */
  readonly words: string
  readonly onWords: (question: string) => void
  /** Discs that are asked about, and what they are called. */
  readonly discIds: readonly string[]
  readonly nameOf: (id: string) => string
  readonly onPair: (pair: Plan['pair']) => void
  readonly onConvention: (convention: Plan['convention']) => void
}

/** What the trial asks, and how its numbers and throws are read. */
export function QuestionCard({
  plan,
  onProtocol,
  onKind,
  words,
  onWords,
  discIds,
  nameOf,
  onPair,
  onConvention,
}: QuestionCardProps) {
  const question = questionOf(plan.kind)
  const asked = words || question.words
  return (
    <Card className="space-y-2.5 p-4" label="Question">
      <h1 className="text-lead">{asked}</h1>
      <QuestionInput
        label={asked === question.words ? 'Question' : 'Read as'}
        hint={`Wants ${question.discs}. Answered by ${question.measure}.`}
        value={plan.kind}
        onChange={onKind}
      />
      <TextInput
        label="In your words"
        defaultValue={asked === question.words ? '' : asked}
        // another question, or one worded elsewhere, is shown anew
        key={asked}
        placeholder={question.words}
        maxLength={500}
        onBlur={(e) => {
          const typed = e.target.value.trim() || question.words
          if (typed !== asked) onWords(typed)
        }}
      />
      {discIds.length > 2 && (
        <div className="grid grid-cols-2 gap-2">
          <Select
            label="It is about"
            className="col-span-2"
            value={plan.pair ? 'two' : 'all'}
            onChange={(v) => onPair(v === 'two' ? [discIds[0]!, discIds[1]!] : null)}
            options={[
              { value: 'all', words: question.ofAll ?? 'every pair of its discs' },
              { value: 'two', words: 'which of two is more stable' },
            ]}
          />
          {plan.pair?.map((id, i) => (
            <Select
              key={i}
              label={i === 0 ? 'This one' : 'or that one'}
              value={id}
              onChange={(chosen) => {
                const other = plan.pair![1 - i]!
                // one chosen twice changes places with the other
                const pair = [chosen, other === chosen ? id : other] as const
                onPair(i === 0 ? [pair[0], pair[1]] : [pair[1], pair[0]])
              }}
              options={discIds.map((d) => ({ value: d, words: nameOf(d) }))}
            />
          ))}
        </div>
      )}
      {question.asksConvention && (
        <Choice
          label="Published numbers are of a disc that is"
          showLabel
          value={plan.convention}
          options={CONVENTIONS.map((c) => ({ value: c, label: c }))}
          onChange={onConvention}
        />
      )}
      <Choice
        label="Every disc is thrown with the"
        showLabel
        value={plan.protocol}
        options={PROTOCOLS.map((value) => ({ value, label: PROTOCOL_WORDS[value] }))}
        onChange={onProtocol}
      />
      {plan.protocol === 'same-line' && (
        <p className="text-note text-quiet">
          Every disc at the angle that brings it back to the aim line. The Field says which and learns it; the
          angle it took is the result.
        </p>
      )}
    </Card>
  )
}
