import { Plus, X } from 'lucide-react'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { STROKES } from '../../../core/flight/hand.ts'
import type { Plan, Thrower } from '../../../contract/trials.ts'
import { Card } from '../../parts/Card.tsx'
import { Chip } from '../../parts/Choice.tsx'

import { powerWords } from '../../data/units.ts'
import { Select } from '../../parts/Select.tsx'
import { AddThrower } from '../../parts/ThrowerSelect.tsx'

/** So many throw one plan at most. */
const MAX_THROWERS = 4
const POWERS = [1, 0.85, 0.7, 0.5] as const

interface HowThrownProps {
  readonly plan: Plan
  readonly discs: readonly ShelvedDisc[]
  readonly nameOf: (id: string) => string
  readonly throwers: readonly Thrower[]
  readonly onPlan: (change: Partial<Plan>) => void
  /** Changes that deal the throws anew. */
  readonly onDeal: (change: Partial<Plan>) => void
}

/** Who throws, with which strokes and powers, and what warms the arm. */
export function HowThrown({ plan, discs, nameOf, throwers, onPlan, onDeal }: HowThrownProps) {
  const toggled = <T,>(list: readonly T[], item: T) =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item]
  const powers = [...new Set([...POWERS, plan.power, ...(plan.easedTo === null ? [] : [plan.easedTo])])].sort(
    (a, b) => b - a,
  )
  return (
    <Card className="space-y-2.5 p-4" label="How it is thrown">
      <h2 className="text-lead">How it is thrown</h2>
      <div>
        <p className="mb-1 text-note text-quiet">
          {plan.throwerIds.length > 1
            ? 'They throw by turns; whoever went first goes last next time'
            : 'Who throws; several take turns'}
        </p>
        <div className="flex flex-wrap gap-1.5">
          {throwers.map((t) => (
            <Chip
              key={t.id}
              on={plan.throwerIds.includes(t.id)}
              onClick={() => onDeal({ throwerIds: toggled(plan.throwerIds, t.id).slice(0, MAX_THROWERS) })}
            >
              {t.name.split(' ')[0]}
            </Chip>
          ))}
          <AddThrower
            onAdded={(t) => onDeal({ throwerIds: [...plan.throwerIds, t.id].slice(0, MAX_THROWERS) })}
          />
        </div>
      </div>
      <div>
        <p className="mb-1 text-note text-quiet">Strokes</p>
        <div className="flex flex-wrap gap-1.5">
          {STROKES.map((s) => (
            <Chip
              key={s}
              on={plan.strokes.includes(s)}
              onClick={() => {
                const strokes = toggled(plan.strokes, s)
                if (strokes.length > 0) onDeal({ strokes })
              }}
            >
              {s}
            </Chip>
          ))}
        </div>
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="Power"
          value={plan.power}
          onChange={(v) => onDeal({ power: v })}
          options={powers.map((p) => ({ value: p, words: powerWords(p) }))}
        />
        <Select
          label="Half of them at"
          value={plan.easedTo}
          onChange={(v) => onDeal({ easedTo: v })}
          options={[
            { value: null, words: 'the same' },
            ...powers.filter((p) => p < plan.power).map((p) => ({ value: p, words: powerWords(p) })),
          ]}
        />
      </div>
      <div>
        <p className="mb-1 text-note text-quiet">Warm-up throws first; they do not count</p>
        <ul className="space-y-1" aria-label="Warm-up throws">
          {plan.warmUps.map((id, i) => (
            <li key={i} className="flex items-center gap-2">
              <span className="figure w-4 text-quiet">{i + 1}</span>
              <span className="min-w-0 flex-1 truncate">{nameOf(id)}</span>
              <button
                type="button"
                aria-label={`Leave out warm-up ${i + 1}`}
                className="grid size-8 place-items-center rounded-md hover:bg-tint"
                onClick={() => onPlan({ warmUps: plan.warmUps.filter((_, k) => k !== i) })}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
        {plan.warmUps.length < 20 && (
          <div className="mt-1 flex items-center gap-2">
            <Plus size={16} aria-hidden className="text-quiet" />
            <Select
              hideLabel
              label="Add a warm-up throw"
              value={null}
              className="flex-1"
              placeholder="one more of …"
              onChange={(v) => onPlan({ warmUps: [...plan.warmUps, v] })}
              options={[...discs]
                .sort((a, b) => a.inForce.numbers.speed - b.inForce.numbers.speed)
                .map((d) => ({ value: d.disc.id, words: nameOf(d.disc.id) }))}
            />
          </div>
        )}
      </div>
    </Card>
  )
}

/** What makers say of the plastics of a trial, to be taken up as claims with one press. */
export function MakersClaims({
  discs,
  claims,
  onClaim,
}: {
  discs: readonly ShelvedDisc[]
  claims: readonly string[]
  onClaim: (claim: string) => void
}) {
  const said = [
    ...new Set(discs.flatMap((d) => d.plastic.claims.map((c) => `${d.plastic.name}: ${c}`))),
  ].filter((c) => !claims.includes(c))
  if (said.length === 0 || claims.length >= 12) return null
  return (
    <ul className="mt-2 space-y-1" aria-label="What makers say">
      {said.map((c) => (
        <li key={c}>
          <button
            type="button"
            className="flex w-full items-center gap-2 rounded-md text-left text-note text-quiet hover:bg-tint"
            onClick={() => onClaim(c)}
          >
            <Plus size={14} aria-hidden className="shrink-0" /> {c}
          </button>
        </li>
      ))}
    </ul>
  )
}
