import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import type { DragEndEvent } from '@dnd-kit/core'
import { Plus } from 'lucide-react'
import { memo, startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { backupNow, dueOf, movesOf, wearInNext } from '../../../core/rotation/board.ts'
import { growthOf } from '../../../core/rotation/scatter.ts'
import { dueWords, moveWords, throwsLeftWords } from '../../../core/rotation/words.ts'
import type { Board, JobRow } from '../../../contract/rotation.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { useShelf, useThrowers } from '../../data/hooks.ts'
import { today } from '../../data/outing.ts'
import { planRetest } from '../../data/retest.ts'
import { happened, takeBack } from '../../data/rotation.ts'
import { useBoard } from '../../workers/board.ts'
import { percent } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { StationLink, useAddresses } from '../../parts/StationLink.tsx'
import { say, sayWrong } from '../../data/say.ts'
import { Blends } from './Blends.tsx'
import { BulkWear } from './BulkWear.tsx'
import { DefineJob } from './DefineJob.tsx'
import { OffBoard } from './OffBoard.tsx'
import { LaneRow, lanesShown } from './Lane.tsx'
import type { LaneProps, LaneShown } from './Lane.tsx'
import { laneOf, nameOf } from './shown.ts'

/** A finger or a mouse that only presses moves nothing, px. */
const BY_POINTER = { activationConstraint: { distance: 5 } }
/** So many lanes fill a screen; the others are drawn right after them. */
const FIRST_LANES = 4

/** What lanes call. */
interface Doing {
  readonly move: (discId: string, jobId: string | null) => Promise<void>
  readonly retest: (job: JobRow, discId: string, throws: number | null) => Promise<void>
}

/** Has a disc carried for another job from today. */
async function moved(board: Board, discId: string, jobId: string | null): Promise<void> {
  const disc = board.discs.find((d) => d.id === discId)
  if (!disc || disc.jobId === jobId) return
  const event = await happened(discId, 'moved', jobId)
  const job = board.jobs.find((j) => j.id === jobId)
  say(`${disc.code} is carried for ${job ? job.name : 'no job'} from today.`, {
    label: 'Undo',
    run: () => void takeBack(event),
  })
}

export default function Rotation() {
  const { board, base, error } = useBoard()
  const [defining, setDefining] = useState<JobRow | 'new'>()
  const [wearing, setWearing] = useState(false)
  const { throwers } = useThrowers()
  // what is seen at first does not wait for what is not
  const [whole, setWhole] = useState(false)
  const isThere = board !== undefined
  useEffect(() => {
    if (isThere) startTransition(() => setWhole(true))
  }, [isThere])
  const { view } = useShelf(whole)
  const go = useNavigate()
  const to = useAddresses()
  const day = today()
  const lanes = useMemo(
    () => (board ? lanesShown(board, throwers ?? NOBODY, day) : []),
    [board, throwers, day],
  )
  // what lanes call stays the same, so that only those are drawn anew that changed
  const doing = useRef<Doing>({ move: async () => {}, retest: async () => {} })
  useEffect(() => {
    if (board)
      doing.current = {
        move: (discId, jobId) => moved(board, discId, jobId),
        retest: async (job, discId, throws) => {
          const disc = board.discs.find((d) => d.id === discId)
          if (!disc) return
          if (!view) return sayWrong('The shelf is still being read: try again in a moment.')
          try {
            const { id } = await planRetest(disc, job, throws, view.discs)
            const plan = to('plan', { trialId: id }) ?? to('field', { trialId: id })
            if (plan === undefined) return say(`A re-test of ${disc.code} was planned.`)
            void go(plan)
          } catch (e) {
            sayWrong((e as Error).message)
          }
        },
      }
  })
  const move = useCallback<LaneProps['onMove']>((...to) => void doing.current.move(...to), [])
  const retest = useCallback<LaneProps['onRetest']>((...of) => void doing.current.retest(...of), [])
  if (error && !board) return <TroubleNote error={error} />
  if (!board) return <WaitingNote what="the rotation" />
  return (
    <div className="p-3 md:p-4">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-title">Rotation</h1>
          <p className="text-quiet">
            Which disc does which job, and when it will no longer.
            {board.weighing && ' Weighing re-tests …'}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <StationLink at="rotation/bag" className={buttonLook()}>
            The bag from above
          </StationLink>
          <Button onClick={() => setWearing(true)}>Log wear of several discs</Button>
          <Button kind="primary" onClick={() => setDefining('new')}>
            <Plus size={18} aria-hidden /> New job
          </Button>
        </div>
      </div>
      {board.jobs.length === 0 ? (
        <Empty
          title="What do you want discs for?"
          action={
            <Button kind="primary" onClick={() => setDefining('new')}>
              Define your first job
            </Button>
          }
        >
          A job is a flight you want at your arm, such as “late turn driver”: take it from a disc that does it
          well today. The board then says how surely each disc does it, and when it will no longer.
        </Empty>
      ) : (
        <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_21rem] lg:grid-rows-[auto_1fr]">
          <Lanes
            lanes={whole ? lanes : lanes.slice(0, FIRST_LANES)}
            onMove={move}
            onEdit={setDefining}
            onRetest={retest}
          />
          <div className="grid gap-3 lg:row-span-2">
            <Moves board={board} />
            <Due board={board} onMove={move} />
            <OffBoard board={board} base={base} />
          </div>
          <Blends board={board} />
        </div>
      )}
      {defining && (
        <DefineJob
          board={board}
          job={defining === 'new' ? undefined : defining}
          onClose={() => setDefining(undefined)}
        />
      )}
      {wearing && <BulkWear board={board} onClose={() => setWearing(false)} />}
    </div>
  )
}

const NOBODY: readonly Thrower[] = []

interface LanesProps extends Omit<LaneProps, 'shown'> {
  readonly lanes: readonly LaneShown[]
}
/** The lanes, between which discs are dragged; what goes on beside them does not draw them anew. */
const Lanes = memo(function ShownLanes({ lanes, onMove, onEdit, onRetest }: LanesProps) {
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor))
  const drop = useCallback(
    ({ active, over }: DragEndEvent) => {
      // lifted from one lane, put down on another
      if (over) onMove(String(active.data.current?.['discId']), String(over.id))
    },
    [onMove],
  )
  return (
    <DndContext sensors={sensors} onDragEnd={drop}>
      <div className="grid gap-3">
        {lanes.map((shown) => (
          <LaneRow key={shown.job.id} shown={shown} onMove={onMove} onEdit={onEdit} onRetest={onRetest} />
        ))}
      </div>
    </DndContext>
  )
})

/** More moves than that nobody plans for. */
const MOST_MOVES = 4

/** Which disc leaves the job it is carried for next, or comes into it. */
function Moves({ board }: { board: Board }) {
  const moves = useMemo(() => {
    const disc = new Map(board.discs.map((d) => [d.id, d]))
    return movesOf(
      board.jobs.map((j) => laneOf(board, j.id)),
      (id) => disc.get(id)?.aDay ?? 0,
    ).slice(0, MOST_MOVES)
  }, [board])
  const jobName = (id: string) => board.jobs.find((j) => j.id === id)?.name ?? ''
  const day = today()
  return (
    <Card className="p-4" label="Who moves next">
      <h2 className="text-lead">Who moves next</h2>
      {moves.length === 0 && (
        <p className="text-quiet">Nobody, as far as is known: no disc is about to enter or leave its job.</p>
      )}
      <ol>
        {moves.map((m) => (
          <li key={`${m.discId}${m.jobId}`} className="border-t border-rule py-1.5 first:border-t-0">
            <span className="font-medium">{nameOf(board, m.discId)}</span>{' '}
            {moveWords(m, jobName(m.jobId), day)}.
          </li>
        ))}
      </ol>
    </Card>
  )
}

/** For which jobs a backup is due, why, and which copy to start wearing in. */
function Due({ board, onMove }: { board: Board; onMove: LaneProps['onMove'] }) {
  const found = useMemo(() => {
    const disc = new Map(board.discs.map((d) => [d.id, d]))
    const isFree = (id: string) => disc.get(id)?.jobId === null
    return board.jobs.flatMap((job) => {
      const lane = laneOf(board, job.id)
      const signs = dueOf(lane, {
        paceOf: (id) => disc.get(id)?.aDay ?? 0,
        isSpared: (id) => disc.get(id)?.spared ?? false,
        isOutOfMake: (id) => disc.get(id)?.outOfMake ?? false,
        growthOf: (id) =>
          growthOf(
            (disc.get(id)?.tests ?? []).flatMap(({ use, scatter }) => (scatter ? [{ use, scatter }] : [])),
          ),
      })
      return signs.length === 0
        ? []
        : [{ job, signs, next: wearInNext(lane, isFree), already: backupNow(lane, isFree) }]
    })
  }, [board])
  return (
    <Card className="p-4" label="Backups that are due">
      <h2 className="text-lead">Backups that are due</h2>
      {board.weighing && <p className="text-quiet">Weighing re-tests; this may change in a moment.</p>}
      {found.length === 0 && <p className="text-quiet">None: every job has a second disc that does it.</p>}
      <ul className="grid gap-3">
        {found.map(({ job, signs, next, already }) => (
          <li key={job.id} className="border-t border-rule pt-2 first:border-t-0 first:pt-1">
            <h3 className="font-semibold">{job.name}</h3>
            {signs.map((sign) => (
              <p key={`${sign.kind}${'discId' in sign ? sign.discId : ''}`}>
                {dueWords(sign, (id) => nameOf(board, id))}
              </p>
            ))}
            {already && (
              <p>
                {nameOf(board, already.discId)} does it already, {percent(already.prospect.now)}, and has no
                job of its own:{' '}
                <button
                  type="button"
                  aria-label={`Carry it for ${job.name}`}
                  className="underline underline-offset-4 max-md:min-h-11"
                  onClick={() => onMove(already.discId, job.id)}
                >
                  give it this one
                </button>
              </p>
            )}
            <p className="text-quiet">
              {next
                ? `Wear in ${nameOf(board, next.discId)} next: about ${throwsLeftWords(next.throws)} throws until it does the job, some ${roundsWords(next.throws)}.`
                : `No ${already ? 'other ' : ''}disc of the shelf wears into it.`}
            </p>
          </li>
        ))}
      </ul>
    </Card>
  )
}

/** A disc that is worn in is thrown so often in a round. */
const THROWS_A_ROUND = 12
function roundsWords(throws: number): string {
  const rounds = Math.max(1, Math.round(throws / THROWS_A_ROUND))
  return rounds === 1
    ? 'one round that it is thrown all day in'
    : `${rounds} rounds of ${THROWS_A_ROUND} throws with it`
}
