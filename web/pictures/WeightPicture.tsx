import type { WeightRow } from '../../core/judge/answers/picture.ts'
import { PER_M } from '../../core/flight/side.ts'
import { Z90 } from '../../core/rating/normal.ts'
import { IntervalRows } from '../charts/IntervalRows.tsx'
import { useUnits } from '../data/preferences.tsx'
import { figure } from '../data/units.ts'
import { hueOf } from '../strip/hues.ts'
import type { Drawing } from './drawing.ts'

interface WeightPictureProps extends Drawing {
  readonly light: string
  readonly heavy: string
  readonly rows: readonly WeightRow[]
}

/** What mass alone does to the lighter disc, at the arm that threw and at a slower one, and what is left over. */
export function WeightPicture({ light, heavy, rows, name, look }: WeightPictureProps) {
  const { length, speed } = useUnits()
  const { rest } = rows[0]!
  return (
    <div>
      <IntervalRows
        rows={[
          ...rows.map((r) => ({
            id: r.arm,
            name: `mass, ${speed.show(r.armMps, 0)}`,
            hue: 'var(--quiet)',
            value: r.massM,
            low: r.massM,
            high: r.massM,
            words: figure(length.to(r.massM), 1),
          })),
          {
            id: 'rest',
            name: 'left over',
            hue: hueOf(look(light)),
            value: rest.value,
            low: rest.value - Z90 * rest.sd,
            high: rest.value + Z90 * rest.sd,
            words: figure(length.to(rest.value), 1),
          },
        ]}
        axis={`${length.unit} to the fade side`}
        mark={(m) => figure(length.to(m), 1)}
        ends={['less stable', 'more stable']}
      />
      <p className="mt-2 text-note text-quiet">
        {name(light)} against {name(heavy)}, at the end of a flight of {length.show(PER_M, 0)}. Mass is
        reckoned by the physics of the flight, thrown flat; what is left over is the discs’ own.
      </p>
    </div>
  )
}
