import { UnfoldVertical, ZoomIn } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { PlanPoint } from '../../../core/flight/path.ts'
import type { Forecast } from '../../../core/judge/forecast.ts'
import { SHEET_RANGE } from '../../../core/throw/ranges.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { useKey } from '../../parts/keys.ts'
import { Ellipse, Flight, LandingDot } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import type { Scale, Spot } from '../../strip/Strip.tsx'
import { hueOf } from '../../strip/hues.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { draftBend, landingOf } from './draft.ts'
import type { Meant, Seen } from './draft.ts'
import { FIELD_KEYS } from './keys.ts'
import { closer, wholeField } from './reach.ts'
import type { Reach } from './reach.ts'
import { Bend, ExpectedMark, Landed, Look } from './StripMarks.tsx'

/** Share of the carry where the handle of the bend waits. */
const BEND = 0.58
/** A finger this near the handle means the handle, px. */
const GRAB = 26
/** Earlier throws drawn behind the one being logged. */
const EARLIER = 14

interface FieldStripProps {
  readonly view: TrialView
  readonly reading: Reading | undefined
  readonly forecast: Forecast | undefined
  readonly path: readonly PlanPoint[] | undefined
  readonly fade: 'left' | 'right'
  /** +1 when the fade side is the thrower's right. */
  readonly sign: 1 | -1
  readonly meant: Meant
  readonly seen: Seen
  readonly see: (change: Partial<Seen>) => void
  readonly at: number
}

/** Side is drawn so many times as large when it is stretched. */
const STRETCHED = 2

const clamp = (v: number, [low, high]: readonly [number, number]) => Math.min(high, Math.max(low, v))

/** Arrow keys move the landing by one unit or five; the first puts it down where it is forecast. */
function useNudging(landed: Spot | null, atForecast: Spot | undefined, place: (at: Spot) => void): void {
  const units = useUnits()
  const awaited = useRef(false)
  const nudge = (down: number, left: number) => {
    if (landed) place({ down: landed.down + down, left: landed.left + left })
    else if (atForecast) place(atForecast)
    else awaited.current = true
  }
  // an arrow pressed before the forecast is there is not lost
  useEffect(() => {
    if (!awaited.current || !atForecast) return
    awaited.current = false
    if (!landed) place(atForecast)
  })
  useKey(
    FIELD_KEYS.move,
    (e) => {
      if (
        (e.target as HTMLElement).closest(
          'input, select, [role="radiogroup"], [role="slider"], [role="dialog"], [role="region"]',
        )
      )
        return
      e.preventDefault()
      const by = units.length.from(e.shiftKey ? 5 : 1)
      if (e.key === 'ArrowLeft') nudge(-by, 0)
      if (e.key === 'ArrowRight') nudge(by, 0)
      if (e.key === 'ArrowUp') nudge(0, by)
      if (e.key === 'ArrowDown') nudge(0, -by)
    },
    {},
    [landed, atForecast, units],
  )
}

/** The strip one throw is logged on: tap or drag the landing, drag the bend, arrows nudge. */
export function FieldStrip({
  view,
  reading,
  forecast,
  path,
  fade,
  sign,
  meant,
  seen,
  see,
  at,
}: FieldStripProps) {
  const units = useUnits()
  const hue = hueOf(at)
  const landing = landingOf(seen)
  const mid = draftBend(seen)
  const [close, setClose] = useState(false)
  const [stretched, setStretched] = useState(false)
  useKey(FIELD_KEYS.closer, () => setClose((c) => !c))
  useKey(FIELD_KEYS.stretch, () => setStretched((c) => !c))
  /** What the finger holds, and the field as it was when it took hold: one that moved would run away from it. */
  const [drag, setDrag] = useState<{ what: 'landing' | 'bend'; reach: Reach }>()
  // up on the strip is the thrower's left
  const fromFade = (p: PlanPoint): Spot => ({ down: p.x, left: -sign * p.y })
  const line = path?.map(fromFade)
  const landed = landing && { down: landing.carryM, left: -landing.rightM }
  const bendAt: Spot | undefined = mid
    ? { down: mid.downM, left: -mid.rightM }
    : landing && line
      ? spotAlong(line, BEND * landing.carryM)
      : undefined

  const place = (s: Spot) =>
    see({
      carryM: clamp(s.down, SHEET_RANGE.carryM),
      rightM: clamp(-s.left, SHEET_RANGE.rightM),
      // a landing put short of a bend that was seen takes the bend away
      ...(mid && mid.downM >= s.down && { midDownM: null, midRightM: null }),
    })
  useNudging(
    landed,
    forecast && { down: Math.round(forecast.carryM), left: Math.round(-sign * forecast.veerM) },
    place,
  )
  const earlier = view.throws.filter((t) => t.counts).slice(-EARLIER)
  const expected = forecast && { down: forecast.carryM, left: -sign * forecast.veerM }
  const seenOf = { forecast, expected, landed, earlier }
  const middle = landed ?? expected
  const reachNow = close && middle ? closer(middle, forecast) : wholeField(seenOf)
  const onPoint = (s: Spot, phase: 'down' | 'move' | 'up', scale: Scale) => {
    if (phase === 'up') return setDrag(undefined)
    let what = drag?.what
    if (phase === 'down') {
      const near =
        bendAt &&
        Math.hypot((s.down - bendAt.down) * scale.along, (s.left - bendAt.left) * scale.across) < GRAB
      const nearer =
        landed &&
        Math.hypot((s.down - landed.down) * scale.along, (s.left - landed.left) * scale.across) < GRAB / 2
      what = near && !nearer ? 'bend' : 'landing'
      setDrag({ what, reach: reachNow })
    }
    if (what === 'landing') place(s)
    else if (landing) see({ midDownM: clamp(s.down, [1, landing.carryM - 1]), midRightM: -s.left })
  }

  const phone = typeof matchMedia === 'function' && matchMedia('(max-width: 47.99rem)').matches
  return (
    <Card className="relative p-1 max-md:order-3 max-md:mx-3 md:p-2" label="Field">
      <Strip
        height={phone ? 290 : 346}
        fade={fade}
        stretch={stretched ? STRETCHED : 1}
        reach={drag?.reach ?? reachNow}
        label={
          landing
            ? `Landed ${units.length.show(landing.carryM)} down, ${aside(units, landing.rightM)}`
            : 'Field seen from above: tap where the disc landed, or press an arrow key to start at the forecast'
        }
        onPoint={onPoint}
      >
        {expected && (
          <Ellipse
            at={expected}
            hue={hue}
            covariance={[forecast.covariance[0], -sign * forecast.covariance[1], forecast.covariance[2]]}
          />
        )}
        <Earlier view={view} earlier={earlier} reading={reading} own={meant.discId} />
        {expected && !landing && (
          <ExpectedMark
            at={expected}
            path={forecast.path.map(fromFade)}
            hue={hue}
            reach={1.5 * Math.sqrt(forecast.covariance[2])}
          />
        )}
        {landed && line && <Flight path={line} hue={hue} width={3} />}
        {landed && bendAt && <Bend at={bendAt} set={mid !== null} hue={hue} />}
        {landed && (
          <Landed
            at={landed}
            hue={hue}
            words={[`${units.length.show(landed.down)} down`, aside(units, landing.rightM)]}
            leftOut={!seen.counts}
          />
        )}
      </Strip>
      <Looks {...{ close, stretched, setClose, setStretched }} />
      {!landing && (
        <p className="pointer-events-none absolute inset-x-0 bottom-14 text-center text-note font-semibold max-md:hidden">
          Tap where it landed, or press an arrow key to start at the forecast.
        </p>
      )}
    </Card>
  )
}

interface LooksProps {
  readonly close: boolean
  readonly stretched: boolean
  readonly setClose: (on: boolean) => void
  readonly setStretched: (on: boolean) => void
}

/** How near one looks, and whether side is drawn larger. */
const Looks = ({ close, stretched, setClose, setStretched }: LooksProps) => (
  <div className="absolute top-3 right-3 flex gap-1.5 md:top-4 md:right-5">
    <Look on={close} onClick={() => setClose(!close)} keyHint={FIELD_KEYS.closer.shown} label="Closer">
      <ZoomIn size={16} aria-hidden />
    </Look>
    <Look
      on={stretched}
      onClick={() => setStretched(!stretched)}
      keyHint={FIELD_KEYS.stretch.shown}
      label={`Side × ${STRETCHED}`}
    >
      <UnfoldVertical size={16} aria-hidden />
    </Look>
  </div>
)

/** Earlier throws, those of the disc in the hand before the others; their flights as they most likely were. */
function Earlier({
  view,
  earlier,
  reading,
  own,
}: Pick<FieldStripProps, 'view' | 'reading'> & {
  readonly earlier: TrialView['throws']
  readonly own: string
}) {
  const told = new Map(reading?.asThrown.map((t) => [t.throw, t.path]))
  return earlier.map((t) => {
    const hue = hueOf(view.discs.findIndex((d) => d.disc.id === t.discId))
    const drawn = told.get(t.id)
    const up = (t.hand === 'right') === (t.stroke === 'backhand') ? 1 : -1
    return (
      <g key={t.id} opacity={t.discId === own ? 1 : 0.55}>
        {drawn && (
          <Flight
            hue={hue}
            width={1.4}
            opacity={0.5}
            path={drawn.map((p) => ({ down: p.x, left: up * p.y }))}
          />
        )}
        <LandingDot at={{ down: t.carryM, left: -t.rightM }} hue={hue} radius={4} />
      </g>
    )
  })
}

function spotAlong(line: readonly Spot[], down: number): Spot | undefined {
  const i = line.findIndex((p) => p.down >= down)
  if (i <= 0) return undefined
  const [a, b] = [line[i - 1]!, line[i]!]
  return { down, left: a.left + ((down - a.down) / (b.down - a.down)) * (b.left - a.left) }
}
