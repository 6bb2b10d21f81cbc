import { ascending, greatest } from 'd3'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { REFERENCE_ARM_MPS } from '../../../core/flight/arm.ts'
import { fadeSign } from '../../../core/flight/hand.ts'
import { bagFlight, bagOf, covered, gapsIn, overlapsIn } from '../../../core/rotation/bag.ts'
import type { BagFlight, Does } from '../../../core/rotation/bag.ts'
import type { OnLane } from '../../../core/rotation/board.ts'
import { flyingNumbersOf } from '../../../contract/rotation.ts'
import type { Board, RotationDisc } from '../../../contract/rotation.ts'
import { useThrowers } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { useBoard, useDoes } from '../../workers/board.ts'
import { percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput, TextInput } from '../../parts/Inputs.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { useWho } from '../../flown/useDiscs.ts'
import { habitWords } from '../../flown/words.ts'
import { hueOf, lookOf } from '../../strip/hues.ts'
import { Ellipse, EndLabels } from '../../strip/layers.tsx'
import { Strip, useScale } from '../../strip/Strip.tsx'
import { laneOf, WITHOUT } from './shown.ts'

/** Discs on the field at once; more are not told apart. */
const MOST = 20
const USUAL_SIZE = 8

const isHere = ({ state }: RotationDisc) => state === 'here'
const isOffered = (disc: RotationDisc) => isHere(disc) && (disc.tests.length > 0 || disc.jobId !== null)

/** What the address asks of the bag: its discs, or the bag as it is carried without one that may be lost. */
function useBag(board: Board | undefined) {
  const [search, setSearch] = useSearchParams()
  const [asked, lost] = [search.get(DISCS), search.get(WITHOUT)]
  const carried = useMemo(
    () => board?.discs.flatMap((d) => (isHere(d) && d.jobId !== null ? [d.id] : [])) ?? [],
    [board],
  )
  const bag = useMemo(() => {
    if (asked === null) return carried.filter((id) => id !== idOf(board, lost))
    return asked.split(',').flatMap((code) => idOf(board, code) ?? [])
  }, [asked, lost, board, carried])
  const choose = (ids: readonly string[]) => {
    const codes = board?.discs.flatMap((d) => (ids.includes(d.id) ? [d.code] : [])) ?? []
    setSearch({ [DISCS]: codes.join(',') }, { replace: true })
  }
  return {
    bag,
    carried,
    choose,
    asCarried: () => setSearch({}, { replace: true }),
    lost: asked === null ? lost : null,
  }
}
const DISCS = 'discs'

const idOf = (board: Board | undefined, code: string | null) => board?.discs.find((d) => d.code === code)?.id

/** A bag seen from above: where its discs land and scatter, what of it overlaps, where nothing lands, and what each is there for. */
export default function Bag() {
  const { board, base, error } = useBoard()
  const asked = useBag(board)
  const can = useMemo(
    () => board?.discs.filter((d) => isOffered(d) || asked.bag.includes(d.id)) ?? [],
    [board, asked.bag],
  )
  const does = useDoes(
    base,
    board,
    can.map((d) => d.id),
  )
  if (error && !board) return <TroubleNote error={error} />
  if (!board || !does) return <WaitingNote what="the bag" />
  if (can.length === 0)
    return (
      <Empty
        title="No disc to take"
        action={
          <StationLink at="rotation" className="tap underline">
            To the rotation
          </StationLink>
        }
      >
        A bag is made of discs that were tested or are carried for a job.
      </Empty>
    )
  return <Shown board={board} can={can} does={does} asked={asked} />
}

interface ShownProps {
  readonly board: Board
  readonly can: readonly RotationDisc[]
  readonly does: Does
  readonly asked: ReturnType<typeof useBag>
}

function Shown({ board, can, does, asked }: ShownProps) {
  const { bag, carried, choose, lost } = asked
  const [size, setSize] = useState<number | null>(USUAL_SIZE)
  const { throwers = [] } = useThrowers()
  const thrower = throwers.find((t) => t.id === board.jobs[0]?.throwerId)
  const armMps = board.jobs[0]?.throwing.armMps ?? REFERENCE_ARM_MPS
  const by = thrower && { thrower: thrower.name, stroke: 'backhand' as const }
  const who = useWho({ by })
  const flights = useMemo(
    () =>
      can
        .filter((d) => bag.includes(d.id))
        .slice(0, MOST)
        .map((d) => bagFlight(d.id, flyingNumbersOf(d), armMps, who)),
    [can, bag, armMps, who],
  )
  const turn = (id: string) => choose(bag.includes(id) ? bag.filter((b) => b !== id) : [...bag, id])
  const pick = () =>
    choose(
      bagOf(
        does,
        can.flatMap((d) => (d.code === lost ? [] : [d.id])),
        Math.max(1, Math.min(MOST, size ?? USUAL_SIZE)),
      ),
    )
  return (
    <div className="p-3 md:p-4">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-title">The bag from above</h1>
          <p className="text-quiet">
            Every disc thrown flat at full power{thrower ? ` by ${thrower.name}` : ''} in still air; two
            throws in three land in its ellipse.{' '}
            {by && who && habitWords(by, who, 'where discs land here has that in it')}
            {board.weighing && ' Weighing re-tests …'}
          </p>
        </div>
        <div className="flex flex-wrap items-end gap-2">
          <FigureInput label="A bag of" digits={0} value={size} onChange={setSize} className="w-24" />
          <Button onClick={pick}>Pick those that do most jobs</Button>
          <StationLink at="rotation" className="px-2 py-2 underline underline-offset-4">
            To the board
          </StationLink>
        </div>
      </div>
      <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="grid gap-3">
          <Card className="p-4" label="The field">
            {flights.length === 0 ? (
              <p className="text-quiet">Nothing in the bag: choose discs below.</p>
            ) : (
              <FromAbove
                board={board}
                flights={flights}
                fade={thrower && fadeSign(thrower.hand, 'backhand') > 0 ? 'right' : 'left'}
              />
            )}
            {lost !== null && (
              <p className="mt-3">
                This is the bag as if {lost} were lost.{' '}
                <button type="button" className="underline underline-offset-4" onClick={asked.asCarried}>
                  As it is carried
                </button>
              </p>
            )}
            <div className="mt-3 flex flex-wrap gap-1.5" role="group" aria-label="Discs in the bag">
              {can.map((d) => (
                <Chip key={d.id} on={bag.includes(d.id)} onClick={() => turn(d.id)}>
                  <span className="flex items-center gap-1.5">
                    <DiscDot look={lookOf(d.code)} size={14} />
                    {d.code} {d.mold} {d.plastic}
                  </span>
                </Chip>
              ))}
            </div>
            <PutIn board={board} bag={bag} onPut={(id) => choose([...bag, id])} />
          </Card>
          <Overlaps board={board} flights={flights} />
        </div>
        <Jobs
          board={board}
          does={does}
          bag={bag}
          carried={carried}
          lost={idOf(board, lost)}
          onPut={(id) => choose([...bag, id])}
        />
      </div>
    </div>
  )
}

function FromAbove({
  board,
  flights,
  fade,
}: {
  board: Board
  flights: readonly BagFlight[]
  fade: 'left' | 'right'
}) {
  const { length } = useUnits()
  const sign = fade === 'left' ? 1 : -1
  const at = (id: string) => flights.find((f) => f.id === id)!.carryM
  const shown = flights.map((f) => {
    const at = { down: f.carryM, left: sign * f.veerM }
    const { code } = board.discs.find((d) => d.id === f.id)!
    const [xx, xy, yy] = f.covariance
    return {
      at,
      hue: hueOf(lookOf(code)),
      words: code,
      covariance: [xx, sign * xy, yy] as const,
    }
  })
  const far = Math.max(...flights.map((f) => f.carryM + 2 * Math.sqrt(f.covariance[0])))
  // the field begins where something may land, with a little before it
  const near = Math.max(0, Math.min(...flights.map((f) => f.carryM - 2 * Math.sqrt(f.covariance[0]))) - 12)
  const aside = (way: 1 | -1) =>
    Math.max(8, ...shown.map((s) => way * s.at.left + 2 * Math.sqrt(s.covariance[2])))
  return (
    <Strip
      reach={{ from: near, down: far + 6, left: aside(1), right: aside(-1) }}
      fade={fade}
      names={shown.map((s) => s.words)}
      height={440}
      label={`The field from above: ${shown.map((s) => `${s.words} lands ${s.at.down.toFixed(0)} m out`).join(', ')}`}
    >
      {gapsIn(flights).map((g) => (
        <Gap key={`${g.a}${g.b}`} from={at(g.a)} to={at(g.b)} words={length.show(g.fartherM, 0)} />
      ))}
      {shown.map((s) => (
        <Ellipse key={s.words} at={s.at} covariance={s.covariance} hue={s.hue} />
      ))}
      <EndLabels ends={shown} />
    </Strip>
  )
}

/** A stretch of the field no disc of the bag reaches. */
function Gap({ from, to, words }: { from: number; to: number; words: string }) {
  const scale = useScale()
  const [left, right] = [scale.x(from), scale.x(to)]
  return (
    <g style={{ stroke: 'var(--ink)', fill: 'var(--ink)' }}>
      <path
        d={`M${left},${GAP_TOP}v14M${right},${GAP_TOP}v14M${left},${GAP_TOP + 7}H${right}`}
        fill="none"
        strokeDasharray="4 4"
      />
      <text x={(left + right) / 2} y={GAP_TOP + 2} textAnchor="middle" className="text-note" stroke="none">
        nothing for {words}
      </text>
    </g>
  )
}
/** Where gaps are drawn, px from above. */
const GAP_TOP = 24

/** What of the bag cannot be told apart, and where nothing of it lands. */
function Overlaps({ board, flights }: { board: Board; flights: readonly BagFlight[] }) {
  const { length } = useUnits()
  const [overlaps, gaps] = useMemo(() => [overlapsIn(flights), gapsIn(flights)], [flights])
  const code = (id: string) => board.discs.find((d) => d.id === id)?.code ?? ''
  const m = (v: number) => length.show(Math.abs(v), 0)
  return (
    <Card className="p-4" label="Overlaps and gaps">
      <h2 className="text-lead">Overlaps and gaps</h2>
      {overlaps.length === 0 && gaps.length === 0 && (
        <p className="text-quiet">
          No two land where nobody could tell them apart, and no stretch is left out.
        </p>
      )}
      <ul>
        {overlaps.map(({ a, b, fartherM, asideM, scatterM }) => (
          <li key={`${a}${b}`} className="border-t border-rule py-1 first:border-t-0">
            {code(a)} and {code(b)} land {m(Math.hypot(fartherM, asideM))} apart; two throws of one of them
            differ by {m(scatterM[0])} along and {m(scatterM[1])} across.
          </li>
        ))}
        {gaps.map(({ a, b, fartherM, scatterM }) => (
          <li key={`${a}${b}`} className="border-t border-rule py-1 first:border-t-0">
            Between {code(a)} and {code(b)} nothing lands for {m(fartherM)}; throws of them scatter by{' '}
            {m(scatterM[0])}.
          </li>
        ))}
      </ul>
    </Card>
  )
}

/** Discs whose name holds what is sought, at most so many. */
const MOST_FOUND = 6

/** Finds any disc of the shelf and puts it in. */
function PutIn({ board, bag, onPut }: { board: Board; bag: readonly string[]; onPut: (id: string) => void }) {
  const [find, setFind] = useState('')
  const words = find.trim().toLowerCase()
  const found =
    words === ''
      ? []
      : board.discs.filter(
          (d) =>
            isHere(d) &&
            !bag.includes(d.id) &&
            `${d.code} ${d.maker} ${d.mold} ${d.plastic}`.toLowerCase().includes(words),
        )
  return (
    <div className="mt-3 flex flex-wrap items-end gap-1.5">
      <TextInput
        label="Put in another disc of the shelf"
        placeholder="Code, mold or plastic"
        className="w-64"
        value={find}
        onChange={(e) => setFind(e.target.value)}
      />
      {found.slice(0, MOST_FOUND).map((d) => (
        <Chip
          key={d.id}
          on={false}
          onClick={() => {
            onPut(d.id)
            setFind('')
          }}
        >
          Put in {d.code} {d.mold} {d.plastic}
        </Chip>
      ))}
      {words !== '' && found.length === 0 && (
        <p className="py-2 text-quiet">No other disc that is here is called so.</p>
      )}
      {found.length > MOST_FOUND && <p className="py-2 text-quiet">and {found.length - MOST_FOUND} more</p>}
    </div>
  )
}

/** How surely the bag does each job, what is lost with its favourite, and who could make up for what it lacks. */
interface JobsProps {
  readonly board: Board
  readonly does: Does
  readonly bag: readonly string[]
  /** The bag as it is carried. */
  readonly carried: readonly string[]
  /** A disc that is taken for lost. */
  readonly lost: string | undefined
  readonly onPut: (id: string) => void
}
function Jobs({ board, does, bag, carried, lost, onPut }: JobsProps) {
  const here = useMemo(() => new Set(board.discs.flatMap((d) => (isHere(d) ? [d.id] : []))), [board])
  const code = (id: string) => board.discs.find((d) => d.id === id)?.code ?? ''
  return (
    <Card className="p-4" label="What the bag does">
      <h2 className="text-lead">What the bag does</h2>
      <ul>
        {board.jobs.map((job) => {
          const now = covered(does, job.id, bag)
          const before = covered(does, job.id, carried)
          const surest = bag.toSorted(
            (a, b) => (does.get(job.id)?.get(b) ?? 0) - (does.get(job.id)?.get(a) ?? 0),
          )[0]
          const without = covered(
            does,
            job.id,
            bag.filter((id) => id !== surest),
          )
          const others = laneOf(board, job.id).discs.filter(
            (d) => here.has(d.discId) && !bag.includes(d.discId) && d.discId !== lost,
          )
          const better = madeUpBy(now, others)
          return (
            <li key={job.id} className="border-t border-rule py-1.5 first:border-t-0">
              <p>
                <span className="font-medium">{job.name}</span>:{' '}
                {now < 0.01 ? 'nobody in it does it' : `${percent(now)} that one does it`}
                {Math.abs(now - before) >= 0.01 && (
                  <span className="text-quiet">
                    {' '}
                    (as carried: {before < 0.01 ? 'nobody' : percent(before)})
                  </span>
                )}
              </p>
              {surest !== undefined && now >= 0.01 && (
                <p className="text-quiet">
                  Without {code(surest)}: {without < 0.01 ? 'nobody does it' : percent(without)}.
                </p>
              )}
              {now < ENOUGH && better && (
                <button
                  type="button"
                  className="underline underline-offset-4 max-md:min-h-11"
                  onClick={() => onPut(better.id)}
                >
                  With {code(better.id)}: {percent(better.covered)}
                </button>
              )}
            </li>
          )
        })}
      </ul>
    </Card>
  )
}

/** A job that is done so surely wants nobody else. */
const ENOUGH = 0.8
/** Who makes less of a difference is not named. */
const MAKES_UP = 0.05

/** The disc of a lane that, put in, makes its job surest; undefined where none makes a difference. */
function madeUpBy(now: number, others: readonly OnLane[]) {
  const best = greatest(others, (a, b) => ascending(a.prospect.now, b.prospect.now))
  const adds = best ? (1 - now) * best.prospect.now : 0
  return best && adds >= MAKES_UP ? { id: best.discId, covered: now + adds } : undefined
}
