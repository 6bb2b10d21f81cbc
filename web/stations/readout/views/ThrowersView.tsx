import { whoseArm } from '../../../../core/rating/fromSheet.ts'
import { DEGREE } from '../../../../core/flight/units.ts'
import { Z90 } from '../../../../core/rating/normal.ts'
import type { Estimate } from '../../../../core/rating/outcome.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { figure } from '../../../data/units.ts'
import { useAsked } from '../../../data/useAsked.ts'
import { askRating } from '../../../workers/rating.ts'
import { Card } from '../../../parts/Card.tsx'
import { Heads } from '../../../parts/Heads.tsx'
import type { ViewProps } from './viewProps.ts'

/** What every thrower does by habit, as far as the throws show, and how much they scatter. */
export function ThrowersView({ view, reading, ratingKey, name }: ViewProps) {
  const { length } = useUnits()
  const arms = reading.outcome.habits.map((h) => h.arm)
  const about = reading.outcome.discs.find((d) => d.throws > 0)?.disc
  const { value: spreads } = useAsked(
    about === undefined ? null : `${ratingKey} ${reading.serial}`,
    () => askRating((w) => w.spreads(ratingKey, arms, about!)),
    { about: view.trial.id },
  )
  const control = view.discs.find((d) => d.disc.id === view.trial.controlDiscId)
  const deg = ({ value, sd }: Estimate, plus: string, minus: string) =>
    Math.abs(value) < DEGREE / 20
      ? `none, ±${((Z90 * sd) / DEGREE).toFixed(1)}°`
      : `${figure(Math.abs(value) / DEGREE, 1)}° ${value > 0 ? plus : minus}, ±${((Z90 * sd) / DEGREE).toFixed(1)}°`
  return (
    <Card className="overflow-x-auto p-4" label="Throwers">
      <h2 className="text-lead">Habits</h2>
      <p className="text-note text-quiet">
        What each arm does beside what it means to, throw after throw; it is taken out of every number.{' '}
        {control
          ? `The control disc, ${control.mold.name}, fixes it: its numbers are known.`
          : 'Without a control disc a habit and a bias shared by all discs cannot be told apart; the order of the discs does not suffer.'}
      </p>
      <table className="mt-3 w-full text-left">
        <Heads
          names={[
            'Arm',
            'Throws',
            'Speed',
            'Launch',
            'Angle out of the hand',
            'Nose',
            'Scatter',
            'Two throws apart',
          ]}
        />
        <tbody>
          {reading.outcome.habits.map((h, i) => {
            const { thrower, stroke } = whoseArm(h.arm)
            const percent = 100 * (Math.exp(h.lnSpeed.value) - 1)
            return (
              <tr key={h.arm} className="border-t border-rule">
                <th scope="row" className="py-2 font-medium">
                  {thrower}
                  <span className="block text-note font-normal text-quiet">{stroke}</span>
                </th>
                <td className="figure px-2 text-right">{h.throws}</td>
                <td className="figure px-2 text-right">
                  {figure(Math.abs(percent), 0)} % {percent >= 0 ? 'faster' : 'slower'}
                  <span className="block text-note text-quiet">
                    ±{(100 * Z90 * h.lnSpeed.sd).toFixed(0)} %
                  </span>
                </td>
                <td className="figure px-2 text-right">{deg(h.launchRad, 'up', 'down')}</td>
                <td className="figure px-2 text-right">{deg(h.hyzerRad, 'hyzer', 'anhyzer')}</td>
                <td className="figure px-2 text-right">{deg(h.noseRad, 'up', 'down')}</td>
                <td className="figure px-2 text-right">
                  {h.noise < 0.9 ? 'less than usual' : h.noise > 1.1 ? 'more than usual' : 'as usual'}
                  <span className="block text-note text-quiet">{h.noise.toFixed(1)} times</span>
                </td>
                <td className="figure px-2 text-right">
                  {spreads?.[i] ? length.show(spreads[i].pathM) : '…'}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {about !== undefined && (
        <p className="mt-2 text-note text-quiet">
          Two throws apart: how far the paths of two throws of {name(about)} lie apart that were meant alike.
          Discs closer than that are told apart by many throws, never by one.
        </p>
      )}
    </Card>
  )
}
