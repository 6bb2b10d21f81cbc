import { format } from 'date-fns'
import { expectedPairs } from '../../../core/judge/expectation.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Card, Unanswered } from '../../parts/Card.tsx'
import { askRating } from '../../workers/rating.ts'
import { JudgedClaims } from './JudgedClaims.tsx'
import type { ViewProps } from './views/viewProps.ts'

/** What was expected before the first throw, and how it came out. */
export function ExpectedCard(props: ViewProps) {
  const {
    view,
    reading: { outcome, serial },
    name,
  } = props
  const { trial, discs, throws } = view
  const { plan } = trial
  if (!plan) return null
  const codes = plan.expected
    .filter((id) => id !== trial.controlDiscId)
    .flatMap((id) => discs.find((d) => d.disc.id === id)?.disc.code ?? [])
  const pairs = expectedPairs(outcome, codes)
  if (pairs.length + plan.claims.length + plan.built.length === 0 && plan.likeDiscId === null) return null
  const of = (verdict: (typeof pairs)[number]['verdict']) => pairs.filter((p) => p.verdict === verdict)
  const [wrong, right, open] = [of('the other way'), of('as expected'), of('open')]
  const first = throws[0]
  return (
    <Card className="p-4" label="What you expected">
      <h2 className="text-lead">What you expected</h2>
      <p className="text-note text-quiet">
        {[
          codes.length > 0 && codes.map(name).join(' over '),
          first && `said before the first throw, ${format(new Date(first.thrownAt), 'd MMM')}`,
        ]
          .filter(Boolean)
          .join('; ')}
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
      {pairs.length > 0 && (
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
      )}
      <JudgedClaims {...props} />
      <Alike view={view} serial={serial} name={name} />
      {plan.claims.length > 0 && (
        <div className="mt-2 border-t border-rule pt-1">
          <p className="text-note text-quiet">
            Claimed before the first throw; hold them against what stands here:
          </p>
          <ul className="list-disc pl-5">
            {plan.claims.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
        </div>
      )}
    </Card>
  )
}

/** Whether the disc asked about flies like the one it should fly like. */
function Alike({ view, serial, name }: { view: TrialView; serial: number; name: (code: string) => string }) {
  const units = useUnits()
  const { trial, discs } = view
  const like = discs.find((d) => d.disc.id === trial.plan?.likeDiscId)
  const about = discs.find((d) => d !== like && d.disc.id !== trial.controlDiscId)
  const asked = useAsked(
    like && about ? `${trial.id} ${about.disc.code} ${like.disc.code} ${serial}` : null,
    () => askRating((w) => w.like(trial.id, about!.disc.code, like!.disc.code)),
    { about: trial.id },
  )
  if (asked.error) return <Unanswered asked={asked} />
  if (!asked.value || !like || !about) return null
  const { distanceM, spread, overlaps, sameShape, fartherM } = asked.value
  return (
    <p className="mt-1 border-t border-rule pt-1">
      {name(about.disc.code)} should fly like {name(like.disc.code)}: they fly {units.length.show(distanceM)}{' '}
      apart on average, two throws of one disc {units.length.show(spread.pathM)}.{' '}
      <strong>
        {overlaps
          ? 'As alike as throws can tell.'
          : sameShape
            ? `They bend alike, and it carries ${units.length.show(Math.abs(fartherM), 0)} ${fartherM > 0 ? 'less' : 'more'}.`
            : 'They do not fly alike.'}
      </strong>
    </p>
  )
}
