import { STILL_AIR } from '../../../core/flight/air.ts'
import { DEGREE } from '../../../core/flight/units.ts'
import { onTheLine } from '../../../core/judge/sameLine.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import { IntervalRows } from '../../charts/IntervalRows.tsx'
import type { TrialView } from '../../data/hooks.ts'
import { mainArm } from '../../data/mainArm.ts'
import { useAsked } from '../../data/useAsked.ts'
import { angleWords, percent } from '../../data/units.ts'
import { Card, Unanswered } from '../../parts/Card.tsx'
import { hueOf } from '../../strip/hues.ts'
import { askRating } from '../../workers/rating.ts'
import type { Reading } from '../../../core/trial/reading.ts'

interface SameLineProps {
  readonly view: TrialView
  readonly reading: Reading
  readonly name: (code: string) => string
  readonly look: (code: string) => number
}

/** The angle it took: how a trial that throws every disc to the same line compares them. */
export function SameLine({ view, reading, name, look }: SameLineProps) {
  const codes = view.discs.map((d) => d.disc.code)
  const main = mainArm(view)
  const key = JSON.stringify([view.trial.id, codes, main, reading.serial])
  const asked = useAsked(
    main ? key : null,
    () =>
      askRating((w) =>
        w.line(view.trial.id, codes, { arm: main!.arm, power: main!.power, air: STILL_AIR }, []),
      ),
    { about: view.trial.id },
  )
  const told = asked.value
  if (asked.error) return <Unanswered asked={asked} />
  if (!main || !told) return null
  const found = told.angles.flatMap((a) => (a.found ? [a] : [])).sort((a, b) => b.hyzerRad - a.hyzerRad)
  const none = told.angles.flatMap((a) => (a.found ? [] : [a]))
  const neighbours = found.slice(1).flatMap((b, i) => {
    const a = found[i]!
    return told.pairs.filter((p) => p.a === a.disc && p.b === b.disc)
  })
  return (
    <Card className="p-4" label="The angle it took">
      <h2 className="text-lead">The angle it took</h2>
      <p className="mb-1 text-note text-quiet">To finish on the line: {main.who}, still air</p>
      {found.length > 0 && (
        <IntervalRows
          rows={found.map((a) => {
            const [deg, by] = [a.hyzerRad / DEGREE, (Z90 * a.sdRad) / DEGREE]
            return {
              id: a.disc,
              name: name(a.disc),
              hue: hueOf(look(a.disc)),
              value: deg,
              low: deg - by,
              high: deg + by,
              words: angleWords(Math.round(deg)),
            }
          })}
          axis="degrees"
          mark={(m) => `${Math.abs(m)}°`}
          ends={['anhyzer', 'hyzer']}
        />
      )}
      <ul className="mt-2">
        {neighbours.map((p) => (
          <li key={`${p.a} ${p.b}`} className="flex gap-3 border-t border-rule py-1">
            <span className="figure w-12 shrink-0">{percent(p.pAMore)}</span>
            <span>
              {name(p.a)} needs {degreesMore(p.moreRad)} more hyzer than {name(p.b)}
            </span>
          </li>
        ))}
        {none.map((a) => (
          <li key={a.disc} className="border-t border-rule py-1">
            {name(a.disc)}: {a.why}
          </li>
        ))}
        {codes.map((code) => {
          const discId = view.discs.find((d) => d.disc.code === code)?.disc.id
          const own = view.throws.filter((t) => t.counts && discId === t.discId)
          const on = own
            .filter((t) => onTheLine(t.carryM, t.rightM))
            .map((t) => t.hyzerCalledDeg ?? t.hyzerDeg)
          if (own.length === 0) return null
          return (
            <li key={code} className="border-t border-rule py-1 text-note text-quiet">
              {name(code)}: {on.length} of {own.length} throws finished on the line
              {on.length > 0 && `, at ${angleWords(Math.max(...on))}`}
              {on.length > 1 && Math.max(...on) !== Math.min(...on) && ` to ${angleWords(Math.min(...on))}`}
            </li>
          )
        })}
      </ul>
    </Card>
  )
}

/** A difference of angles, never said finer than it means anything. */
const degreesMore = (rad: number): string => (rad < DEGREE ? 'hardly' : `${Math.round(rad / DEGREE)}°`)
