import { WHY_NOT } from '../../../core/throw/whyNot.ts'
import clsx from 'clsx'
import { Minus, Plus } from 'lucide-react'
import { useKey } from '../../parts/keys.ts'
import type { BoundKey } from '../../parts/keys.ts'
import { FIELD_KEYS } from './keys.ts'
import { AIR_CALLS } from '../../../core/rating/calls.ts'
import { FIGURE_KEYS, rowOf } from '../../../core/throw/observed.ts'
import type { FigureKey } from '../../../core/throw/observed.ts'
import { SHEET_UNIT } from '../../../core/throw/ranges.ts'
import { labelOf } from '../../../contract/words.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, measureOf } from '../../data/units.ts'
import { OnEdgeDial } from '../../parts/Disc.tsx'
import { Key } from '../../parts/Button.tsx'
import { Chip } from '../../parts/Choice.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { HEIGHTS, NOSES } from './draft.ts'
import type { Seen } from './draft.ts'
import { airCalls } from './logging.ts'
import type { Look } from '../../strip/hues.ts'

/** Figures that are read off a device or a watch. */
const TYPED = FIGURE_KEYS.filter((k): k is FigureKey & keyof Seen => {
  const row = rowOf(k)
  return row.kind === 'figure' && row.typed === true
})

interface CallsProps {
  readonly asked: number
  /** Which side the disc fades to, and how it is drawn: the dial shows it as the thrower sees it. */
  readonly fadeSide: 'left' | 'right'
  readonly look: Look
  readonly seen: Seen
  readonly onSeen: (change: Partial<Seen>) => void
  readonly onAngle: (by: number) => void
  /** A word called of it in the air, or taken back. */
  readonly onAir: (word: (typeof AIR_CALLS)[number]) => void
  /** The stopwatch runs from release to first contact. */
  readonly timing: boolean
  readonly onTime: () => void
}

/** What was seen of the throw. Nothing has to be called; what is not called was not observed. */
export function Calls({ asked, fadeSide, look, seen, onSeen, onAngle, onAir, timing, onTime }: CallsProps) {
  const units = useUnits()
  const said = airCalls(seen)
  useKey(FIELD_KEYS.air, (e) => onAir(AIR_CALLS[Number(e.key) - 1]!))
  const step = 'grid size-10 place-items-center hover:bg-tint phone:size-12'
  return (
    <div className="space-y-2.5">
      <div>
        <div className="mb-1 flex items-center justify-between text-note text-quiet">
          Angle out of the hand
          <span className="flex gap-1">
            <Key>{FIELD_KEYS.lessHyzer.shown}</Key>
            <Key>{FIELD_KEYS.moreHyzer.shown}</Key>
          </span>
        </div>
        <div className="flex items-center justify-between rounded-lg border border-edge">
          <button type="button" aria-label="Less hyzer" className={step} onClick={() => onAngle(-1)}>
            <Minus size={18} aria-hidden />
          </button>
          <OnEdgeDial
            label="Angle out of the hand"
            words={seen.hyzerCalledDeg === null ? 'not called' : angleWords(seen.hyzerCalledDeg)}
            hyzerDeg={seen.hyzerCalledDeg ?? asked}
            {...{ fadeSide, look }}
            width={78}
            onTurn={(hyzerCalledDeg) => onSeen({ hyzerCalledDeg })}
          />
          <button
            type="button"
            className="min-w-0 flex-1 text-center phone:min-h-11"
            onClick={() => onSeen({ hyzerCalledDeg: seen.hyzerCalledDeg === null ? asked : null })}
          >
            <span className="figure">
              {seen.hyzerCalledDeg === null ? 'not called' : angleWords(seen.hyzerCalledDeg)}
            </span>
            <span className="block text-note leading-tight text-quiet">asked {angleWords(asked)}</span>
          </button>
          <button type="button" aria-label="More hyzer" className={step} onClick={() => onAngle(1)}>
            <Plus size={18} aria-hidden />
          </button>
        </div>
      </div>
      <Pick
        label="Nose"
        keyed={FIELD_KEYS.nose}
        options={NOSES}
        value={seen.noseCalledDeg}
        onPick={(noseCalledDeg) => onSeen({ noseCalledDeg })}
      />
      <Pick
        label="Height"
        keyed={FIELD_KEYS.height}
        options={HEIGHTS}
        value={seen.launchCalledDeg}
        onPick={(launchCalledDeg) => onSeen({ launchCalledDeg })}
      />
      <Group label="In the air" keyHint={FIELD_KEYS.air.shown}>
        {AIR_CALLS.map((w) => (
          <Chip key={w} on={said.includes(w)} onClick={() => onAir(w)}>
            {w}
          </Chip>
        ))}
      </Group>
      <button
        type="button"
        aria-pressed={timing}
        onClick={onTime}
        className={clsx(
          'flex min-h-9 w-full items-center justify-between gap-2 rounded-lg border px-2.5 phone:min-h-11',
          timing ? 'border-pick bg-pick font-medium text-on-pick' : 'border-edge hover:bg-tint',
        )}
      >
        {timing ? 'Stop at first contact' : 'Time it: start at release'}{' '}
        <Key onDark={timing}>{FIELD_KEYS.clock.shown}</Key>
      </button>
      <Group label="Does it count?" keyHint={FIELD_KEYS.count.shown}>
        <Chip on={seen.counts} onClick={() => onSeen({ counts: true, whyNot: null })}>
          counts
        </Chip>
        {WHY_NOT.map((w) => (
          <Chip
            key={w}
            on={!seen.counts && seen.whyNot === w}
            onClick={() => onSeen({ counts: false, whyNot: w })}
          >
            {w}
          </Chip>
        ))}
      </Group>
      <div className="grid grid-cols-[5.7rem_1fr_1fr] items-end gap-1.5">
        {TYPED.map((key) => {
          const { to, from, unit } = measureOf(units, SHEET_UNIT[key])
          const value = seen[key]
          return (
            <FigureInput
              key={key}
              signed
              label={labelOf(key)}
              unit={unit}
              value={value === null ? null : to(value)}
              onChange={(v) => onSeen({ [key]: v === null ? null : from(v) })}
            />
          )
        })}
      </div>
    </div>
  )
}

function Group({ label, keyHint, children }: { label: string; keyHint?: string; children: React.ReactNode }) {
  return (
    <div role="group" aria-label={label}>
      <div className="mb-1 flex justify-between text-note text-quiet">
        {label}
        {keyHint && <Key>{keyHint}</Key>}
      </div>
      <div className="flex flex-wrap gap-1.5">{children}</div>
    </div>
  )
}

interface PickProps<T> {
  readonly label: string
  /** Key that goes from option to option, and back to not observed. */
  readonly keyed: BoundKey
  readonly options: readonly { readonly value: T; readonly label: string }[]
  readonly value: T | null
  readonly onPick: (value: T | null) => void
}

/** One of a few, or not observed: a second tap takes the call back. */
function Pick<T extends string | number>({ label, keyed, options, value, onPick }: PickProps<T>) {
  useKey(keyed, () => {
    const at = options.findIndex((o) => o.value === value)
    onPick(options[at + 1]?.value ?? null)
  })
  return (
    <div
      role="group"
      aria-label={label}
      className="grid grid-cols-[5.3rem_1fr] items-center phone:grid-cols-[5rem_1fr]"
    >
      <span className="mr-1.5 flex items-center justify-between text-note text-quiet">
        {label} <Key>{keyed.shown}</Key>
      </span>
      <span className="inline-flex overflow-hidden rounded-lg border border-edge">
        {options.map((o) => (
          <button
            key={o.value}
            type="button"
            aria-pressed={o.value === value}
            onClick={() => onPick(o.value === value ? null : o.value)}
            className={clsx(
              'min-h-8 flex-1 border-r border-edge px-1 whitespace-nowrap last:border-r-0 phone:min-h-11',
              o.value === value ? 'bg-pick font-medium text-on-pick' : 'hover:bg-tint',
            )}
          >
            {o.label}
          </button>
        ))}
      </span>
    </div>
  )
}
