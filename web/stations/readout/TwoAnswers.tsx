import { probabilityOf } from '../../../core/judge/answers/answer.ts'
import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import { percent } from '../../data/units.ts'

interface Case {
  /** What it is called. */
  readonly words: string
  readonly said: Answer | undefined
}

interface TwoAnswersProps {
  readonly now: Case
  readonly other: Case
  /** What is said until the other answer is there. */
  readonly meanwhile: string
}

/** One sentence, how probable it is as things are and would be otherwise; and what would be answered then, where that is another. */
export function TwoAnswers({ now, other, meanwhile }: TwoAnswersProps) {
  const says = now.said?.possible[0]?.says
  if (!now.said || says === undefined) return <Apart {...{ now, other, meanwhile }} />
  const then = other.said && probabilityOf(other.said, says)
  const instead = other.said?.possible[0]?.says
  return (
    <>
      <p className="mb-2 text-lead font-semibold">{says}</p>
      <dl className="grid gap-2">
        <Share words={now.words} probability={now.said.probability} />
        <Share words={other.words} probability={then} meanwhile={other.said ? '–' : meanwhile} />
      </dl>
      {other.said && (
        <p className="mt-3 border-t border-rule pt-2">
          <span className="text-quiet">
            {other.words} the answer {instead === says ? 'stays' : 'would be'}:
          </span>{' '}
          {other.said.sentence}.
        </p>
      )}
    </>
  )
}

/** A probability as a bar and a figure. */
function Share({
  words,
  probability,
  meanwhile = '',
}: {
  readonly words: string
  readonly probability: number | undefined
  readonly meanwhile?: string
}) {
  return (
    <div className="grid grid-cols-[8rem_minmax(0,1fr)_4rem] items-center gap-3 max-sm:grid-cols-[6rem_minmax(0,1fr)_4rem]">
      <dt className="text-quiet">{words}</dt>
      {probability === undefined ? (
        <dd className="col-span-2 text-quiet">{meanwhile}</dd>
      ) : (
        <>
          <dd aria-hidden className="h-2.5 rounded bg-tint">
            <div className="h-full rounded bg-pick" style={{ width: `${100 * probability}%` }} />
          </dd>
          <dd className="figure text-right text-lead">{percent(probability)}</dd>
        </>
      )}
    </div>
  )
}

/** Two answers that speak of different things. */
const Apart = ({ now, other, meanwhile }: TwoAnswersProps) => (
  <dl className="grid gap-3">
    {[now, other].map(({ words, said }) => (
      <div key={words} className="grid grid-cols-[6rem_minmax(0,1fr)] gap-3 border-t border-rule pt-2">
        <dt className="text-quiet">{words}</dt>
        <dd>{said ? `${said.sentence}.` : meanwhile}</dd>
      </div>
    ))}
  </dl>
)
