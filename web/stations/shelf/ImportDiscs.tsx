import { at } from '../../../contract/api.ts'
import { useState } from 'react'
import type { ShelfImport } from '../../../contract/imports.ts'
import type { ImportProgress } from '../../../contract/imports.ts'
import type { Problem } from '../../../contract/problems.ts'
import { problemOf, sendCsv } from '../../data/api.ts'
import { shelfChanged } from '../../data/outbox.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FileInput, FileProblems, ImportProgressBar } from '../../parts/FileReading.tsx'
import { say } from '../../data/say.ts'

/** Imports a file of discs: everything is shown before anything is stored. */
export function ImportDiscs({ onClose }: { onClose: () => void }) {
  const [read, setRead] = useState<{ name: string; csv: string; preview?: ShelfImport; problem?: Problem }>()
  const [busy, setBusy] = useState(false)
  const [progress, setProgress] = useState<ImportProgress>()
  const attempt = async (name: string, csv: string, store: boolean) => {
    setBusy(true)
    try {
      const preview = await sendCsv(
        (job) => at('POST /api/discs/import', { job, ...(store && { store: '1' }) }),
        csv,
        setProgress,
      )
      if (!store) return setRead({ name, csv, preview })
      shelfChanged()
      say(`${preview.added.length} discs of ${name} added, ${preview.changed.length} changed.`)
      onClose()
    } catch (e) {
      setRead({ name, csv, problem: problemOf(e) })
    } finally {
      setProgress(undefined)
      setBusy(false)
    }
  }
  const { preview, problem } = read ?? {}
  const list = (codes: readonly string[]) =>
    codes.length > 12 ? `${codes.slice(0, 12).join(', ')} and ${codes.length - 12} more` : codes.join(', ')
  return (
    <Dialog open onClose={onClose} title="Import discs" wide>
      <p className="mb-3 text-quiet">
        A CSV file with one disc a row, such as the export writes. It needs <code>code</code>,{' '}
        <code>maker</code>, <code>mold</code> and <code>plastic</code>; a mold that is new needs its class and
        numbers too. You see what it changes before anything is stored.
      </p>
      <FileInput
        accept=".csv,text/csv"
        disabled={busy}
        onFile={(file) => void file.text().then((csv) => attempt(file.name, csv, false))}
      />
      <ImportProgressBar of={progress} what="discs" />
      <div className="mt-4">
        {problem && <FileProblems name={read!.name} problem={problem} />}
        {preview && (
          <>
            <h2 className="text-lead">
              {read!.name}: {preview.discs} {preview.discs === 1 ? 'disc' : 'discs'}
            </h2>
            <ul className="mt-1 mb-4">
              {preview.added.length > 0 && (
                <li>
                  {preview.added.length} to be added: {list(preview.added)}
                </li>
              )}
              {preview.changed.length > 0 && (
                <li>
                  {preview.changed.length} to be changed: {list(preview.changed)}
                </li>
              )}
              {preview.renumbered.length > 0 && (
                <li>Other published numbers for every disc of {list(preview.renumbered)}</li>
              )}
              {preview.unchanged > 0 && <li>{preview.unchanged} are on the shelf just so</li>}
            </ul>
            <Button
              kind="primary"
              disabled={busy || preview.unchanged === preview.discs}
              onClick={() => void attempt(read!.name, read!.csv, true)}
            >
              Import {preview.added.length + preview.changed.length} discs
            </Button>
          </>
        )}
      </div>
    </Dialog>
  )
}
