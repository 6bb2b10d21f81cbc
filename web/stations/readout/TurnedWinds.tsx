import { format } from 'date-fns'
import { useState } from 'react'
import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import { TURNED_WORDS } from '../../../core/judge/turnedWind.ts'
import type { Turn, TurnedWind } from '../../../core/judge/turnedWind.ts'
import type { Throw } from '../../../contract/trials.ts'
import { outbox } from '../../data/outbox.ts'
import { answeredFirst, useAbout } from '../../workers/useAnswer.ts'
import { useAsked } from '../../data/useAsked.ts'
import { useTurnedWinds } from '../../workers/turnedWinds.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { say } from '../../data/say.ts'
import { askRating } from '../../workers/rating.ts'
import { TwoAnswers } from './TwoAnswers.tsx'
import type { ViewProps } from './views/viewProps.ts'

type Read = Pick<ViewProps, 'view' | 'reading' | 'ratingKey' | 'names'>

/** Outings whose wind reads as if it was logged the wrong way round, each to be looked at turned, and turned. */
export function TurnedWinds({ answer, ...read }: Read & { readonly answer: Answer | undefined }) {
  const { view, reading, ratingKey } = read
  const [open, setOpen] = useState<TurnedWind>()
  const winds = useTurnedWinds(ratingKey, reading)
  if (winds.length === 0) return null
  return (
    <ul className="rounded-xl border border-edge bg-card px-4 py-2" aria-label="Winds that read turned round">
      {winds.map((t) => (
        <li key={t.outing} className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <span className="min-w-60 flex-1">
            {dayOf(view, t.outing)}{' '}
            <strong>{TURNED_WORDS[t.turn]} reads as if it was logged the wrong way round</strong>: the other
            way, the throws go together far better.
          </span>
          <Button onClick={() => setOpen(t)}>See it turned round</Button>
        </li>
      ))}
      {open && <Turned {...read} wind={open} answer={answer} onClose={() => setOpen(undefined)} />}
    </ul>
  )
}

function dayOf(view: Read['view'], outing: string): string {
  const session = view.sessions.find((s) => s.id === outing)
  return session ? `On ${format(session.day, 'd MMM yyyy')}` : 'On one outing'
}

const turned = (t: Throw, turn: Turn): Throw => ({
  ...t,
  windAlongMps: t.windAlongMps === null || turn === 'across' ? t.windAlongMps : -t.windAlongMps,
  windAcrossMps: t.windAcrossMps === null ? null : -t.windAcrossMps,
})

function Turned({
  view,
  reading,
  ratingKey,
  names,
  wind,
  answer,
  onClose,
}: Read & {
  readonly wind: TurnedWind
  readonly answer: Answer | undefined
  readonly onClose: () => void
}) {
  const about = useAbout(view, names)
  const other = useAsked(
    `${ratingKey} ${reading.serial} ${wind.outing} ${wind.turn}`,
    () => askRating((w) => w.answerTurned(ratingKey, wind, answeredFirst(view), about)),
    { about: wind.outing },
  )
  // those that do not count met the same wind
  const thrown = view.throws.filter(
    (t) =>
      t.sessionId === wind.outing && (wind.turn === 'all' || wind.turn === 'across' || t.leg === wind.turn),
  )
  const turnRound = async () => {
    for (const t of thrown) await outbox.put('throws', turned(t, wind.turn))
    say(`The wind of ${thrown.length} throws is turned round.`, {
      label: 'As it was logged',
      run: () => void Promise.all(thrown.map((t) => outbox.put('throws', t))),
    })
    onClose()
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${dayOf(view, wind.outing)}, ${TURNED_WORDS[wind.turn]} turned round?`}
    >
      <TwoAnswers
        now={{ words: 'As it was logged', said: answer }}
        other={{ words: 'Turned round', said: other.value }}
        meanwhile={other.error?.message ?? 'Weighing it turned round …'}
      />
      <p className="mt-4 text-note text-quiet">
        Turn it round if it may well have been noted the other way: “into” for “with”, or from the tee of the
        way back. If you are sure of it, leave it: something else may be amiss that day.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button kind="primary" onClick={() => void turnRound()}>
          Turn it round
        </Button>
        <Button onClick={onClose}>Leave it as it is</Button>
      </div>
    </Dialog>
  )
}
