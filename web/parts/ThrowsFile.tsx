import { at } from '../../contract/api.ts'
import type { MeasuringMethod } from '../../core/throw/method.ts'
import { methodWords } from '../data/methodWords.ts'
import { useState } from 'react'
import type { ReactNode } from 'react'
import { mutate } from 'swr'
import { CSV_LIMIT, tooLarge } from '../../core/formats/throwsCsv.ts'
import { MEASURING_METHODS } from '../../core/throw/method.ts'
import type { ImportPreview } from '../../contract/imports.ts'
import type { ImportProgress } from '../../contract/imports.ts'
import { problemType } from '../../contract/problems.ts'
import type { Problem } from '../../contract/problems.ts'
import { problemOf, sendCsv } from '../data/api.ts'
import { zoneHere } from '../data/outing.ts'
import { Button } from './Button.tsx'
import { Card } from './Card.tsx'
import { FileInput, FileProblems, ImportProgressBar } from './FileReading.tsx'
import { TextInput } from './Inputs.tsx'
import { Select } from './Select.tsx'

/** A file chosen, and what reading it came to. */
interface Chosen {
  readonly name: string
  readonly csv: string
  readonly preview?: ImportPreview
  readonly problem?: Problem
}

interface ThrowsFileProps {
  readonly trialId: string
  readonly title: string
  /** What it is, before a file is chosen. */
  readonly children: ReactNode
  /** What else the server is told with the file. */
  readonly query?: { readonly name?: string; readonly question?: string }
  /** Shown with what the file holds, before it is stored. */
  readonly asking?: ReactNode
  readonly onRead?: (fileName: string, preview: ImportPreview) => void
  readonly onStored: (fileName: string, preview: ImportPreview) => void
  readonly cancel: ReactNode
}

/** Reads a file of throws into a trial: everything is shown before anything is stored. */
export function ThrowsFile({
  trialId,
  title,
  children,
  query = {},
  asking,
  onRead,
  onStored,
  cancel,
}: ThrowsFileProps) {
  const [chosen, setChosen] = useState<Chosen>()
  const [method, setMethod] = useState<MeasuringMethod>('eye')
  const [place, setPlace] = useState('')
  const [busy, setBusy] = useState(false)
  const [progress, setProgress] = useState<ImportProgress>()

  const told = { method, place, zone: zoneHere(), ...query }
  const attempt = async (name: string, csv: string, store: boolean) => {
    setBusy(true)
    try {
      const preview = await sendCsv(
        (job) =>
          at('POST /api/trials/:id/import', { id: trialId }, { ...told, job, ...(store && { store: '1' }) }),
        csv,
        setProgress,
      )
      if (!store) {
        onRead?.(name, preview)
        return setChosen({ name, csv, preview })
      }
      await Promise.all([
        mutate(`/api/trials/${trialId}`),
        mutate('/api/trials'),
        mutate('/api/shelf'),
        mutate('/api/throwers'),
        mutate('/api/sessions'),
      ])
      onStored(name, preview)
    } catch (e) {
      const problem = problemOf(e)
      setChosen({ name, csv, problem })
    } finally {
      setProgress(undefined)
      setBusy(false)
    }
  }
  const choose = async (file: File) => {
    if (file.size > CSV_LIMIT.bytes)
      return setChosen({
        name: file.name,
        csv: '',
        problem: {
          type: problemType(413),
          title: 'Too large',
          status: 413,
          detail: `${tooLarge(file.size)} Nothing of it was stored.`,
        },
      })
    await attempt(file.name, await file.text(), false)
  }
  const { preview, problem } = chosen ?? {}
  return (
    <div className="mx-auto max-w-4xl space-y-3 p-3 md:p-4">
      <Card className="p-5" label={title}>
        <h1 className="text-title">{title}</h1>
        <p className="mb-4 text-quiet">{children}</p>
        <div className="grid gap-4 sm:grid-cols-[1.4fr_1fr_1fr]">
          <FileInput accept=".csv,text/csv" disabled={busy} onFile={(file) => void choose(file)} />
          <Select
            label="How landings were measured"
            value={method}
            onChange={setMethod}
            options={MEASURING_METHODS.map((m) => ({ value: m, words: methodWords(m) }))}
          />
          <TextInput
            label="Place"
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            placeholder="a field, a park"
          />
        </div>
        <ImportProgressBar of={progress} what="throws" />
      </Card>

      {problem && (
        <Card className="p-5" label="What is wrong with the file">
          <FileProblems name={chosen!.name} problem={problem} />
        </Card>
      )}

      {preview && (
        <Held name={chosen!.name} preview={preview} asking={asking}>
          <Button
            kind="primary"
            disabled={busy}
            onClick={() => void attempt(chosen!.name, chosen!.csv, true)}
          >
            Import {preview.throws} throws
          </Button>
          {cancel}
        </Held>
      )}
    </div>
  )
}

interface HeldProps {
  readonly name: string
  readonly preview: ImportPreview
  readonly asking: ReactNode
  /** What can be done with it. */
  readonly children: ReactNode
}

/** What a file holds, before anything of it is stored. */
function Held({ name, preview, asking, children }: HeldProps) {
  return (
    <Card className="p-5" label="What the file holds">
      <h2 className="text-lead">
        {name}: {preview.throws} throws
        {preview.leftOut > 0 && `, ${preview.leftOut} of them left out`}
      </h2>
      <dl className="mt-2 grid grid-cols-[11rem_1fr] gap-y-1.5">
        <Line term="Discs on the shelf" list={preview.knownDiscs} />
        <Line term="Discs to be added" list={preview.newDiscs} />
        <Line term="Throwers known" list={preview.knownThrowers} />
        <Line term="Throwers to be added" list={preview.newThrowers} />
        <Line term="Columns kept in each note" list={preview.noteColumns} />
        {preview.again > 0 && (
          <>
            <dt className="text-quiet">Read before</dt>
            <dd>{preview.again} of these throws are in the trial already and stay one throw each.</dd>
          </>
        )}
      </dl>
      {preview.differences.length > 0 && (
        <ul className="mt-3 list-disc pl-5">
          {preview.differences.map((d) => (
            <li key={d}>{d}</li>
          ))}
        </ul>
      )}
      {asking && <div className="mt-4 border-t border-rule pt-4">{asking}</div>}
      <div className="mt-4 flex gap-2">{children}</div>
    </Card>
  )
}

function Line({ term, list }: { term: string; list: readonly string[] }) {
  if (list.length === 0) return null
  return (
    <>
      <dt className="text-quiet">{term}</dt>
      <dd>{list.join(', ')}</dd>
    </>
  )
}
