import type { Arrow } from './arrow.ts'
import { aimColumn, effectColumn } from './beliefs.ts'
import type { Kinship } from './kin.ts'
import { AIM, BEARS_ON, OF_DISC, OF_HABIT } from './places.ts'
import type { ThrowTerm } from './throwTerm.ts'

/** The normal equations of a fit: which columns of the border a disc touches, in which order they go, what a throw adds. */

/**
 * Border columns every disc touches: the habits of the arms that threw it, the aim lines of its outings, then its effects in the
 * order of its kin.
 */
export function columnsOf(
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
export function orderOf(arms: number, { effects }: Kinship, outings: number): number[] {
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

/** Adds one throw's information to the normal equations: what was seen times `share`, a recorded path times `pathShare`. */
export function addTerm(arrow: Arrow, t: ThrowTerm, share: number, pathShare: number): void {
  const { rows, seenRows, bearing, white, disc, slot, aimSlot } = t
  const shareOf = (r: number) => (r < seenRows ? share : pathShare)
  const { border } = arrow
  const coupling = arrow.coupling[disc]!
  const touched = arrow.columns[disc]!
  const k = touched.length
  const slotOf = (i: number) => (i === AIM ? aimSlot : slot + i - OF_DISC)
  for (let i = 0; i < BEARS_ON; i++) {
    let side = 0
    for (let r = 0; r < rows; r++) side += shareOf(r) * bearing[r * BEARS_ON + i]! * white[r]!
    side -= t.pull[i]!
    if (i < OF_DISC) arrow.ownSide[disc * OF_DISC + i]! += side
    else arrow.sharedSide[touched[slotOf(i)]!]! += side
    for (let j = 0; j < BEARS_ON; j++) {
      let s = 0
      for (let r = 0; r < rows; r++) s += shareOf(r) * bearing[r * BEARS_ON + i]! * bearing[r * BEARS_ON + j]!
      if (i < OF_DISC && j < OF_DISC) arrow.own[disc * 9 + i * OF_DISC + j]! += s
      else if (i < OF_DISC) coupling[i * k + slotOf(j)]! += s
      else if (j >= OF_DISC) arrow.shared[touched[slotOf(i)]! * border + touched[slotOf(j)]!]! += s
    }
  }
}
