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
  const done = [...thrown]
  return Array.from({ length: count }, () => {
    const last = done[done.length - 1]?.disc
    const tally = (test: (c: Cell) => boolean) => done.reduce((n, c) => n + (test(c) ? 1 : 0), 0)
    const scored = cells.map((cell, place) => ({
      cell,
      score: [
        tally((c) => c.disc === cell.disc && c.hyzerDeg === cell.hyzerDeg),
        cell.disc === last && discs.length > 1 ? 1 : 0,
        tally((c) => c.disc === cell.disc),
        tally((c) => c.hyzerDeg === cell.hyzerDeg),
        place,
      ],
    }))
    scored.sort((a, b) => {
      for (let i = 0; i < a.score.length; i++) if (a.score[i] !== b.score[i]) return a.score[i]! - b.score[i]!
      return 0
    })
    const { cell } = scored[0]!
    done.push(cell)
    return cell
  })
}
