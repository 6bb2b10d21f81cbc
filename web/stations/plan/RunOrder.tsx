import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core'
import clsx from 'clsx'
import { useState } from 'react'
import type { Plan, Thrower } from '../../../contract/trials.ts'
import { LEGS } from '../../../core/throw/leg.ts'
import { angleWords, powerWords } from '../../data/units.ts'
import { DiscDot, DiscOnEdge } from '../../parts/Disc.tsx'

interface RunOrderProps {
  readonly plan: Plan
  readonly nameOf: (id: string) => string
  readonly lookOf: (id: string) => number
  readonly throwers: readonly Thrower[]
  readonly fadeSide: 'left' | 'right'
  /** Places in the plan of the throws already made. */
  readonly done: ReadonlySet<number>
  /** Two throws, by place in the plan, change places. */
  readonly onSwap: (a: number, b: number) => void
}

const LEG_WORDS = { out: 'out, into the wind', back: 'back, with it' } as const

type Planned = Plan['throws'][number]

/** The angle a plan means, in words. */
export const meantWords = (plan: Plan, hyzerDeg: number): string =>
  plan.protocol === 'same-line' ? 'back to the line' : angleWords(hyzerDeg)

/** What there is to say of a planned throw beyond its disc and angle. */
export const throwWords = (t: Planned, plan: Plan): string =>
  [
    meantWords(plan, t.hyzerDeg),
    t.stroke === 'forehand' && 'forehand',
    (t.power ?? plan.power) < 1 && powerWords(t.power ?? plan.power),
  ]
    .filter(Boolean)
    .join(', ')

/** Every throw in its order: a row a round, out on one side and back on the other; throws are dragged onto each other. */
export function RunOrder({ plan, nameOf, lookOf, throwers, fadeSide, done, onSwap }: RunOrderProps) {
  /** A throw lifted with a click or a key, to be put where another is. */
  const [lifted, setLifted] = useState<number>()
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }))
  const numbered = plan.throws.map((t, i) => ({ ...t, i }))
  const press = (i: number) => {
    if (lifted === undefined) return setLifted(i)
    setLifted(undefined)
    if (lifted !== i) onSwap(lifted, i)
  }
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ active, over }) => {
        if (over && active.id !== over.id) onSwap(Number(active.id) - 1, Number(over.id) - 1)
      }}
    >
      <div
        className="grid gap-2 sm:grid-cols-2"
        onKeyDown={(e) => e.key === 'Escape' && setLifted(undefined)}
      >
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
                {rounds.map((round) => {
                  const list = own.filter((t) => t.round === round)
                  const who = throwers.find((t) => t.id === list[0]?.throwerId)
                  return (
                    <li key={round} className="flex items-center gap-1.5">
                      <span
                        className="figure w-6 shrink-0 text-note text-quiet"
                        title={who ? `Round ${round + 1}, ${who.name}` : `Round ${round + 1}`}
                      >
                        {round + 1}
                        {plan.throwerIds.length > 1 && who && (
                          <span className="block font-sans text-[11px] leading-none">
                            {who.name.slice(0, 2)}
                            <span className="sr-only">, thrown by {who.name}</span>
                          </span>
                        )}
                      </span>
                      <ol className="flex flex-wrap gap-1">
                        {list.map((t) => (
                          <Tile
                            key={t.i}
                            place={t.i}
                            label={`Throw ${t.i + 1}: ${nameOf(t.discId)}, ${throwWords(t, plan)}`}
                            thrown={done.has(t.i)}
                            lifted={lifted === t.i}
                            onPress={() => press(t.i)}
                          >
                            <DiscDot look={lookOf(t.discId)} size={13} />
                            <DiscOnEdge
                              hyzerDeg={t.hyzerDeg}
                              fadeSide={
                                t.stroke === 'forehand' ? (fadeSide === 'left' ? 'right' : 'left') : fadeSide
                              }
                              width={30}
                            />
                          </Tile>
                        ))}
                      </ol>
                    </li>
                  )
                })}
              </ol>
            </section>
          )
        })}
      </div>
      <p className="mt-1.5 text-note text-quiet" role="status">
        {lifted === undefined
          ? 'Drag a throw onto another, or pick both in turn, to change their places.'
          : `Throw ${lifted + 1} is lifted; pick the throw it changes places with.`}
      </p>
    </DndContext>
  )
}

interface TileProps {
  readonly place: number
  readonly label: string
  readonly thrown: boolean
  readonly lifted: boolean
  readonly onPress: () => void
  readonly children: React.ReactNode
}

function Tile({ place, label, thrown, lifted, onPress, children }: TileProps) {
  // dnd-kit takes 0 for no id
  const id = place + 1
  const { setNodeRef: grip, listeners, transform, isDragging } = useDraggable({ id, disabled: thrown })
  const { setNodeRef: land, isOver } = useDroppable({ id, disabled: thrown })
  return (
    <li ref={land} title={label}>
      <button
        ref={grip}
        type="button"
        disabled={thrown}
        aria-pressed={lifted}
        aria-label={`${label}${thrown ? ', thrown' : ''}`}
        onClick={onPress}
        {...listeners}
        style={transform ? { transform: `translate3d(${transform.x}px, ${transform.y}px, 0)` } : undefined}
        className={clsx(
          'grid w-8.5 touch-none justify-items-center rounded-md border bg-card pt-1',
          lifted || (isOver && !isDragging) ? 'border-accent outline-2 outline-accent' : 'border-rule',
          thrown && 'opacity-40',
          isDragging && 'relative z-10',
        )}
      >
        {children}
      </button>
    </li>
  )
}
