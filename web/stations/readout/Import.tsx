import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { mutate } from 'swr'
import { CSV_LIMIT, tooLarge } from '../../../core/formats/throwsCsv.ts'
import { MEASURING_METHODS } from '../../../core/rating/evidence.ts'
import type { ImportPreview, Problem } from '../../../contract/imports.ts'
import { ApiProblem, sendCsv } from '../../data/api.ts'
import { useTrial } from '../../data/hooks.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, Trouble, Waiting } from '../../parts/Card.tsx'
import { SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../parts/Toasts.tsx'

/** A file chosen, and what reading it came to. */
interface Chosen {
  readonly name: string
  readonly csv: string
  readonly preview?: ImportPreview
  readonly problem?: Problem
}

const METHOD_WORDS: Record<string, string> = {
  eye: 'by eye (± 1 m)',
  paced: 'paced (± 3 %)',
  ranged: 'range finder (± 0.5 m)',
  taped: 'tape (± 0.2 m)',
}

/** Imports a file of throws: everything is shown before anything is stored. */
export default function Import({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const go = useNavigate()
  const [chosen, setChosen] = useState<Chosen>()
  const [method, setMethod] = useState('eye')
  const [place, setPlace] = useState('')
  const [busy, setBusy] = useState(false)
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the trial" />

  const address = (store: boolean) =>
    `/api/trials/${trialId}/import?${new URLSearchParams({ method, place, ...(store && { store: '1' }) })}`
  const attempt = async (name: string, csv: string, store: boolean) => {
    setBusy(true)
    try {
      const preview = await sendCsv<ImportPreview>(address(store), csv)
      if (!store) return setChosen({ name, csv, preview })
      await Promise.all([
        mutate(`/api/trials/${trialId}`),
        mutate('/api/trials'),
        mutate('/api/shelf'),
        mutate('/api/throwers'),
        mutate('/api/sessions'),
      ])
      say(`${preview.throws} throws of ${name} are in ${view.trial.name}.`)
      go(`/trials/${trialId}/readout`)
    } catch (e) {
      const problem =
        e instanceof ApiProblem
          ? e.problem
          : {
              title: 'Not sent',
              status: 0,
              detail: `${(e as Error).message} Nothing of the file was stored.`,
            }
      setChosen({ name, csv, problem })
    } finally {
      setBusy(false)
    }
  }
  const choose = async (file: File | undefined) => {
    if (!file) return
    if (file.size > CSV_LIMIT.bytes)
      return setChosen({
        name: file.name,
        csv: '',
        problem: {
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
      <Card className="p-5" label="Import throws">
        <h1 className="text-title">Import throws into {view.trial.name}</h1>
        <p className="mb-4 text-quiet">
          A CSV file with one throw a row, such as the export writes. You see what it holds before anything is
          stored.
        </p>
        <div className="grid gap-4 sm:grid-cols-[1.4fr_1fr_1fr]">
          <div>
            <label htmlFor="file" className="mb-1 block text-note text-quiet">
              File
            </label>
            <input
              id="file"
              type="file"
              accept=".csv,text/csv"
              disabled={busy}
              onChange={(e) => {
                void choose(e.target.files?.[0])
                e.target.value = ''
              }}
              className="w-full rounded-lg border border-edge bg-card p-1 file:mr-3 file:min-h-7.5 file:rounded-md file:border-0 file:bg-spruce file:px-3 file:font-semibold file:text-on-spruce"
            />
          </div>
          <SelectInput
            label="How landings were measured"
            value={method}
            onChange={(e) => setMethod(e.target.value)}
          >
            {MEASURING_METHODS.map((m) => (
              <option key={m} value={m}>
                {METHOD_WORDS[m]}
              </option>
            ))}
          </SelectInput>
          <TextInput
            label="Place"
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            placeholder="not stated"
          />
        </div>
      </Card>

      {problem && (
        <Card className="p-5" label="What is wrong with the file">
          <h2 className="text-lead text-accent" role="alert">
            {chosen!.name}: {problem.detail}
          </h2>
          {problem.errors && (
            <table className="mt-3 w-full text-left">
              <thead className="text-note text-quiet">
                <tr>
                  <th className="py-1 pr-4 font-normal">Row</th>
                  <th className="pr-4 font-normal">Column</th>
                  <th className="font-normal">What is wrong</th>
                </tr>
              </thead>
              <tbody>
                {problem.errors.map((e, i) => (
                  <tr key={i} className="border-t border-rule align-baseline">
                    <td className="figure py-1.5 pr-4">{e.row ?? '–'}</td>
                    <td className="figure py-1.5 pr-4">{e.path || '–'}</td>
                    <td className="py-1.5">{e.message}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <p className="mt-3 text-quiet">Mend the file where it was written and choose it again.</p>
        </Card>
      )}

      {preview && (
        <Card className="p-5" label="What the file holds">
          <h2 className="text-lead">
            {chosen!.name}: {preview.throws} throws
            {preview.leftOut > 0 && `, ${preview.leftOut} of them left out`}
          </h2>
          <dl className="mt-2 grid grid-cols-[11rem_1fr] gap-y-1.5">
            <Line term="Discs on the shelf" list={preview.knownDiscs} />
            <Line term="Discs to be added" list={preview.newDiscs} />
            <Line term="Throwers known" list={preview.knownThrowers} />
            <Line term="Throwers to be added" list={preview.newThrowers} />
            <Line term="Kept as notes" list={preview.noteColumns} />
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
          <div className="mt-4 flex gap-2">
            <Button
              kind="primary"
              disabled={busy}
              onClick={() => void attempt(chosen!.name, chosen!.csv, true)}
            >
              Import {preview.throws} throws
            </Button>
            <Link
              to={`/trials/${trialId}/readout`}
              className="inline-flex min-h-10 items-center px-3 underline underline-offset-4"
            >
              Leave it
            </Link>
          </div>
        </Card>
      )}
    </div>
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
