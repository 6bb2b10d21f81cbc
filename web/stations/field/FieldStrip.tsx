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
import { hueOf, looksById } from '../../strip/hues.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { draftBend, landingOf } from './draft.ts'
import type { Meant, Seen } from './draft.ts'
import { FIELD_KEYS } from './keys.ts'
import { isTap, restedAt, trailed } from './finger.ts'
import type { Touched } from './finger.ts'
import { closer, stillShown, wholeField } from './reach.ts'
import type { Reach } from './reach.ts'
import { Bend, ExpectedMark, Landed, LookSwitch } from './StripMarks.tsx'
import type { Look } from '../../strip/hues.ts'

/** Share of the carry where the handle of the bend waits. */
const BEND = 0.58
/** A pointer, and a thumb, this near the handle means the handle, px. */
const GRAB = { mouse: 26, finger: 48 }
/** What a finger holds moves so much of its way. */
const FINE = 0.3
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
  readonly look: Look
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
  look,
}: FieldStripProps) {
  const units = useUnits()
  const hue = hueOf(look)
  const landing = landingOf(seen)
  const mid = draftBend(seen)
  const [close, setClose] = useState(false)
  const [stretched, setStretched] = useState(false)
  useKey(FIELD_KEYS.closer, () => setClose((c) => !c))
  useKey(FIELD_KEYS.stretch, () => setStretched((c) => !c))
  /** What the finger holds, and the field as it was when it took hold: one that moved would run away from it. */
  const [drag, setDrag] = useState<{
    what: 'landing' | 'bend'
    reach: Reach
    fine: { finger: Touched; at: Spot } | undefined
  }>()
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
  const moveTo = (what: 'landing' | 'bend', s: Spot) => {
    if (what === 'landing') place(s)
    else if (landing) see({ midDownM: clamp(s.down, [1, landing.carryM - 1]), midRightM: -s.left })
  }
  const earlier = view.throws.filter((t) => t.counts).slice(-EARLIER)
  const expected = forecast && { down: forecast.carryM, left: -sign * forecast.veerM }
  const seenOf = { forecast, expected, landed, earlier }
  const middle = landed ?? expected
  const needed = wholeField(seenOf)
  const [shown, setShown] = useState(needed)
  // the field keeps its place and scale from throw to throw
  const still = stillShown(shown, needed)
  if (still !== shown) setShown(still)
  const reachNow = close && middle ? closer(middle, forecast) : still
  const near = (s: Spot, of: Spot | null | undefined, scale: Scale) =>
    of
      ? Math.hypot((s.down - of.down) * scale.along, (s.left - of.left) * scale.across)
      : Number.POSITIVE_INFINITY
  const holds = (s: Spot, scale: Scale) =>
    Math.min(near(s, bendAt, scale), near(s, landed, scale)) < GRAB.finger
  const trail = useRef<readonly Touched[]>([])
  const onPoint = (s: Spot, phase: 'down' | 'move' | 'up', scale: Scale, by: 'finger' | 'mouse') => {
    const fine = drag?.fine
    const touched = { x: scale.x(s.down), y: scale.y(s.left), ms: performance.now() }
    trail.current = phase === 'down' ? [touched] : trailed(trail.current, touched)
    // a finger hides what it points at: what it holds follows at a part of its pace, from where it lay
    const follow = ({ x, y }: Touched) => {
      if (!fine) return
      const { at, finger } = fine
      moveTo(drag.what, {
        down: at.down + (FINE * (x - finger.x)) / scale.along,
        left: at.left - (FINE * (y - finger.y)) / scale.across,
      })
    }
    if (phase === 'up') {
      if (fine && drag.what === 'landing' && isTap(fine.finger, touched)) place(s)
      else follow(restedAt(trail.current))
      return setDrag(undefined)
    }
    if (phase === 'move' && fine) return follow(touched)
    let what = drag?.what
    if (phase === 'down') {
      const toBend = near(s, bendAt, scale)
      const isBend = toBend < GRAB[by] && toBend < near(s, landed, scale)
      what = isBend ? 'bend' : 'landing'
      const held = isBend ? bendAt : landed
      const begun = by === 'finger' && held && holds(s, scale) ? { finger: touched, at: held } : undefined
      setDrag({ what, reach: reachNow, fine: begun })
      if (begun) return
    }
    if (what) moveTo(what, s)
  }

  const phone = typeof matchMedia === 'function' && matchMedia('(width < 48rem)').matches
  const across =
    typeof matchMedia === 'function' && matchMedia('(width >= 40rem) and (height < 30rem)').matches
  return (
    <Card
      className="relative p-1 phone:order-3 phone:mx-3 across:sticky across:top-16 across:!col-start-1 across:row-start-1 across:row-span-12 across:mr-0 across:self-start desk:p-2"
      label="Field"
    >
      <Strip
        height={across ? innerHeight - 96 : phone ? 290 : 346}
        fade={fade}
        stretch={stretched ? STRETCHED : 1}
        reach={drag?.reach ?? reachNow}
        label={
          landing
            ? `Landed ${units.length.show(landing.carryM)} down, ${aside(units, landing.rightM)}`
            : 'Field seen from above: tap where the disc landed, or press an arrow key to start at the forecast'
        }
        onPoint={onPoint}
        holds={holds}
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
      {drag?.fine && landed && (
        <Loupe
          at={drag.what === 'landing' ? landed : (bendAt ?? landed)}
          left={reachNow}
          hue={hue}
          fade={fade}
        />
      )}
      <Looks {...{ close, stretched, setClose, setStretched }} />
      {!landing && (
        <p className="pointer-events-none absolute inset-x-0 bottom-14 text-center text-note font-semibold phone:hidden">
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

interface LoupeProps {
  readonly at: Spot
  /** What the field shows: the loupe lies on the half where the finger is not. */
  readonly left: Reach
  readonly hue: string
  readonly fade: 'left' | 'right'
}

/** What a finger hides while it drags, larger, with its figures, on the other half of the field. */
function Loupe({ at, left: { down, from = 0 }, hue, fade }: LoupeProps) {
  const units = useUnits()
  const isFar = at.down - from > (down - from) / 2
  return (
    <div
      aria-hidden
      data-testid="loupe"
      className={`pointer-events-none absolute top-2 w-52 overflow-hidden rounded-lg border-2 border-pick bg-card shadow-lg ${isFar ? 'left-2' : 'right-2'}`}
    >
      <Strip bare height={128} fade={fade} reach={closer(at, undefined)} label="">
        <LandingDot at={at} hue={hue} radius={6} />
      </Strip>
      <p className="figure px-1 pb-1 text-center text-note">
        {units.length.show(at.down)}, {aside(units, -at.left)}
      </p>
    </div>
  )
}

/** How near one looks, and whether side is drawn larger. */
const Looks = ({ close, stretched, setClose, setStretched }: LooksProps) => (
  <div className="absolute top-3 right-3 flex gap-1.5 desk:top-4 desk:right-5">
    <LookSwitch on={close} onClick={() => setClose(!close)} keyHint={FIELD_KEYS.closer.shown} label="Closer">
      <ZoomIn size={16} aria-hidden />
    </LookSwitch>
    <LookSwitch
      on={stretched}
      onClick={() => setStretched(!stretched)}
      keyHint={FIELD_KEYS.stretch.shown}
      label={`Side × ${STRETCHED}`}
    >
      <UnfoldVertical size={16} aria-hidden />
    </LookSwitch>
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
  const look = looksById(view.discs)
  const told = new Map(reading?.asThrown.map((t) => [t.throw, t.path]))
  return earlier.map((t) => {
    const hue = hueOf(look(t.discId))
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
