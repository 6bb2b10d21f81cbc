/** A disc at a release angle: what a throw is of. */
export interface Cell {
  readonly disc: string
  readonly hyzerDeg: number
}

/**
 * The next throws of an even plan: the cells thrown least come first; among those, the disc and then the angle
 * thrown least, then the trial's own order. Never the disc just thrown when another is as good.
 *
 * @param discs ids in the order of the trial
 * @param hyzerDegs release angles of the trial
 * @param thrown the counted throws so far, oldest first
 * @param count how many to name
 */
export function nextThrows(
  discs: readonly string[],
  hyzerDegs: readonly number[],
  thrown: readonly Cell[],
  count: number,
): Cell[] {
  const cells = hyzerDegs.flatMap((hyzerDeg) => discs.map((disc) => ({ disc, hyzerDeg })))
  if (cells.length === 0) return []
  const byCell = new Tally<string>()
  const byDisc = new Tally<string>()
  const byAngle = new Tally<number>()
  const note = ({ disc, hyzerDeg }: Cell) => {
    byCell.add(`${hyzerDeg} ${disc}`)
    byDisc.add(disc)
    byAngle.add(hyzerDeg)
  }
  thrown.forEach(note)
  let last = thrown[thrown.length - 1]?.disc
  return Array.from({ length: count }, () => {
    const scored = cells.map((cell, place) => ({
      cell,
      score: [
        byCell.of(`${cell.hyzerDeg} ${cell.disc}`),
        cell.disc === last && discs.length > 1 ? 1 : 0,
        byDisc.of(cell.disc),
        byAngle.of(cell.hyzerDeg),
        place,
      ],
    }))
    scored.sort((a, b) => {
      for (let i = 0; i < a.score.length; i++) if (a.score[i] !== b.score[i]) return a.score[i]! - b.score[i]!
      return 0
    })
    const { cell } = scored[0]!
    note(cell)
    last = cell.disc
    return cell
  })
}

/** How often each thing has been. */
class Tally<K> {
  readonly #counts = new Map<K, number>()
  add(key: K): void {
    this.#counts.set(key, this.of(key) + 1)
  }
  of(key: K): number {
    return this.#counts.get(key) ?? 0
  }
}
