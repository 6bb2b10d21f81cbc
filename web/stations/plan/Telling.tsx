import { LimitLine } from '../../charts/LimitLine.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { FigureInput } from '../../parts/Inputs.tsx'
import { percent } from '../../data/units.ts'
import type { PlanWeighed } from './usePlanWorth.ts'

interface TellingProps {
  readonly worth: PlanWeighed
  readonly working: boolean
  /** Throws to be spent; null for as many as are left. */
  readonly spend: number | null
  readonly onSpend: (spend: number | null) => void
  readonly nameOf: (code: string) => string
  readonly onTake: () => void
  readonly onEven: () => void
}

/** Settling so little more of what is asked is no difference: both would be shown by the same percentage. */
const HARDLY = 0.01

/** The same number of throws where they tell most, beside the plan as it is. */
export function Telling({
  worth: { planned, even, telling, limit },
  working,
  spend,
  onSpend,
  nameOf,
  onTake,
  onEven,
}: TellingProps) {
  const share = (p: PlanWeighed['planned']) =>
    p.aims.reduce((s, x) => s + x.chanceSettled, 0) / Math.max(1, p.aims.length)
  const better = telling.wrongAfter < planned.wrongAfter - 1e-4 && share(telling) >= share(planned)
  const same = share(telling) - share(planned) < HARDLY
  return (
    <Card className="p-4" label="Spend the throws where they tell most">
      <h2 className="text-lead">Spend the throws where they tell most</h2>
      <p className="mt-1 mb-2" role="status">
        {better
          ? `${same ? 'It makes no difference here; it would be ' : ''}${changeWords(planned, telling, nameOf)}`
          : 'No other set of as many throws would tell more.'}
      </p>
      {[
        ['spread evenly', share(even)] as const,
        ['as planned', share(planned)] as const,
        ...(better ? [['most telling', share(telling)] as const] : []),
      ].map(([label, p], i) => (
        <div key={label} className="flex items-center gap-2 py-0.5">
          <span className="w-24 shrink-0 text-note">{label}</span>
          <span className="h-3.5 flex-1 overflow-hidden rounded bg-tint" aria-hidden>
            <span
              className={i < 2 ? 'block h-full bg-quiet' : 'block h-full bg-water'}
              style={{ width: `${100 * p}%` }}
            />
          </span>
          <span className="figure w-12 text-right">{percent(p)}</span>
        </div>
      ))}
      <p className="mt-1 text-note text-quiet">{askedWords(planned.aims, nameOf)}</p>
      <div className="mt-3 flex flex-wrap items-end gap-2">
        <FigureInput
          className="w-20"
          label="Spend"
          digits={0}
          value={spend ?? planned.throws.length}
          onChange={(v) => onSpend(v === null ? null : Math.round(Math.min(300, Math.max(1, v))))}
        />
        <Button kind="primary" disabled={!better || working} onClick={onTake}>
          Rearrange
        </Button>
        <Button onClick={onEven}>Spread evenly</Button>
      </div>
      <LimitLine limit={limit} />
    </Card>
  )
}

/** What the shares are of. */
function askedWords(aims: PlanWeighed['planned']['aims'], nameOf: (code: string) => string): string {
  const [first] = aims
  if (first?.aim.of === 'label')
    return 'of all that is on the labels: expected to be told true, above or below'
  if (first?.aim.of === 'finish')
    return 'of where each disc finishes for a slow, a usual and a full-power arm: expected to be told'
  if (first?.aim.of === 'wind') return `chance to tell what a headwind does to ${nameOf(first.aim.disc)}`
  if (first?.aim.of === 'holds' && aims.length === 1)
    return `chance to tell which of ${nameOf(first.aim.a)} and ${nameOf(first.aim.b)} a headwind moves less`
  if (first?.aim.of === 'order' && aims.length === 1)
    return `chance to tell which of ${nameOf(first.aim.a)} and ${nameOf(first.aim.b)} is more stable`
  return 'of the pairs expected to be settled'
}

/** What would change, in one sentence: who gets throws, who gives them. */
function changeWords(
  planned: PlanWeighed['planned'],
  telling: PlanWeighed['telling'],
  nameOf: (code: string) => string,
): string {
  const tally = (p: PlanWeighed['planned']) =>
    p.throws.reduce((m, t) => m.set(t.disc, (m.get(t.disc) ?? 0) + 1), new Map<string, number>())
  const [before, after] = [tally(planned), tally(telling)]
  const moved = [...new Set([...before.keys(), ...after.keys()])]
    .map((code) => ({ code, by: (after.get(code) ?? 0) - (before.get(code) ?? 0) }))
    .filter((m) => m.by !== 0)
    .sort((a, b) => b.by - a.by)
  const list = (of: typeof moved, word: string) =>
    new Intl.ListFormat('en').format(
      of.slice(0, 3).map((m, i) => `${Math.abs(m.by)}${i === 0 ? ` ${word}` : ''} for ${nameOf(m.code)}`),
    )
  const [more, fewer] = [moved.filter((m) => m.by > 0), moved.filter((m) => m.by < 0).reverse()]
  const said = [more.length > 0 && list(more, 'more'), fewer.length > 0 && list(fewer, 'fewer')].filter(
    Boolean,
  )
  const off = telling.throws.filter((t) => t.hyzerRad !== 0).length / Math.max(1, telling.throws.length)
  return said.length > 0 ? `${said.join('; ')}.` : `${percent(off)} of the throws off flat.`
}
