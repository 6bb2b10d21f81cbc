import type { LeftOrRight } from '../../../core/flight/hand.ts'
import { PER_M } from '../../../core/flight/side.ts'
import { farther } from '../../../core/judge/statements.ts'
import type { Disagreement } from '../../../core/rating/known.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'

interface DisagreementsProps {
  readonly list: readonly Disagreement[]
  readonly fadeSide: LeftOrRight | undefined
  readonly name: (code: string) => string
}

/** Discs that fly otherwise in this trial than everything thrown of them says. */
export function Disagreements({ list, fadeSide, name }: DisagreementsProps) {
  const { length } = useUnits()
  if (list.length === 0) return null
  return (
    <ul className="mt-2 border-t border-rule pt-2" data-testid="disagreements">
      {list.map(({ disc, finishM, probability }) => (
        <li key={disc}>
          <strong>{name(disc)}</strong> finishes {length.show(Math.abs(finishM))}{' '}
          {farther(fadeSide, finishM > 0)} here than all its throws together say, in a flight of{' '}
          {length.show(PER_M, 0)}: more than chance, {percent(probability)}.{' '}
          <span className="text-quiet">Worn since, another arm, or another label?</span>
        </li>
      ))}
    </ul>
  )
}
