import type { ImportProgress } from '../../contract/imports.ts'
import type { Problem } from '../../contract/problems.ts'

/** Chooses a file. */
export function FileInput({
  accept,
  disabled,
  onFile,
  label = 'File',
}: {
  accept: string
  disabled?: boolean
  onFile: (file: File) => void
  label?: string
}) {
  return (
    <label className="block">
      <span className="mb-1 block text-note text-quiet">{label}</span>
      <input
        type="file"
        accept={accept}
        disabled={disabled}
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) onFile(file)
          e.target.value = ''
        }}
        className="w-full rounded-lg border border-edge bg-card p-1 file:mr-3 file:min-h-7.5 file:rounded-md file:border-0 file:bg-spruce file:px-3 file:font-semibold file:text-on-spruce"
      />
    </label>
  )
}

/** Everything that is wrong with a file, by row and column. */
export function FileProblems({ name, problem }: { name: string; problem: Problem }) {
  return (
    <>
      <h2 className="text-lead text-accent" role="alert">
        {name}: {problem.detail}
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
    </>
  )
}

/** How far an import is, once it takes a moment. */
export function ImportProgressBar({ of, what }: { of: ImportProgress | undefined; what: string }) {
  if (!of) return null
  return (
    <div role="status" className="mt-3">
      <p className="text-quiet">
        {of.stage === 'reading' ? `Reading the ${what} …` : `${of.done} of ${of.total} ${what} stored …`}
      </p>
      <div className="mt-1 h-2 overflow-hidden rounded-full bg-tint" aria-hidden>
        <div
          className="h-full bg-spruce"
          style={{ width: `${of.total === 0 ? 5 : Math.round((100 * of.done) / of.total)}%` }}
        />
      </div>
    </div>
  )
}
