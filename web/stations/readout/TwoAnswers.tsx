import type { Answer } from '../../../core/judge/answers/answerOf.ts'
import { percent } from '../../data/units.ts'

/** Two answers to one question under one another, each with how sure it is. */
export function TwoAnswers({
  rows,
  meanwhile,
}: {
  readonly rows: readonly (readonly [what: string, said: Answer | undefined])[]
  /** What is said in place of an answer that is not there. */
  readonly meanwhile: string
}) {
  return (
    <dl className="grid gap-3">
      {rows.map(([what, said]) => (
        <div key={what} className="grid grid-cols-[6rem_minmax(0,1fr)_4rem] gap-3 border-t border-rule pt-2">
          <dt className="text-quiet">{what}</dt>
          <dd>{said ? `${said.sentence}.` : meanwhile}</dd>
          <dd className="figure text-right text-lead">
            {said?.probability === undefined ? '–' : percent(said.probability)}
          </dd>
        </div>
      ))}
    </dl>
  )
}
