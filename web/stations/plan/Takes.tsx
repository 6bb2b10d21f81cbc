import { format } from 'date-fns'
import { armLeft, USUAL_LIMITS } from '../../../core/plan/armLoad.ts'
import type { Effort } from '../../../core/plan/effort.ts'
import type { Plan, Thrower } from '../../../contract/trials.ts'
import { useArmDays } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Card } from '../../parts/Card.tsx'

/** The day a plan is for: today until it names one. */
export const dayOf = (plan: Plan): string =>
  format(plan.startsAt === null ? new Date() : new Date(plan.startsAt), 'yyyy-MM-dd')

interface TakesProps {
  readonly effort: Effort
  /** Some of the plan is thrown already. */
  readonly left: boolean
  readonly throwers: readonly Thrower[]
  readonly day: string
}

/** What the plan asks of people, and whether their arms have it to give. */
export function Takes({ effort, left, throwers, day }: TakesProps) {
  const units = useUnits()
  const walk =
    units.kind === 'metric'
      ? `${(effort.walkM / 1000).toFixed(1)} km`
      : `${(effort.walkM / 1609.344).toFixed(1)} mi`
  return (
    <Card className="p-4" label="What it takes">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-[repeat(4,auto)_minmax(0,16rem)] sm:justify-between">
        {(
          [
            [String(effort.throws), left ? 'throws left' : 'throws'],
            [String(effort.fullPower), 'at full power'],
            [String(Math.round(effort.minutes)), 'minutes'],
            [walk, 'walk'],
          ] as const
        ).map(([value, label]) => (
          <p key={label}>
            <span className="figure block text-title">{value}</span>
            <span className="text-note text-quiet">{label}</span>
          </p>
        ))}
        <div className="max-sm:col-span-2">
          <Arms effort={effort} throwers={throwers} day={day} />
        </div>
      </div>
    </Card>
  )
}

/** Whether any arm is asked for more than it has left; null while nobody knows. */
export function useOverloads(effort: Effort, throwers: readonly Thrower[], day: string) {
  const data = useArmDays(day)
  if (!data) return null
  return effort.arms.flatMap((arm) => {
    const thrower = throwers.find((t) => t.id === arm.thrower) ?? throwers[0]
    if (!thrower) return []
    const own = data.filter((d) => d.throwerId === thrower.id)
    const room = armLeft(thrower.budget ?? USUAL_LIMITS, own, day)
    return [
      {
        ...arm,
        thrower,
        room,
        tooMany: Math.max(0, arm.throws - room.throws),
        tooManyFull: Math.max(0, arm.fullPower - room.fullPower),
      },
    ]
  })
}

function Arms({ effort, throwers, day }: Omit<TakesProps, 'left'>) {
  const arms = useOverloads(effort, throwers, day)
  if (!arms) return null
  return (
    <ul className="space-y-1 text-note">
      {arms.map((a) => (
        <li key={a.thrower.id}>
          <span className="text-quiet">
            {a.thrower.name.split(' ')[0]}: {a.fullPower} of {a.room.fullPower} full-power throws left this{' '}
            {a.room.fullPowerBy}.
          </span>{' '}
          {(a.tooManyFull > 0 || a.tooMany > 0) && (
            <strong className="text-accent" role="alert">
              {a.tooManyFull > 0 ? `${a.tooManyFull} too many` : `${a.tooMany} throws too many`}: ease some,
              share them, or split over two days.
            </strong>
          )}
        </li>
      ))}
    </ul>
  )
}
