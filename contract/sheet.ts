import type { SheetThrow } from '../core/throw/sheetThrow.ts'
import { observedOf, present } from '../core/throw/observed.ts'
import type { RecordedPath } from '../core/throw/recordedPath.ts'
import type { RatedDisc } from '../core/rating/evidence.ts'
import { STANDARD_BODY } from '../core/flight/disc.ts'
import type { Body } from '../core/flight/disc.ts'
import { numbersInForce } from '../core/shelf/numbersInForce.ts'
import type { InForce, Level } from '../core/shelf/numbersInForce.ts'
import { kinOf } from '../core/rating/fromSheet.ts'
import { wearOf } from '../core/shelf/wear.ts'
import type { Disc, Maker, Mold, Plastic, PublishedNumbers, Run, Shelf } from './shelf.ts'
import type { Session, Throw, Thrower, ThrowPath, Trial, TrialFile, WornOn } from './trials.ts'

/** A disc with everything above it. */
export interface ShelvedDisc {
  readonly disc: Disc
  readonly maker: Maker
  readonly mold: Mold
  readonly plastic: Plastic
  readonly run: Run | null
  readonly inForce: InForce
  readonly levels: { readonly [L in Level]: PublishedNumbers | null }
}

/** Joins the shelf's tables: every disc with its run, plastic, mold, maker and numbers in force. */
export function shelvedDiscs(shelf: Shelf): ShelvedDisc[] {
  const byId = <T extends { id: string }>(list: readonly T[]) => new Map(list.map((x) => [x.id, x]))
  const [makers, molds, plastics, runs] = [
    byId(shelf.makers),
    byId(shelf.molds),
    byId(shelf.plastics),
    byId(shelf.runs),
  ]
  return shelf.discs.flatMap((disc) => {
    const plastic = plastics.get(disc.plasticId)
    const mold = plastic && molds.get(plastic.moldId)
    const maker = mold && makers.get(mold.makerId)
    if (!plastic || !mold || !maker) return []
    const run = disc.runId === null ? null : (runs.get(disc.runId) ?? null)
    return [shelved({ disc, maker, mold, plastic, run })]
  })
}

/** A disc with everything above it, its levels and the numbers in force. */
export function shelved(row: Pick<ShelvedDisc, 'disc' | 'maker' | 'mold' | 'plastic' | 'run'>): ShelvedDisc {
  const levels = {
    stamped: row.disc.stamped,
    run: row.run?.numbers ?? null,
    plastic: row.plastic.numbers,
    mold: row.mold.numbers,
  }
  return { ...row, levels, inForce: numbersInForce(levels) }
}

/** A recorded path as a line of the sheet has it: what was not recorded is not there; sides to the thrower’s right. */
export const recordedOf = ({ timeS, downM, rightM, upM }: ThrowPath): RecordedPath => ({
  downM,
  veerM: rightM,
  ...(timeS.length > 0 && { timeS }),
  ...(upM.length > 0 && { upM }),
})

/** Grams the fit uses: weighed, else marked, else the standard weight. */
export const gramsOf = (d: Disc): number | null => d.weighedG ?? d.markedG

/** What the flight of a disc depends on besides its numbers. */
export function bodyOf(d: Disc): Body {
  const grams = gramsOf(d)
  return grams === null ? STANDARD_BODY : { ...STANDARD_BODY, massKg: grams / 1000 }
}

/** A disc of a trial as the fit sees it. */
export function ratedFromShelf(d: ShelvedDisc, controlDiscId: string | null): RatedDisc {
  return {
    id: d.disc.code,
    published: d.inForce.numbers,
    kin: {
      ...kinOf(d.maker.name, d.mold.name, d.plastic.name, d.run?.name),
      wear: wearOf(d.disc.wear),
    },
    body: bodyOf(d.disc),
    ...(d.disc.id === controlDiscId ? { control: true } : {}),
  }
}

/**
 * A trial's throws as lines of the field sheet, oldest first; throws taken back are not on it.
 *
 * The `throw` of a line is the throw's id in the database unless it came from a file with an id of its own.
 */
export function sheetOf(
  file: Pick<TrialFile, 'sessions' | 'throws' | 'worn'> & { readonly trial: Pick<Trial, 'controlDiscId'> },
  discs: readonly ShelvedDisc[],
  throwers: readonly Thrower[],
  ids: 'database' | 'label' = 'database',
): SheetThrow[] {
  const discById = new Map(discs.map((d) => [d.disc.id, d]))
  const throwerById = new Map(throwers.map((t) => [t.id, t]))
  const sessionById = new Map(file.sessions.map((s) => [s.id, s]))
  const wornOn = new Map(file.worn?.map((w) => [wornKey(w), w]))
  return file.throws
    .filter((t) => t.takenBackAt === null)
    .sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt))
    .flatMap((t): SheetThrow[] => {
      const d = discById.get(t.discId)
      const thrower = throwerById.get(t.throwerId)
      const session = sessionById.get(t.sessionId)
      if (!d || !thrower || !session) return []
      const worn = wornOn.get(wornKey(t))
      const control = d.disc.id === file.trial.controlDiscId
      const before = lines.get(t)
      if (
        before?.d === d &&
        before.thrower === thrower &&
        before.session === session &&
        before.ids === ids &&
        before.line.discThrows === worn?.throws &&
        before.line.discHits === worn?.hardHits &&
        before.line.plasticKind === worn?.kind &&
        (before.line.control ?? false) === control
      )
        return [before.line]
      const full =
        t.hand !== thrower.hand ? null : t.stroke === 'backhand' ? thrower.backhandMps : thrower.forehandMps
      const line: SheetThrow = present({
        throw: ids === 'label' ? (t.label ?? t.id) : t.id,
        thrownAt: t.thrownAt,
        thrower: thrower.name,
        ...observedOf(t),
        disc: d.disc.code,
        mold: d.mold.name,
        maker: d.maker.name,
        plastic: d.plastic.name,
        run: d.run?.name,
        ...d.inForce.numbers,
        weightG: gramsOf(d.disc),
        wear: d.disc.wear,
        discThrows: worn?.throws,
        discHits: worn?.hardHits,
        plasticKind: worn?.kind,
        fullSpeedMps: full,
        temperatureC: session.temperatureC,
        altitudeM: session.altitudeM,
        watcherSdDeg: session.watcherSdDeg,
        path: t.path && recordedOf(t.path),
        outing: session.id,
        method: session.method,
        control: control ? true : undefined,
        notes: Object.keys(t.notes).length > 0 ? t.notes : undefined,
      })
      lines.set(t, { d, thrower, session, ids, line })
      return [line]
    })
}

/** A disc on an outing. */
const wornKey = ({ discId, sessionId }: Pick<WornOn, 'discId' | 'sessionId'>) => `${discId} ${sessionId}`

/** Lines of throws that are the same as they were, of the same things: a trial of thousands changes by one at a time. */
const lines = new WeakMap<
  Throw,
  {
    readonly d: ShelvedDisc
    readonly thrower: Thrower
    readonly session: Session
    readonly ids: 'database' | 'label'
    readonly line: SheetThrow
  }
>()
