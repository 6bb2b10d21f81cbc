import { BANKS, glimpsesOf } from '../flight/glimpses.ts'
import { calledBanks } from './calls.ts'
import type { CalledBank } from './calls.ts'
import { CALLED_SD, landingSd, SEEN_SD } from './evidence.ts'
import type { ThrowEvidence } from './evidence.ts'
import { SEEN, SEEN_ROWS } from './linear.ts'
import { AT } from './places.ts'
import { condense, PATH_MARKS } from './recorded.ts'
import type { PathEvidence } from './recorded.ts'

/** The row of something called or measured out of the hand: a value of the point itself. */
export const handRow = (at: number): number => -1 - at
/** Which value of the point such a row is. */
export const handPlace = (kind: number): number => -1 - kind

/** Something measured of a throw, its row and its error. */
interface Measured {
  readonly row: number
  readonly sd: number
  /** Its error where that of whoever called it was measured. */
  readonly sdOf?: (t: ThrowEvidence) => number | undefined
  readonly of: (t: ThrowEvidence) => number | undefined
}

/** What is seen beside the landing, and how well. A further measurement is a further line. */
const MEASURED: readonly Measured[] = [
  { row: SEEN_ROWS.hang, sd: SEEN_SD.hangS, of: (t) => t.hangS },
  { row: SEEN_ROWS.mid, sd: SEEN_SD.midM, of: (t) => t.mid?.veerM },
  { row: SEEN_ROWS.apex, sd: SEEN_SD.apexM, of: (t) => t.apexM },
  {
    row: handRow(AT.lnSpeed),
    sd: CALLED_SD.lnSpeed,
    of: (t) => (t.releaseSpeedMps === undefined ? undefined : Math.log(t.releaseSpeedMps)),
  },
  { row: handRow(AT.launch), sd: CALLED_SD.launch, of: (t) => t.launchCalledRad },
  {
    row: handRow(AT.hyzer),
    sd: CALLED_SD.hyzer,
    sdOf: (t) => t.watcherSdRad,
    of: (t) => t.hyzerCalledRad,
  },
  { row: handRow(AT.nose), sd: CALLED_SD.nose, of: (t) => t.noseCalledRad },
]

/** Rows of a landing. */
const LANDED = 2
/** At most: the landing, everything measured besides, the banks called, and a path's side, height and time at its marks. */
export const MAX_ROWS = LANDED + MEASURED.length + glimpsesOf(PATH_MARKS)

/** Everything seen of one throw, row by row. */
export interface Observations {
  /** Per row: index of what the flight shows, or {@link handRow} of the point's own value. */
  readonly kinds: readonly number[]
  readonly target: readonly number[]
  readonly sds: readonly number[]
  /** Banks called, each with the row it has. */
  readonly called: readonly { readonly row: number; readonly bank: CalledBank }[]
  readonly path: PathEvidence | undefined
  /** Rows of each channel of a recorded path. */
  readonly pathRows: readonly (readonly number[])[]
}

/** Stacks what was seen of a throw: the landing, what was measured, calls in the air, a recorded path. */
export function observationsOf(t: ThrowEvidence): Observations {
  const kinds: number[] = [SEEN_ROWS.carry, SEEN_ROWS.veer]
  const target = [t.carryM, t.veerM]
  const sds: number[] = [...landingSd(t.method, t.carryM, t.veerM)]
  const see = (kind: number, value: number, sd: number) => {
    kinds.push(kind)
    target.push(value)
    sds.push(sd)
  }
  for (const { row, sd, sdOf, of } of MEASURED) {
    const value = of(t)
    if (value !== undefined) see(row, value, sdOf?.(t) ?? sd)
  }
  const called = calledBanks(t.calls ?? [], t.hyzerRad, t.watcherSdRad).map((bank) => {
    see(SEEN + bank.bank, 0, 1)
    return { row: kinds.length - 1, bank }
  })
  const path = t.path && condense(t.path)
  const pathRows = (path?.channels ?? []).map(({ channel, white }) => {
    const first = kinds.length
    white.forEach((value, k) => see(SEEN + BANKS + channel * path!.marks.length + k, value, 1))
    return Array.from(white, (_, k) => first + k)
  })
  return { kinds, target, sds, called, path, pathRows }
}
