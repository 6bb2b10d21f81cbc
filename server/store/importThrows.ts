import { NOT_STATED } from '../../contract/naming.ts'
import { setImmediate } from 'node:timers/promises'
import { rollups } from 'd3'
import { inArray } from 'drizzle-orm'
import { v5 as uuidOf } from 'uuid'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'
import { numbersWords } from '../../core/flight/disc.ts'
import { dayAt, instantIn } from '../../core/throw/day.ts'
import { observedOnSheet } from '../../core/throw/observed.ts'
import { Lineage, sameName } from '../../core/shelf/lineage.ts'
import { guessKind } from '../../core/plan/guess.ts'
import type { CsvProblem } from '../../core/formats/csvCells.ts'
import type { MeasuringMethod } from '../../core/throw/method.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import type { ImportPreview } from '../../contract/imports.ts'
import type { Disc, Mold, Shelf } from '../../contract/shelf.ts'
import type { Session, Throw, Thrower, TrialFile } from '../../contract/trials.ts'
import type { Database, Queryable } from './database.ts'
import { throws as throwsTable } from './schema.ts'
import { overwriteShelf, readShelf } from './shelf.ts'
import {
  readThrowers,
  overwriteSession,
  overwriteThrows,
  overwriteThrower,
  overwriteTrialIn,
} from './trials.ts'

/** What the file does not say: how landings were measured, and when, for throws without a time. */
export interface ImportSettings {
  readonly method: MeasuringMethod
  readonly place: string
  /** Clocks of whoever imports it, by IANA name: days of throws whose time says no zone of its own. */
  readonly timeZone: string | null
  readonly now: string
  /** The trial is made of the file: what the file does not say of a disc is made up for it. */
  readonly fresh: boolean
}

/** What a maker or a plastic is called that nobody named. */
/** Rows worked out at a time. */
const ROWS_A_BREATH = 250

/** Everything an import would write, worked out before anything is written. */
interface Plan {
  readonly problems: CsvProblem[]
  readonly preview: Omit<ImportPreview, 'again' | 'stored'>
  readonly shelf: Pick<Shelf, 'makers' | 'molds' | 'plastics' | 'runs' | 'discs'>
  readonly throwers: Thrower[]
  readonly sessions: Session[]
  readonly throws: Throw[]
  readonly discIds: string[]
  readonly controlDiscId: string | null
}

/**
 * Works out what a file of throws means for a trial. Ids follow from the trial and the file's own ids, so that
 * the same file read twice writes the same rows. A throw that was exported from this trial bears its own id: it stays
 * itself, with its outing and its path, and takes over what the file says of it.
 */
async function planImport(
  { trial, throws: here }: Pick<TrialFile, 'trial' | 'throws'>,
  sheet: readonly SheetThrow[],
  shelf: Shelf,
  known: Thrower[],
  settings: ImportSettings,
): Promise<Plan> {
  const problems: CsvProblem[] = []
  const lineage = new Lineage<Shelf>(shelf)
  const newDiscs: Disc[] = []
  const shelved = shelvedDiscs(shelf)
  const idFor = (...parts: string[]) => uuidOf(parts.join('\n'), trial.id)
  const differences: string[] = []
  const discs = new Map<string, { id: string; isNew: boolean }>()

  const makeDisc = (t: SheetThrow, row: number): string | undefined => {
    if (!settings.fresh && (!t.mold || !t.maker)) {
      problems.push({
        row,
        column: 'disc',
        message: `Disc ${t.disc} is not on the shelf. Add it there first, or give its maker and mold in the file.`,
      })
      return undefined
    }
    const numbers = { speed: t.speed, glide: t.glide, turn: t.turn, fade: t.fade }
    const [makerName, moldName] = [t.maker ?? NOT_STATED, t.mold ?? t.disc]
    const maker = lineage.findOrMake('makers', null, makerName, () => ({
      id: idFor('maker', makerName),
      name: makerName,
    }))
    const mold = lineage.findOrMake('molds', maker.id, moldName, () => ({
      id: idFor('mold', makerName, moldName),
      makerId: maker.id,
      name: moldName,
      discClass: classOf(t.speed),
      numbers,
    }))
    const plasticName = t.plastic ?? NOT_STATED
    const plastic = lineage.findOrMake('plastics', mold.id, plasticName, () => ({
      id: idFor('plastic', mold.id, plasticName),
      moldId: mold.id,
      name: plasticName,
      numbers: null,
      claims: [],
    }))
    const run =
      t.run === undefined
        ? undefined
        : lineage.findOrMake('runs', plastic.id, t.run, () => ({
            id: idFor('run', plastic.id, t.run!),
            plasticId: plastic.id,
            name: t.run!,
            numbers: null,
          }))
    const above = run?.numbers ?? plastic.numbers ?? mold.numbers
    const agrees = (['speed', 'glide', 'turn', 'fade'] as const).every((k) => above[k] === numbers[k])
    const disc: Disc = {
      id: idFor('disc', t.disc.toLowerCase()),
      code: t.disc,
      plasticId: plastic.id,
      runId: run?.id ?? null,
      // numbers the levels above do not give are this disc's own
      stamped: agrees ? null : numbers,
      markedG: null,
      weighedG: t.weightG ?? null,
      source: 'unknown',
      provenance: '',
      acquiredOn: null,
      wear: t.wear ?? 'seasoned',
      note: '',
      removedAt: null,
    }
    newDiscs.push(disc)
    return disc.id
  }

  const discFor = (t: SheetThrow, row: number): string | undefined => {
    const key = t.disc.toLowerCase()
    const before = discs.get(key)
    if (before) return before.id
    const onShelf = shelved.find((d) => d.disc.code.toLowerCase() === key)
    const id = onShelf ? onShelf.disc.id : makeDisc(t, row)
    if (onShelf) differences.push(...differencesOf(t, onShelf))
    if (id !== undefined) discs.set(key, { id, isNew: !onShelf })
    return id
  }

  const newThrowers: Thrower[] = []
  const byName = new Map<string, Thrower>()
  const throwerFor = (t: SheetThrow): Thrower => {
    const thrower =
      byName.get(t.thrower) ??
      [...known, ...newThrowers].find((x) => sameName(x.name, t.thrower)) ??
      makeThrower(t)
    byName.set(t.thrower, thrower)
    return thrower
  }
  /** Full speeds by name, hand and stroke as the file writes them. */
  const fullSpeeds = new Map<string, number>()
  for (const t of sheet)
    if (t.fullSpeedMps !== undefined) fullSpeeds.set(`${t.thrower}|${t.hand}|${t.stroke}`, t.fullSpeedMps)
  const makeThrower = (t: SheetThrow): Thrower => {
    const speeds = (stroke: SheetThrow['stroke']) =>
      fullSpeeds.get(`${t.thrower}|${t.hand}|${stroke}`) ?? null
    const thrower: Thrower = {
      id: idFor('thrower', t.thrower.toLowerCase()),
      name: t.thrower,
      hand: t.hand,
      backhandMps: speeds('backhand'),
      forehandMps: speeds('forehand'),
      budget: null,
    }
    newThrowers.push(thrower)
    return thrower
  }

  const sessions = new Map<string, Session>()
  const days = new Map<string, string>()
  const sessionFor = (t: SheetThrow): string => {
    const at = t.thrownAt ?? settings.now
    const day = days.get(at) ?? dayOf(at, settings.timeZone)
    days.set(at, day)
    const key = [
      day,
      t.temperatureC ?? '',
      t.altitudeM ?? '',
      t.method ?? settings.method,
      t.watcherSdDeg ?? '',
      settings.place,
    ].join('|')
    let session = sessions.get(key)
    if (!session) {
      session = {
        id: idFor('session', key),
        place: settings.place,
        placeId: null,
        timeZone: settings.timeZone,
        day,
        temperatureC: t.temperatureC ?? null,
        altitudeM: t.altitudeM ?? null,
        method: t.method ?? settings.method,
        watcherId: null,
        watcherSdDeg: t.watcherSdDeg ?? null,
      }
      sessions.set(key, session)
    }
    return session.id
  }

  const hereById = new Map(here.map((t) => [t.id, t]))
  const missedAt = new Set<string>()
  const planned = (t: SheetThrow, i: number): Throw[] => {
    const row = i + 2
    if (missedAt.has(t.disc)) return []
    const discId = discFor(t, row)
    if (discId === undefined) {
      missedAt.add(t.disc)
      return []
    }
    const own = hereById.get(t.throw)
    if (own)
      return [
        {
          ...own,
          discId,
          throwerId: throwerFor(t).id,
          ...(t.thrownAt !== undefined && { thrownAt: instantIn(t.thrownAt, settings.timeZone) }),
          ...observedOnSheet(t),
          notes: { ...t.notes },
        },
      ]
    return [
      {
        id: idFor('throw', t.throw),
        trialId: trial.id,
        sessionId: sessionFor(t),
        discId,
        throwerId: throwerFor(t).id,
        label: t.throw,
        // rows without a time keep their order
        thrownAt:
          t.thrownAt === undefined
            ? new Date(Date.parse(settings.now) + i).toISOString()
            : instantIn(t.thrownAt, settings.timeZone),
        ...observedOnSheet(t),
        path: null,
        notes: { ...t.notes },
        takenBackAt: null,
        version: 0,
      },
    ]
  }
  const throws: Throw[] = []
  for (const [i, t] of sheet.entries()) {
    // others are answered meanwhile
    if (i % ROWS_A_BREATH === ROWS_A_BREATH - 1) await setImmediate()
    throws.push(...planned(t, i))
  }

  const control = sheet.find((t) => t.control)
  const about = [
    ...new Map(sheet.filter((t) => t.disc !== control?.disc).map((t) => [t.disc, t])).values(),
  ].map((t) => ({
    mold: `${t.maker ?? ''} ${t.mold ?? t.disc}`,
    ...(t.plastic !== undefined && { plastic: t.plastic }),
    ...(t.run !== undefined && { run: t.run }),
  }))
  const codes = (isNew: boolean) =>
    [...new Set(sheet.map((t) => t.disc))].filter((c) => discs.get(c.toLowerCase())?.isNew === isNew)
  const names = (list: readonly Thrower[]) =>
    [...new Set(sheet.map((t) => t.thrower))].filter((n) => list.some((x) => sameName(x.name, n)))
  return {
    problems,
    preview: {
      throws: throws.length,
      leftOut: throws.filter((t) => !t.counts).length,
      knownDiscs: codes(false),
      newDiscs: codes(true),
      knownThrowers: names(known),
      newThrowers: names(newThrowers),
      noteColumns: [...new Set(sheet.flatMap((t) => Object.keys(t.notes ?? {})))],
      differences,
      asks: guessKind(trial.question, about),
    },
    shelf: { ...lineage.made, discs: newDiscs },
    throwers: newThrowers,
    sessions: [...sessions.values()],
    throws,
    discIds: [...discs.values()].map((d) => d.id),
    controlDiscId: (control && discs.get(control.disc.toLowerCase())?.id) ?? null,
  }
}

/** Angles a trial can have, and throws that can be planned. */
const MOST_ANGLES = 7
const MOST_PLANNED = 2000

/** The angles most throws were meant at, most hyzer first. */
const anglesOf = (throws: readonly Throw[]): number[] =>
  rollups(
    throws,
    (list) => list.length,
    (t) => t.hyzerDeg,
  )
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_ANGLES)
    .map(([deg]) => deg)
    .sort((a, b) => b - a)

/** The day people had then: as it is written where the time is by their own clocks, or only a day; of one in UTC, by their clocks. */
const dayOf = (at: string, timeZone: string | null): string =>
  at.endsWith('Z') ? dayAt(at, timeZone) : at.slice(0, 10)

const classOf = (speed: number): Mold['discClass'] =>
  speed < 4 ? 'putter' : speed < 6 ? 'midrange' : speed < 10 ? 'fairway-driver' : 'distance-driver'

function differencesOf(t: SheetThrow, d: ShelvedDisc): string[] {
  const found: string[] = []
  if (numbersWords(t) !== numbersWords(d.inForce.numbers))
    found.push(
      `${t.disc}: the file says ${numbersWords(t)}, the shelf ${numbersWords(d.inForce.numbers)} (${d.inForce.level}). The shelf’s numbers are used.`,
    )
  const grams = d.disc.weighedG ?? d.disc.markedG
  if (t.weightG !== undefined && grams !== null && t.weightG !== grams)
    found.push(`${t.disc}: the file says ${t.weightG} g, the shelf ${grams} g. The shelf’s weight is used.`)
  return found
}

/**
 * Imports a file of throws into a trial, or shows what that would do.
 *
 * @param told told now and then how many throws are stored
 * @returns the problems that keep it out, or the preview; nothing is stored unless `store` is set and there is no problem
 */
export function importThrows(
  db: Database,
  file: Pick<TrialFile, 'trial' | 'throws'>,
  sheet: readonly SheetThrow[],
  settings: ImportSettings,
  store: boolean,
  told: (done: number) => void = () => {},
): Promise<CsvProblem[] | ImportPreview> {
  return db.transaction(async (tx) => {
    const { trial } = file
    const plan = await planImport(file, sheet, await readShelf(tx), await readThrowers(tx), settings)
    if (plan.problems.length > 0) return plan.problems
    const again = await countStored(tx, plan.throws)
    if (store) {
      await overwriteShelf(tx, plan.shelf)
      for (const row of plan.throwers) await overwriteThrower(tx, row)
      for (const row of plan.sessions) await overwriteSession(tx, row)
      const discIds = [...new Set([...trial.discIds, ...plan.discIds])]
      if (settings.fresh)
        await overwriteTrialIn(tx, {
          ...trial,
          discIds,
          controlDiscId: plan.controlDiscId,
          hyzerDegs: anglesOf(plan.throws),
          plannedThrows: Math.min(MOST_PLANNED, plan.throws.length),
        })
      else if (discIds.length > trial.discIds.length) await overwriteTrialIn(tx, { ...trial, discIds })
      await overwriteThrows(tx, plan.throws, told)
    }
    return { ...plan.preview, again, stored: store }
  })
}

async function countStored(db: Queryable, rows: readonly Throw[]): Promise<number> {
  let count = 0
  for (let from = 0; from < rows.length; from += 1000) {
    const ids = rows.slice(from, from + 1000).map((r) => r.id)
    count += (await db.select({ id: throwsTable.id }).from(throwsTable).where(inArray(throwsTable.id, ids)))
      .length
  }
  return count
}
