import clsx from 'clsx'
import { Bot, Pause, Play, RotateCcw, StepForward } from 'lucide-react'
import type { ReactNode } from 'react'
import { useState } from 'react'
import type { TrialView } from '../../data/hooks.ts'
import { Key } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import type { ArmToday } from './useArms.ts'
import type { PausesOf } from './usePauses.ts'
import type { ThrowQueue } from './useQueue.ts'
import { StationLink } from '../../parts/StationLink.tsx'

/** Minutes a throw takes while it is going well, until this outing has shown its own pace. */
const USUAL_MINUTES = 1.3
/** A longer gap is a pause nobody noted, not the pace, min. */
const LONG_GAP = 10

interface RunLineProps {
  readonly view: TrialView
  readonly left: ThrowQueue['planned']
  /** The arms in use: whoever takes turns, or whoever throws. */
  readonly arms: readonly ArmToday[]
  readonly pauses: PausesOf
  readonly onAgain: (() => void) | undefined
  readonly onLater: () => void
  readonly onVolunteer: () => void
}

/** How far the run is: what is left, how long that takes, what arms have done; and everything that changes its course. */
export function RunLine({ view, left, arms, pauses, onAgain, onLater, onVolunteer }: RunLineProps) {
  const [more, setMore] = useState(false)
  const minutes = Math.round(
    left.length *
      pace(
        view.throws.map((t) => Date.parse(t.thrownAt)),
        pauses.between,
      ),
  )
  const paused = pauses.since !== undefined
  return (
    <Card
      className="p-3 phone:order-1 phone:mx-0 phone:rounded-none phone:border-x-0 phone:py-1.5"
      label="The run"
    >
      <div className="phone:flex phone:items-center phone:justify-between phone:gap-3">
        <p className="text-note">
          {left.length > 0 && (
            <>
              <strong>{left.length} left</strong>, about {minutes} min.{' '}
            </>
          )}
          {arms.map((a) => (
            <span key={a.thrower.id} className={a.spent ? 'font-semibold text-accent' : 'text-quiet'}>
              {a.thrower.name.split(' ')[0]}: {a.done} today,{' '}
              {a.spent ? 'budget used up.' : `${a.fullPowerLeft} at full power left.`}{' '}
            </span>
          ))}
          <StationLink
            at="field/short"
            params={{ trialId: view.trial.id }}
            className="whitespace-nowrap underline underline-offset-4 phone:hidden"
            aria-label="Ground play and short game"
            title="Ground play, approaches, putting and holes"
          >
            Short game
          </StationLink>
        </p>
        <button
          type="button"
          aria-expanded={more}
          onClick={() => setMore((m) => !m)}
          className="min-h-11 shrink-0 rounded-lg border border-edge px-3 desk:hidden"
        >
          {more ? 'Less' : 'More'}
        </button>
      </div>
      <div className={clsx('mt-2 grid grid-cols-2 gap-1.5', !more && 'phone:hidden')}>
        <Act keyHint="A" disabled={!onAgain} onClick={onAgain} title="The last throw once more">
          <RotateCcw size={15} aria-hidden /> Again
        </Act>
        <Act keyHint="N" onClick={onLater} title="This throw later, the one after it now">
          <StepForward size={15} aria-hidden /> Later
        </Act>
        <Act
          keyHint="P"
          pressed={paused}
          onClick={paused ? pauses.goOn : pauses.pause}
          title="The clock rests; a throw that is kept ends the pause"
        >
          {paused ? <Play size={15} aria-hidden /> : <Pause size={15} aria-hidden />}
          {paused ? 'Go on' : 'Pause'}
        </Act>
        <Act
          keyHint="V"
          onClick={onVolunteer}
          title="Let a volunteer throw it: a simulated thrower; range finder, stopwatch and camera see it"
        >
          <Bot size={16} aria-hidden /> Volunteer
        </Act>
        <StationLink
          at="field/short"
          params={{ trialId: view.trial.id }}
          className={clsx(ACT, 'col-span-2 desk:hidden')}
        >
          Ground play and short game
        </StationLink>
      </div>
    </Card>
  )
}

const ACT =
  'flex min-h-9 min-w-0 items-center justify-center gap-1 rounded-lg border border-edge px-1 text-note hover:bg-tint disabled:opacity-45 phone:min-h-11'

function Act({
  keyHint,
  pressed,
  disabled,
  title,
  onClick,
  children,
}: {
  keyHint?: string
  pressed?: boolean
  disabled?: boolean
  title: string
  onClick: (() => void) | undefined
  children: ReactNode
}) {
  return (
    <button
      type="button"
      title={keyHint ? `${title} (${keyHint})` : title}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      className={clsx(ACT, pressed && 'border-pick bg-pick font-medium text-on-pick hover:bg-pick')}
    >
      {children}
      {keyHint && <Key onDark={pressed ?? false}>{keyHint}</Key>}
    </button>
  )
}

/** Minutes from throw to throw as this outing goes, pauses left out. */
function pace(at: readonly number[], paused: (from: number, to: number) => boolean): number {
  const recent = at.slice(-13)
  const gaps = recent
    .slice(1)
    .flatMap((t, i) => (paused(recent[i]!, t) ? [] : [(t - recent[i]!) / 60_000]))
    .filter((m) => m > 0 && m < LONG_GAP)
  return gaps.length < 4 ? USUAL_MINUTES : gaps.reduce((s, m) => s + m, 0) / gaps.length
}
