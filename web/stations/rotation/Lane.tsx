import { useDraggable, useDroppable } from '@dnd-kit/core'
import clsx from 'clsx'
import { group } from 'd3'
import { Pencil } from 'lucide-react'
import { memo } from 'react'
import { offersOf } from '../../../core/rotation/board.ts'
import { offerWords, prospectWords } from '../../../core/rotation/words.ts'
import type { Hand } from '../../../core/flight/hand.ts'
import { laneRead } from '../../../contract/rotation.ts'
import type { Board, JobRow, LaneDisc, RotationDisc } from '../../../contract/rotation.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { useUnits } from '../../data/preferences.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { DiscLife } from './DiscLife.tsx'
import { hasLeft, wantedWords } from './shown.ts'
import { lookOf } from '../../strip/hues.ts'

/** Of the lane, so much lies before a disc does its job and behind, percent. */
const BEFORE = 26
/** Where on the lane a disc stands, percent from the left. */
function placeOf(along: number): number {
  const inside = 100 - 2 * BEFORE
  const at = BEFORE + inside * along
  // beyond the job as far as it goes, the lane gets shorter and shorter
  if (along < 0) return BEFORE * Math.exp(along)
  if (along > 1) return 100 - BEFORE * Math.exp(1 - along)
  return at
}

/** A lane as it is shown: what it wants, its discs with their place on the shelf, and where those go that leave it. */
export interface LaneShown {
  readonly job: JobRow
  readonly rows: readonly Row[]
  readonly offers: readonly { readonly discId: string; readonly words: string }[]
  readonly jobs: readonly JobRow[]
  /** Of the arm it is for; undefined where it is nobody's. */
  readonly hand: Hand | undefined
  /** ISO day. */
  readonly today: string
  /** Others than those that are carried for it may come yet. */
  readonly weighing: boolean
}

/**
 * Every lane of a board.
 *
 * @param today ISO day
 */
export function lanesShown(
  { jobs, discs, lanes, weighing }: Board,
  throwers: readonly Thrower[],
  today: string,
): LaneShown[] {
  const handOf = new Map(throwers.map((t) => [t.id, t.hand]))
  const byId = new Map(discs.map((disc) => [disc.id, { disc }]))
  const rowsOf = new Map(
    lanes.map((l) => [
      l.jobId,
      l.discs.flatMap((lane): Row[] => {
        const found = byId.get(lane.discId)
        return found ? [{ lane, ...found }] : []
      }),
    ]),
  )
  const nameOf = new Map(jobs.map((j) => [j.id, j.name]))
  const offered = group(offersOf(lanes.map(laneRead)), (o) => o.from)
  return jobs.map((job) => ({
    job,
    rows: rowsOf.get(job.id) ?? [],
    offers: (offered.get(job.id) ?? []).map((o) => ({
      discId: o.discId,
      words: offerWords(nameOf.get(o.to) ?? '', o.now),
    })),
    jobs,
    hand: job.throwerId === null ? undefined : handOf.get(job.throwerId),
    today,
    weighing,
  }))
}

export interface LaneProps {
  readonly shown: LaneShown
  readonly onMove: (discId: string, jobId: string | null) => void
  readonly onEdit: (job: JobRow) => void
  readonly onRetest: (job: JobRow, discId: string, throws: number | null) => void
}

/** A job, and the discs on their way through it; drawn anew only where something of it changed. */
export const LaneRow = memo(
  ShownLane,
  (a, b) =>
    a.onMove === b.onMove &&
    a.onEdit === b.onEdit &&
    a.onRetest === b.onRetest &&
    JSON.stringify(a.shown) === JSON.stringify(b.shown),
)

function ShownLane({ shown, onMove, onEdit, onRetest }: LaneProps) {
  const { job, rows, offers, jobs, hand, today, weighing } = shown
  const units = useUnits()
  const { setNodeRef, isOver } = useDroppable({ id: job.id })
  return (
    <section
      ref={setNodeRef}
      aria-label={job.name}
      className={clsx(
        'rounded-xl border bg-card p-4',
        isOver ? 'border-water ring-2 ring-water' : 'border-rule',
      )}
    >
      <div className="flex items-start justify-between gap-3">
        <div>
          <h2 className="text-lead">{job.name}</h2>
          <p className="text-quiet">{wantedWords(job, units, hand)}</p>
        </div>
        <button
          type="button"
          aria-label={`Change ${job.name}`}
          className="grid size-9 shrink-0 place-items-center rounded-md hover:bg-tint max-md:size-11"
          onClick={() => onEdit(job)}
        >
          <Pencil size={16} aria-hidden />
        </button>
      </div>
      {rows.length === 0 ? (
        <p className="mt-2 text-quiet">
          {weighing
            ? 'Looking through the shelf …'
            : 'No disc of the shelf does this. Drag one here, or choose this job on another lane.'}
        </p>
      ) : (
        <>
          <Track jobId={job.id} rows={rows} />
          {/* of sixty jobs only what is near is laid out; tracks are not, a disc is dragged out of them */}
          <ul className="-mx-1 mt-2 px-1 [contain-intrinsic-block-size:auto_12rem] [content-visibility:auto]">
            {rows.map(({ lane, disc }) => (
              <li
                key={disc.id}
                className="grid grid-cols-[1fr_auto] items-center gap-x-3 border-t border-rule py-1.5 md:grid-cols-[13rem_1fr_auto]"
              >
                <StationLink
                  at="shelf/disc"
                  params={{ discId: disc.id }}
                  otherwise="words"
                  className="tap flex items-center gap-2 font-medium hover:underline"
                >
                  <DiscDot look={lookOf(disc.code)} />
                  <span className={lane.assigned ? '' : 'font-normal text-quiet'}>
                    {disc.code} <span className="font-normal">{`${disc.mold} ${disc.plastic}`}</span>
                  </span>
                </StationLink>
                <p className={clsx('max-md:order-last max-md:col-span-2', !lane.assigned && 'text-quiet')}>
                  {prospectWords(lane, hasLeft(lane), disc.aDay, today)}
                  {disc.state === 'lent' && ' Lent.'}
                  {offers.flatMap((o) => (o.discId === disc.id ? ` ${o.words}` : []))}
                  {lane.assigned && lane.retest !== null && lane.retest > 0 && (
                    <>
                      {' '}
                      <button
                        type="button"
                        className="underline underline-offset-4 hover:bg-tint max-md:min-h-11"
                        onClick={() => onRetest(job, disc.id, lane.retest)}
                      >
                        {lane.retest} throws tell: plan them
                      </button>
                    </>
                  )}
                </p>
                <DiscLife
                  jobs={jobs}
                  disc={disc}
                  retest={lane.retest}
                  onMove={(to) => onMove(disc.id, to)}
                  onRetest={() => onRetest(job, disc.id, lane.retest)}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

interface Row {
  readonly lane: LaneDisc
  readonly disc: RotationDisc
}

/** The lane seen from above: discs come in from the left as they wear, do the job on the mown part, and leave it. */
function Track({ jobId, rows }: { jobId: string; rows: readonly Row[] }) {
  const shown = rows.filter((r) => r.lane.along !== null)
  if (shown.length === 0) return null
  return (
    <div className="mt-2">
      <div
        className="relative overflow-hidden rounded-lg border border-rule bg-ground"
        style={{ height: `${1.5 + 1.75 * shown.length}rem` }}
        aria-hidden
      >
        <div
          className="absolute inset-y-0 border-x-2 border-chalk bg-mown-2"
          style={{ left: `${BEFORE}%`, right: `${BEFORE}%` }}
        />
        <span className="absolute top-0.5 left-2 text-note text-quiet">to wear in</span>
        <span className="absolute inset-x-0 top-0.5 text-center text-note text-quiet">does it</span>
        <span className="absolute top-0.5 right-2 text-note text-quiet">has left it</span>
        {shown.map((row, i) => (
          <OnTrack key={row.disc.id} jobId={jobId} row={row} line={i} />
        ))}
      </div>
    </div>
  )
}

/** Further along than that a name has no room behind its disc, percent. */
const FAR = 80

function OnTrack({ jobId, row: { lane, disc }, line }: { jobId: string; row: Row; line: number }) {
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    // a disc may be on several lanes
    id: `${jobId} ${disc.id}`,
    data: { discId: disc.id },
  })
  const from = placeOf(lane.along!.now)
  const to = placeOf(lane.along!.soon)
  const isFar = from > FAR
  const top = `${1.5 + 1.75 * line}rem`
  return (
    <>
      <div
        className="absolute h-0.5 bg-edge"
        style={{ top: `calc(${top} + 1.35rem)`, left: `${from}%`, width: `${Math.max(0, to - from)}%` }}
      />
      <div
        ref={setNodeRef}
        {...attributes}
        {...listeners}
        // the list below does the same for keys and for those who cannot see it
        tabIndex={-1}
        className={clsx(
          'absolute flex cursor-grab touch-none items-center gap-1 rounded-full text-note whitespace-nowrap',
          // far along, the name stands before the disc: behind it the track ends
          isFar ? 'translate-x-2.5 flex-row-reverse pl-1.5' : '-translate-x-2.5 pr-1.5',
          isDragging && 'z-10 bg-card shadow-lg',
          lane.assigned ? 'font-semibold' : 'text-quiet',
        )}
        style={{
          top,
          ...(isFar ? { right: `${100 - from}%` } : { left: `${from}%` }),
          ...(transform && { transform: `translate3d(${transform.x}px, ${transform.y}px, 0)` }),
        }}
      >
        <DiscDot look={lookOf(disc.code)} size={20} />
        {disc.code}
      </div>
    </>
  )
}
