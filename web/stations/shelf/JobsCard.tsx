import { useState } from 'react'
import { eventWords } from '../../../core/rotation/words.ts'
import { isAtHand } from '../../../contract/rotation.ts'
import { happened, restore, takeBack } from '../../data/rotation.ts'
import { useBoard, useDoes } from '../../workers/board.ts'
import type { DiscEvent } from '../../../contract/rotation.ts'
import { percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'

import { LifeDialog } from '../../parts/LifeDialog.tsx'
import { LogEntry } from '../../parts/LogEntry.tsx'
import { StationLink } from '../../parts/StationLink.tsx'
import { say } from '../../data/say.ts'
import { Select } from '../../parts/Select.tsx'

/** Which jobs a disc does, which one it is carried for, and what happened in its life. */
export function JobsCard({ discId }: { discId: string }) {
  const { board, base } = useBoard()
  const [noting, setNoting] = useState<DiscEvent | 'new'>()
  const does = useDoes(base, board, [discId])
  const disc = board?.discs.find((d) => d.id === discId)
  // a shelf without jobs has nothing to say here
  if (!board || !disc || board.jobs.length === 0) return null
  const jobName = (id: string | null) => board.jobs.find((j) => j.id === id)?.name
  const jobs = board.jobs
    .map((job) => ({ job, now: does?.get(job.id)?.get(discId) }))
    .sort((a, b) => (b.now ?? 0) - (a.now ?? 0))
  const events = board.events.filter((e) => e.discId === discId).reverse()
  const carry = async (jobId: string | null) => {
    const event = await happened(discId, 'moved', jobId)
    say(`${disc.code} is carried for ${jobName(jobId) ?? 'no job'} from today.`, {
      label: 'Undo',
      run: () => void takeBack(event),
    })
  }
  const drop = async (event: DiscEvent) => {
    await takeBack(event)
    say('That was removed.', { label: 'Restore', run: () => void restore(event) })
  }
  return (
    <Card className="p-4" label="Jobs and life">
      <h2 className="text-lead">What it is for</h2>
      <Select
        label="Carried for"
        value={disc.jobId}
        onChange={(v) => void carry(v)}
        options={[
          { value: null, words: 'no job' },
          ...board.jobs.map((j) => ({ value: j.id, words: j.name })),
        ]}
      />
      <h3 className="mt-3 font-semibold">How surely it does each job now</h3>
      <ul>
        {jobs.map(({ job, now }) => (
          <li key={job.id} className="flex items-center gap-3 border-t border-rule py-1 first:border-t-0">
            <span className="min-w-0 flex-1 truncate">{job.name}</span>
            <span className="h-2 w-24 overflow-hidden rounded-full bg-tint" aria-hidden>
              <span className="block h-full bg-water" style={{ width: `${100 * (now ?? 0)}%` }} />
            </span>
            <span className="figure w-14 text-right">{now === undefined ? '…' : percent(now)}</span>
          </li>
        ))}
      </ul>
      {board.weighing ? (
        <p className="text-quiet">Weighing re-tests; this may change in a moment.</p>
      ) : (
        disc.rated === null && (
          <p className="text-quiet">It was not thrown for a trial yet: this is told by its label alone.</p>
        )
      )}
      {!isAtHand(disc) && <p className="text-accent">It is {disc.state} and on no lane of the board.</p>}
      {events.length > 0 && (
        <>
          <h3 className="mt-3 font-semibold">Its life</h3>
          <ul aria-label="Its life">
            {events.map((e) => (
              <LogEntry
                key={e.id}
                day={e.day}
                takesBack={`Remove: ${eventWords(e.kind, jobName(e.jobId))}, ${e.day}`}
                onTakeBack={() => void drop(e)}
                changes={{
                  label: `Change: ${eventWords(e.kind, jobName(e.jobId))}, ${e.day}`,
                  onPress: () => setNoting(e),
                }}
              >
                <span className="min-w-0 flex-1">
                  {eventWords(e.kind, jobName(e.jobId))}
                  {e.note && <span className="text-quiet">: {e.note}</span>}
                </span>
              </LogEntry>
            ))}
          </ul>
        </>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button onClick={() => setNoting('new')}>Note what happened to it</Button>
        <StationLink at="rotation" className="tap underline underline-offset-4">
          To the rotation
        </StationLink>
      </div>
      {noting && (
        <LifeDialog
          disc={disc}
          jobs={board.jobs}
          event={noting === 'new' ? undefined : noting}
          onClose={() => setNoting(undefined)}
        />
      )}
    </Card>
  )
}
