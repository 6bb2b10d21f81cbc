import { GUSTY_FROM } from '../../../core/rating/outcome.ts'
import { figure } from '../../data/units.ts'

/** What it means that throws were carried about more than a wind as it was logged carries them. */
export function Gusty({ gusts }: { readonly gusts: number }) {
  if (gusts < GUSTY_FROM) return null
  return (
    <p className="mt-2 border-t border-rule pt-2" data-testid="gusty">
      Throws went about as if the wind had differed from what was noted by{' '}
      <strong>{figure(gusts, 1)} times as much as is usual</strong>: a gusty day, or a wind that was logged
      wrong.{' '}
      <span className="text-quiet">
        All that is said here is less sure for it; a log of the wind would take it out.
      </span>
    </p>
  )
}
