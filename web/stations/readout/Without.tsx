import { useState } from 'react'
import { WHY_NOT } from '../../../core/throw/whyNot.ts'
import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import type { Throw } from '../../../contract/trials.ts'
import { useAsked } from '../../data/useAsked.ts'
import { outbox } from '../../data/outbox.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'

import { say } from '../../data/say.ts'
import { askRating } from '../../workers/rating.ts'
import { answeredFirst, useAbout } from '../../workers/useAnswer.ts'
import { TwoAnswers } from './TwoAnswers.tsx'
import type { ViewProps } from './views/viewProps.ts'
import { Select, plainOptions } from '../../parts/Select.tsx'

interface WithoutProps extends Pick<ViewProps, 'view' | 'reading' | 'ratingKey' | 'names'> {
  readonly thrown: Throw
  readonly number: number
  /** The answer as it is, with the throw. */
  readonly answer: Answer | undefined
  readonly onClose: () => void
}

/** What the answer would be without one throw, before anybody decides to leave it out. */
export function Without({ view, reading, ratingKey, names, thrown, number, answer, onClose }: WithoutProps) {
  const about = useAbout(view, names)
  const without = useAsked(
    `${ratingKey} ${reading.serial} ${thrown.id}`,
    () => askRating((w) => w.answerWithout(ratingKey, thrown.id, answeredFirst(view), about)),
    { about: thrown.id },
  )
  const [why, setWhy] = useState<string>(WHY_NOT[0])
  const put = (row: Throw) => outbox.put('throws', row)
  const leaveOut = async () => {
    await put({ ...thrown, counts: false, whyNot: why })
    say(`Throw ${number} is left out.`, { label: 'Count it again', run: () => void put(thrown) })
    onClose()
  }
  return (
    <Dialog open onClose={onClose} title={`Throw ${number} left out?`}>
      <TwoAnswers
        now={{ words: 'With it', said: answer }}
        other={{ words: 'Without it', said: without.value }}
        meanwhile={without.error?.message ?? 'Weighing without it …'}
      />
      <p className="mt-4 text-note text-quiet">
        A throw is left out for what happened to it, not for what it says: a branch, a gust, a slip. It stays
        in the list with its reason.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-2">
        <Button kind="primary" onClick={onClose}>
          Keep it counting
        </Button>
        <Button onClick={() => void leaveOut()}>Leave it out</Button>
        <Select label="What happened" value={why} onChange={setWhy} options={plainOptions(WHY_NOT)} />
      </div>
    </Dialog>
  )
}
