import { wholeDegrees } from '../../../core/judge/sameLine.ts'
import type { LineAngle } from '../../../core/judge/sameLine.ts'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { askOf } from '../../data/ask.ts'
import type { TrialView } from '../../data/hooks.ts'
import type { RatingState } from '../../workers/rating.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { draftLine, landingOf, NOTHING_SEEN } from './draft.ts'
import type { Meant, FieldStanding } from './draft.ts'
import type { Logging } from './logging.ts'
import { useLineAngle, useTelling } from './useForecast.ts'
import { useQueue } from './useQueue.ts'
import type { ThrowQueue } from './useQueue.ts'

export interface NextThrow {
  readonly queue: ThrowQueue
  /** Whether this device logs, and does not only look on. */
  readonly logs: boolean
  readonly proposed: ThrowQueue['next'][number]
  readonly meant: Meant
  readonly lineAngle: LineAngle | undefined
  /** The most telling throws, best first, where they are wanted and known. */
  readonly best: readonly { readonly disc: string; readonly hyzerDeg: number }[] | undefined
  readonly tellingError: ReturnType<typeof useTelling>
  /** The draft as a line of the sheet, at some angle; undefined for a disc that is not on the shelf. */
  readonly lineFor: (hyzerDeg: number) => SheetThrow | undefined
}

/** Which throw comes next, and what is meant by it: proposed by the plan or the telling throws, changed by whoever throws. */
export function useNext(
  view: TrialView,
  state: Logging,
  blowing: FieldStanding,
  telling: boolean,
  reading: Reading | undefined,
  /** What is asked of the next throw comes from here. */
  asks: RatingState,
): NextThrow {
  const { trial, discs } = view
  const { session, standing, asked, seen, putOff } = state
  const thrower = view.throwers.find((t) => t.id === standing.throwerId) ?? view.throwers[0]!
  const [somebody] = discs
  const told = useTelling(
    trial.id,
    telling,
    somebody &&
      draftLine(
        somebody,
        thrower,
        session,
        { discId: somebody.disc.id, hyzerDeg: 0 },
        standing,
        NOTHING_SEEN,
      ),
    discs.map((d) => d.disc.code),
    trial.hyzerDegs,
    trial.plan?.protocol ?? 'same-release',
    askOf(view),
    reading,
  )
  const best = told.value?.flatMap(({ code, hyzerDeg }) => {
    const disc = discs.find((d) => d.disc.code === code)?.disc.id
    return disc === undefined ? [] : [{ disc, hyzerDeg }]
  })
  const logs = state.kept > 0 || landingOf(seen) !== null
  const queue = useQueue(view, session.id, best, logs ? `${state.kept} ${putOff}` : undefined, state.warm)
  const proposed = queue.next[putOff % queue.next.length]!
  const discId = asked.discId ?? proposed.disc
  const disc = discs.find((d) => d.disc.id === discId)
  const lineFor = (hyzerDeg: number) =>
    disc && draftLine(disc, thrower, session, { discId, hyzerDeg }, blowing, seen)
  const sameLine = trial.plan?.protocol === 'same-line'
  const lineAngle = useLineAngle(asks.key, sameLine, lineFor(0), asks.reading)
  const found = lineAngle?.found && proposed.warmUp !== true ? wholeDegrees(lineAngle.hyzerRad) : undefined
  const meant = { discId, hyzerDeg: asked.hyzerDeg ?? found ?? proposed.hyzerDeg }
  return { queue, logs, proposed, meant, lineAngle, best, tellingError: told, lineFor }
}
