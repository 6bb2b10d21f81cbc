import { useSlips } from '../../workers/slips.ts'
import { SlipQuestion } from '../../parts/SlipQuestion.tsx'
import type { ViewProps } from './views/viewProps.ts'

/** Throws that read as if they were logged wrong, each with what it may have been. */
export function Slips({
  view,
  reading,
  ratingKey,
  name,
}: Pick<ViewProps, 'view' | 'reading' | 'ratingKey' | 'name'>) {
  const slips = useSlips(ratingKey, reading, view.throws)
  if (slips.length === 0) return null
  return (
    <ul
      className="divide-y divide-rule rounded-xl border border-edge bg-card px-4"
      aria-label="Throws that read as logged wrong"
    >
      {slips.map((slipped) => (
        <li key={slipped.throw} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
          <SlipQuestion {...{ view, name, slipped }} />
        </li>
      ))}
    </ul>
  )
}
