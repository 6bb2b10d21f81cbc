import clsx from 'clsx'
import { QUESTION_KINDS, questionOf as wordsOf } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import { WhyCard } from './Why.tsx'
import { conditionsOf } from '../../data/conditions.ts'
import { askedDiscs, askingOtherwise, kindOf } from '../../data/ask.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { say } from '../../data/say.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'
import { Select } from '../../parts/Select.tsx'
import { buttonLook } from '../../parts/Button.tsx'
import { weighing } from '../../workers/rating.ts'
import { StationLink } from '../../parts/StationLink.tsx'

interface AnswerHeadProps {
  readonly view: TrialView
  readonly answer: Answer | undefined
  readonly working: boolean
  /** How many throws the answer is from while the rest are weighed, and how far that is. */
  readonly first?: { readonly throws: number; readonly share: number | undefined }
  /** On other views than the answer it takes less room. */
  readonly small: boolean
}

/** The question of the trial, its answer in one sentence, how sure it is, and how it was thrown. */
export function AnswerHead({ view, answer, working, first, small }: AnswerHeadProps) {
  const units = useUnits()
  const { trial } = view
  const kind = kindOf(view)
  const asked = wordsOf(kind).words
  const ask = (to: QuestionKind) => {
    void outbox.put('trials', askingOtherwise(trial, to))
    say(`It is read for “${wordsOf(to).words}” now.`, {
      label: 'Undo',
      run: () => void outbox.put('trials', trial),
    })
  }
  const counted = view.throws.filter((t) => t.counts).length
  return (
    <header className={clsx('transition-opacity', working && !first && 'opacity-60')} aria-label="Answer">
      <p className="text-note text-quiet">
        {trial.question && trial.question !== asked && `${trial.question} · `}
        <Select
          hideLabel
          look="line"
          label="The question that is answered"
          boxClass="text-note"
          className="inline-block max-w-full align-middle"
          value={kind}
          onChange={ask}
          options={QUESTION_KINDS.map((k) => ({ value: k, words: wordsOf(k).words }))}
        />
      </p>
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
        <h1
          aria-live="polite"
          data-testid="answer"
          className={clsx(
            'min-w-0 flex-1 basis-96 text-balance',
            small ? 'text-lead' : 'text-[1.6rem] leading-[2rem] max-md:text-title',
          )}
        >
          {answer ? `${answer.sentence}.` : 'Working out the answer …'}
        </h1>
        {answer && (
          <div className="flex shrink-0 items-center gap-3 max-md:w-full">
            {answer.probability !== undefined && (
              <p className="text-right max-md:flex max-md:items-baseline max-md:gap-2">
                <span
                  data-testid="answer-probability"
                  className={clsx(
                    'figure block',
                    small ? 'text-lead' : 'text-[1.6rem] leading-[2rem]',
                    answer.settled ? 'text-ink' : 'text-quiet',
                  )}
                >
                  {percent(answer.probability)}
                </span>
                {!small && (
                  <span className="block text-note text-quiet">
                    {answer.settled ? 'sure' : 'not settled'}
                  </span>
                )}
              </p>
            )}
            {!answer.settled && !small && (
              <StationLink
                at="plan"
                params={{ trialId: trial.id }}
                search={
                  answer.wants && trial.discIds.length > 2
                    ? `?pair=${answer.wants.map(encodeURIComponent).join(',')}`
                    : ''
                }
                className={buttonLook('primary')}
              >
                Plan what settles it
              </StationLink>
            )}
          </div>
        )}
      </div>
      {first && (
        <p className="mt-1 text-note font-medium" role="status" data-about="view">
          {first.throws < view.throws.length
            ? `A first look at ${first.throws} of ${view.throws.length} throws, evenly chosen.`
            : 'A first look, from where the last answer stood.'}{' '}
          {weighing(view.throws.length, first.share)}
        </p>
      )}
      {!small && (
        <p className="mt-1 text-note text-quiet">
          {[
            ...conditionsOf(view, units),
            `${counted} throws counted, ${view.throws.length - counted} left out`,
          ].join(' · ')}{' '}
          {answer && <WhyCard of={answer.sentence} discs={askedDiscs(view).map((d) => d.disc.code)} />}
        </p>
      )}
    </header>
  )
}
