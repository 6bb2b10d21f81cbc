import { Minus, Plus } from 'lucide-react'
import type { CellCount } from '../../../core/plan/order.ts'
import type { Plan, Trial } from '../../../contract/trials.ts'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { meantWords } from './RunOrder.tsx'

interface CountsCardProps {
  readonly trial: Trial
  readonly plan: Plan
  readonly counts: readonly CellCount[]
  readonly nameOf: (id: string) => string
  readonly lookOf: (id: string) => number
  readonly onStep: (disc: string, hyzerDeg: number, by: 1 | -1) => void
}

/** How often each disc is thrown at each angle. */
export function CountsCard({ trial, plan, counts, nameOf, lookOf, onStep }: CountsCardProps) {
  const sum = (disc: string, hyzerDeg?: number) =>
    counts
      .filter((c) => c.disc === disc && (hyzerDeg === undefined || c.hyzerDeg === hyzerDeg))
      .reduce((s, c) => s + c.throws, 0)
  return (
    <Card className="overflow-x-auto p-4" label="Throws of each disc">
      <h2 className="mb-1 text-lead">Throws of each disc</h2>
      <table className="w-full">
        <thead>
          <tr className="text-note text-quiet">
            <th className="text-left font-normal">disc</th>
            {trial.hyzerDegs.map((deg) => (
              <th key={deg} className="font-normal">
                {meantWords(plan, deg)}
              </th>
            ))}
            <th className="text-right font-normal">in all</th>
          </tr>
        </thead>
        <tbody>
          {trial.discIds.map((id) => (
            <tr key={id} className="border-t border-rule">
              <th scope="row" className="py-1 text-left font-medium">
                <span className="flex items-center gap-2">
                  <DiscDot look={lookOf(id)} /> <span className="truncate">{nameOf(id)}</span>
                  {id === trial.controlDiscId && <span className="text-note text-quiet">control</span>}
                </span>
              </th>
              {trial.hyzerDegs.map((deg) => (
                <td key={deg}>
                  <Count
                    what={`${nameOf(id)}, ${meantWords(plan, deg)}`}
                    value={sum(id, deg)}
                    onStep={(by) => onStep(id, deg, by)}
                  />
                </td>
              ))}
              <td className="figure text-right">{sum(id)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  )
}

function Count({ what, value, onStep }: { what: string; value: number; onStep: (by: 1 | -1) => void }) {
  const step =
    'grid size-7 place-items-center rounded-md border border-edge hover:bg-tint disabled:opacity-40 max-md:size-11'
  return (
    <span className="flex items-center justify-center gap-1.5">
      <button
        type="button"
        className={step}
        aria-label={`One throw fewer: ${what}`}
        disabled={value === 0}
        onClick={() => onStep(-1)}
      >
        <Minus size={14} aria-hidden />
      </button>
      <span className="figure w-5 text-center">{value}</span>
      <button type="button" className={step} aria-label={`One throw more: ${what}`} onClick={() => onStep(1)}>
        <Plus size={14} aria-hidden />
      </button>
    </span>
  )
}
