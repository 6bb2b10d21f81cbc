import { zodResolver } from '@hookform/resolvers/zod'
import { useForm } from 'react-hook-form'
import { v7 as newId } from 'uuid'
import { foretoldWords } from '../../../core/rotation/words.ts'
import { WearNote } from '../../../contract/inspection.ts'
import type { DiscRecord } from '../../../contract/shelfPage.ts'
import { outbox } from '../../data/outbox.ts'
import { today } from '../../data/outing.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { FigureField } from '../../parts/FigureField.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { LogEntry } from '../../parts/LogEntry.tsx'
import { say, sayWrong } from '../../data/say.ts'

/** What the disc went through, and what that does to its plastic. */
export function WearLog({ record }: { record: DiscRecord }) {
  const { wear, wearNotes, row } = record
  const blank = (): WearNote => ({
    id: newId(),
    discId: row.disc.id,
    day: today(),
    throws: 0,
    hardHits: 0,
    note: '',
    removedAt: null,
  })
  const { control, register, handleSubmit, reset, formState } = useForm<WearNote>({
    resolver: zodResolver(WearNote),
    defaultValues: blank(),
  })
  const store = (note: WearNote) => outbox.put('wear-notes', note)
  const keep = async (note: WearNote) => {
    if (note.throws === 0 && note.hardHits === 0 && note.note === '')
      return sayWrong('Say how many throws or hard hits, or write a note.')
    await store(note)
    reset(blank())
  }
  const drop = async (note: WearNote) => {
    await store({ ...note, removedAt: new Date().toISOString() })
    say('The note was removed.', { label: 'Restore', run: () => void store(note) })
  }
  return (
    <Card className="min-w-0 p-4" label="Wear log">
      <h2 className="text-lead">Wear log</h2>
      <p>
        <span className="figure">{wear.throws}</span> throws{' '}
        {wear.hardHits > 0 && (
          <>
            and <span className="figure">{wear.hardHits}</span> hard hits{' '}
          </>
        )}
        <span className="text-quiet">
          since new, logged here and noted. {record.weighing && 'Weighing the tests of its plastic …'}
        </span>
      </p>
      {wear.foretold && (
        <p className="text-quiet">
          {foretoldWords(wear.foretold, wear.kind, `${row.maker.name} ${row.plastic.name}`).join(' ')}
        </p>
      )}
      {wearNotes.length > 0 && (
        <ul className="mt-2">
          {wearNotes.map((n) => (
            <LogEntry
              key={n.id}
              day={n.day}
              takesBack={`Remove the note of ${n.day}`}
              onTakeBack={() => void drop(n)}
            >
              <span className="figure">+{n.throws}</span>
              {n.hardHits > 0 && <span>{n.hardHits} hard hits</span>}
              <span className="min-w-0 flex-1 truncate text-quiet">{n.note}</span>
            </LogEntry>
          ))}
        </ul>
      )}
      <form
        className="mt-2 grid grid-cols-2 items-start gap-2 border-t border-rule pt-2 sm:grid-cols-[9.5rem_6rem_6rem_1fr_auto]"
        noValidate
        onSubmit={(e) => void handleSubmit(keep)(e)}
      >
        <TextInput label="Day" type="date" {...register('day')} error={formState.errors.day?.message} />
        <FigureField control={control} name="throws" label="Throws" digits={0} />
        <FigureField control={control} name="hardHits" label="Hard hits" digits={0} />
        <TextInput label="What happened" {...register('note')} error={formState.errors.note?.message} />
        <Button type="submit" className="mt-[1.4rem]">
          Note it
        </Button>
      </form>
    </Card>
  )
}
