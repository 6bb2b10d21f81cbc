import { fadeSide } from '../../../core/flight/hand.ts'
import { Card } from '../../parts/Card.tsx'
import { CountsCard } from './CountsCard.tsx'
import { RunOrder } from './RunOrder.tsx'
import { RunOrderHead } from './RunOrderHead.tsx'
import { dayOf, Takes } from './Takes.tsx'
import type { PlanningShown } from './usePlanning.ts'
import { WhenWhere } from './WhenWhere.tsx'

/** The throws in their order, what they take, how many there are of each kind, when and where. */
export function OrderColumn({ planning }: { planning: PlanningShown }) {
  const { view, trial, plan, put, counts, done, effort, longestM, thrower, nameOf, lookOf } = planning
  return (
    <div className="grid min-w-0 content-start gap-3">
      <Card className="p-4" label="Run order">
        <RunOrderHead plan={plan} trialId={trial.id} onPlan={(change) => put({ did: 'dealt', change })} />
        <RunOrder
          plan={plan}
          nameOf={nameOf}
          lookOf={lookOf}
          throwers={view.throwers}
          fadeSide={fadeSide(thrower?.hand ?? 'right', 'backhand')}
          done={done}
          onSwap={(one, other) => put({ did: 'swapped', one, other })}
        />
      </Card>
      <Takes effort={effort} left={done.size > 0} throwers={view.throwers} day={dayOf(plan)} />
      <CountsCard
        {...{ trial, plan, counts, nameOf, lookOf }}
        onStep={(disc, hyzerDeg, by) => put({ did: 'stepped', disc, hyzerDeg, by })}
      />
      <WhenWhere
        {...{ trial, plan }}
        minutes={effort.minutes}
        longestM={longestM}
        onPlan={(change) => put({ did: 'changed', change })}
      />
    </div>
  )
}
