import { useState } from 'react'
import type { Thrower } from '../../../contract/trials.ts'
import { useThrowers } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Offered } from '../../parts/Offered.tsx'
import { newThrower, ThrowerDialog } from '../../parts/ThrowerDialog.tsx'

/** Who throws: hand, and full-power speed with a disc of speed 9 where it is known. */
export function Throwers() {
  const { throwers } = useThrowers()
  const units = useUnits()
  const [edited, setEdited] = useState<Thrower>()
  const speed = (v: number | null) => (v === null ? 'estimated' : units.speed.show(v))
  return (
    <Card className="p-5" label="Throwers">
      <div className="mb-2 flex items-baseline justify-between gap-4">
        <h2 className="text-title">Throwers</h2>
        <Button onClick={() => setEdited(newThrower())}>Add a thrower</Button>
      </div>
      <ul>
        {throwers?.map((t) => (
          <li
            key={t.id}
            className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-0.5 border-t border-rule py-1.5 sm:grid-cols-[minmax(9rem,1fr)_6rem_22rem_auto]"
          >
            <span className="font-medium">{t.name}</span>
            <Button
              kind="quiet"
              className="row-span-2 sm:order-last sm:row-span-1"
              onClick={() => setEdited(t)}
              aria-label={`Edit ${t.name}`}
            >
              Edit
            </Button>
            <span className="text-quiet max-sm:hidden">{t.hand} hand</span>
            <span className="text-note text-quiet">
              <span className="sm:hidden">{t.hand} hand · </span>
              full power: backhand <span className="figure text-ink">{speed(t.backhandMps)}</span>, forehand{' '}
              <span className="figure text-ink">{speed(t.forehandMps)}</span>
            </span>
          </li>
        ))}
      </ul>
      <Offered kind="throwers" className="mt-3 p-4" />
      {edited && <ThrowerDialog thrower={edited} onClose={() => setEdited(undefined)} />}
    </Card>
  )
}
