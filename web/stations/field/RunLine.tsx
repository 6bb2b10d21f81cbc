import clsx from 'clsx'
import { format, subDays } from 'date-fns'
import { Bot, RotateCcw } from 'lucide-react'
import { Link } from 'react-router'
import useSWR from 'swr'
import { armLeft, USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import type { ArmDay, Plan, Thrower } from '../../../contract/trials.ts'
import { read } from '../../data/api.ts'
import type { TrialView } from '../../data/hooks.ts'
import { Card } from '../../parts/Card.tsx'

/** Minutes a throw takes while it is going well, until this outing has shown its own pace. */
const USUAL_MINUTES = 1.3
/** A longer pause is a pause, not the pace, min. */
const PAUSE = 10

interface RunLineProps {
  readonly view: TrialView
  readonly thrower: Thrower
  readonly left: readonly Plan['throws'][number][]
  readonly onAgain: (() => void) | undefined
  readonly onVolunteer: () => void
}

/** How far the run is: what is left, how long that takes, what the arm has done. */
export function RunLine({ view, thrower, left, onAgain, onVolunteer }: RunLineProps) {
  const today = format(new Date(), 'yyyy-MM-dd')
  const { data } = useSWR<ArmDay[]>(
    `/api/arm-days?since=${format(subDays(new Date(), 7), 'yyyy-MM-dd')}`,
    read,
  )
  const own = (data ?? []).filter((d) => d.throwerId === thrower.id)
  const room = armLeft(thrower.budget ?? USUAL_LIMITS, own, today)
  const done = own.find((d) => d.day === today)?.throws ?? 0
  const minutes = Math.round(left.length * pace(view.throws.map((t) => Date.parse(t.thrownAt))))
  const button =
    'flex min-h-9 flex-1 items-center justify-center gap-1.5 rounded-lg border border-edge px-1.5 text-note hover:bg-tint disabled:opacity-45 max-md:min-h-11'
  return (
    <Card
      className="p-3 max-md:flex max-md:items-center max-md:justify-between max-md:gap-3 max-md:rounded-none max-md:border-x-0 max-md:py-1.5"
      label="The run"
    >
      <p className="text-note">
        {left.length > 0 && (
          <>
            <strong>{left.length} left</strong>, about {minutes} min.{' '}
          </>
        )}
        <span
          className={room.throws === 0 || room.fullPower === 0 ? 'font-semibold text-accent' : 'text-quiet'}
        >
          {thrower.name.split(' ')[0]}: {done} today,{' '}
          {room.throws === 0 || room.fullPower === 0
            ? 'the arm’s budget is used up; stop, or go on with another arm.'
            : `${room.fullPower} at full power left.`}
        </span>
      </p>
      <div className="mt-2 flex gap-1.5 max-md:mt-0">
        <button type="button" className={clsx(button, 'max-md:hidden')} disabled={!onAgain} onClick={onAgain}>
          <RotateCcw size={15} aria-hidden /> Again
        </button>
        <button
          type="button"
          className={clsx(button, 'max-md:hidden')}
          title="A simulated thrower throws it; range finder, stopwatch and camera see it"
          onClick={onVolunteer}
        >
          <Bot size={16} aria-hidden /> Volunteer
        </button>
        <Link
          to={`/trials/${view.trial.id}/short`}
          className={button}
          title="Ground play, approaches, putting and holes"
          aria-label="Ground play and short game"
        >
          Short
        </Link>
      </div>
    </Card>
  )
}

/** Minutes from throw to throw as this outing goes, pauses left out. */
function pace(at: readonly number[]): number {
  const gaps = at
    .slice(-13)
    .map((t, i, list) => (t - (list[i - 1] ?? t)) / 60_000)
    .filter((m) => m > 0 && m < PAUSE)
  return gaps.length < 4 ? USUAL_MINUTES : gaps.reduce((s, m) => s + m, 0) / gaps.length
}
