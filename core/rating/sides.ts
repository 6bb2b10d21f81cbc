import { sideSlopesOf } from '../flight/side.ts'
import { perDisc } from './perDisc.ts'

/** Where a disc of a fit flies by its most believable numbers, and how that follows them. */
export const sideIn = perDisc(({ evidence, numbers }, disc) => {
  const [glide, turn, fade] = numbers[disc] as unknown as [number, number, number]
  return sideSlopesOf({ ...evidence.discs[disc]!.published, glide, turn, fade })
})
