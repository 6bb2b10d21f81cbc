import { z } from 'zod'

/** Which throws of a trial were kept on this device: taking the last one back means the last of these. */
const Ids = z.array(z.string())
const keyOf = (trialId: string) => `veer-line.made.${trialId}`
/** Nobody takes back more in a row. */
const MOST = 500

function made(trialId: string): string[] {
  try {
    return Ids.parse(JSON.parse(localStorage.getItem(keyOf(trialId)) ?? '[]'))
  } catch {
    return []
  }
}

export function noteMade(trialId: string, id: string): void {
  try {
    // read anew every time: another page of this device may have kept some
    localStorage.setItem(keyOf(trialId), JSON.stringify([...made(trialId), id].slice(-MOST)))
  } catch {
    // a device out of room: only taking back with one key suffers
  }
}

/** The last of some throws, oldest first, that was kept on this device. */
export function lastMadeHere<T extends { readonly id: string }>(
  trialId: string,
  throws: readonly T[],
): T | undefined {
  const here = new Set(made(trialId))
  return throws.findLast((t) => here.has(t.id))
}

export const NONE_HERE =
  'No throw of this trial was kept on this device. Another device’s can be taken back on the Readout.'
