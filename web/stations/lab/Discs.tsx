import { Plus, X } from 'lucide-react'
import { memo, useState } from 'react'
import { NUMBER_RANGE } from '../../../core/flight/disc.ts'
import { MOST_FLOWN } from '../../../contract/lab.ts'
import type { LabFlown, LabSetup } from '../../../contract/lab.ts'
import { numbersLine } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import type { Discs } from '../../flown/useDiscs.ts'
import { looksOf } from '../../strip/hues.ts'

interface DiscsCardProps {
  readonly flown: readonly LabFlown[]
  readonly discs: Discs
  readonly onChange: (part: Partial<LabSetup>) => void
}

const NUMBERS = ['speed', 'glide', 'turn', 'fade'] as const
const USUAL = { speed: 9, glide: 5, turn: -1, fade: 2 }
/** As many of the shelf are offered; the rest is found by its words. */
const OFFERED = 60

/** What is flown: discs of the shelf as their throws say they fly, or any four numbers. The first is the one that is thrown. */
export const DiscsCard = memo(function DiscsCard({ flown, discs, onChange }: DiscsCardProps) {
  const [find, setFind] = useState('')
  const put = (i: number, disc: LabFlown) => onChange({ discs: flown.map((f, j) => (j === i ? disc : f)) })
  const look = looksOf(flown.flatMap((f) => discs.named(f)?.brief ?? []))
  const words = find.trim().toLowerCase()
  const found = discs.shelf
    .filter((d) => `${d.code} ${d.maker} ${d.mold} ${d.plastic}`.toLowerCase().includes(words))
    .slice(0, OFFERED)
  return (
    <Card className="p-3.5" label="What is flown">
      <h2 className="text-lead">What is flown</h2>
      <ul className="mt-1 grid gap-1.5">
        {flown.map((f, i) => {
          const named = discs.named(f)
          return (
            <li key={`${i}`} className="flex items-center gap-2">
              <DiscDot look={look(named?.brief ?? '')} size={22} />
              {'numbers' in f ? (
                <span className="grid flex-1 grid-cols-4 gap-1">
                  {NUMBERS.map((n) => (
                    <FigureInput
                      key={n}
                      signed
                      label={n}
                      value={f.numbers[n]}
                      onChange={(v) => {
                        const [low, high] = NUMBER_RANGE[n]
                        if (v !== null)
                          put(i, { numbers: { ...f.numbers, [n]: Math.max(low, Math.min(high, v)) } })
                      }}
                    />
                  ))}
                </span>
              ) : (
                <span className="flex-1">
                  {named?.name ?? (discs.reading ? 'Reading the shelf …' : 'A disc that is not on the shelf')}
                  {named && (
                    <span className="figure block text-note text-quiet">
                      {numbersLine(roundedNumbers(named.disc.numbers))}
                    </span>
                  )}
                </span>
              )}
              {flown.length > 1 && (
                <button
                  type="button"
                  aria-label={`Take out ${named?.name ?? 'it'}`}
                  className="grid size-9 place-items-center rounded-lg hover:bg-tint max-md:size-11"
                  onClick={() => onChange({ discs: flown.filter((_, j) => j !== i) })}
                >
                  <X size={16} aria-hidden />
                </button>
              )}
            </li>
          )
        })}
      </ul>
      {flown.length < MOST_FLOWN && (
        <div className="mt-2 flex flex-wrap gap-2">
          <input
            aria-label="Find a disc of the shelf"
            placeholder="Find a disc of the shelf"
            className="min-h-10 w-full rounded-lg border border-edge bg-card px-2.5 max-md:min-h-11"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          {words !== '' && (
            <ul className="max-h-44 w-full overflow-y-auto rounded-lg border border-rule" aria-label="Found">
              {found.length === 0 && (
                <li className="px-2.5 py-2 text-quiet">No disc of the shelf is called that.</li>
              )}
              {found.map((d) => (
                <li key={d.id}>
                  <button
                    type="button"
                    className="block min-h-10 w-full px-2.5 text-left hover:bg-tint max-md:min-h-11"
                    onClick={() => {
                      // numbers nobody touched give way to a disc
                      const first = flown[0]!
                      const untouched =
                        flown.length === 1 &&
                        'numbers' in first &&
                        numbersLine(first.numbers) === numbersLine(USUAL)
                      onChange({ discs: [...(untouched ? [] : flown), { id: d.id }] })
                      setFind('')
                    }}
                  >
                    {d.code}, {d.mold} {d.plastic}
                  </button>
                </li>
              ))}
            </ul>
          )}
          <Button onClick={() => onChange({ discs: [...flown, { numbers: USUAL }] })}>
            <Plus size={16} aria-hidden /> Any four numbers
          </Button>
        </div>
      )}
    </Card>
  )
})

const roundedNumbers = (n: Record<(typeof NUMBERS)[number], number>) => {
  const to = (v: number) => Math.round(v * 10) / 10 + 0
  return { speed: to(n.speed), glide: to(n.glide), turn: to(n.turn), fade: to(n.fade) }
}
