import { useMemo } from 'react'
import type { Side } from '../../../core/flight/hand.ts'
import { whatChanged } from '../../../core/lab/changed.ts'
import type { Change, Moved } from '../../../core/lab/changed.ts'
import type { Setup } from '../../../core/lab/setup.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { asideWords } from '../../flown/words.ts'

const CHANGE_WORDS: Record<Change, string> = {
  disc: 'The disc',
  speed: 'The speed',
  angle: 'The angle',
  nose: 'The nose',
  launch: 'The launch',
  aim: 'The aim',
  spin: 'The spin',
  wind: 'The wind',
  air: 'The air',
}
/** A difference no larger says nothing, m. */
const SLIGHT_M = 0.5

interface ComparedProps {
  readonly from: Setup | undefined
  readonly to: Setup | undefined
  readonly fromName: string
  readonly fade: Side
  readonly onKeep: () => void
  readonly onStop: () => void
}

/** Two throws beside each other: what of the difference each change is, on its own. */
export function Compared({ from, to, fromName, fade, onKeep, onStop }: ComparedProps) {
  const units = useUnits()
  const told = useMemo(() => {
    if (!from || !to) return undefined
    try {
      return whatChanged(from, to)
    } catch (e) {
      if (e instanceof RangeError) return e
      throw e
    }
  }, [from, to])
  if (!from)
    return (
      <Card className="p-3.5" label="What changed">
        <h2 className="text-lead">What changed</h2>
        <p className="text-quiet">
          Keep this throw, then change anything: you see what of the difference is the disc, the angle, the
          wind.
        </p>
        <Button className="mt-2" disabled={!to} onClick={onKeep}>
          Keep this throw to compare
        </Button>
      </Card>
    )
  return (
    <Card className="p-3.5" label="What changed">
      <h2 className="text-lead">What changed</h2>
      <p className="text-quiet">Against the throw you kept: {fromName} (dotted).</p>
      {told instanceof RangeError && <p className="mt-1">{told.message}</p>}
      {told && !(told instanceof RangeError) && (
        <>
          <p className="mt-1 font-medium">
            {sentence(told.whole, told.parts, (m) => asideWords(units, m, fade))}
          </p>
          {told.parts.length > 0 && (
            <table className="mt-2 w-full">
              <thead className="text-left text-note text-quiet">
                <tr>
                  <th className="py-1 font-medium">Change</th>
                  <th className="py-1 text-right font-medium">to the side</th>
                  <th className="py-1 text-right font-medium">farther, {units.length.unit}</th>
                </tr>
              </thead>
              <tbody className="divide-y divide-rule">
                {[...told.parts]
                  .sort((a, b) => Math.abs(b.veerM) - Math.abs(a.veerM))
                  .map((p) => (
                    <tr key={p.change}>
                      <th scope="row" className="py-1.5 text-left font-medium">
                        {CHANGE_WORDS[p.change]}
                      </th>
                      <td className="figure text-right">{asideWords(units, p.veerM, fade)}</td>
                      <td className="figure text-right">{figure(units.length.to(p.carryM), 1)}</td>
                    </tr>
                  ))}
                <tr>
                  <th scope="row" className="py-1.5 text-left font-semibold">
                    All of it
                  </th>
                  <td className="figure text-right font-semibold">
                    {asideWords(units, told.whole.veerM, fade)}
                  </td>
                  <td className="figure text-right font-semibold">
                    {figure(units.length.to(told.whole.carryM), 1)}
                  </td>
                </tr>
              </tbody>
            </table>
          )}
        </>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={!to} onClick={onKeep}>
          Keep the present one instead
        </Button>
        <Button kind="quiet" onClick={onStop}>
          Compare no more
        </Button>
      </div>
    </Card>
  )
}

/** What mostly did it: “It was the wind, not the disc: 8.2 m left of 9.1.” */
function sentence(
  whole: Moved,
  parts: readonly (Moved & { readonly change: Change })[],
  aside: (m: number) => string,
): string {
  if (parts.length === 0) return 'Nothing has changed yet.'
  if (Math.max(...parts.map((p) => Math.abs(p.veerM))) < SLIGHT_M)
    return 'Nothing that changed moves where it finishes to the side.'
  const most = parts.reduce((a, b) => (Math.abs(b.veerM) > Math.abs(a.veerM) ? b : a))
  const name = (c: Change) => CHANGE_WORDS[c].toLowerCase()
  const others = parts.filter((p) => p !== most && Math.abs(p.veerM) < 0.25 * Math.abs(most.veerM))
  const not = others.length > 0 ? `, not ${others.map((p) => name(p.change)).join(' or ')}` : ''
  if (parts.length === 1)
    return `${CHANGE_WORDS[most.change]} moves it: finishes ${aside(whole.veerM)} of where it did.`
  return `It is mostly ${name(most.change)}${not}: ${aside(most.veerM)}, and ${aside(whole.veerM)} in all.`
}
