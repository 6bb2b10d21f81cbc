import clsx from 'clsx'
import type { ReactNode } from 'react'
import { statements } from '../../../core/judge/statements.ts'
import { LimitLine } from '../../charts/LimitLine.tsx'
import { Sentences } from '../../charts/Sentences.tsx'
import type { TrialView } from '../../data/hooks.ts'
import { Card } from '../../parts/Card.tsx'
import { weighing } from '../../workers/rating.ts'
import type { RatingState } from '../../workers/rating.ts'
import { LastThrow } from './LastThrow.tsx'
import { wordingOf } from '../../data/units.ts'
import { useUnits } from '../../data/preferences.tsx'

/** What the throws say now, and what became of the last one. */
export function StandingsPanel({
  view,
  rating: { reading, settlings, limit, working, share },
  name,
  landed,
  children,
}: {
  view: TrialView
  rating: RatingState
  name: (code: string) => string
  /** A landing is down: on a phone the calls come first, else what is known stands under the field. */
  landed: boolean
  /** What stands below it. */
  children?: ReactNode
}) {
  const place = landed ? 'phone:order-6' : 'phone:order-3'
  const units = useUnits()
  if (!reading)
    return (
      <Card className={clsx('flex-1 p-4 phone:mx-3 phone:flex-none', place)}>
        <p className="text-quiet">
          {view.throws.length === 0
            ? 'The first throw starts the count.'
            : weighing(view.throws.length, share)}
        </p>
      </Card>
    )
  const said = statements(reading.outcome, reading.ranks, wordingOf(units, name), settlings).filter(
    (s) => s.kind !== 'label',
  )
  const shown = [...said.filter((s) => !s.settled), ...said.filter((s) => s.settled)].slice(0, 2)
  return (
    <Card
      className={clsx('min-h-0 flex-1 overflow-y-auto px-4 py-3 phone:mx-3 phone:flex-none', place)}
      label="What the throws say now"
      scrolls
    >
      <LastThrow view={view} reading={reading} working={working} name={name} />
      <Sentences list={shown} working={working} />
      <LimitLine limit={limit} />
      {children}
    </Card>
  )
}
