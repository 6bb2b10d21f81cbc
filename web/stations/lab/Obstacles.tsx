import { X } from 'lucide-react'
import { MOST_OBSTACLES, onField } from '../../../contract/lab.ts'
import type { LabObstacle } from '../../../contract/lab.ts'
import type { Chance } from '../../../core/lab/cloud.ts'
import { useUnits } from '../../data/preferences.tsx'
import { percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { obstacleWords, TARGET_M } from '../../flown/words.ts'

/** What can be put on the field, as it stands first. */
const KINDS: readonly { readonly name: string; readonly put: (farM: number) => LabObstacle }[] = [
  {
    name: 'Landing zone',
    put: (far) => ({ kind: 'zone', at: { downM: Math.round(far), sideM: 0 }, radiusM: 8 }),
  },
  {
    name: 'Target',
    put: (far) => ({ kind: 'zone', at: { downM: Math.round(far), sideM: 0 }, radiusM: TARGET_M }),
  },
  {
    name: 'Tree',
    put: (far) => ({ kind: 'tree', at: { downM: Math.round(0.5 * far), sideM: 3 }, radiusM: 1, heightM: 12 }),
  },
  {
    name: 'Gap',
    put: (far) => ({
      kind: 'tree',
      at: { downM: Math.round(0.4 * far), sideM: -3 },
      radiusM: 1,
      heightM: 12,
    }),
  },
  {
    name: 'Branches',
    put: (far) => ({
      kind: 'ceiling',
      fromM: Math.round(0.25 * far),
      toM: Math.round(0.5 * far),
      heightM: 6,
    }),
  },
  {
    name: 'Water’s edge',
    put: (far) => ({
      kind: 'line',
      from: { downM: 0, sideM: 14 },
      to: { downM: Math.round(far), sideM: 14 },
      water: true,
    }),
  },
  {
    name: 'Out of bounds',
    put: (far) => ({
      kind: 'line',
      from: { downM: 0, sideM: -14 },
      to: { downM: Math.round(far), sideM: -14 },
      water: false,
    }),
  },
  {
    name: 'Pond',
    put: (far) => ({ kind: 'pond', at: { downM: Math.round(0.8 * far), sideM: 12 }, radiusM: 6 }),
  },
]

/** Figures of an obstacle that can be set, with what they change. */
function figuresOf(
  o: LabObstacle,
): readonly { label: string; value: number; set: (v: number) => LabObstacle }[] {
  const at = (
    of: 'at' | 'from' | 'to',
    place: { downM: number; sideM: number },
    words: string,
  ): { label: string; value: number; set: (v: number) => LabObstacle }[] => [
    {
      label: `${words}out`,
      value: place.downM,
      set: (downM) => ({ ...o, [of]: { ...place, downM } }) as LabObstacle,
    },
    {
      label: `${words}aside`,
      value: place.sideM,
      set: (sideM) => ({ ...o, [of]: { ...place, sideM } }) as LabObstacle,
    },
  ]
  const size = (of: 'radiusM' | 'heightM', label: string, value: number) => ({
    label,
    value,
    set: (v: number) => ({ ...o, [of]: Math.max(0.1, v) }) as LabObstacle,
  })
  switch (o.kind) {
    case 'tree':
      return [
        ...at('at', o.at, ''),
        size('radiusM', 'radius', o.radiusM),
        size('heightM', 'height', o.heightM),
      ]
    case 'ceiling':
      return [
        { label: 'from', value: o.fromM, set: (fromM) => ({ ...o, fromM }) },
        { label: 'to', value: o.toM, set: (toM) => ({ ...o, toM }) },
        size('heightM', 'height', o.heightM),
      ]
    case 'line':
      return [...at('from', o.from, 'near, '), ...at('to', o.to, 'far, ')]
    case 'pond':
    case 'zone':
      return [...at('at', o.at, ''), size('radiusM', 'radius', o.radiusM)]
  }
}

interface PutProps {
  readonly obstacles: readonly LabObstacle[]
  /** How far throws go, m: what is put on the field stands where it matters. */
  readonly farM: number
  readonly onChange: (obstacles: LabObstacle[]) => void
}

/** Puts something on the field. */
export function PutOnField({ obstacles, farM, onChange }: PutProps) {
  const add = (name: string, put: (farM: number) => LabObstacle) => {
    const first = put(farM)
    // a gap is two trees
    const other: LabObstacle[] =
      name === 'Gap' && first.kind === 'tree' ? [{ ...first, at: { ...first.at, sideM: 3 } }] : []
    onChange([...obstacles, ...[first, ...other].map(onField)])
  }
  return (
    <div className="mt-3 flex flex-wrap items-center gap-1.5" role="group" aria-label="Put on the field">
      <span className="mr-1 text-quiet">Put there</span>
      {KINDS.map(({ name, put }) => (
        <Button
          key={name}
          className="!px-2.5"
          disabled={obstacles.length + 1 >= MOST_OBSTACLES}
          onClick={() => add(name, put)}
        >
          {name}
        </Button>
      ))}
    </div>
  )
}

interface ObstaclesProps {
  readonly obstacles: readonly LabObstacle[]
  readonly chance: Chance | undefined
  readonly onChange: (obstacles: LabObstacle[]) => void
}

/** What stands on the field, and how many throws each thing takes. */
export function Obstacles({ obstacles, chance, onChange }: ObstaclesProps) {
  const units = useUnits()
  const { length } = units
  if (obstacles.length === 0) return null
  return (
    <Card className="p-3.5" label="On the field">
      <h2 className="text-lead">On the field</h2>
      <p className="text-note text-quiet">
        Drag it on the field, or write where it stands: out from the tee and aside of the line, in{' '}
        {length.unit}; aside is positive to the fade side.
      </p>
      <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-x-6 max-md:grid-cols-1">
        {obstacles.map((o, i) => {
          const taken = chance?.taken[i]
          return (
            <li key={i} className="border-t border-rule py-2" aria-label={obstacleWords(o, units)}>
              <div className="flex items-center justify-between gap-2">
                <span className="font-medium">{obstacleWords(o, units)}</span>
                <span className="flex items-center gap-1">
                  {taken !== undefined && taken > 0 && (
                    <span className="text-note text-quiet">
                      {o.kind === 'zone' ? 'missed by' : 'takes'} {percent(taken)}
                    </span>
                  )}
                  <button
                    type="button"
                    aria-label={`Take away: ${obstacleWords(o, units)}`}
                    className="grid size-9 place-items-center rounded-lg hover:bg-tint max-md:size-11"
                    onClick={() => onChange(obstacles.filter((_, j) => j !== i))}
                  >
                    <X size={16} aria-hidden />
                  </button>
                </span>
              </div>
              <div className="grid grid-cols-4 gap-1.5">
                {figuresOf(o).map(({ label, value, set }) => (
                  <FigureInput
                    key={label}
                    signed
                    label={label}
                    value={length.to(value)}
                    onChange={(v) =>
                      v !== null &&
                      onChange(obstacles.map((was, j) => (j === i ? onField(set(length.from(v))) : was)))
                    }
                  />
                ))}
              </div>
            </li>
          )
        })}
      </ul>
    </Card>
  )
}
