import type { Plan } from '../../contract/trials.ts'
import { CLAIMABLE } from '../../core/judge/claims.ts'
import type { Units } from './units.ts'

/** A built claim as it is said: “Slate flies farther than Amber, by 3.0 m or more”. */
export function claimWords(
  { discId, says, thanId, by }: Plan['built'][number],
  nameOf: (id: string) => string,
  units: Units,
): string {
  const amount =
    by === 0
      ? ''
      : CLAIMABLE[says].unit === 'm'
        ? `, by ${units.length.show(by)} or more`
        : `, by ${by.toFixed(1)} or more`
  return `${nameOf(discId)} ${CLAIMABLE[says].words} ${thanId === null ? 'its label' : nameOf(thanId)}${amount}`
}
