import { useAsked } from '../../data/useAsked.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure, percent } from '../../data/units.ts'
import { Card } from '../../parts/Card.tsx'
import { Heads } from '../../parts/Heads.tsx'
import { DiscHead } from '../../parts/Disc.tsx'
import { PER_M } from '../../../core/flight/side.ts'
import { farther } from '../../../core/judge/statements.ts'
import { askRating } from '../../workers/rating.ts'
import type { ViewProps } from './views/viewProps.ts'

const CAUSE_WORDS = {
  angle: 'the angle they came out at',
  nose: 'the nose',
  speed: 'the power',
  launch: 'the height',
  aim: 'the aim',
  wind: 'the wind',
  air: 'the air',
} as const

/** What looking at landings alone would have said, beside what the throws show, and what misled it. */
export function EyeCard({ view, reading, ratingKey, name, look }: ViewProps) {
  const { length } = useUnits()
  const { value } = useAsked(`${ratingKey} ${reading.serial}`, () => askRating((w) => w.eye(ratingKey)), {
    about: view.trial.id,
  })
  if (!value || value.seen.length < 2) return null
  const corrected = [...value.seen].sort((a, b) => finishOf(b.disc) - finishOf(a.disc))
  function finishOf(disc: string) {
    return reading.outcome.discs.find((d) => d.disc === disc)!.finish.value
  }
  return (
    <Card className="overflow-x-auto p-4" label="Against the eye">
      <h2 className="text-lead">Against the eye</h2>
      <p className="text-note text-quiet">
        Where landings alone would have put each disc, {length.unit} to the fade side in{' '}
        {length.show(PER_M, 0)}: nothing taken out.
      </p>
      <table className="mt-2 w-full text-left">
        <Heads names={['Disc', 'mean landing', 'best throw', 'corrected']} />
        <tbody>
          {corrected.map((d) => (
            <tr key={d.disc} className="border-t border-rule">
              <DiscHead look={look(d.disc)}>{name(d.disc)}</DiscHead>
              {[d.meanLanding, d.bestThrow, finishOf(d.disc)].map((v, i) => (
                <td key={i} className="figure px-2 text-right">
                  {figure(length.to(v), 1)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mt-2">
        {value.misled.map((m) => (
          <li key={`${m.by} ${m.taken} ${m.truly}`} className="border-t border-rule py-1.5">
            By the {m.by} {name(m.taken)} would be more stable than {name(m.truly)}. It is the other way,{' '}
            {percent(m.probability)}: most of it {CAUSE_WORDS[m.cause]}, which took its throws{' '}
            {length.show(m.causeM)} {farther(reading.outcome.fadeSide)}.
          </li>
        ))}
        {value.misled.length === 0 && (
          <li className="border-t border-rule py-1.5 text-quiet">
            Here the eye would have got no settled pair the wrong way round.
          </li>
        )}
      </ul>
    </Card>
  )
}
