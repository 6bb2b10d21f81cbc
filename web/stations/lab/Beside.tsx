import type { LabObstacle } from '../../../contract/lab.ts'
import type { LeftOrRight } from '../../../core/flight/hand.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'
import { cloudSpread } from '../../flown/useFlown.ts'
import type { useFlown } from '../../flown/useFlown.ts'
import type { ShownFlight } from '../../flown/Views.tsx'
import { asideWords, comesDownWords, doesIt } from '../../flown/words.ts'
import type { FlownCloud } from '../../workers/lab.ts'
import { Button } from '../../parts/Button.tsx'
import { DiscDot } from '../../parts/Disc.tsx'

interface BesideProps {
  readonly flown: Pick<ReturnType<typeof useFlown>, 'flights' | 'before' | 'clouds'>
  readonly obstacles: readonly LabObstacle[]
  readonly fade: LeftOrRight
  /** Makes one of them the disc that is thrown. */
  readonly onThrow: (place: number) => void
}

/** Discs that are flown beside each other, and the throw that was kept: where each lands and how likely it does what is asked. */
export function Beside({ flown: { flights, before, clouds }, obstacles, fade, onThrow }: BesideProps) {
  const { length } = useUnits()
  if (flights.length < 2 && !before) return null
  const asked = clouds.of[0] && doesIt(clouds.of[0].chance, obstacles)
  const figures = ({ flight }: ShownFlight, cloud: FlownCloud | undefined) => {
    const spread = cloud && cloudSpread(cloud)
    const does = cloud && doesIt(cloud.chance, obstacles)
    return (
      <>
        <td className="figure pl-4 text-right whitespace-nowrap max-md:hidden">
          {length.show(flight.landed.downM)}
        </td>
        <td className="figure pl-4 text-right whitespace-nowrap max-md:hidden">
          {asideWords({ length }, flight.landed.sideM, fade)}
        </td>
        <td className="figure pl-4 text-right whitespace-nowrap max-md:hidden">
          {spread ? `${length.to(spread.alongM).toFixed(0)} × ${length.show(spread.asideM, 0)}` : '…'}
        </td>
        {asked && (
          <td className="figure pl-4 text-right font-semibold whitespace-nowrap">
            {does ? percent(does.share) : '…'}
          </td>
        )}
      </>
    )
  }
  /** Where a phone has no room for columns. */
  const brief = ({ flight }: ShownFlight) => (
    <span className="figure block text-note font-normal text-quiet md:hidden">
      {length.show(flight.landed.downM)} out, {asideWords({ length }, flight.landed.sideM, fade)}
    </span>
  )
  return (
    <table className="mt-3 w-full" aria-label="Beside each other">
      <thead className="text-left text-note text-quiet">
        <tr>
          <th className="py-1 font-medium">Thrown</th>
          <th className="py-1 pl-4 text-right font-medium whitespace-nowrap max-md:hidden">lands out</th>
          <th className="py-1 pl-4 text-right font-medium whitespace-nowrap max-md:hidden">aside</th>
          <th className="py-1 pl-4 text-right font-medium whitespace-nowrap max-md:hidden">2 in 3 within</th>
          {asked && <th className="py-1 pl-4 text-right font-medium whitespace-nowrap">{asked.brief}</th>}
          <th>
            <span className="sr-only">Throw it</span>
          </th>
        </tr>
      </thead>
      <tbody className="divide-y divide-rule">
        {flights.map((f, i) => (
          <tr key={i}>
            <th scope="row" className="w-full py-1 text-left font-medium">
              <span className="flex items-center gap-2">
                <DiscDot look={f.look} />
                <span>
                  {f.name}
                  {comesDownWords(f.flight) && <span className="text-accent"> rolls</span>}
                  {brief(f)}
                </span>
              </span>
            </th>
            {figures(f, clouds.of[i])}
            <td className="py-1 pl-2 text-right md:whitespace-nowrap">
              {i > 0 && (
                <Button kind="quiet" onClick={() => onThrow(i)} aria-label={`Throw ${f.name}`}>
                  Throw it
                </Button>
              )}
            </td>
          </tr>
        ))}
        {before && (
          <tr>
            <th scope="row" className="w-full py-1 text-left font-medium">
              <span className="flex items-center gap-2">
                <svg width="18" height="18" aria-hidden>
                  <line
                    x1="1"
                    x2="17"
                    y1="9"
                    y2="9"
                    strokeWidth="3"
                    strokeDasharray="3 4"
                    style={{ stroke: 'var(--quiet)' }}
                  />
                </svg>
                <span>
                  Kept: {before.name}
                  {brief(before)}
                </span>
              </span>
            </th>
            {figures(before, clouds.before)}
            <td />
          </tr>
        )}
      </tbody>
    </table>
  )
}
