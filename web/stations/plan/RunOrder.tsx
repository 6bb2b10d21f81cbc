import clsx from 'clsx'
import type { Plan } from '../../../contract/trials.ts'
import { LEGS } from '../../../core/plan/order.ts'
import { angleWords } from '../../data/units.ts'
import { DiscDot, DiscOnEdge } from '../../parts/Disc.tsx'

interface RunOrderProps {
  readonly plan: Plan
  readonly nameOf: (id: string) => string
  readonly placeOf: (id: string) => number
  readonly fadeSide: 'left' | 'right'
  /** Places in the plan of the throws already made. */
  readonly done: ReadonlySet<number>
}

const LEG_WORDS = { out: 'out, into the wind', back: 'back, with it' } as const

/** Every throw in its order: a row a round, out on one side and back on the other. */
export function RunOrder({ plan, nameOf, placeOf, fadeSide, done }: RunOrderProps) {
  const numbered = plan.throws.map((t, i) => ({ ...t, i }))
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {LEGS.map((leg, l) => {
        const own = numbered.filter((t) => t.leg === leg)
        const rounds = [...new Set(own.map((t) => t.round))]
        return (
          <section key={leg} className={clsx('rounded-lg p-2.5', l === 0 ? 'bg-mown' : 'bg-mown-2')}>
            <div className="mb-1.5 flex justify-between gap-2 text-note">
              <h3 className="font-semibold">{LEG_WORDS[leg]}</h3>
              <span className="text-quiet">
                {own.length} throws, {rounds.length} rounds
              </span>
            </div>
            <ol className="flex flex-wrap gap-x-3 gap-y-1">
              {rounds.map((round) => (
                <li key={round} className="flex items-center gap-1.5">
                  <span className="figure w-6 shrink-0 text-note text-quiet">{round + 1}</span>
                  <ol className="flex flex-wrap gap-1">
                    {own
                      .filter((t) => t.round === round)
                      .map((t) => (
                        <li
                          key={t.i}
                          title={`Throw ${t.i + 1}: ${nameOf(t.discId)}, ${angleWords(t.hyzerDeg)}`}
                          className={clsx(
                            'grid w-8.5 justify-items-center rounded-md border border-rule bg-card pt-1',
                            done.has(t.i) && 'opacity-40',
                          )}
                        >
                          <DiscDot place={placeOf(t.discId)} size={13} />
                          <DiscOnEdge hyzerDeg={t.hyzerDeg} fadeSide={fadeSide} width={30} />
                          <span className="sr-only">
                            {nameOf(t.discId)}, {angleWords(t.hyzerDeg)}
                            {done.has(t.i) ? ', thrown' : ''}
                          </span>
                        </li>
                      ))}
                  </ol>
                </li>
              ))}
            </ol>
          </section>
        )
      })}
    </div>
  )
}
