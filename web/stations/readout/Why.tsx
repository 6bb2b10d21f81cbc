import { createContext, useContext, useState } from 'react'
import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import { useAsked } from '../../data/useAsked.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside, figure } from '../../data/units.ts'
import { Dialog } from '../../parts/Dialog.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { askRating } from '../../workers/rating.ts'
import { LEVEL_WORDS } from '../../../contract/naming.ts'
import type { ViewProps } from './views/viewProps.ts'

type WhyProps = Pick<ViewProps, 'view' | 'reading' | 'ratingKey' | 'name' | 'look'>

/** What the numbers of a readout come from, for whoever asks. */
export const Reasons = createContext<WhyProps | undefined>(undefined)

/** Opens what stands behind a number: which throws, what was taken out of them, what is assumed. */
export function WhyCard({ of, discs }: { of: string; discs: readonly string[] }) {
  const reasons = useContext(Reasons)
  const [open, setOpen] = useState(false)
  if (!reasons || discs.length === 0) return null
  return (
    <>
      <button
        type="button"
        data-about="view"
        aria-label={`Why: ${of}`}
        onClick={() => setOpen(true)}
        className="min-h-6 rounded px-1 text-note text-quiet underline decoration-dotted underline-offset-4 hover:bg-tint max-md:min-h-11"
      >
        Why?
      </button>
      {open && (
        <Dialog open wide onClose={() => setOpen(false)} title={of}>
          <BehindIt {...reasons} discs={discs} />
        </Dialog>
      )}
    </>
  )
}

const CAUSES = {
  angle: 'angle out of the hand',
  nose: 'nose',
  speed: 'power',
  launch: 'height',
  aim: 'aim',
  wind: 'wind',
  air: 'air',
} as const
/** Causes told of a disc. */
const TOLD = 4

function BehindIt({ view, reading, ratingKey, name, look, discs }: WhyProps & { discs: readonly string[] }) {
  const units = useUnits()
  const { value } = useAsked(
    `${ratingKey} ${reading.serial} ${discs.join(' ')}`,
    () => askRating((w) => w.behind(ratingKey, discs)),
    { about: discs.join(' ') },
  )
  const number = new Map(view.throws.map((t, i) => [t.id, i + 1]))
  const first = view.throws[0]
  const sign = first ? fadeSign(first.hand, first.stroke) : 1
  const control = view.discs.find((d) => d.disc.id === view.trial.controlDiscId)
  const moved = (carryM: number, veerM: number) =>
    `${units.length.show(Math.abs(carryM))} ${carryM >= 0 ? 'farther' : 'shorter'}, ${aside(units, mirrored(veerM, sign))}`
  return (
    <div className="grid gap-4">
      {(value ?? []).map((b) => {
        const shelved = view.discs.find((d) => d.disc.code === b.disc)
        return (
          <section key={b.disc} aria-label={name(b.disc)}>
            <h3 className="flex items-center gap-2 font-semibold">
              <DiscDot look={look(b.disc)} /> {name(b.disc)}
            </h3>
            <p className="mt-1 text-note">
              <span className="text-quiet">Throws, with their pull: </span>
              {b.throws.length === 0 && 'none; all that is known is its label.'}
              {b.throws.map((t) => `${number.get(t.throw) ?? '?'} (${figure(t.pull, 1)})`).join(', ')}
            </p>
            {b.takenOut.length > 0 && (
              <p className="mt-1 text-note">
                <span className="text-quiet">Taken out, on average a throw: </span>
                {b.takenOut
                  .slice(0, TOLD)
                  .map((c) => `${CAUSES[c.cause]} ${moved(c.carryM, c.veerM)}`)
                  .join('; ')}
                .
              </p>
            )}
            {shelved && (
              <p className="mt-1 text-note">
                <span className="text-quiet">Believed before the first throw: </span>
                its numbers {LEVEL_WORDS[shelved.inForce.level]}, and as far off them as discs are.
              </p>
            )}
          </section>
        )
      })}
      {!value && <p className="text-quiet">Looking at every throw …</p>}
      <section aria-label="What is assumed">
        <h3 className="font-semibold">What is assumed</h3>
        <ul className="mt-1 list-disc pl-5 text-note">
          <li>
            A throw comes out as it was called, else as it was meant, give or take what this arm scatters.
          </li>
          <li>
            The wind is what was noted, give or take; where none was noted it is taken for still air that may
            have moved.
          </li>
          <li>
            {control
              ? `${control.mold.name} flies as its label says: it parts the thrower’s habit from the discs.`
              : 'No control disc: habits are taken for small, as those of most arms are.'}
          </li>
          <li>
            The physics itself may be off a little; where throws meant alike miss alike, every interval is
            wider for it.
          </li>
        </ul>
      </section>
      <StationLink
        at="readout"
        params={{ trialId: view.trial.id, view: 'throws' }}
        className="font-medium underline underline-offset-4"
      >
        Every throw, and the answer without it
      </StationLink>
    </div>
  )
}
