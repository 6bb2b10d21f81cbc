import { format } from 'date-fns'
import { WATCHER_SD } from '../../../core/rating/calls.ts'
import { CALLED_SD } from '../../../core/rating/evidence.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { ENOUGH_ANSWERS, errorsOf, reliabilityOf } from '../../../core/drill/watcher.ts'
import type { DrillAnswer } from '../../../contract/drill.ts'
import { NO_WATCHER } from '../../../contract/trials.ts'
import type { Session, Thrower } from '../../../contract/trials.ts'
import { useSessions } from '../../data/hooks.ts'
import { outbox } from '../../data/outbox.ts'
import { Card } from '../../parts/Card.tsx'
import { say } from '../../data/say.ts'

/** Outings that are listed, the latest first. */
const LISTED = 8
const USUAL_DEG = CALLED_SD.hyzer / DEGREE
const IN_AIR_DEG = WATCHER_SD / DEGREE

/** What is measured of a watcher’s angle calls, and the outings whose calls are weighed by it: none until that is wanted. */
export function InRatings({ watcher, answers }: { watcher: Thrower; answers: readonly DrillAnswer[] }) {
  const sessions = useSessions()
  const measured = reliabilityOf(answers, 'angle')
  const outings = (sessions ?? []).toSorted((a, b) => b.day.localeCompare(a.day)).slice(0, LISTED)
  const isMine = (s: Session) => s.watcherId === watcher.id
  if (!measured && !outings.some(isMine)) {
    const given = answers.filter((a) => errorsOf(a).angle !== undefined).length
    return (
      <Card className="p-4" label="In ratings">
        <h2 className="text-lead">In ratings</h2>
        <p className="text-quiet">
          Calls may be weighed by how far off {watcher.name} is, after {ENOUGH_ANSWERS} answers about release
          angles; there {given === 1 ? 'is 1' : `are ${given}`} so far.
        </p>
      </Card>
    )
  }
  const sdDeg = measured && Math.round(10 * measured.sd) / 10
  const turn = async (outing: Session) => {
    const now = isMine(outing) ? NO_WATCHER : { watcherId: watcher.id, watcherSdDeg: sdDeg ?? null }
    await outbox.put('sessions', { ...outing, ...now })
    say(
      isMine(outing)
        ? `Calls of ${outing.day} are weighed as usual again.`
        : `Calls of ${outing.day} are weighed as off by ${sdDeg}°.`,
      { label: 'Undo', run: () => void outbox.put('sessions', outing) },
    )
  }
  return (
    <Card className="p-4" label="In ratings">
      <h2 className="text-lead">In ratings</h2>
      <p>
        {measured
          ? `Angles ${watcher.name} calls are off by ${sdDeg}°, two in three, biases and all (${measured.answers} answers).`
          : `Too few answers of ${watcher.name} are here to say how far off they are.`}{' '}
        <span className="text-quiet">
          A rating takes an angle that was called to be off by {USUAL_DEG.toFixed(1)}°, and what is called in
          the air by {IN_AIR_DEG.toFixed(0)}°, unless you say below that {watcher.name} called it. The readout
          and the review then say so.
        </span>
      </p>
      <ul className="mt-2" aria-label="Outings">
        {outings.map((outing) => (
          <li key={outing.id} className="border-t border-rule first:border-t-0">
            <label className="flex min-h-9 flex-wrap items-center gap-x-3 py-1 max-md:min-h-11">
              <input
                type="checkbox"
                className="size-4 accent-spruce"
                checked={isMine(outing)}
                disabled={!isMine(outing) && sdDeg === undefined}
                onChange={() => void turn(outing)}
              />
              <span className="figure">{format(new Date(`${outing.day}T12:00`), 'd MMM yyyy')}</span>
              <span>{outing.place}</span>
              <span className="text-quiet">
                {outing.watcherSdDeg === null
                  ? 'as usual'
                  : `${isMine(outing) ? '' : 'by another, '}weighed as off by ${outing.watcherSdDeg}°`}
              </span>
            </label>
          </li>
        ))}
      </ul>
    </Card>
  )
}
