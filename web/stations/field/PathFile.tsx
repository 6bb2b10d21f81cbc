import { useRef, useState } from 'react'
import { Route, X } from 'lucide-react'
import { useKey } from '../../parts/keys.ts'
import { FIELD_KEYS } from './keys.ts'
import { PATH_FILES } from '../../../core/formats/pathFiles.ts'
import { problemType } from '../../../contract/problems.ts'
import type { Problem } from '../../../contract/problems.ts'
import type { PathRead } from '../../../core/formats/pathCsv.ts'
import { MOST_PATH_POINTS } from '../../../contract/trials.ts'
import type { ThrowPath } from '../../../contract/trials.ts'
import { readPathAway } from '../../workers/path.ts'
import { Key } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { FileProblems } from '../../parts/FileReading.tsx'
import type { Seen } from './draft.ts'

interface PathFileProps {
  readonly path: ThrowPath | null
  /** Compass bearing of the aim line as it is thrown now; undefined where the place has none. */
  readonly bearingDeg: number | undefined
  readonly onSeen: (change: Partial<Seen>) => void
}

/** A flight recorded by a tracker or a camera, from a file. Its end is the landing. */
export function PathFile({ path, bearingDeg, onSeen }: PathFileProps) {
  const input = useRef<HTMLInputElement>(null)
  const [wrong, setWrong] = useState<{ name: string; problem: Problem }>()
  const [reading, setReading] = useState<string>()
  const take = async (file: File) => {
    setReading(file.name)
    const read = await file
      .text()
      .then((text) => readPathAway(file.name, text, bearingDeg))
      .catch((e: Error): PathRead => ({
        ok: false,
        problems: [{ row: null, column: null, message: e.message }],
      }))
      .finally(() => setReading(undefined))
    if (!read.ok) {
      const errors = read.problems.map((p) => ({ row: p.row, path: p.column ?? '', message: p.message }))
      setWrong({
        name: file.name,
        problem: {
          type: problemType(422),
          title: 'Not read',
          status: 422,
          detail: 'nothing of it was taken.',
          errors,
        },
      })
      return
    }
    const every = Math.ceil(read.path.downM.length / MOST_PATH_POINTS)
    const thin = (values: readonly number[] = []) => values.filter((_, i) => i % every === 0)
    const { downM, veerM, timeS, upM } = read.path
    const recorded = { timeS: thin(timeS), downM: thin(downM), rightM: thin(veerM), upM: thin(upM) }
    onSeen({
      path: recorded,
      midDownM: null,
      midRightM: null,
      carryM: Math.max(0.1, downM.at(-1)!),
      rightM: veerM.at(-1)!,
    })
  }
  useKey(FIELD_KEYS.path, () => input.current?.click())
  return (
    <div className="flex items-center gap-2">
      <button
        type="button"
        disabled={reading !== undefined}
        onClick={() => input.current?.click()}
        className="flex min-h-9 flex-1 items-center gap-2 rounded-lg border border-edge px-2.5 text-left hover:bg-tint phone:min-h-11"
      >
        <Route size={16} aria-hidden />
        <span className="flex-1">
          {reading !== undefined
            ? `Reading ${reading} …`
            : path
              ? `Recorded path, ${path.downM.length} points`
              : 'Recorded path from a file'}
        </span>
        <Key>F</Key>
      </button>
      {path && (
        <button
          type="button"
          aria-label="Take the recorded path away"
          className="grid size-9 place-items-center rounded-lg border border-edge hover:bg-tint phone:size-11"
          onClick={() => onSeen({ path: null })}
        >
          <X size={16} aria-hidden />
        </button>
      )}
      <input
        ref={input}
        type="file"
        accept={PATH_FILES.join()}
        className="hidden"
        aria-label="File of a recorded path"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) void take(file)
          e.target.value = ''
        }}
      />
      {wrong && (
        <Dialog open onClose={() => setWrong(undefined)} title="The path was not taken">
          <FileProblems {...wrong} />
        </Dialog>
      )}
    </div>
  )
}
