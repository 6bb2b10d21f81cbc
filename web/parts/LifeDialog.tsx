import { useState } from 'react'
import { v7 as newId } from 'uuid'
import { DISC_EVENTS } from '../../core/rotation/life.ts'
import { eventWords } from '../../core/rotation/words.ts'
import { DiscEvent } from '../../contract/rotation.ts'
import type { JobRow } from '../../contract/rotation.ts'
import { capital } from '../../contract/words.ts'
import { today } from '../data/outing.ts'
import { keepEvent, takeBack } from '../data/rotation.ts'
import { Button } from './Button.tsx'
import { Dialog } from './Dialog.tsx'
import { TextInput } from './Inputs.tsx'
import { say } from '../data/say.ts'
import { Select } from './Select.tsx'

interface LifeDialogProps {
  readonly disc: { readonly id: string; readonly code: string }
  readonly jobs: readonly JobRow[]
  /** An entry to be changed; without one something new is noted. */
  readonly event?: DiscEvent
  readonly onClose: () => void
}

/** Notes what happened to a disc on any day, with a note, or changes what was noted. */
export function LifeDialog({ disc, jobs, event, onClose }: LifeDialogProps) {
  const [entry, setEntry] = useState<DiscEvent>(
    () =>
      event ?? {
        id: newId(),
        discId: disc.id,
        day: today(),
        kind: 'lent',
        jobId: null,
        note: '',
        removedAt: null,
      },
  )
  const change = (part: Partial<DiscEvent>) => setEntry({ ...entry, ...part })
  const isLater = entry.day > today()
  const read = DiscEvent.safeParse(entry)
  const wrong = isLater
    ? 'That day is still to come.'
    : read.success
      ? undefined
      : `${capital(String(read.error.issues[0]!.path[0]))} ${read.error.issues[0]!.message}.`
  const keep = async () => {
    if (!read.success) return
    await keepEvent(read.data)
    say(event ? `Changed in the life of ${disc.code}.` : `Noted in the life of ${disc.code}.`, {
      label: 'Undo',
      run: () => void (event ? keepEvent(event) : takeBack(read.data)),
    })
    onClose()
  }
  return (
    <Dialog
      open
      onClose={onClose}
      title={event ? `Change what happened to ${disc.code}` : `What happened to ${disc.code}`}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <Select
          label="What happened"
          value={entry.kind}
          onChange={(kind) => {
            change({ kind, jobId: kind === 'moved' ? entry.jobId : null })
          }}
          options={DISC_EVENTS.map((kind) => ({
            value: kind,
            words: kind === 'moved' ? 'Carried for another job' : capital(eventWords(kind, undefined)),
          }))}
        />
        <TextInput
          label="Day"
          type="date"
          value={entry.day}
          max={today()}
          onChange={(e) => change({ day: e.target.value })}
        />
        {entry.kind === 'moved' && (
          <Select
            label="Carried for"
            value={entry.jobId}
            onChange={(v) => change({ jobId: v })}
            options={[{ value: null, words: 'no job' }, ...jobs.map((j) => ({ value: j.id, words: j.name }))]}
          />
        )}
        <TextInput label="Note" value={entry.note} onChange={(e) => change({ note: e.target.value })} />
      </div>
      {wrong !== undefined && (
        <p role="alert" className="mt-2 text-accent">
          {wrong}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="primary" disabled={wrong !== undefined} onClick={() => void keep()}>
          {event ? 'Change it' : 'Note it'}
        </Button>
      </div>
    </Dialog>
  )
}
