import { at } from '../../contract/api.ts'
import { CLOCK_OFF_MS } from '../../core/throw/clock.ts'
import { ApiProblem, read } from './api.ts'

/** How far this device's clock is off, as it was when it last met the server, ms to be added. */
const KEPT = 'veer-line.clock'
/** So often it is asked again, ms by a clock that only goes forward. */
const ASKED_MS = 600_000

let asked = -Infinity

function kept(): number {
  try {
    return Number(localStorage.getItem(KEPT) ?? 0) || 0
  } catch {
    return 0
  }
}
let offMs = kept()

/** The time as the server has it, as far as this device knows. */
export const now = (): number => Date.now() + offMs

/** Learns how far this device's clock is off. @throws Unreachable where the server does not answer */
export async function learnClock(): Promise<number> {
  const begun = performance.now()
  if (begun - asked < ASKED_MS) return offMs
  const before = Date.now()
  let theirs: string
  try {
    theirs = (await read(at('GET /api/now'))).now
  } catch (e) {
    // a server of an earlier day does not say; what it is sent is sent as it is
    if (e instanceof ApiProblem) return offMs
    throw e
  }
  const off = Date.parse(theirs) - (before + (performance.now() - begun) / 2)
  offMs = Math.abs(off) < CLOCK_OFF_MS ? 0 : Math.round(off)
  asked = begun
  try {
    if (offMs === 0) localStorage.removeItem(KEPT)
    else localStorage.setItem(KEPT, String(offMs))
  } catch {
    // it is learned again at the next visit
  }
  return offMs
}
