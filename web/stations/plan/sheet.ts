import { NO_WATCHER, Throw } from '../../../contract/trials.ts'
import type { Place, Plan, Session, Thrower } from '../../../contract/trials.ts'
import { wrongWords } from '../../../contract/words.ts'
import type { PlanThrow } from '../../../core/plan/planning.ts'
import { dayAt } from '../../../core/throw/day.ts'
import { NOTHING_OBSERVED } from '../../../core/throw/observed.ts'
import { atPlace } from '../../data/outing.ts'
import { readDistance, readSide, readWind } from './sheetCells.ts'

/** What is pencilled of a throw, a cell each. */
export const SHEET_COLUMNS = ['down', 'side', 'wind', 'hang', 'called', 'why'] as const
export type Column = (typeof SHEET_COLUMNS)[number]

/** A row has its throw’s id from its first letter on, so that keeping it twice is keeping it once. */
export type SheetRow = Readonly<Record<Column, string>> & {
  readonly id: string
  /** It is stored as it stands. */
  readonly kept: boolean
  /** It was stored at all, as it stands or otherwise. */
  readonly stored: boolean
  readonly wrong?: string
}
const EMPTY: Omit<SheetRow, 'id'> = {
  down: '',
  side: '',
  wind: '',
  hang: '',
  called: '',
  why: '',
  kept: false,
  stored: false,
}

/** A sheet that is being typed in. */
export interface SheetState {
  /** By line of the sheet. */
  readonly rows: Readonly<Record<number, SheetRow>>
  readonly session: Session
  readonly throwerId: string
  /** Headwind on the way out, m/s; null where nobody noted it. */
  readonly headwindMps: number | null
}

export type SheetEvent =
  | {
      readonly did: 'typed'
      readonly line: number
      readonly column: Column
      readonly text: string
      /** Of its throw, should it be the first of its row. */
      readonly id: string
    }
  | { readonly did: 'kept'; readonly line: number; readonly row: SheetRow }
  | { readonly did: 'found wrong'; readonly line: number; readonly sentence: string }
  | { readonly did: 'changed outing'; readonly change: Partial<Session> }
  | { readonly did: 'chose thrower'; readonly throwerId: string }
  | { readonly did: 'noted headwind'; readonly mps: number | null }
  | { readonly did: 'took back' }

/** A sheet nobody has typed in yet. */
export const emptySheet = (
  id: string,
  plan: Pick<Plan, 'startsAt'>,
  place: Place | undefined,
  throwers: readonly Thrower[],
  nowMs: number,
): SheetState => ({
  rows: {},
  session: {
    ...NO_WATCHER,
    id,
    ...atPlace(place),
    day: dayAt(plan.startsAt ?? nowMs, place?.timeZone ?? null),
    temperatureC: null,
    altitudeM: place?.altitudeM ?? null,
    method: 'paced',
  },
  throwerId: throwers[0]?.id ?? '',
  headwindMps: null,
})

const isBlank = (row: SheetRow) => SHEET_COLUMNS.every((c) => row[c].trim() === '')
const sameCells = (a: SheetRow, b: SheetRow) => SHEET_COLUMNS.every((c) => a[c] === b[c])

/** The sheet after something was done to it. */
export function sheetAfter(state: SheetState, event: SheetEvent): SheetState {
  const withRow = (line: number, row: SheetRow): SheetState => ({
    ...state,
    rows: { ...state.rows, [line]: row },
  })
  switch (event.did) {
    case 'typed': {
      const { wrong: _, ...before } = state.rows[event.line] ?? { ...EMPTY, id: event.id }
      return withRow(event.line, { ...before, [event.column]: event.text, kept: false })
    }
    case 'kept': {
      const now = state.rows[event.line]
      if (!now) return state
      const { wrong: _, ...rest } = now
      // what was typed while it was stored is not stored yet
      return withRow(event.line, { ...rest, stored: true, kept: sameCells(now, event.row) })
    }
    case 'found wrong': {
      const row = state.rows[event.line]
      return row ? withRow(event.line, { ...row, wrong: event.sentence }) : state
    }
    case 'changed outing':
      return { ...state, session: { ...state.session, ...event.change } }
    case 'chose thrower':
      return { ...state, throwerId: event.throwerId }
    case 'noted headwind':
      return { ...state, headwindMps: event.mps }
    case 'took back':
      return { ...state, rows: {} }
  }
}

/** Rows that stand on the sheet as they are stored. */
export const keptRows = ({ rows }: SheetState): number => Object.values(rows).filter((r) => r.kept).length
/** Throws the sheet has made. */
export const storedIds = ({ rows }: SheetState): string[] =>
  Object.values(rows).flatMap((r) => (r.stored ? [r.id] : []))

/** What a row of the sheet is a throw of. */
export interface SheetOf {
  readonly trialId: string
  readonly plan: Pick<Plan, 'protocol'>
  readonly planned: readonly Omit<PlanThrow, 'round'>[]
  readonly throwers: readonly Thrower[]
  /** A length as it is pencilled, in m. */
  readonly inM: (length: number) => number
  /** A speed of the wind as it is pencilled, in m/s. */
  readonly inMps: (speed: number) => number
  /** Rows of one sheet were thrown one after another, from here on, ms. */
  readonly startedAtMs: number
}

const toTenth = (m: number) => Math.round(10 * m) / 10 + 0

/** What was pencilled in a row, as figures, or what is wrong with it. */
function cellsOf(row: SheetRow) {
  const down = readDistance(row.down)
  if (down === undefined) return `Down is “${row.down}”; write how far down the line it landed.`
  const side = row.side.trim() === '' ? 0 : readSide(row.side)
  if (side === undefined) return `Side is “${row.side}”; write the side too, such as 4 L or 2.5 R.`
  const wind = readWind(row.wind)
  if (wind === undefined)
    return `Wind is “${row.wind}”; write how fast it blew into your face, such as 3, or −3 from behind.`
  const hang = row.hang.trim() === '' ? null : readDistance(row.hang)
  if (hang === undefined) return `Hang time is “${row.hang}”; write seconds.`
  const called = row.called.trim() === '' ? null : Number(row.called.replace(',', '.').replace('−', '-'))
  if (called !== null && Number.isNaN(called)) return `Angle is “${row.called}”; write degrees of hyzer.`
  return { down, side, wind, hang, called }
}

/** The throw a row says, or what is wrong with it in a sentence; undefined where nothing is pencilled. */
export function readRow(
  { rows, session, throwerId, headwindMps }: SheetState,
  line: number,
  { trialId, plan, planned, throwers, inM, inMps, startedAtMs }: SheetOf,
): Throw | string | undefined {
  const [row, t] = [rows[line], planned[line]]
  if (!row || !t || isBlank(row)) return undefined
  const cells = cellsOf(row)
  if (typeof cells === 'string') return cells
  const thrower = throwers.find((x) => x.id === (t.throwerId ?? throwerId))
  if (!thrower) return 'Choose who threw.'
  // a wind pencilled beside the throw is that throw’s; else it is the day’s, turned on the way back
  const day = headwindMps === null ? null : (t.leg === 'out' ? -1 : 1) * headwindMps
  const along = cells.wind === null ? day : toTenth(-inMps(cells.wind))
  const isToday = session.day === dayAt(startedAtMs, session.timeZone)
  const read = Throw.safeParse({
    id: row.id,
    trialId,
    sessionId: session.id,
    discId: t.discId,
    throwerId: thrower.id,
    label: null,
    thrownAt: new Date((isToday ? startedAtMs : Date.parse(`${session.day}T12:00:00`)) + line).toISOString(),
    ...NOTHING_OBSERVED,
    hand: thrower.hand,
    stroke: t.stroke,
    leg: t.leg,
    power: t.power,
    // on the line the angle it took is what was meant
    hyzerDeg: plan.protocol === 'same-line' ? (cells.called ?? t.hyzerDeg) : t.hyzerDeg,
    hyzerCalledDeg: cells.called,
    windAlongMps: along,
    windAcrossMps: along === null ? null : 0,
    carryM: toTenth(inM(cells.down)),
    rightM: toTenth(inM(cells.side)),
    hangS: cells.hang,
    counts: row.why.trim() === '',
    whyNot: row.why.trim() || null,
    notes: {},
    takenBackAt: null,
  })
  return read.success ? read.data : `${wrongWords(read.error.issues[0]!)}.`
}
