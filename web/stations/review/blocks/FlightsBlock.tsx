import { fadeSign } from '../../../../core/flight/hand.ts'
import { Z90 } from '../../../../core/rating/normal.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { besideLine } from '../../../data/units.ts'
import { DiscHead } from '../../../parts/Disc.tsx'
import { Heads } from '../../../parts/Heads.tsx'
import { Band, EndLabels, Flight } from '../../../strip/layers.tsx'
import { Strip } from '../../../strip/Strip.tsx'
import { dashesOf, hueOf } from '../../../strip/hues.ts'
import type { Source } from '../sources.tsx'

/** What a strip of flights is drawn from: which way the fade is, and how far everything goes. */
function reachOf({ view, reading }: Source) {
  const { corrected } = reading
  const sets = new Set(view.throws.map((t) => fadeSign(t.hand, t.stroke)))
  const fade = sets.size === 1 ? (sets.has(-1) ? 'left' : 'right') : 'up'
  const up = fade === 'right' ? -1 : 1
  const ys = corrected.flatMap((c) => c.band.flatMap((b) => [up * b.low, up * b.high]))
  return {
    fade,
    up,
    reach: {
      down: 1.03 * Math.max(40, ...corrected.map((c) => c.features.carryM)),
      left: Math.max(8, ...ys) + 3,
      right: Math.max(8, ...ys.map((y) => -y)) + 3,
    },
  } as const
}

/** Corrected flights on a strip, with their bands and dotted what was published. */
export function FlightsStrip({ source }: { readonly source: Source }) {
  const {
    reading: { corrected },
    name,
    look,
  } = source
  const { fade, up, reach } = reachOf(source)
  return (
    <Strip
      height={300}
      fade={fade}
      names={corrected.map((c) => name(c.disc))}
      reach={reach}
      label="Corrected flights, seen from above; the table below says the same in figures"
    >
      {corrected.map((c) => (
        <Band
          key={c.disc}
          hue={hueOf(look(c.disc))}
          band={c.band.map((b) => ({ down: b.x, low: up * b.low, high: up * b.high }))}
        />
      ))}
      {corrected.map((c) => (
        <g key={c.disc}>
          <Flight
            dashed
            hue={hueOf(look(c.disc))}
            width={1.5}
            path={c.published.map((p) => ({ down: p.x, left: up * p.y }))}
          />
          <Flight
            hue={hueOf(look(c.disc))}
            dashes={dashesOf(look(c.disc))}
            path={c.path.map((p) => ({ down: p.x, left: up * p.y }))}
          />
        </g>
      ))}
      <EndLabels
        ends={corrected.map((c) => {
          const end = c.path.at(-1)!
          return { at: { down: end.x, left: up * end.y }, hue: hueOf(look(c.disc)), words: name(c.disc) }
        })}
      />
    </Strip>
  )
}

/** The same, and in figures below. */
export function FlightsBlock({ source }: { readonly source: Source }) {
  const units = useUnits()
  const {
    reading: { corrected },
    name,
    look,
  } = source
  const { fade } = reachOf(source)
  const aside = (m: number) => besideLine(units, m, fade === 'up' ? undefined : fade)
  return (
    <>
      <FlightsStrip source={source} />
      <table className="mt-2 w-full text-left">
        <Heads
          names={['Disc', `carry, ${units.length.unit}`, `finish, ${units.length.unit}`, 'label finishes']}
        />
        <tbody>
          {corrected.map((c) => {
            const end = c.band.at(-1)!
            return (
              <tr key={c.disc} className="border-t border-rule">
                <DiscHead look={look(c.disc)}>{name(c.disc)}</DiscHead>
                <td className="figure px-2 text-right">
                  {units.length.to(c.features.carryM).toFixed(1)} ±{' '}
                  {(units.length.to(Z90) * c.carrySd).toFixed(1)}
                </td>
                <td className="figure px-2 text-right">
                  {aside(c.path.at(-1)!.y)} ± {units.length.to((end.high - end.low) / 2).toFixed(1)}
                </td>
                <td className="figure px-2 text-right text-quiet">{aside(c.published.at(-1)!.y)}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </>
  )
}
