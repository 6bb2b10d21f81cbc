import { emptyArrow, solveArrow } from './arrow.ts'
import type { Arrow, SolvedArrow } from './arrow.ts'
import { addBeliefs, aimColumn, effectColumn } from './beliefs.ts'
import type { Believed, Spread, Standing } from './beliefs.ts'
import type { Kinship } from './kin.ts'
import { sharesOf } from './noise.ts'
import type { Noise, Purpose } from './noise.ts'
import { MAX_ROWS } from './observations.ts'
import { AIM, BEARS_ON, OF_DISC, OF_HABIT } from './places.ts'
import type { ThrowTerm } from './throwTerm.ts'

/** The normal equations of a fit: which columns of the border a disc touches, in which order they go, what a throw adds. */

/**
 * Border columns every disc touches: the habits of the arms that threw it, the aim lines of its outings, then its effects in the
 * order of its kin.
 */
function columnsOf(
  discs: number,
  arms: number,
  counted: readonly ThrowTerm[],
  kinship: Kinship,
): Int32Array[] {
  const thrownBy = Array.from({ length: discs }, () => new Set<number>())
  const thrownOn = Array.from({ length: discs }, () => new Set<number>())
  for (const t of counted) {
    thrownBy[t.disc]!.add(t.arm)
    thrownOn[t.disc]!.add(t.outing)
  }
  const aimOf = (outing: number) => aimColumn(arms, kinship.effects.length, outing)
  const wide = (first: number, count: number) => Array.from({ length: count }, (_, k) => first + k)
  const columns = thrownBy.map((set, d) => {
    const own = [...set].sort((a, b) => a - b).flatMap((a) => wide(a * OF_HABIT, OF_HABIT))
    const shared = kinship.of[d]!.flatMap(({ effect }) => wide(effectColumn(arms, effect), OF_DISC))
    const aims = [...thrownOn[d]!].sort((a, b) => a - b).map(aimOf)
    return Int32Array.from([...own, ...aims, ...shared])
  })
  for (const t of counted) {
    t.slot = columns[t.disc]!.indexOf(t.arm * OF_HABIT)
    t.aimSlot = columns[t.disc]!.indexOf(aimOf(t.outing))
  }
  return columns
}

/**
 * Effects mold by mold, from the narrowest; then what touches discs of many molds; then aim lines; then habits, which touch
 * nearly all.
 */
function orderOf(arms: number, { effects }: Kinship, outings: number): number[] {
  const narrow = { run: 0, plastic: 1, mold: 2, blend: 3, wear: 3 } as const
  const moldOf = new Map<string, number>()
  const place = effects.map(({ level, names }, e) => {
    if (narrow[level] === 3) return [Infinity, 3, e] as const
    const mold = names[0]!
    if (!moldOf.has(mold)) moldOf.set(mold, moldOf.size)
    return [moldOf.get(mold)!, narrow[level], e] as const
  })
  place.sort((a, b) => (a[0] === b[0] ? a[1] - b[1] || a[2] - b[2] : a[0] - b[0]))
  return [
    ...place.flatMap(([, , e]) => Array.from({ length: OF_DISC }, (_, k) => effectColumn(arms, e) + k)),
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
export const layoutOf = (
  { discs, kinship, habitSds }: Believed,
  counted: readonly ThrowTerm[],
  outings: number,
): Layout => ({
  columns: columnsOf(discs.length, habitSds.length, counted, kinship),
  border: aimColumn(habitSds.length, kinship.effects.length, outings),
  order: orderOf(habitSds.length, kinship, outings),
})

/** The normal equations where the search stands, solved. */
export function solveEquations(
  { columns, border, order }: Layout,
  believed: Believed,
  standing: Standing,
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

const scaled = new Float64Array(MAX_ROWS * BEARS_ON)
const places = new Int32Array(BEARS_ON)
const sides = new Float64Array(BEARS_ON)

/** Adds one throw's information to the normal equations: what was seen times `share`, a recorded path times `pathShare`. */
export function addTerm(arrow: Arrow, t: ThrowTerm, share: number, pathShare: number): void {
  const { rows, seenRows, bearing, white, disc, slot, aimSlot, pull } = t
  const { border, own, ownSide, shared, sharedSide } = arrow
  const coupling = arrow.coupling[disc]!
  const touched = arrow.columns[disc]!
  const k = touched.length
  sides.fill(0)
  for (let r = 0; r < rows; r++) {
    const root = Math.sqrt(r < seenRows ? share : pathShare)
    const residual = root * white[r]!
    for (let i = 0; i < BEARS_ON; i++) {
      const b = root * bearing[r * BEARS_ON + i]!
      scaled[r * BEARS_ON + i] = b
      sides[i]! += b * residual
    }
  }
  // among the disc's own columns
  for (let i = OF_DISC; i < BEARS_ON; i++) places[i] = i === AIM ? aimSlot : slot + i - OF_DISC
  for (let i = 0; i < BEARS_ON; i++) {
    const side = sides[i]! - pull[i]!
    if (i < OF_DISC) ownSide[disc * OF_DISC + i]! += side
    else sharedSide[touched[places[i]!]!]! += side
    for (let j = 0; j <= i; j++) {
      let s = 0
      for (let r = 0; r < rows; r++) s += scaled[r * BEARS_ON + i]! * scaled[r * BEARS_ON + j]!
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
