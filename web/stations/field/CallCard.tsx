import type { AIR_CALLS } from '../../../core/rating/calls.ts'
import type { Throw } from '../../../contract/trials.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Calls } from './Calls.tsx'
import type { Seen } from './draft.ts'
import { PathFile } from './PathFile.tsx'
import { TypedLanding } from './TypedLanding.tsx'
import type { Look } from '../../strip/hues.ts'

interface CallCardProps {
  readonly seen: Seen
  readonly see: (change: Partial<Seen>) => void
  /** Angle that was asked for, degrees of hyzer. */
  readonly asked: number
  readonly fade: 'left' | 'right'
  /** How the disc is drawn. */
  readonly look: Look
  readonly typing: boolean
  readonly timing: boolean
  readonly last: Throw | undefined
  /** Compass bearing of the aim line as it is thrown now; undefined where the place has none. */
  readonly bearingDeg: number | undefined
  readonly thrown: number
  readonly angle: (by: number) => void
  readonly clock: () => void
  readonly onAir: (word: (typeof AIR_CALLS)[number]) => void
  readonly onRange: () => void
  readonly onKeep: () => void
  readonly onTakeBack: () => void
  /** Leaves a throw that is being changed as it was; undefined for a new one. */
  readonly onCancel: (() => void) | undefined
}

/** Everything that can be called of a throw, and the two buttons that end it. */
export function CallCard({ seen, see, onCancel, thrown, onKeep, onTakeBack, ...rest }: CallCardProps) {
  const { asked, fade, look, typing, timing, last, bearingDeg, angle, clock, onAir, onRange } = rest
  return (
    <div className="min-w-0 phone:order-4 phone:px-3 md:col-span-2 across:col-span-1 xl:col-span-1 xl:min-h-0">
      <Card className="flex h-full flex-col p-4" label="Call the throw">
        <h2 className="sr-only">Call the throw</h2>
        <div className="min-h-0 flex-1 space-y-2.5 xl:-mr-2 xl:overflow-y-auto xl:pr-2">
          <div className={typing ? '' : 'phone:hidden'}>
            <TypedLanding seen={seen} last={last} onLanding={see} onRange={onRange} />
          </div>
          <Calls
            asked={asked}
            fadeSide={fade}
            look={look}
            seen={seen}
            onSeen={see}
            onAngle={angle}
            onAir={onAir}
            timing={timing}
            onTime={clock}
          />
          <PathFile path={seen.path} bearingDeg={bearingDeg} onSeen={see} />
        </div>
        <div className="mt-3 flex gap-2 border-t border-rule pt-3 phone:fixed phone:inset-x-0 phone:bottom-[calc(3.75rem+env(safe-area-inset-bottom))] phone:z-20 across:bottom-0 across:left-auto across:w-[20.5rem] phone:border-t-2 phone:bg-card phone:px-3 phone:py-2">
          {onCancel ? (
            <Button className="phone:min-h-14" onClick={onCancel}>
              Cancel
            </Button>
          ) : (
            <Button
              className="!px-2.5 whitespace-nowrap phone:min-h-14"
              keyHint="U"
              disabled={thrown === 0}
              onClick={onTakeBack}
            >
              Take back
            </Button>
          )}
          <Button
            kind="primary"
            keyHint="↵"
            className="flex-1 !px-2.5 whitespace-nowrap phone:min-h-14 phone:text-lead"
            onClick={onKeep}
          >
            {onCancel ? 'Keep changes' : 'Keep throw'}
          </Button>
        </div>
      </Card>
    </div>
  )
}
