import { useState } from 'react'
import { v7 as newId } from 'uuid'
import { WearNote } from '../../../contract/inspection.ts'
import type { Board } from '../../../contract/rotation.ts'
import { outbox } from '../../data/outbox.ts'
import { today } from '../../data/outing.ts'
import { Button } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FigureInput, TextInput } from '../../parts/Inputs.tsx'
import { say, sayWrong } from '../../data/say.ts'

/** What discs usually go through, to begin with: throws and hard hits. */
const USUAL = [
  { name: 'A round', throws: 12, hardHits: 1, note: 'a round' },
  { name: 'A field session', throws: 40, hardHits: 0, note: 'a field session' },
  { name: 'Lent for a week', throws: 40, hardHits: 1, note: 'lent for a week' },
  { name: 'Lent for three weeks', throws: 120, hardHits: 2, note: 'lent for three weeks' },
  { name: 'Hit a tree hard', throws: 0, hardHits: 1, note: 'hit a tree hard' },
  { name: 'Hit a tree lightly', throws: 4, hardHits: 0, note: 'hit a tree lightly, as much as four throws' },
  { name: 'Skipped on gravel', throws: 10, hardHits: 0, note: 'skipped on gravel, as much as ten throws' },
  { name: 'Warped', throws: 0, hardHits: 0, note: 'warped; test it again once it is flat' },
  { name: 'In the water', throws: 0, hardHits: 0, note: 'in the water; wears nothing' },
] as const

/** Notes for several discs at once what they went through. */
export function BulkWear({ board, onClose }: { board: Board; onClose: () => void }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [what, setWhat] = useState<{ throws: number | null; hardHits: number | null; note: string }>({
    throws: null,
    hardHits: null,
    note: '',
  })
  const [day, setDay] = useState(today())
  const [find, setFind] = useState('')
  const carried = board.discs.filter((d) => d.state === 'here' || d.state === 'lent')
  const words = find.trim().toLowerCase()
  const shown = carried.filter((d) =>
    words === ''
      ? d.jobId !== null || d.tests.length > 0 || chosen.has(d.id)
      : `${d.code} ${d.maker} ${d.mold} ${d.plastic}`.toLowerCase().includes(words),
  )
  const turn = (id: string) => {
    const next = new Set(chosen)
    if (!next.delete(id)) next.add(id)
    setChosen(next)
  }
  const keep = async () => {
    if (!what.throws && !what.hardHits && what.note.trim() === '')
      return sayWrong('Say how many throws or hard hits, or write a note.')
    const notes: WearNote[] = []
    for (const discId of chosen) {
      const note = WearNote.safeParse({
        id: newId(),
        discId,
        day,
        throws: what.throws ?? 0,
        hardHits: what.hardHits ?? 0,
        note: what.note,
        removedAt: null,
      })
      if (!note.success)
        return sayWrong(`${note.error.issues[0]!.path.join('.')} ${note.error.issues[0]!.message}.`)
      notes.push(note.data)
    }
    for (const note of notes) await outbox.put('wear-notes', note)
    say(`Noted for ${notes.length === 1 ? 'one disc' : `${notes.length} discs`}.`, {
      label: 'Undo',
      run: () => {
        for (const note of notes)
          void outbox.put('wear-notes', { ...note, removedAt: new Date().toISOString() })
      },
    })
    onClose()
  }
  return (
    <Dialog open onClose={onClose} title="Log wear of several discs" wide>
      <p className="mb-1 text-note text-quiet">What happened</p>
      <div className="mb-3 flex flex-wrap gap-1.5">
        {USUAL.map(({ name, ...usual }) => (
          <Chip key={name} on={what.note === usual.note} onClick={() => setWhat(usual)}>
            {name}
          </Chip>
        ))}
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-[9.5rem_7rem_7rem_1fr]">
        <TextInput
          label="Day"
          type="date"
          value={day}
          max={today()}
          onChange={(e) => setDay(e.target.value)}
        />
        <FigureInput
          label="Throws each"
          digits={0}
          value={what.throws}
          onChange={(throws) => setWhat({ ...what, throws })}
        />
        <FigureInput
          label="Hard hits each"
          digits={0}
          value={what.hardHits}
          onChange={(hardHits) => setWhat({ ...what, hardHits })}
        />
        <TextInput
          label="Note"
          value={what.note}
          onChange={(e) => setWhat({ ...what, note: e.target.value })}
        />
      </div>
      <TextInput
        label="To which discs"
        placeholder="Find by code, mold or plastic"
        className="mt-3"
        value={find}
        onChange={(e) => setFind(e.target.value)}
      />
      <div className="mt-2 flex max-h-64 flex-wrap gap-1.5 overflow-y-auto">
        {shown.slice(0, 80).map((d) => (
          <Chip key={d.id} on={chosen.has(d.id)} onClick={() => turn(d.id)}>
            {d.code} {d.mold} {d.plastic}
          </Chip>
        ))}
        {shown.length === 0 && <p className="text-quiet">No disc is called so.</p>}
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button kind="primary" disabled={chosen.size === 0} onClick={() => void keep()}>
          {chosen.size === 0
            ? 'Choose discs'
            : `Note it for ${chosen.size === 1 ? 'one disc' : `${chosen.size} discs`}`}
        </Button>
      </div>
    </Dialog>
  )
}
