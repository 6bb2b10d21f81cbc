import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import type { Why } from '../../../core/judge/why.ts'
import type { Throw } from '../../../contract/trials.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside, figure } from '../../data/units.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Unanswered } from '../../parts/Card.tsx'
import { askRating } from '../../workers/rating.ts'

interface Part {
  readonly name: string
  readonly fill: string
  /** To the thrower's right, m. */
  readonly rightM: number
  readonly more?: string
}

/** How each part is drawn: none in the colour of a disc, and told apart without any colour. */
const striped = (deg: number, hue: string) =>
  `repeating-linear-gradient(${deg}deg, ${hue} 0 3px, var(--card) 3px 5px)`
const FILL = {
  release: striped(45, 'var(--ink)'),
  wind: striped(90, 'var(--water)'),
  air: striped(0, 'var(--quiet)'),
  disc: 'var(--ink)',
  unexplained: 'var(--edge)',
} as const

/** Parts smaller than this are not worth a word, m. */
const SMALL = 0.5

/** What the release did, in the words of its largest fault. */
function releaseWords({ parts, release }: Why): string | undefined {
  const faults = (['angle', 'nose', 'speed', 'launch', 'aim'] as const).map(
    (c) => [c, Math.abs(parts[c].veerM)] as const,
  )
  const [worst] = [...faults].sort((a, b) => b[1] - a[1])[0]!
  const hyzer = release.hyzerRad / DEGREE
  const nose = release.noseRad / DEGREE
  if (worst === 'angle') return `${figure(Math.abs(hyzer), 0)}° ${hyzer > 0 ? 'more' : 'less'} hyzer`
  if (worst === 'nose') return `nose ${figure(Math.abs(nose), 0)}° ${nose > 0 ? 'up' : 'down'}`
  if (worst === 'speed')
    return `${figure(Math.abs(100 * Math.expm1(release.lnSpeed)), 0)} % ${release.lnSpeed > 0 ? 'faster' : 'slower'}`
  return worst === 'aim' ? 'aim' : 'height'
}

function partsOf(why: Why, sign: 1 | -1): Part[] {
  const right = (veerM: number) => mirrored(veerM, sign)
  const { parts } = why
  const release =
    parts.angle.veerM + parts.nose.veerM + parts.speed.veerM + parts.launch.veerM + parts.aim.veerM
  const words = releaseWords(why)
  return [
    { name: 'release', fill: FILL.release, rightM: right(release), ...(words && { more: words }) },
    { name: 'wind', fill: FILL.wind, rightM: right(parts.wind.veerM) },
    { name: 'air', fill: FILL.air, rightM: right(parts.air.veerM) },
    { name: 'disc', fill: FILL.disc, rightM: right(parts.disc.veerM) },
    { name: 'unexplained', fill: FILL.unexplained, rightM: right(why.unexplained.veerM) },
  ]
}

/** Why the last throw finished where it did: one bar about what the label promised, left of it and right of it. */
export function WhyBar({ trial, thrown, serial }: { trial: string; thrown: Throw; serial: number }) {
  const units = useUnits()
  // a new outcome explains the same throw anew
  const asked = useAsked(`${thrown.id} ${serial}`, () => askRating((w) => w.why(trial, thrown.id)), {
    about: thrown.id,
  })
  const why = asked.value
  if (asked.error) return <Unanswered asked={asked} />
  if (!why || why.throw !== thrown.id) return null
  const sign = fadeSign(thrown.hand, thrown.stroke)
  const parts = partsOf(why, sign)
  const left = parts.filter((p) => p.rightM < 0)
  const right = parts.filter((p) => p.rightM > 0)
  const reach = Math.max(1, ...[left, right].map((side) => side.reduce((s, p) => s + Math.abs(p.rightM), 0)))
  const whole = mirrored(why.landed.veerM - why.promised.veerM, sign)
  const told = parts
    .filter((p) => Math.abs(p.rightM) >= SMALL)
    .sort((a, b) => Math.abs(b.rightM) - Math.abs(a.rightM))
  const share = (p: Part) => `${(50 * Math.abs(p.rightM)) / reach}%`
  return (
    <figure className="mt-1.5 mb-2 border-b border-rule pb-2.5">
      <figcaption className="mb-1.5 text-note">
        <strong>{aside(units, whole)}</strong> of what its label promised in still air
      </figcaption>
      <div aria-hidden className="relative flex h-4">
        <div className="flex w-1/2 justify-end gap-px">
          {[...left].reverse().map((p) => (
            <span
              key={p.name}
              className="h-full shrink-0"
              style={{ width: `calc(2 * ${share(p)})`, background: p.fill }}
            />
          ))}
        </div>
        <span className="absolute -inset-y-0.5 left-1/2 w-0.5 -translate-x-1/2 bg-ink" />
        <div className="flex w-1/2 gap-px">
          {right.map((p) => (
            <span
              key={p.name}
              className="h-full shrink-0"
              style={{ width: `calc(2 * ${share(p)})`, background: p.fill }}
            />
          ))}
        </div>
      </div>
      <ul className="mt-1.5 flex flex-wrap gap-x-4 gap-y-0.5 text-note">
        {told.map((p) => (
          <li key={p.name} className="flex items-center gap-1.5">
            <span aria-hidden className="size-3 shrink-0 rounded-sm" style={{ background: p.fill }} />
            <span className="font-semibold">{p.name}</span>
            <span className="figure">{aside(units, p.rightM)}</span>
            {p.more && <span className="text-quiet">{p.more}</span>}
          </li>
        ))}
        {told.length === 0 && <li className="text-quiet">It flew just as its label says.</li>}
      </ul>
    </figure>
  )
}
