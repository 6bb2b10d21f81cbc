import clsx from 'clsx'
import { useSearchParams } from 'react-router'
import { fadeSign } from '../../../core/flight/hand.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useAsked } from '../../data/useAsked.ts'
import { AS_REFERENCE } from '../../../core/judge/corrected.ts'
import type { CorrectedFlight, ThrownHow } from '../../../core/judge/corrected.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import { capital } from '../../../contract/words.ts'
import { angleWords, besideLine } from '../../data/units.ts'
import type { Units } from '../../data/units.ts'

import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { Heads } from '../../parts/Heads.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot, DiscHead } from '../../parts/Disc.tsx'
import { Band, EndLabels, Flight, LandingDot } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { dashesOf, hueOf } from '../../strip/hues.ts'
import { askRating, weighing } from '../../workers/rating.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { Select } from '../../parts/Select.tsx'

interface FlightsProps {
  readonly view: TrialView
  readonly reading: Reading
  /** What the worker knows the reading by. */
  readonly ratingKey: string
  readonly working: boolean
  readonly share: number | undefined
  /** The disc that is looked at; the others step back. */
  readonly picked: string | undefined
  /** The same in figures below. */
  readonly figures?: boolean
  readonly name: (code: string) => string
  readonly look: (code: string) => number
}

/** How flights may be thrown: degrees of hyzer, m/s of an arm and of wind from behind. */
const ANGLES = [15, 10, 5, 0, -5, -10, -15]
const SPEEDS = [18, 20, 22, 24, 26, 28, 31]
const WINDS = [-6, -4, -2, 0, 2, 4, 6]

/** What can be chosen of how flights are thrown. */
interface Way {
  readonly key: string
  readonly label: string
  readonly options: readonly (readonly [value: number, words: string])[]
}
const waysOf = (units: Units): readonly Way[] => [
  { key: 'angle', label: 'Angle', options: ANGLES.map((deg) => [deg, angleWords(deg)]) },
  {
    key: 'arm',
    label: 'Arm',
    options: [
      [0, 'each disc at its reference'],
      ...SPEEDS.map((v) => [v, `an arm of ${units.speed.show(v, 0)}`] as const),
    ],
  },
  { key: 'wind', label: 'Wind', options: WINDS.map((w) => [w, windWords(w, units)]) },
]

const howIn = (params: URLSearchParams): ThrownHow => {
  const of = (key: string, offered: readonly number[]) =>
    offered.find((v) => v === Number(params.get(key))) ?? 0
  return {
    hyzerRad: of('angle', ANGLES) * DEGREE,
    armMps: of('arm', SPEEDS) || null,
    windAlongMps: of('wind', WINDS),
  }
}
const windWords = (alongMps: number, units: Units) =>
  alongMps === 0
    ? 'still air'
    : `${units.speed.show(Math.abs(alongMps), 0)} of ${alongMps < 0 ? 'headwind' : 'tailwind'}`

/** The flights on a strip: corrected, with their bands, or the way they were most likely thrown. */
export function Flights({
  view,
  reading,
  ratingKey,
  working,
  share,
  picked,
  figures = false,
  name,
  look,
}: FlightsProps) {
  const units = useUnits()
  const [params, setParams] = useSearchParams()
  const show = params.get('show') === 'thrown' ? 'thrown' : 'corrected'
  const stretch = params.get('stretch') === '1'
  // of a long trial they are many, and seldom looked at
  const asked = useAsked(
    show === 'thrown' ? `${ratingKey} ${reading.serial}` : null,
    () => askRating((w) => w.paths(ratingKey)),
    { about: ratingKey },
  )
  const thrown = asked.value ?? reading.asThrown
  const how = howIn(params)
  const other = JSON.stringify(how) !== JSON.stringify(AS_REFERENCE)
  const flown = useAsked(
    show === 'corrected' && other ? `${ratingKey} ${reading.serial} ${JSON.stringify(how)}` : null,
    () => askRating((w) => w.corrected(ratingKey, how)),
    { about: ratingKey },
  )
  const corrected = (other ? flown.value : undefined) ?? reading.corrected
  // with all that is known, those of other trials are among them
  const counted = reading.outcome.discs.reduce((n, d) => n + d.throws, 0)
  const sets = new Set(view.throws.map((t) => fadeSign(t.hand, t.stroke)))
  const fade = sets.size === 1 ? (sets.has(-1) ? 'left' : 'right') : 'up'
  // a flight's veer is to the fade side; up on the strip is the thrower's left
  const up = fade === 'right' ? -1 : 1
  const flights =
    show === 'corrected'
      ? corrected.map((c) => ({
          down: c.features.carryM,
          ys: c.band.flatMap((b) => [up * b.low, up * b.high]),
        }))
      : thrown.map((t) => ({
          down: Math.max(...t.path.map((p) => p.x)),
          ys: t.path.map((p) => up * p.y),
        }))
  const ys = flights.flatMap((f) => f.ys)
  const reach = {
    down: 1.03 * Math.max(40, ...flights.map((f) => f.down)),
    left: Math.max(8, ...ys) + 3,
    right: Math.max(8, ...ys.map((y) => -y)) + 3,
  }
  const speeds = [...new Set(corrected.map((c) => c.speedMps))]
  const set = (key: string, value: string | null) =>
    setParams((p) => (value === null ? p.delete(key) : p.set(key, value), p), { replace: true })

  return (
    <Card className="p-4" label="Flights">
      <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2">
        <div className="mr-auto min-w-0">
          <h1 className="text-lead">
            {show === 'corrected'
              ? `${capital(angleWords(how.hyzerRad / DEGREE))}, ${windWords(how.windAlongMps, units)}, ${speeds.length === 1 ? units.speed.show(speeds[0]!, 0) : 'each at its own speed'}`
              : 'As thrown'}
          </h1>
          <p className="text-note text-quiet" role="status">
            {working
              ? weighing(view.throws.length, share)
              : show === 'corrected'
                ? `${counted} counted throws, angle, power and wind taken out${figures ? '; dotted as published' : ''}`
                : `${view.throws.length} throws, the way they most likely flew`}
          </p>
        </div>
        <Choice
          label="Flights shown"
          value={show}
          onChange={(v) => set('show', v === 'thrown' ? 'thrown' : null)}
          options={[
            { value: 'corrected', label: 'Corrected' },
            { value: 'thrown', label: 'As thrown' },
          ]}
        />
        <Button
          aria-pressed={stretch}
          onClick={() => set('stretch', stretch ? null : '1')}
          className={clsx('max-md:hidden', stretch && 'bg-tint')}
        >
          {stretch ? 'Side × 2' : 'True scale'}
        </Button>
      </div>
      {show === 'corrected' && <Ways params={params} set={set} />}
      <div className="relative">
        <Strip
          height={show === 'corrected' ? 258 : 420}
          stretch={stretch ? 2 : 1}
          fade={fade}
          names={show === 'corrected' ? corrected.map((c) => name(c.disc)) : []}
          reach={reach}
          label={`${show === 'corrected' ? 'Corrected' : 'Thrown'} flights, seen from above; the table below says the same in figures`}
        >
          {show === 'corrected' ? (
            <Corrected {...{ corrected, up, picked, figures, name, look }} />
          ) : (
            <Thrown {...{ view, thrown, up, picked, look }} />
          )}
        </Strip>
        {show === 'thrown' && <Key discs={reading.outcome.discs} name={name} look={look} />}
      </div>
      {figures && show === 'corrected' && <Figures {...{ corrected, name, look, fade }} />}
    </Card>
  )
}

/** Which colour is which disc, the most stable first. */
function Key({
  discs,
  name,
  look,
}: Pick<FlightsProps, 'name' | 'look'> & { readonly discs: Reading['outcome']['discs'] }) {
  const byStability = [...discs].sort((a, b) => b.side.value - a.side.value)
  return (
    <ul className="absolute top-2 right-2 space-y-0.5 rounded-lg bg-card/90 px-3 py-2 max-md:static max-md:flex max-md:flex-wrap max-md:gap-x-4 max-md:px-0">
      {byStability.map((d) => (
        <li key={d.disc} className="flex items-center gap-2 text-note font-medium">
          <DiscDot look={look(d.disc)} size={12} /> {name(d.disc)}
        </li>
      ))}
    </ul>
  )
}

/** What can be chosen of how they are thrown. */
function Ways({
  params,
  set,
}: {
  readonly params: URLSearchParams
  readonly set: (key: string, value: string | null) => void
}) {
  const units = useUnits()
  return (
    <div className="mb-2 flex flex-wrap gap-2 max-md:grid max-md:grid-cols-3">
      {waysOf(units).map(({ key, label, options }) => (
        <Select
          key={key}
          label={label}
          value={Number(params.get(key) ?? 0)}
          onChange={(v) => set(key, v === 0 ? null : String(v))}
          options={options.map(([value, words]) => ({ value, words }))}
        />
      ))}
    </div>
  )
}

type LayerProps = Pick<FlightsProps, 'picked' | 'look'> & {
  /** +1 where the fade side is the thrower’s left, −1 where it is the right. */
  readonly up: 1 | -1
}

/** Corrected flights with their bands, as published beside them, and what they are called. */
function Corrected({
  corrected,
  up,
  picked,
  figures,
  name,
  look,
}: LayerProps & Pick<FlightsProps, 'figures' | 'name'> & { readonly corrected: readonly CorrectedFlight[] }) {
  return (
    <>
      {corrected.map((c) => (
        <g key={c.disc} opacity={picked && picked !== c.disc ? 0.15 : 1}>
          <Band
            hue={hueOf(look(c.disc))}
            band={c.band.map((b) => ({ down: b.x, low: up * b.low, high: up * b.high }))}
          />
        </g>
      ))}
      {corrected.map((c) => {
        const hue = hueOf(look(c.disc))
        return (
          <g key={c.disc} opacity={picked && picked !== c.disc ? 0.2 : 1}>
            {(figures || picked === c.disc) && (
              <Flight
                dashed
                hue={picked === c.disc ? 'var(--ink)' : hue}
                width={picked === c.disc ? 2 : 1.5}
                path={c.published.map((p) => ({ down: p.x, left: up * p.y }))}
              />
            )}
            <Flight
              hue={hue}
              dashes={dashesOf(look(c.disc))}
              path={c.path.map((p) => ({ down: p.x, left: up * p.y }))}
            />
          </g>
        )
      })}
      <EndLabels
        ends={corrected.map((c) => {
          const end = c.path[c.path.length - 1]!
          return {
            at: { down: end.x, left: up * end.y },
            hue: hueOf(look(c.disc)),
            words: name(c.disc),
          }
        })}
      />
    </>
  )
}

/** Flights as they most likely were, to where each disc was seen to land. */
function Thrown({
  view,
  thrown,
  up,
  picked,
  look,
}: LayerProps & Pick<FlightsProps, 'view'> & { readonly thrown: Reading['asThrown'] }) {
  const thrownById = new Map(view.throws.map((t) => [t.id, t]))
  return thrown.map(({ throw: id, path }) => {
    const t = thrownById.get(id)
    if (!t) return null
    const code = view.discs.find((d) => d.disc.id === t.discId)!.disc.code
    const end = path[path.length - 1]!
    const hue = hueOf(look(code))
    return (
      <g key={id} opacity={picked && picked !== code ? 0.1 : 1}>
        {t.counts && (
          <Flight
            hue={hue}
            width={1.5}
            opacity={0.4}
            path={path.map((p) => ({ down: p.x, left: up * p.y }))}
          />
        )}
        <LandingDot at={{ down: end.x, left: up * end.y }} hue={hue} radius={4} leftOut={!t.counts} />
      </g>
    )
  })
}

/** The same flights in figures. */
function Figures({
  corrected,
  name,
  look,
  fade,
}: Pick<FlightsProps, 'name' | 'look'> & {
  corrected: readonly CorrectedFlight[]
  fade: 'left' | 'right' | 'up'
}) {
  const units = useUnits()
  const { length } = units
  const aside = (m: number) => besideLine(units, m, fade === 'up' ? undefined : fade)
  const end = (c: CorrectedFlight) => {
    const { y } = c.path.at(-1)!
    const band = c.band.at(-1)!
    return { y, half: (band.high - band.low) / 2 }
  }
  return (
    <table className="mt-3 w-full text-left">
      <Heads
        names={['Disc', `carry, ${length.unit}`, 'widest turn', `finish, ${length.unit}`, 'label finishes']}
      />
      <tbody>
        {[...corrected]
          .sort((a, b) => end(b).y - end(a).y)
          .map((c) => (
            <tr key={c.disc} className="border-t border-rule">
              <DiscHead look={look(c.disc)}>{name(c.disc)}</DiscHead>
              <td className="figure px-2 text-right">
                {length.to(c.features.carryM).toFixed(1)} ± {(length.to(Z90) * c.carrySd).toFixed(1)}
              </td>
              <td className="figure px-2 text-right">{aside(Math.min(0, ...c.path.map((p) => p.y)))}</td>
              <td className="figure px-2 text-right">
                {aside(end(c).y)} ± {length.to(end(c).half).toFixed(1)}
              </td>
              <td className="figure px-2 text-right text-quiet">{aside(c.published.at(-1)!.y)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  )
}
