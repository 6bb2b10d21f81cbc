import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp } from 'lucide-react'
import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import type { DraftSpot } from './draft.ts'

/** By one metre or foot, as one sees it on the field: farther is to the right, left is up. */
const NUDGES = [
  { words: 'shorter', icon: ArrowLeft, down: -1, right: 0 },
  { words: 'farther', icon: ArrowRight, down: 1, right: 0 },
  { words: 'left', icon: ArrowUp, down: 0, right: -1 },
  { words: 'right', icon: ArrowDown, down: 0, right: 1 },
] as const

interface LandedLineProps {
  readonly landing: DraftSpot | null
  readonly typing: boolean
  readonly onTyping: (typing: boolean) => void
  readonly onLanding: (landing: DraftSpot) => void
}

/** On a phone: where it landed, under the strip, and the way to type it. */
export function LandedLine({ landing, typing, onTyping, onLanding }: LandedLineProps) {
  const units = useUnits()
  return (
    <div className="order-3 flex flex-wrap items-center justify-between gap-x-3 gap-y-1 px-3 desk:hidden">
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
      {landing && (
        <div role="group" aria-label="A little" className="grid w-full grid-cols-4 gap-1.5">
          {NUDGES.map(({ words, icon: Icon, down, right }) => (
            <button
              key={words}
              type="button"
              aria-label={`A little ${words}`}
              className="flex min-h-11 items-center justify-center gap-1 rounded-lg border border-edge text-note"
              onClick={() =>
                onLanding({
                  carryM: Math.max(0, landing.carryM + units.length.from(down)),
                  rightM: landing.rightM + units.length.from(right),
                })
              }
            >
              <Icon size={16} aria-hidden /> {words}
            </button>
          ))}
        </div>
      )}
    </div>
  )
}
