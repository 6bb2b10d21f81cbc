import { BadPackage } from './zip.ts'
import type { Package } from './zip.ts'

/**
 * A package that may take the place of everything.
 *
 * @throws BadPackage where it holds one trial
 */
export function ofEverything(pack: Package): Package {
  if (pack.description.veerLine.kind !== 'everything')
    throw new BadPackage(
      'This package holds one trial, not everything: restored, it would take the place of all that is here. Bring it in beside it instead (Settings, Data, Bring in somebody’s trial). Nothing was changed.',
    )
  return pack
}
