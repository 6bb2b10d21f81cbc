import { emptyArrow, solveArrow } from './arrow.ts'
import type { Arrow, SolvedArrow } from './arrow.ts'
import { addBeliefs, aimColumn, effectColumn, paceColumn } from './beliefs.ts'
import type { Believed, Spread, SearchStanding } from './beliefs.ts'
import { sharesOf } from './noise.ts'
import type { Noise, Purpose } from './noise.ts'
import { MAX_ROWS } from './observations.ts'
import { WEAR_TURNS } from '../shelf/usualWear.ts'
import { AIM, BEARS_ON, NUMBER, OF_DISC, OF_HABIT } from './places.ts'
import type { ThrowTerm } from './throwTerm.ts'
import { blendPace, paceCount } from './worn.ts'

/** The normal equations of a fit: which columns of the border a disc touches, in which order they go, what a throw adds. */

/**
 * Border columns every disc touches: the habits of the arms that threw it, the aim lines of its outings, its pace of wear where
 * that is asked for, then its effects in the order of its kin.
 */
function columnsOf(
  { discs, kinship, habitSds, worn }: Believed,
  counted: readonly ThrowTerm[],
  outings: number,
): Int32Array[] {
  const arms = habitSds.length
  const thrownBy = discs.map(() => new Set<number>())
  const thrownOn = discs.map(() => new Set<number>())
  for (const t of counted) {
    thrownBy[t.disc]!.add(t.arm)
    thrownOn[t.disc]!.add(t.outing)
  }
  const aimOf = (outing: number) => aimColumn(arms, kinship.effects.length, outing)
  const wornAt = (disc: number) => {
    const pace = worn.paceOf.get(disc)
    return pace === undefined ? [] : [paceColumn(arms, kinship.effects.length, outings, pace)]
  }
  const wide = (first: number, count: number) => Array.from({ length: count }, (_, k) => first + k)
  const columns = thrownBy.map((set, d) => {
    const own = [...set].sort((a, b) => a - b).flatMap((a) => wide(a * OF_HABIT, OF_HABIT))
    const shared = kinship.of[d]!.flatMap(({ effect }) => wide(effectColumn(arms, effect), OF_DISC))
    const aims = [...thrownOn[d]!].sort((a, b) => a - b).map(aimOf)
    return Int32Array.from([...own, ...aims, ...wornAt(d), ...shared])
  })
  for (const t of counted) {
    t.slot = columns[t.disc]!.indexOf(t.arm * OF_HABIT)
    t.aimSlot = columns[t.disc]!.indexOf(aimOf(t.outing))
    const [pace] = wornAt(t.disc)
    t.wornSlot = pace === undefined ? -1 : columns[t.disc]!.indexOf(pace)
  }
  return columns
}

/**
 * Mold by mold, paces of wear first, then effects from the narrowest; then what touches discs of many molds; then aim lines; then
 * habits, which touch nearly all.
 */
function orderOf({ discs, kinship: { effects }, habitSds, worn }: Believed, outings: number): number[] {
  const arms = habitSds.length
  const narrow = { pace: 0, run: 1, plastic: 2, mold: 3, blend: 4, wear: 4 } as const
  const moldOf = new Map<string, number>()
  const groupOf = (mold: string) => {
    if (!moldOf.has(mold)) moldOf.set(mold, moldOf.size)
    return moldOf.get(mold)!
  }
  const paceAt = (pace: number) => paceColumn(arms, effects.length, outings, pace)
  const place = [
    ...effects.map(({ level, names }, e) => ({
      group: narrow[level] === narrow.blend ? Infinity : groupOf(names[0]!),
      rank: narrow[level],
      columns: Array.from({ length: OF_DISC }, (_, k) => effectColumn(arms, e) + k),
    })),
    ...worn.discs.map((d, i) => ({
      group: groupOf(discs[d]!.kin?.mold ?? ''),
      rank: narrow.pace,
      columns: [paceAt(i)],
    })),
    ...worn.blends.map((_, b) => ({
      group: Infinity,
      rank: narrow.blend,
      columns: [paceAt(blendPace(worn, b))],
    })),
  ]
  place.sort((a, b) => (a.group === b.group ? a.rank - b.rank : a.group - b.group))
  return [
    ...place.flatMap(({ columns }) => columns),
    ...Array.from({ length: outings }, (_, o) => aimColumn(arms, effects.length, o)),
    ...Array.from({ length: arms * OF_HABIT }, (_, i) => i),
  ]
}

/** Where the unknowns of a fit stand in its normal equations. */
export interface Layout {
  readonly columns: readonly Int32Array[]
  readonly border: number
  readonly order: readonly number[]
}

/** The layout of a fit; sets where each throw's habit and aim line stand among the columns of its disc. */
export const layoutOf = (believed: Believed, counted: readonly ThrowTerm[], outings: number): Layout => ({
  columns: columnsOf(believed, counted, outings),
  border: paceColumn(
    believed.habitSds.length,
    believed.kinship.effects.length,
    outings,
    paceCount(believed.worn),
  ),
  order: orderOf(believed, outings),
})

/** The normal equations where the search stands, solved. */
export function solveEquations(
  { columns, border, order }: Layout,
  believed: Believed,
  standing: SearchStanding,
  spread: Spread,
  counted: readonly ThrowTerm[],
  noise: Noise,
  purpose: Purpose,
): SolvedArrow {
  const arrow = emptyArrow(columns, border, order)
  addBeliefs(arrow, believed, standing, spread)
  for (const t of counted) {
    const [share, pathShare] = sharesOf(t, noise, purpose)
    addTerm(arrow, t, share, pathShare)
  }
  return solveArrow(arrow)
}

/** What a throw bears on, and last the pace at which its disc wears. */
const PACED = BEARS_ON
const ALL = BEARS_ON + 1
const scaled = new Float64Array(MAX_ROWS * ALL)
const places = new Int32Array(ALL)
const sides = new Float64Array(ALL)

/** Adds one throw's information to the normal equations: what was seen times `share`, a recorded path times `pathShare`. */
export function addTerm(arrow: Arrow, t: ThrowTerm, share: number, pathShare: number): void {
  const { rows, seenRows, bearing, white, disc, slot, aimSlot, wornSlot, pull } = t
  const { border, own, ownSide, shared, sharedSide } = arrow
  const coupling = arrow.coupling[disc]!
  const touched = arrow.columns[disc]!
  const k = touched.length
  // a disc that was as it is now says nothing of its pace
  const count = wornSlot >= 0 && t.worn !== 0 ? ALL : BEARS_ON
  sides.fill(0)
  for (let r = 0; r < rows; r++) {
    const root = Math.sqrt(r < seenRows ? share : pathShare)
    const residual = root * white[r]!
    for (let i = 0; i < count; i++) {
      const b = root * (i === PACED ? byPace(t, bearing, r * BEARS_ON) : bearing[r * BEARS_ON + i]!)
      scaled[r * ALL + i] = b
      sides[i]! += b * residual
    }
  }
  // among the disc's own columns
  for (let i = OF_DISC; i < BEARS_ON; i++) places[i] = i === AIM ? aimSlot : slot + i - OF_DISC
  places[PACED] = wornSlot
  for (let i = 0; i < count; i++) {
    const side = sides[i]! - (i === PACED ? byPace(t, pull, 0) : pull[i]!)
    if (i < OF_DISC) ownSide[disc * OF_DISC + i]! += side
    else sharedSide[touched[places[i]!]!]! += side
    for (let j = 0; j <= i; j++) {
      let s = 0
      for (let r = 0; r < rows; r++) s += scaled[r * ALL + i]! * scaled[r * ALL + j]!
      if (i < OF_DISC) {
        own[disc * 9 + i * OF_DISC + j]! += s
        if (j < i) own[disc * 9 + j * OF_DISC + i]! += s
      } else if (j < OF_DISC) coupling[j * k + places[i]!]! += s
      else {
        const [p, q] = [touched[places[i]!]!, touched[places[j]!]!]
        shared[p * border + q]! += s
        if (j < i) shared[q * border + p]! += s
      }
    }
  }
}

/** How anything that moves with a disc's numbers moves with its pace, at a throw that found it less worn. */
const byPace = ({ worn }: ThrowTerm, by: Float64Array, from: number): number =>
  worn * (WEAR_TURNS * by[from + NUMBER.turn]! + (1 - WEAR_TURNS) * by[from + NUMBER.fade]!)
