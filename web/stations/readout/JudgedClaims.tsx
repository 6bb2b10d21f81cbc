import clsx from 'clsx'
import { claimWords } from '../../data/claims.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Unanswered } from '../../parts/Card.tsx'
import { askRating } from '../../workers/rating.ts'
import { useAbout } from '../../workers/useAnswer.ts'
import type { ViewProps } from './views/viewProps.ts'
import { WhyCard } from './Why.tsx'

/** Every claim built before the first throw, and whether it held. */
export function JudgedClaims({ view, reading, ratingKey, names, name }: ViewProps) {
  const units = useUnits()
  const { short } = useAbout(view, names)
  const codeOf = (id: string) => view.discs.find((d) => d.disc.id === id)?.disc.code ?? id
  const built = view.trial.plan?.built ?? []
  const claims = built.map((c) => ({
    disc: codeOf(c.discId),
    says: c.says,
    than: c.thanId === null ? null : codeOf(c.thanId),
    by: c.by,
  }))
  const asked = useAsked(
    claims.length === 0 ? null : JSON.stringify([ratingKey, reading.serial, claims, short.length]),
    () => askRating((w) => w.judge(ratingKey, claims, short)),
    { about: view.trial.id },
  )
  if (claims.length === 0) return null
  if (asked.error) return <Unanswered asked={asked} />
  return (
    <ul className="mt-2">
      {built.map((c, i) => {
        const words = claimWords(c, (id) => name(codeOf(id)), units)
        const judged = asked.value?.[i]
        const p = judged?.probability
        return (
          <li key={words} className="flex gap-3 border-t border-rule py-1">
            <span className={clsx('figure w-12 shrink-0', judged?.verdict === 'not settled' && 'text-quiet')}>
              {p === undefined ? '–' : percent(judged!.verdict === 'not held' ? 1 - p : p)}
            </span>
            <span>
              {words}: <strong>{judged ? judged.verdict : 'weighing'}</strong>
              {judged && p === undefined && ', nothing was seen that it speaks of'}{' '}
              <WhyCard
                of={words}
                discs={[claims[i]!.disc, ...(claims[i]!.than === null ? [] : [claims[i]!.than])]}
              />
            </span>
          </li>
        )
      })}
    </ul>
  )
}
