import { format } from 'date-fns'
import type { Session, Throw } from '../../../contract/trials.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useTurnedWinds } from '../../workers/turnedWinds.ts'
import { useUnits } from '../../data/preferences.tsx'
import { useSlips } from '../../workers/slips.ts'
import { statements } from '../../../core/judge/statements.ts'
import { angleWords, wordingOf } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { SlipQuestion } from '../../parts/SlipQuestion.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import type { RatingState } from '../../workers/rating.ts'
import { Twice } from './Twice.tsx'
import { windMoved } from './windOf.ts'

/** A wind that moved by so much between two throws spoils a comparison by eye, m/s. */
const SPOILS = 2

interface NoticesProps {
  readonly view: TrialView
  readonly name: (code: string) => string
  readonly session: Session
  /** As it blows now, the way somebody throws now. */
  readonly wind: Parameters<typeof windMoved>[1]
  /** Since when the run rests, ms. */
  readonly pausedSince: number | undefined
  readonly onGoOn: () => void
  /** When the landing shown was put down before this page was opened, ms; undefined where it was not. */
  readonly waitedSince: number | undefined
  /** The landing shown is of a simulated throw. */
  readonly simulated: boolean
  readonly onClear: () => void
  readonly turnDue: boolean
  /** Everything planned has been thrown. */
  readonly planDone: boolean
  readonly onTurn: () => void
  readonly onAgain: (t: Throw) => void
  readonly rating: Pick<RatingState, 'key' | 'reading' | 'settlings'>
}

/** What has changed since the last throw and matters to the next: the leg, the wind. */
export function Notices({
  view,
  name,
  session,
  wind,
  pausedSince,
  onGoOn,
  waitedSince,
  simulated,
  onClear,
  turnDue,
  planDone,
  onTurn,
  onAgain,
  rating,
}: NoticesProps) {
  const isTurned = useTurnedWinds(rating.key, rating.reading).some((t) => t.outing === session.id)
  const units = useUnits()
  const said =
    planDone && rating.reading
      ? statements(
          rating.reading.outcome,
          rating.reading.ranks,
          wordingOf(units, name),
          rating.settlings,
        ).filter((s) => s.kind !== 'label')
      : []
  const last = view.throws.filter((t) => t.sessionId === session.id && t.counts).at(-1)
  const slips = useSlips(rating.key, rating.reading, last ? [last] : [])
  const moved = !turnDue && pausedSince === undefined && last ? windMoved(last, wind) : 0
  const box =
    'flex flex-wrap items-center gap-x-3 gap-y-2 rounded-xl border border-edge bg-card px-4 py-2 phone:order-4 phone:mx-3'
  const code = view.discs.find((d) => d.disc.id === last?.discId)?.disc.code ?? ''
  return (
    <>
      {pausedSince !== undefined && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>Paused since {format(pausedSince, 'H:mm')}.</strong> The clock rests. Warm up again before
            you throw at full power.
          </span>
          <Button keyHint="P" onClick={onGoOn}>
            Go on
          </Button>
        </div>
      )}
      {waitedSince !== undefined && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>This landing was put down at {format(waitedSince, 'H:mm')} and not kept.</strong> Keep it,
            or clear it.
          </span>
          <Button onClick={onClear}>Clear it</Button>
        </div>
      )}
      {simulated && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>The simulated volunteer threw this one.</strong> It is kept as simulated and says so
            wherever it is shown.
          </span>
          <Button onClick={onClear}>Clear it</Button>
        </div>
      )}
      {planDone && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>Everything planned is thrown.</strong>{' '}
            {said.length > 0 &&
              `${said.filter((s) => s.settled).length} of ${said.length} statements are settled. `}
            What is open stands below, with the throws that would settle it.
          </span>
          <StationLink at="readout" params={{ trialId: view.trial.id }} className={buttonLook()}>
            Read it
          </StationLink>
        </div>
      )}
      {turnDue && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>End of the leg.</strong> Walk to the discs and throw on from there, the other way, once
            nobody is left where these came from.
          </span>
          <Button keyHint="W" onClick={onTurn}>
            Turned round
          </Button>
        </div>
      )}
      <Twice {...{ view, session, name }} className={box} />
      {isTurned && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>Today’s wind reads as if it was logged the wrong way round.</strong> Look which way the
            grass bends before you throw on.
          </span>
          <StationLink at="readout" params={{ trialId: view.trial.id }} className={buttonLook()}>
            See it turned round
          </StationLink>
        </div>
      )}
      {slips.map((slipped) => (
        <div key={slipped.throw} role="status" className={box}>
          <SlipQuestion {...{ view, name, slipped }} />
        </div>
      ))}
      {moved > SPOILS && last && (
        <div role="status" className={box}>
          <span className="min-w-40 flex-1">
            <strong>The wind has moved by {units.speed.show(moved)}</strong> since {name(code)} was thrown. It
            is taken out, but less surely than if both had met the same wind.
          </span>
          <Button onClick={() => onAgain(last)}>
            Throw {name(code)} {angleWords(last.hyzerDeg)} again
          </Button>
        </div>
      )}
    </>
  )
}
