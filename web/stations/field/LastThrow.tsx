import { Link } from 'react-router'
import { fadeSign, mirrored } from '../../../core/flight/hand.ts'
import { isSimulated } from '../../../core/throw/simulated.ts'
import type { TrialView } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { aside } from '../../data/units.ts'
import type { Reading } from '../../../core/trial/reading.ts'
import { WhyBar } from './WhyBar.tsx'

interface LastThrowProps {
  readonly view: TrialView
  readonly reading: Reading
  readonly working: boolean
  readonly name: (code: string) => string
}

/** The last throw against its forecast, in one line. */
export function LastThrow({ view, reading, working, name }: LastThrowProps) {
  const units = useUnits()
  const last = view.throws[view.throws.length - 1]
  if (!last)
    return (
      <p className="text-note text-quiet">
        Nothing thrown yet: these are the labels and what is believed before.
      </p>
    )
  const told = reading.outcome.throws.find((t) => t.throw === last.id)
  const code = view.discs.find((d) => d.disc.id === last.discId)?.disc.code ?? ''
  const head = `Throw ${view.throws.length}, ${name(code)}${isSimulated(last) ? ', simulated' : ''}: `
  if (!told || working) return <p className="text-note text-quiet">{head}weighing it …</p>
  const right = mirrored(told.residual.veerM, fadeSign(last.hand, last.stroke))
  const along = `${units.length.show(Math.abs(told.residual.carryM))} ${told.residual.carryM >= 0 ? 'longer' : 'shorter'}`
  return (
    <div>
      <p className="text-note text-quiet" data-testid="last-throw">
        {head}
        {along} and {aside(units, right)} of its forecast
        {!last.counts
          ? `; left out${last.whyNot ? ` (${last.whyNot})` : ''}.`
          : told.weight < 0.5
            ? '; it fits nothing else and pulls little. Does it count?'
            : '.'}{' '}
        <Link
          to={`?edit=${last.id}`}
          className="whitespace-nowrap underline underline-offset-4 phone:-my-3.5 phone:inline-block phone:py-3.5"
        >
          Change it
        </Link>
      </p>
      <WhyBar trial={view.trial.id} thrown={last} serial={reading.serial} />
    </div>
  )
}
