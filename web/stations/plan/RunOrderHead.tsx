import { Keyboard, Printer, Shuffle } from 'lucide-react'
import type { Plan } from '../../../contract/trials.ts'
import { FIXED_ORDER_WORDS, ORDER_BIAS } from '../../../core/plan/order.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { Select, wordedOptions } from '../../parts/Select.tsx'

interface RunOrderHeadProps {
  readonly plan: Plan
  readonly trialId: string
  /** Changes that put the throws in order again. */
  readonly onPlan: (change: Partial<Pick<Plan, 'order' | 'fixedBy' | 'seed'>>) => void
}

/** How the throws are put in order, with the bias of an order that is not shuffled; and their sheet. */
export function RunOrderHead({ plan, trialId, onPlan }: RunOrderHeadProps) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2">
      <div className="mr-auto">
        <h2 className="text-lead">Run order</h2>
        <p className="text-note text-quiet">
          {plan.order === 'fixed'
            ? ORDER_BIAS[plan.fixedBy]
            : plan.moved
              ? `shuffled from seed ${plan.seed}, then moved by hand`
              : `shuffled and balanced in both legs, seed ${plan.seed}`}
          {plan.warmUps.length > 0 && `; ${plan.warmUps.length} warm-up throws first`}
        </p>
      </div>
      <Choice
        label="Order"
        value={plan.order}
        options={[
          { value: 'shuffled', label: 'Shuffled' },
          { value: 'fixed', label: 'Fixed' },
        ]}
        onChange={(order) => onPlan({ order })}
      />
      {plan.order === 'fixed' && (
        <Select
          hideLabel
          label="Which fixed order"
          value={plan.fixedBy}
          onChange={(fixedBy) => {
            onPlan({ fixedBy })
          }}
          options={wordedOptions(FIXED_ORDER_WORDS)}
        />
      )}
      {plan.order === 'shuffled' && (
        <Button onClick={() => onPlan({ seed: plan.seed + 1 })}>
          <Shuffle size={16} aria-hidden /> Shuffle again
        </Button>
      )}
      <Button onClick={() => window.print()}>
        <Printer size={16} aria-hidden /> Print sheet
      </Button>
      <StationLink at="plan/sheet" params={{ trialId }} className={buttonLook()}>
        <Keyboard size={16} aria-hidden /> Type it in
      </StationLink>
    </div>
  )
}
