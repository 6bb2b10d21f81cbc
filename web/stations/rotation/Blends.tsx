import { PLASTIC_KINDS } from '../../../core/shelf/usualWear.ts'
import type { PlasticKind } from '../../../core/shelf/usualWear.ts'
import type { Board, RotationDisc } from '../../../contract/rotation.ts'
import { outbox } from '../../data/outbox.ts'
import { Card } from '../../parts/Card.tsx'
import { Select } from '../../parts/Select.tsx'

const KIND_WORDS: Readonly<Record<PlasticKind, string>> = {
  base: 'base blend: wears fast, goes on',
  premium: 'premium: slowly, then holds',
  soft: 'soft: in between',
  unknown: 'not said',
}

/** Every blend on the board with its discs, those that were tested most first. */
function blendsOf(board: Board) {
  const found = new Map<string, RotationDisc[]>()
  for (const d of board.discs)
    if (d.tests.length > 0 || d.jobId !== null) {
      const blend = `${d.maker} ${d.plastic}`
      found.set(blend, [...(found.get(blend) ?? []), d])
    }
  return [...found]
    .map(([blend, discs]) => ({ blend, discs, told: board.blends.find((b) => b.blend === blend) }))
    .sort((a, b) => (b.told?.tests ?? 0) - (a.told?.tests ?? 0))
}

/** What blends are made of, and how fast they wear, as re-tests say. */
export function Blends({ board }: { board: Board }) {
  const blends = blendsOf(board)
  if (blends.length === 0) return null
  const say = async (
    discs: readonly RotationDisc[],
    part: Partial<Pick<RotationDisc, 'kind' | 'outOfMake'>>,
  ) => {
    for (const id of new Set(discs.map((d) => d.plasticId))) {
      const { kind, outOfMake } = discs.find((d) => d.plasticId === id)!
      await outbox.put('plastic-wear', { id, kind, outOfMake, ...part })
    }
  }
  return (
    <Card className="p-4" label="How blends wear">
      <h2 className="text-lead">How blends wear</h2>
      <p className="mb-1 text-quiet">
        Against what is usual for their kind; in brackets where it lies 8 times in 10.
      </p>
      <ul>
        {blends.map(({ blend, discs, told }) => (
          <li
            key={blend}
            className="items-center justify-between gap-x-4 border-t border-rule py-1.5 first:border-t-0 lg:flex"
          >
            <p>
              <span className="font-medium">{blend}</span>{' '}
              {told ? (
                <>
                  <span className="figure">{told.middle.toFixed(1)}</span> times{' '}
                  <span className="text-quiet">
                    ({told.low.toFixed(1)} to {told.high.toFixed(1)}, {told.tests}{' '}
                    {told.tests === 1 ? 'test' : 'tests'})
                  </span>
                </>
              ) : (
                <span className="text-quiet">never tested</span>
              )}
            </p>
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1 max-lg:mt-1">
              <Select
                hideLabel
                label={`What ${blend} is made of`}
                value={discs[0]!.kind}
                onChange={(v) => void say(discs, { kind: v })}
                options={PLASTIC_KINDS.map((kind) => ({ value: kind, words: KIND_WORDS[kind] }))}
              />
              <label className="flex min-h-9 items-center gap-1.5 max-md:min-h-11">
                <input
                  type="checkbox"
                  className="size-4 accent-spruce"
                  checked={discs.every((d) => d.outOfMake)}
                  onChange={(e) => void say(discs, { outOfMake: e.target.checked })}
                />
                no longer made
              </label>
            </div>
          </li>
        ))}
      </ul>
    </Card>
  )
}
