import { useMemo, useState } from 'react'
import { greatest } from 'd3'
import { isAtHand } from '../../../contract/rotation.ts'
import type { Board, RotationDisc } from '../../../contract/rotation.ts'
import { percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { lookOf } from '../../strip/hues.ts'
import { useDoes } from '../../workers/board.ts'

/** So many are told of until all are asked for. */
const FEW = 4

/** Discs that were thrown and are on no lane, each with the reason. */
export function OffBoard({ board, base }: { board: Board; base: Board | undefined }) {
  const [all, setAll] = useState(false)
  const off = useMemo(() => {
    const on = new Set(board.lanes.flatMap((l) => l.discs.map((d) => d.discId)))
    return board.discs.filter((d) => d.rated !== null && !on.has(d.id))
  }, [board])
  const shown = all ? off : off.slice(0, FEW)
  const does = useDoes(
    base,
    board,
    shown.filter(isAtHand).map((d) => d.id),
  )
  // lanes that are still worked out may take one yet
  if (off.length === 0 || board.weighing) return null
  return (
    <Card className="p-4" label="Thrown, and on no lane">
      <h2 className="text-lead">Thrown, and on no lane</h2>
      <ul>
        {shown.map((d) => (
          <li key={d.id} className="border-t border-rule py-1.5 first:border-t-0">
            <StationLink
              at="shelf/disc"
              params={{ discId: d.id }}
              className="tap flex items-center gap-2 font-medium underline-offset-4 hover:underline"
            >
              <DiscDot look={lookOf(d.code)} size={14} /> {d.code}, {d.mold} {d.plastic}
            </StationLink>
            <span className="text-note text-quiet">{whyNot(board, d, does)}</span>
          </li>
        ))}
      </ul>
      {off.length > FEW && (
        <Button kind="quiet" className="mt-1 text-note" onClick={() => setAll(!all)}>
          {all ? 'The first alone' : `All ${off.length}`}
        </Button>
      )}
    </Card>
  )
}

/** Why a disc is on no lane. */
function whyNot(board: Board, disc: RotationDisc, does: ReturnType<typeof useDoes>): string {
  if (!isAtHand(disc)) return `It is ${disc.state}: what is not at hand does no job.`
  const nearest = greatest(board.jobs, (j) => does?.get(j.id)?.get(disc.id) ?? 0)
  const now = nearest && does?.get(nearest.id)?.get(disc.id)
  return now === undefined
    ? 'Looking which job it comes nearest to …'
    : `It does none of the jobs and wears into none. Nearest is ${nearest!.name}, ${percent(now)}.`
}
