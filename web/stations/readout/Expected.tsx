import { format } from 'date-fns'
import { expectedPairs } from '../../../core/judge/expectation.ts'
import type { Outcome } from '../../../core/rating/outcome.ts'
import type { TrialView } from '../../data/hooks.ts'
import { percent } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'

interface ExpectedProps {
  readonly view: TrialView
  readonly outcome: Outcome
  readonly name: (code: string) => string
}

/** What was expected before the first throw, and how it came out. */
export function Expected({ view: { trial, discs, throws }, outcome, name }: ExpectedProps) {
  const { plan } = trial
  if (!plan || plan.expected.length < 2) return null
  const codes = plan.expected
    .filter((id) => id !== trial.controlDiscId)
    .flatMap((id) => discs.find((d) => d.disc.id === id)?.disc.code ?? [])
  const pairs = expectedPairs(outcome, codes)
  if (pairs.length === 0) return null
  const of = (verdict: (typeof pairs)[number]['verdict']) => pairs.filter((p) => p.verdict === verdict)
  const [wrong, right, open] = [of('the other way'), of('as expected'), of('open')]
  const first = throws[0]
  return (
    <Card className="p-4" label="What you expected">
      <h2 className="text-lead">What you expected</h2>
      <p className="text-note text-quiet">
        {codes.map(name).join(' over ')}
        {first && `; said before the first throw, ${format(new Date(first.thrownAt), 'd MMM')}`}
      </p>
      <ul className="mt-1">
        {wrong.map((p) => (
          <li key={`${p.above} ${p.below}`} className="flex gap-3 border-t border-rule py-1">
            <span className="figure w-12 shrink-0">{percent(1 - p.probability)}</span>
            <span>
              You expected {name(p.above)} over {name(p.below)}; <strong>it is the other way round</strong>
            </span>
          </li>
        ))}
      </ul>
      <p className="border-t border-rule pt-1">
        {[
          right.length > 0 && `${right.length} of ${pairs.length} pairs came out as expected`,
          wrong.length === 0 && 'none the other way',
          open.length > 0 && `${open.length} ${open.length === 1 ? 'is' : 'are'} not settled`,
        ]
          .filter(Boolean)
          .join(', ')}
        .
      </p>
    </Card>
  )
}
