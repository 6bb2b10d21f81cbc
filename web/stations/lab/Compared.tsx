import { cumsum, extent, scaleLinear } from 'd3'
import { memo, useMemo } from 'react'
import type { LeftOrRight } from '../../../core/flight/hand.ts'
import { whatChanged } from '../../../core/lab/changed.ts'
import type { Change, Moved, WhatChanged } from '../../../core/lab/changed.ts'
import type { Setup } from '../../../core/lab/setup.ts'
import type { LabSetup, OneThrow } from '../../../contract/lab.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import type { Discs } from '../../flown/useDiscs.ts'
import { asideWords } from '../../flown/words.ts'
import { CHANGE_WORDS, standsAs } from './words.ts'

/** A difference no larger says nothing, m. */
const SLIGHT_M = 0.5

interface ComparedProps {
  readonly setup: LabSetup
  readonly named: Discs['named']
  readonly from: Setup | undefined
  readonly to: Setup | undefined
  readonly onChange: (part: Partial<LabSetup>) => void
}

/** Two throws beside each other: what of the difference each change is, on its own. */
export const Compared = memo(function Compared({ setup, named, from, to, onChange }: ComparedProps) {
  const { before, fade } = setup
  const units = useUnits()
  const now: OneThrow = { disc: setup.discs[0]!, throw: setup.throw, weather: setup.weather }
  const told = useMemo(() => {
    if (!from || !to) return undefined
    try {
      return whatChanged(from, to)
    } catch (e) {
      if (e instanceof RangeError) return e
      throw e
    }
  }, [from, to])
  const keep = () => onChange({ before: now })
  if (!before || !from)
    return (
      <Card className="p-3.5" label="What changed">
        <h2 className="text-lead">What changed</h2>
        <p className="text-quiet">
          Keep this throw, then change anything: you see what of the difference is the disc, the angle, the
          wind.
        </p>
        <Button className="mt-2" disabled={!to} onClick={keep}>
          Keep this throw to compare
        </Button>
      </Card>
    )
  const nameOf = (of: OneThrow) => named(of.disc)?.name ?? 'a disc'
  return (
    <Card className="p-3.5" label="What changed">
      <h2 className="text-lead">What changed</h2>
      {told instanceof RangeError && <p className="mt-1">{told.message}</p>}
      {told && !(told instanceof RangeError) && (
        <>
          <p className="mt-0.5 font-medium">
            {sentence(told.whole, told.parts, (m) => asideWords(units, m, fade))}
          </p>
          {told.parts.length > 0 && (
            <Differences
              told={told}
              fade={fade}
              stands={(change) => [
                standsAs(before, change, nameOf(before), fade, units),
                standsAs(now, change, nameOf(now), fade, units),
              ]}
            />
          )}
        </>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button disabled={!to} onClick={keep}>
          Keep the present one instead
        </Button>
        <Button
          onClick={() =>
            onChange({
              before: now,
              throw: before.throw,
              weather: before.weather,
              discs: [before.disc, ...setup.discs.slice(1)],
            })
          }
        >
          Change places
        </Button>
        <Button kind="quiet" onClick={() => onChange({ before: null })}>
          Compare no more
        </Button>
      </div>
    </Card>
  )
})

/** How wide the picture of the differences is, and how high each is, in its own units. */
const WIDE = 220
const ROW = 26

/** Each difference as it stood and stands, and as a step from where the kept throw finishes to where this one does. */
function Differences({
  told: { whole, parts },
  fade,
  stands,
}: {
  readonly told: WhatChanged
  readonly fade: LeftOrRight
  readonly stands: (change: Change) => readonly [string, string]
}) {
  const units = useUnits()
  const sign = fade === 'right' ? 1 : -1
  const sorted = [...parts].sort((a, b) => Math.abs(b.veerM) - Math.abs(a.veerM))
  const ends = cumsum(sorted, (p) => sign * p.veerM)
  const steps = sorted.map((p, i) => ({ ...p, from: i === 0 ? 0 : ends[i - 1]!, to: ends[i]! }))
  const [low = 0, high = 0] = extent([0, ...ends])
  const x = scaleLinear([low, high], [10, WIDE - 10])
  return (
    <table className="mt-2 w-full">
      <thead className="text-left text-note text-quiet">
        <tr>
          <th className="py-1 font-medium">Change</th>
          <th className="py-1 font-medium max-md:hidden">kept</th>
          <th className="py-1 font-medium max-md:hidden">now</th>
          <th className="py-1 font-medium max-md:hidden">
            <span className="flex justify-between">
              <span>← left</span>
              <span>right →</span>
            </span>
          </th>
          <th className="py-1 text-right font-medium">to the side</th>
          <th className="py-1 text-right font-medium">farther, {units.length.unit}</th>
        </tr>
      </thead>
      <tbody className="divide-y divide-rule">
        {steps.map((s) => {
          const [was, is] = stands(s.change)
          return (
            <tr key={s.change}>
              <th scope="row" className="py-1 pr-2 text-left font-medium">
                {CHANGE_WORDS[s.change]}
                <span className="block text-note font-normal text-quiet md:hidden">
                  {was} → {is}
                </span>
              </th>
              <td className="pr-2 max-md:hidden">{was}</td>
              <td className="pr-2 max-md:hidden">{is}</td>
              <td className="max-md:hidden">
                <Step from={x(s.from)} to={x(s.to)} zero={x(0)} hue={s.to > s.from ? 'turn' : 'fade'} />
              </td>
              <td className="figure text-right whitespace-nowrap">{asideWords(units, s.veerM, fade)}</td>
              <td className="figure text-right">{figure(units.length.to(s.carryM), 1)}</td>
            </tr>
          )
        })}
        <tr>
          <th scope="row" className="py-1 text-left font-semibold">
            All of it
          </th>
          <td className="max-md:hidden" />
          <td className="max-md:hidden" />
          <td className="max-md:hidden">
            <Step from={x(0)} to={x(sign * whole.veerM)} zero={x(0)} hue="whole" />
          </td>
          <td className="figure text-right font-semibold whitespace-nowrap">
            {asideWords(units, whole.veerM, fade)}
          </td>
          <td className="figure text-right font-semibold">{figure(units.length.to(whole.carryM), 1)}</td>
        </tr>
      </tbody>
    </table>
  )
}

const STEP_HUES = { turn: 'var(--accent)', fade: 'var(--water)', whole: 'var(--ink)' }
/** One step of the way: a bar with an arrow's head, against where the kept throw finishes. */
function Step({
  from,
  to,
  zero,
  hue,
}: {
  readonly from: number
  readonly to: number
  readonly zero: number
  readonly hue: keyof typeof STEP_HUES
}) {
  const way = Math.sign(to - from)
  const head = Math.min(7, Math.abs(to - from))
  return (
    <svg viewBox={`0 0 ${WIDE} ${ROW}`} aria-hidden className="block h-7 w-full" preserveAspectRatio="none">
      <line x1={zero} x2={zero} y2={ROW} strokeDasharray="2 3" style={{ stroke: 'var(--quiet)' }} />
      <path
        d={`M${from} 8H${to - way * head}V4L${to} ${ROW / 2}L${to - way * head} ${ROW - 4}V${ROW - 8}H${from}Z`}
        style={{ fill: STEP_HUES[hue] }}
      />
    </svg>
  )
}

/** What mostly did it: “It was the wind, not the disc: 8.2 m left of 9.1.” */
function sentence(
  whole: Moved,
  parts: readonly (Moved & { readonly change: Change })[],
  aside: (m: number) => string,
): string {
  if (parts.length === 0) return 'Nothing has changed yet.'
  if (Math.max(...parts.map((p) => Math.abs(p.veerM))) < SLIGHT_M)
    return 'Nothing that changed moves where it finishes to the side.'
  const most = parts.reduce((a, b) => (Math.abs(b.veerM) > Math.abs(a.veerM) ? b : a))
  const name = (c: Change) => CHANGE_WORDS[c].toLowerCase()
  const others = parts.filter((p) => p !== most && Math.abs(p.veerM) < 0.25 * Math.abs(most.veerM))
  const not = others.length > 0 ? `, not ${others.map((p) => name(p.change)).join(' or ')}` : ''
  if (parts.length === 1)
    return `${CHANGE_WORDS[most.change]} moves it: finishes ${aside(whole.veerM)} of where it did.`
  return `It is mostly ${name(most.change)}${not}: ${aside(most.veerM)}, and ${aside(whole.veerM)} in all.`
}
