import { format } from 'date-fns'
import { DEGREE } from '../../../core/flight/units.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import type { AimOutcome } from '../../../core/rating/outcome.ts'
import type { TrialView } from '../../data/hooks.ts'
import { figure } from '../../data/units.ts'

/** Outings that seem to have been aimed beside the line their landings were measured from. */
export function AimedOff({ view, aims }: { view: TrialView; aims: readonly AimOutcome[] }) {
  const own = new Set(view.throws.map((t) => t.sessionId))
  const off = aims.filter((a) => a.off && own.has(a.outing))
  if (off.length === 0) return null
  return (
    <ul className="mt-2 border-t border-rule pt-2" data-testid="aimed-off">
      {off.map(({ outing, rightRad: { value, sd } }) => {
        const session = view.sessions.find((s) => s.id === outing)
        const [size, half] = [Math.abs(value) / DEGREE, (Z90 * sd) / DEGREE]
        return (
          <li key={outing}>
            {session && `On ${format(session.day, 'd MMM yyyy')} throws`} were aimed{' '}
            <strong>
              {figure(size, 1)}° {value > 0 ? 'right' : 'left'}
            </strong>{' '}
            ({figure(size - half, 1)} to {figure(size + half, 1)}) of the line that landings are measured
            from, as if it had been paced out wrong.{' '}
            <span className="text-quiet">That is taken out; a mark far out would be surer.</span>
          </li>
        )
      })}
    </ul>
  )
}
