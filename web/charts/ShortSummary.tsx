import { group, max, min, scaleLinear } from 'd3'
import {
  differenceOf,
  meanInterval,
  pairedDifference,
  PUTT_BANDS,
  shareMade,
} from '../../core/judge/shortGame.ts'
import type { Difference, Interval } from '../../core/judge/shortGame.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import type { ShortThrow } from '../../contract/trials.ts'
import type { Game } from '../../core/throw/short.ts'
import { useUnits } from '../data/preferences.tsx'
import { percent } from '../data/units.ts'
import { DiscDot } from '../parts/Disc.tsx'
import { hueOf, looksById } from '../strip/hues.ts'

interface ShortSummaryProps {
  readonly game: Game
  readonly throws: readonly ShortThrow[]
  readonly discs: readonly ShelvedDisc[]
  readonly name: (code: string) => string
}

const SETTLED = 0.9
const WIDTH = 190

/** What the throws of one game say: a bar a disc, and a sentence a pair. */
export function ShortSummary({ game, throws, discs, name }: ShortSummaryProps) {
  const units = useUnits()
  const own = throws.filter((t) => t.game === game)
  if (own.length === 0) return <p className="text-quiet">Nothing logged yet.</p>
  const byDisc = group(own, (t) => t.discId)
  const thrown = discs.filter((d) => byDisc.has(d.disc.id))
  const nameOf = (d: ShelvedDisc) => name(d.disc.code)
  const length = (v: number) => units.length.show(v)
  const of = (d: ShelvedDisc) => byDisc.get(d.disc.id) ?? []
  const pairs = thrown.flatMap((a, i) => thrown.slice(i + 1).map((b) => [a, b] as const))

  if (game === 'putting') return <Putting {...{ thrown, discs, of, nameOf }} />

  const measure = (t: ShortThrow) =>
    game === 'ground' ? t.groundM! : game === 'approach' ? t.pastM! : t.strokes!
  const least = game === 'holes' ? 0.5 : 0.25
  const intervals = thrown.map((d) => meanInterval(of(d).map(measure), least))
  const bounds = intervals.flatMap((i) => (i ? [i.low, i.high] : []))
  const [low, high] = [Math.min(0, min(bounds) ?? 0), Math.max(1, max(bounds) ?? 1)]
  const words: Record<'ground' | 'approach' | 'holes', (d: Difference, a: string, b: string) => string> = {
    ground: (d, a, b) => `${a} skips ${length(d.value)} farther than ${b}`,
    approach: (d, a, b) => `${a} finishes ${length(d.value)} farther past the mark than ${b}`,
    holes: (d, a, b) => `${a} takes ${d.value.toFixed(1)} strokes a hole more than ${b}`,
  }
  const say = (v: number) => (game === 'holes' ? v.toFixed(1) : length(v))
  return (
    <div>
      <ul>
        {thrown.map((d, i) => {
          const interval = intervals[i]
          return (
            <li key={d.disc.id} className="flex items-center gap-3 border-b border-rule py-1">
              <span className="min-w-0 flex-1">
                <Named disc={d} discs={discs} name={nameOf(d)} />
              </span>
              {interval ? (
                <Bar
                  of={interval}
                  low={low}
                  high={high}
                  hue={hueOf(looksById(discs)(d.disc.id))}
                  show={say}
                />
              ) : (
                <span className="text-note text-quiet">once: {say(measure(of(d)[0]!))}</span>
              )}
              <span className="figure w-8 text-right text-note text-quiet">{of(d).length}×</span>
            </li>
          )
        })}
      </ul>
      <ul className="mt-2">
        {pairs.flatMap(([a, b]) => {
          const d =
            game === 'holes'
              ? pairedDifference(holesOfBoth(of(a), of(b)), least)
              : differenceOf(of(a).map(measure), of(b).map(measure), least)
          if (!d) return []
          const [more, fewer, gap] =
            d.value >= 0
              ? [a, b, d]
              : [b, a, { ...d, value: -d.value, low: -d.high, high: -d.low, pLarger: 1 - d.pLarger }]
          const settled = gap.pLarger >= SETTLED
          return [
            <li key={`${a.disc.id} ${b.disc.id}`} className="flex gap-3 py-1">
              <span className={settled ? 'figure w-12 shrink-0' : 'figure w-12 shrink-0 text-quiet'}>
                {percent(gap.pLarger)}
              </span>
              <span>
                {settled ? (
                  <strong>{words[game](gap, nameOf(more), nameOf(fewer))}</strong>
                ) : (
                  `${nameOf(more)} against ${nameOf(fewer)} is not settled`
                )}
                <span className="block text-note text-quiet">
                  between {say(gap.low)} and {say(gap.high)}
                  {game === 'holes' ? `, ${gap.n} holes played with both` : `, ${gap.n} throws`}
                </span>
              </span>
            </li>,
          ]
        })}
      </ul>
    </div>
  )
}

interface PuttingProps {
  /** Discs that were putted with. */
  readonly thrown: readonly ShelvedDisc[]
  readonly discs: readonly ShelvedDisc[]
  readonly of: (disc: ShelvedDisc) => readonly ShortThrow[]
  readonly nameOf: (disc: ShelvedDisc) => string
}

/** Putts made, by disc and by how far off, and on which side they missed. */
function Putting({ thrown, discs, of, nameOf }: PuttingProps) {
  const units = useUnits()
  return (
    <table className="w-full text-left">
      <thead className="text-note text-quiet">
        <tr>
          <th className="font-normal">disc</th>
          <th className="px-2 font-normal">from</th>
          <th className="font-normal">made, 90 % interval</th>
          <th className="text-right font-normal max-md:hidden">missed</th>
        </tr>
      </thead>
      <tbody>
        {thrown.flatMap((d) =>
          PUTT_BANDS.flatMap(([from, to]) => {
            const band = of(d).filter((t) => t.distanceM! >= from && t.distanceM! < to)
            const share = shareMade(band.filter((t) => t.made).length, band.length)
            if (!share) return []
            const misses = [
              ...group(
                band.filter((t) => t.miss),
                (t) => t.miss!,
              ),
            ]
            const missed = misses.map(([m, list]) => `${list.length} ${m}`).join(', ')
            return [
              <tr key={`${d.disc.id} ${from}`} className="border-t border-rule">
                <th scope="row" className="py-1 font-medium">
                  <Named disc={d} discs={discs} name={nameOf(d)} />
                </th>
                <td className="figure px-2 whitespace-nowrap">
                  {Math.round(units.length.to(from))}–{to > 100 ? '' : Math.round(units.length.to(to))}{' '}
                  {units.length.unit}
                </td>
                <td>
                  <Bar
                    of={share}
                    low={0}
                    high={1}
                    hue={hueOf(looksById(discs)(d.disc.id))}
                    show={(v) => percent(v)}
                  />
                  <span className="block text-note text-quiet">
                    {band.filter((t) => t.made).length} of {band.length}
                    <span className="md:hidden">{misses.length > 0 && `, ${missed}`}</span>
                  </span>
                </td>
                <td className="text-right text-note max-md:hidden">{missed || '–'}</td>
              </tr>,
            ]
          }),
        )}
      </tbody>
    </table>
  )
}

/** Strokes of both discs on every hole that was played with both; the last try of each. */
function holesOfBoth(a: readonly ShortThrow[], b: readonly ShortThrow[]): [number, number][] {
  const strokes = (list: readonly ShortThrow[]) => new Map(list.map((t) => [t.hole!, t.strokes!]))
  const [x, y] = [strokes(a), strokes(b)]
  return [...x].flatMap(([hole, s]): [number, number][] => (y.has(hole) ? [[s, y.get(hole)!]] : []))
}

function Named({ disc, discs, name }: { disc: ShelvedDisc; discs: readonly ShelvedDisc[]; name: string }) {
  return (
    <span className="flex items-center gap-2">
      <DiscDot look={looksById(discs)(disc.disc.id)} /> <span className="truncate">{name}</span>
    </span>
  )
}

/** A figure as a dot with its 90 % bar, between two ends that all share. */
function Bar({
  of: { value, low: from, high: to },
  low,
  high,
  hue,
  show,
}: {
  of: Interval
  low: number
  high: number
  hue: string
  show: (v: number) => string
}) {
  const x = scaleLinear([low, high], [6, WIDTH - 6]).clamp(true)
  return (
    <span className="inline-flex items-center gap-2">
      <svg
        width={WIDTH}
        height="20"
        role="img"
        className="max-sm:w-22"
        viewBox={`0 0 ${WIDTH} 20`}
        aria-label={`${show(value)}, 90 % interval ${show(from)} to ${show(to)}`}
      >
        <line x1="6" x2={WIDTH - 6} y1="10" y2="10" style={{ stroke: 'var(--rule)' }} strokeWidth="1.5" />
        {low < 0 && <line x1={x(0)} x2={x(0)} y1="2" y2="18" style={{ stroke: 'var(--edge)' }} />}
        <rect
          x={x(from)}
          width={Math.max(2, x(to) - x(from))}
          y="5"
          height="10"
          rx="5"
          fillOpacity="0.3"
          style={{ fill: hue }}
        />
        <circle cx={x(value)} cy="10" r="5" style={{ fill: hue }} />
      </svg>
      <span className="figure w-16 text-right">{show(value)}</span>
    </span>
  )
}
