import clsx from 'clsx'
import { Ladder } from '../charts/Ladder.tsx'
import { percent } from '../data/units.ts'
import { DiscDot } from '../parts/Disc.tsx'
import type { Drawing } from './drawing.ts'

interface LadderPictureProps extends Drawing {
  readonly order: readonly string[]
  readonly neighbours: readonly number[]
}

/** The ladder of the discs asked about, how sure each step of it is, and the order that was expected beside it. */
export function LadderPicture({ order, neighbours, outcome, expected, name, look }: LadderPictureProps) {
  const discs = order.map((id) => outcome.discs.find((d) => d.disc === id)!)
  const wanted = expected.filter((d) => order.includes(d))
  return (
    <div className={clsx('grid gap-5', wanted.length > 1 && 'md:grid-cols-[minmax(0,1fr)_15rem]')}>
      <div>
        <Ladder discs={discs} name={name} look={look} />
        <ol className="mt-3">
          {neighbours.map((p, i) => (
            <li key={order[i]} className="flex gap-3 border-t border-rule py-1">
              <span className="figure w-12">{percent(p)}</span>
              <span>
                {name(order[i]!)} over {name(order[i + 1]!)}
              </span>
            </li>
          ))}
        </ol>
      </div>
      {wanted.length > 1 && (
        <div>
          <h2 className="text-note font-semibold">Expected before the first throw</h2>
          <ol className="mt-1">
            {wanted.map((d, i) => (
              <li key={d} className="flex items-center gap-2 border-b border-rule py-1.5">
                <span className="figure w-4 text-quiet">{i + 1}</span>
                <DiscDot look={look(d)} /> {name(d)}
                {order.indexOf(d) !== i && (
                  <span className="ml-auto text-note text-quiet">now {order.indexOf(d) + 1}</span>
                )}
              </li>
            ))}
          </ol>
        </div>
      )}
    </div>
  )
}
