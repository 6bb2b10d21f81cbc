import { useMemo, useState } from 'react'
import type { Answered } from '../../../../core/judge/answers/answerOf.ts'
import { Card, Unanswered } from '../../../parts/Card.tsx'

import { AnswerPicture } from '../../../pictures/Picture.tsx'
import { WhyCard } from '../Why.tsx'
import { NO_ARM, useListener, useYourArm, YourArm } from '../YourArm.tsx'
import { Said } from '../Said.tsx'
import { useAnswer } from '../../../workers/useAnswer.ts'
import type { ViewProps } from './viewProps.ts'
import { Select } from '../../../parts/Select.tsx'

interface AskedViewProps extends ViewProps {
  readonly question: Answered
  /** One disc is looked at, which can be chosen. */
  readonly oneDisc?: boolean
}

/** Another question than the trial’s own, asked of the same throws. */
export function AskedView({ question, oneDisc = false, ...rest }: AskedViewProps) {
  const { expected, view, reading, ratingKey, names, name, look } = rest
  const thrown = reading.outcome.discs.filter((d) => d.throws > 0).map((d) => d.disc)
  const [chosen, setChosen] = useState(thrown[0])
  const discs = useMemo(() => (oneDisc && chosen !== undefined ? [chosen] : undefined), [oneDisc, chosen])
  const [arm, setArm] = useYourArm()
  const listener = useListener(oneDisc ? arm : NO_ARM)
  const answer = useAnswer(view, ratingKey, reading, names, question, discs, listener)
  return (
    <div className="grid gap-3 xl:grid-cols-[minmax(0,1fr)_22rem]">
      <Card className="min-w-0 p-4" label={question === 'arms' ? 'Arms' : 'Wind'}>
        {oneDisc && thrown.length > 1 && (
          <Select
            label="Disc"
            className="mb-2 w-56"
            value={chosen}
            onChange={setChosen}
            options={thrown.map((d) => ({ value: d, words: name(d) }))}
          />
        )}
        {oneDisc && <YourArm arm={arm} onArm={setArm} known={listener?.armMps} />}
        {answer.error ? (
          <Unanswered asked={answer} />
        ) : answer.value ? (
          <AnswerPicture
            picture={answer.value.picture}
            outcome={listener ? { ...reading.outcome, fadeSide: listener.fadeSide } : reading.outcome}
            {...{ expected, name, look }}
          />
        ) : (
          <p className="text-quiet">Flying them …</p>
        )}
      </Card>
      {answer.value && (
        <Card className="p-4" label="In words">
          <h2 className="mb-2 text-lead">
            {answer.value.sentence}. <WhyCard of={answer.value.sentence} discs={discs ?? thrown} />
          </h2>
          <Said answer={answer.value} />
        </Card>
      )}
    </div>
  )
}
