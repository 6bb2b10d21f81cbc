import { format } from 'date-fns'
import { useCallback, useState } from 'react'
import { useNavigate } from 'react-router'
import { filledSections } from '../../../core/review/sections.ts'
import { useTrial, useTrials } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { startReview, useReviews } from '../../data/reviews.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { say } from '../../data/say.ts'
import { StationLink, useAddresses } from '../../parts/StationLink.tsx'
import { ReadSource } from './sources.tsx'
import type { Source } from './sources.tsx'

/** Reviews of a trial, and a new one: of this trial alone or of several. */
export default function Reviews({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const { reviews } = useReviews(trialId)
  const { trials } = useTrials()
  const [with_, setWith] = useState<readonly string[]>([])
  const [starting, setStarting] = useState(false)
  if (error && !view) return <TroubleNote error={error} />
  if (!view || !reviews) return <WaitingNote what="reviews" />
  const others = (trials ?? []).filter((t) => t.trial.id !== trialId && t.counted > 0)
  return (
    <div className="grid items-start gap-4 p-4 lg:grid-cols-2">
      <Card className="p-5" label="Write a review">
        <h1 className="text-title">Write a review</h1>
        <p className="mt-1 text-quiet">
          It comes filled with what the throws say: what was tested and how, the answer with its picture, the
          numbers beside the published, for whom, what is open, and where every disc came from.
        </p>
        {others.length > 0 && (
          <fieldset className="mt-3">
            <legend className="text-note text-quiet">Together with</legend>
            <div className="mt-1 grid gap-1">
              {others.slice(0, 8).map(({ trial, counted }) => (
                <label key={trial.id} className="flex min-h-9 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--water)]"
                    checked={with_.includes(trial.id)}
                    onChange={(e) =>
                      setWith(e.target.checked ? [...with_, trial.id] : with_.filter((id) => id !== trial.id))
                    }
                  />
                  {trial.name} <span className="text-note text-quiet">{counted} throws</span>
                </label>
              ))}
            </div>
          </fieldset>
        )}
        {starting ? (
          <Start title={view.trial.name} trialIds={[trialId, ...with_]} />
        ) : (
          <Button kind="primary" className="mt-4" onClick={() => setStarting(true)}>
            Start the review
          </Button>
        )}
      </Card>
      {reviews.length > 0 && (
        <Card className="p-5" label="Reviews of this trial">
          <h2 className="text-lead">Reviews of this trial</h2>
          <ul>
            {reviews.map(({ review, revisions }) => (
              <li key={review.id} className="border-t border-rule py-2 first:border-0">
                <StationLink
                  at="review/compose"
                  params={{ trialId, reviewId: review.id }}
                  className="font-semibold underline-offset-4 hover:underline"
                >
                  {review.title}
                </StationLink>
                <Button
                  kind="quiet"
                  className="float-right text-note"
                  aria-label={`Take ${review.title} away`}
                  onClick={() => {
                    void outbox.put('reviews', { ...review, removedAt: new Date().toISOString() })
                    say(`“${review.title}” was taken away; what was published of it is not read any more.`, {
                      label: 'Restore',
                      run: () => void outbox.put('reviews', { ...review, removedAt: null }),
                    })
                  }}
                >
                  Take away
                </Button>
                <span className="block text-note text-quiet">
                  {revisions.length === 0
                    ? 'not frozen yet'
                    : `${revisions.length} ${revisions.length === 1 ? 'revision' : 'revisions'}, the last of ${format(new Date(revisions[0]!.frozenAt), 'd MMM yyyy')}${revisions.some((r) => r.token !== null) ? '; published' : ''}`}
                </span>
              </li>
            ))}
          </ul>
        </Card>
      )}
    </div>
  )
}

/** Weighs the trials, fills the sections, and goes there. */
function Start({ title, trialIds }: { title: string; trialIds: readonly string[] }) {
  const navigate = useNavigate()
  const addresses = useAddresses()
  const { kind } = useUnits()
  const [sources] = useState(() => new Map<string, Source>())
  const [begun, setBegun] = useState(false)
  const onSource = useCallback(
    (id: string, source: Source | null) => {
      if (source) sources.set(id, source)
      if (begun || !trialIds.every((t) => sources.has(t))) return
      setBegun(true)
      void startReview(
        title,
        trialIds,
        kind,
        filledSections(trialIds.map((t) => sources.get(t)!.facts)),
      ).then((review) =>
        navigate(addresses('review/compose', { trialId: trialIds[0]!, reviewId: review.id })!),
      )
    },
    [begun, sources, trialIds, title, kind, navigate, addresses],
  )
  return (
    <p role="status" className="mt-4 text-quiet">
      Weighing the throws and filling the sections …
      {trialIds.map((id) => (
        <ReadSource key={id} trialId={id} onSource={onSource} />
      ))}
    </p>
  )
}
