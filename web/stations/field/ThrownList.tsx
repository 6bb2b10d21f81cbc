import { useState } from 'react'
import { withCode } from '../../../contract/naming.ts'
import type { Throw } from '../../../contract/trials.ts'
import { isSimulated } from '../../../core/throw/simulated.ts'
import type { TrialView } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { say } from '../../data/say.ts'
import { aimedWords, angleWords, aside } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { discOptions, Select } from '../../parts/Select.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { looksById } from '../../strip/hues.ts'

/** So many of the last throws are listed until more are asked for. */
const LAST = 5

interface ThrownListProps {
  readonly view: TrialView
  readonly name: (code: string) => string
}

/** What was thrown, the newest first: each can be changed or taken back where it stands. */
export function ThrownList({ view, name }: ThrownListProps) {
  const [all, setAll] = useState(false)
  const numbered = view.throws.map((thrown, i) => ({ thrown, number: i + 1 })).toReversed()
  const shown = all ? numbered : numbered.slice(0, LAST)
  if (numbered.length === 0) return null
  return (
    <section aria-label="Thrown so far" className="mt-2 border-t border-rule pt-2">
      <h2 className="text-note font-semibold">Thrown so far</h2>
      <ul className="divide-y divide-rule">
        {shown.map(({ thrown, number }) => (
          <Thrown key={thrown.id} {...{ view, name, thrown, number }} />
        ))}
      </ul>
      {numbered.length > LAST && (
        <Button kind="quiet" className="mt-1 w-full text-note" onClick={() => setAll(!all)}>
          {all ? 'The last ones alone' : `All ${numbered.length}`}
        </Button>
      )}
    </section>
  )
}

function Thrown({ view, name, thrown, number }: ThrownListProps & { thrown: Throw; number: number }) {
  const units = useUnits()
  const code = view.discs.find((d) => d.disc.id === thrown.discId)?.disc.code ?? ''
  const takeBack = async () => {
    await outbox.put('throws', { ...thrown, takenBackAt: new Date().toISOString() })
    say(`Throw ${number} was taken back.`, {
      label: 'Restore',
      run: () => void outbox.put('throws', { ...thrown, takenBackAt: null }),
    })
  }
  const another = async (discId: string) => {
    if (discId === thrown.discId) return
    await outbox.put('throws', { ...thrown, discId })
    const now = view.discs.find((d) => d.disc.id === discId)?.disc.code ?? ''
    say(`Throw ${number} was thrown with ${withCode(now, name(now))}.`, {
      label: 'Undo',
      run: () => void outbox.put('throws', { ...thrown, discId: thrown.discId }),
    })
  }
  return (
    <li className="flex items-center gap-2 py-1">
      <span className="figure w-6 shrink-0 text-right text-note text-quiet">{number}</span>
      <Select
        hideLabel
        look="bare"
        className="min-w-0 flex-1"
        label={`Disc of throw ${number}, if it was another`}
        value={thrown.discId}
        onChange={(discId) => void another(discId)}
        options={discOptions(view.discs, name)}
        face={
          <>
            <DiscDot look={looksById(view.discs)(thrown.discId)} size={14} />
            <span className="min-w-0 flex-1 leading-tight">
              <span className="block truncate">
                <span className="font-medium">{name(code)}</span>{' '}
                <span className="text-note text-quiet">
                  {[angleWords(thrown.hyzerDeg), aimedWords(thrown.aimDeg)].filter(Boolean).join(', ')}
                </span>
              </span>
              <span className="figure block text-note">
                {units.length.show(thrown.carryM)}
                <span className="phone:block desk:before:content-[',_']">{aside(units, thrown.rightM)}</span>
                {!thrown.counts && <span className="font-sans text-quiet"> · left out</span>}
                {isSimulated(thrown) && <span className="font-sans text-quiet"> · simulated</span>}
              </span>
            </span>
          </>
        }
      />
      <StationLink
        at="field"
        params={{ trialId: thrown.trialId }}
        search={`?edit=${thrown.id}`}
        className={buttonLook('quiet', 'min-w-11 justify-center !px-2 text-note')}
      >
        Edit<span className="sr-only"> throw {number}</span>
      </StationLink>
      <Button kind="quiet" className="!px-2 text-note whitespace-nowrap" onClick={() => void takeBack()}>
        Take back<span className="sr-only"> throw {number}</span>
      </Button>
    </li>
  )
}
