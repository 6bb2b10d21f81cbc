import { format } from 'date-fns'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Claims } from '../../parts/Claims.tsx'

import { BuiltClaims } from './BuiltClaims.tsx'
import { Expectation } from './Expectation.tsx'
import { MakersClaims } from './HowThrown.tsx'
import { QuestionCard } from './QuestionCard.tsx'
import type { PlanningShown } from './usePlanning.ts'
import { Select } from '../../parts/Select.tsx'

/** What is asked, and what is expected before the first throw. */
export function AskedColumn({ planning }: { planning: PlanningShown }) {
  const { plan, put, asked, nameOf } = planning
  return (
    <div className="grid content-start gap-3">
      <QuestionCard
        plan={plan}
        onProtocol={(protocol) => put({ did: 'chose protocol', protocol })}
        onKind={(kind) => put({ did: 'asked', kind })}
        words={planning.trial.question}
        onWords={(question) => put({ did: 'worded', question })}
        discIds={asked}
        nameOf={nameOf}
        onPair={(pair) => put({ did: 'changed', change: { pair } })}
        onConvention={(convention) => put({ did: 'changed', change: { convention } })}
      />
      <Card className="p-4" label="What do you expect?">
        <h2 className="text-lead">What do you expect?</h2>
        <p className="mb-2 text-note text-quiet">{whenLocked(planning)}</p>
        <Expected planning={planning} />
        <Claimed planning={planning} />
      </Card>
    </div>
  )
}

/** Until when an expectation can be said. */
function whenLocked({ view: { throws, takenBack }, plan, untold, locked }: PlanningShown): string {
  if (untold) return 'Nobody said before the first throw, and afterwards nobody remembers it right.'
  if (!locked)
    return plan.expected.length > 0
      ? 'Most stable first; drag. Locked at the first throw.'
      : 'Nothing said yet. This is the order of their labels: drag to say what you expect, most stable first. Locked at the first throw.'
  const [first] = [...throws, ...takenBack].map((t) => t.thrownAt).sort()
  return `Most stable first. Locked since the first throw, ${format(first!, 'd MMM, H:mm')}.`
}

/** Discs by their labels, the most stable first. */
const byLabel = (discs: PlanningShown['view']['discs']): string[] => {
  const stability = ({ inForce: { numbers } }: (typeof discs)[number]) => numbers.turn + numbers.fade
  return [...discs].sort((a, b) => stability(b) - stability(a)).map((d) => d.disc.id)
}

function Expected({
  planning: { view, plan, put, untold, locked, nameOf, lookOf },
}: {
  planning: PlanningShown
}) {
  const isSaid = plan.expected.length > 0
  const say = (expected: readonly string[]) => put({ did: 'changed', change: { expected: [...expected] } })
  const shown = isSaid || locked ? plan.expected : byLabel(view.discs)
  return (
    <>
      <Expectation
        expected={untold ? [] : shown}
        nameOf={nameOf}
        lookOf={lookOf}
        locked={locked}
        onOrder={say}
      />
      {!locked && (
        <Button className="mt-2" onClick={() => say(isSaid ? [] : shown)}>
          {isSaid ? 'Say nothing' : 'I expect this order'}
        </Button>
      )}
      {(!locked || plan.likeDiscId !== null) && (
        <Select
          label="It should fly like"
          className="mt-2"
          disabled={locked}
          value={plan.likeDiscId}
          onChange={(v) => put({ did: 'changed', change: { likeDiscId: v } })}
          options={[
            { value: null, words: 'nothing said' },
            ...view.discs.map((d) => ({ value: d.disc.id, words: nameOf(d.disc.id) })),
          ]}
        />
      )}
    </>
  )
}

function Claimed({ planning: { view, plan, put, asked, locked, nameOf } }: { planning: PlanningShown }) {
  const claim = (claims: typeof plan.claims) => put({ did: 'changed', change: { claims } })
  return (
    <div className="mt-3">
      <BuiltClaims
        built={plan.built}
        discIds={asked}
        nameOf={nameOf}
        locked={locked}
        onBuilt={(built) => put({ did: 'changed', change: { built } })}
      />
      <Claims title="Claims in words of your own" claims={plan.claims} locked={locked} onClaims={claim} />
      {!locked && (
        <MakersClaims
          discs={view.discs}
          claims={plan.claims}
          onClaim={(next) => claim([...plan.claims, next])}
        />
      )}
    </div>
  )
}
