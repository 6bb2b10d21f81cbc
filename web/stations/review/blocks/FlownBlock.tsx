import type { LabSetup } from '../../../../contract/lab.ts'
import { useUnits } from '../../../data/preferences.tsx'
import { angleWords, powerWords } from '../../../data/units.ts'
import { FromAbove } from '../../../flown/FromAbove.tsx'
import { useDiscs } from '../../../flown/useDiscs.ts'
import { useFlown } from '../../../flown/useFlown.ts'
import { blowsWords, chanceWords, comesDownWords, landsWords } from '../../../flown/words.ts'
import { DiscDot } from '../../../parts/Disc.tsx'

/** A throw of the line lab inside a review: the field from above, how it is thrown, and where each disc lands. */
export function FlownBlock({ setup }: { readonly setup: LabSetup }) {
  const units = useUnits()
  const { named, reading } = useDiscs()
  const { flights, before, clouds, reach } = useFlown(setup, named)
  if (flights.length === 0)
    return (
      <p className="rounded-lg border border-rule px-3 py-2 text-note text-quiet">
        {reading ? 'Reading the shelf …' : 'None of its discs is on the shelf any more. Take the block out.'}
      </p>
    )
  const { throw: t, weather, fade, obstacles } = setup
  const wind = blowsWords(
    weather.windAlongMps,
    (fade === 'right' ? 1 : -1) * weather.windTowardFadeMps,
    units.speed.show,
  )
  return (
    <>
      <FromAbove {...{ flights, before, clouds, obstacles, fade, reach }} atS={undefined} />
      <p className="mt-2">
        Thrown {angleWords(t.hyzerDeg)} at {powerWords(t.power)} by an arm of {units.speed.show(t.armMps)},{' '}
        {wind}.
      </p>
      <ul>
        {flights.map(({ name, look, flight }, i) => (
          <li key={name} className="flex items-baseline gap-2">
            <DiscDot look={look} size={14} />
            <span>
              {landsWords(flight, units, fade, name)} {comesDownWords(flight)}{' '}
              {clouds.of[i] && chanceWords(clouds.of[i].chance, obstacles)}
            </span>
          </li>
        ))}
        {before && (
          <li className="text-quiet">
            Dotted, before: {landsWords(before.flight, units, fade, before.name)}
          </li>
        )}
      </ul>
    </>
  )
}
