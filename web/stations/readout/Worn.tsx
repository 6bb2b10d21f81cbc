import { Z90 } from '../../../core/rating/normal.ts'
import type { WornOutcome } from '../../../core/rating/outcome.ts'
import { figure } from '../../data/units.ts'

/** Less than this, on the scale of turn + fade, is not worth a line. */
const TOLD_FROM = 0.1

/** Which state of a disc is spoken of where it was worn between its throws, and what it lost meanwhile. */
export function WornCard({
  worn,
  name,
}: {
  readonly worn: readonly WornOutcome[]
  readonly name: (code: string) => string
}) {
  const told = worn.filter((w) => w.usually >= TOLD_FROM)
  if (told.length === 0) return null
  return (
    <div className="mt-2 border-t border-rule pt-2" data-testid="worn">
      <p>Discs as they were last thrown. Since their first throw here</p>
      <ul>
        {told.map(({ disc, usually, lost }) => (
          <li key={disc}>
            <strong>{name(disc)}</strong>{' '}
            {lost.value > Z90 * lost.sd
              ? `lost ${figure(lost.value, 1)} ± ${figure(lost.sd, 1)} of stability`
              : `shows no loss of stability (${figure(lost.value, 1)} ± ${figure(lost.sd, 1)})`}
            <span className="text-quiet">
              ; its plastic usually loses {figure(usually, 1)} by what was noted.
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}
