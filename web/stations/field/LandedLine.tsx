import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import type { DraftSpot } from './draft.ts'

interface LandedLineProps {
  readonly landing: DraftSpot | null
  readonly typing: boolean
  readonly onTyping: (typing: boolean) => void
}

/** On a phone: where it landed, under the strip, and the way to type it. */
export function LandedLine({ landing, typing, onTyping }: LandedLineProps) {
  const units = useUnits()
  return (
    <div className="order-3 flex items-center justify-between gap-3 px-3 md:hidden">
      <p className="figure text-lead" data-testid="landed">
        {landing
          ? `${units.length.show(landing.carryM)} down, ${aside(units, landing.rightM)}`
          : 'Tap where it landed'}
      </p>
      <button
        type="button"
        aria-expanded={typing}
        onClick={() => onTyping(!typing)}
        className="-my-2 min-h-11 px-2 underline underline-offset-4"
      >
        type it
      </button>
    </div>
  )
}
