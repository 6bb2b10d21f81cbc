import { questionOf } from '../../../core/plan/questions.ts'
import { countsTaken } from '../../../core/plan/weighed.ts'
import { Card, Unanswered } from '../../parts/Card.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { HowThrown } from './HowThrown.tsx'
import { Settles } from './Settles.tsx'
import { dayOf, useOverloads } from './Takes.tsx'
import { Telling } from './Telling.tsx'
import type { PlanningShown } from './usePlanning.ts'

/** What the plan can settle, which throws would tell more, how it is thrown; and on to the first throw. */
export function WorthColumn({ planning }: { planning: PlanningShown }) {
  const { view, trial, plan, put, done, weighed, spend, setSpend, nameOf, named, idOf, effort, locked } =
    planning
  const overloads = useOverloads(effort, view.throwers, dayOf(plan)) ?? []
  const over = overloads.reduce((n, a) => n + Math.max(a.tooMany, a.tooManyFull), 0)
  const { value: worth, working } = weighed
  return (
    <div className="grid content-start gap-3 lg:max-xl:col-span-2 lg:max-xl:grid-cols-2">
      <WhatItSettles planning={planning} />
      {worth && worth.planned.aims.length > 0 && (
        <Telling
          worth={worth}
          working={working}
          spend={spend}
          onSpend={setSpend}
          nameOf={named}
          onTake={() =>
            put({ did: 'took counts', counts: countsTaken(plan, done, worth.telling.throws, idOf) })
          }
          onEven={() => put({ did: 'evened' })}
        />
      )}
      <StationLink
        at="field"
        params={{ trialId: trial.id }}
        className="inline-flex min-h-11 items-center justify-center rounded-lg bg-spruce px-4 font-semibold text-on-spruce hover:brightness-125"
      >
        {locked ? 'Throw on' : 'Throw the first'}
        {over > 0 && `, ${over} beyond the arm’s budget`}
      </StationLink>
      <HowThrown
        {...{ plan, nameOf }}
        discs={view.discs}
        throwers={view.throwers}
        onPlan={(change) => put({ did: 'changed', change })}
        onDeal={(change) => put({ did: 'dealt', change })}
      />
    </div>
  )
}

function WhatItSettles({
  planning: { plan, done, asked, codeOf, named, looked, weighed },
}: {
  planning: PlanningShown
}) {
  const { value: worth, working } = weighed
  return (
    <Card className="p-4" label="What this plan can settle">
      <h2 className="text-lead">What this plan can settle</h2>
      <p className="mb-2 text-note text-quiet">
        Chance that {done.size > 0 ? 'the throws left' : `these ${plan.throws.length} throws`} tell{' '}
        {questionOf(plan.kind).tells ?? 'each pair apart'}, by this trial’s own throws as its answer is, every
        angle called
      </p>
      {worth ? (
        <Settles
          codes={asked.map(codeOf)}
          nameOf={named}
          lookOf={looked}
          worth={worth.settles}
          working={working}
        />
      ) : weighed.error ? (
        <Unanswered asked={weighed} />
      ) : (
        <p className="text-quiet" role="status">
          {working ? 'Weighing the plan …' : 'Add a thrower first: what a plan shows depends on the arm.'}
        </p>
      )}
    </Card>
  )
}
