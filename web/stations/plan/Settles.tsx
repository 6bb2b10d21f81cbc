import clsx from 'clsx'
import { LABEL_FIGURES } from '../../../core/plan/aims.ts'
import { Z_SETTLED } from '../../../core/rating/normal.ts'
import type { TellingPlan } from '../../../core/plan/telling.ts'
import { percent } from '../../data/units.ts'
import { DiscDot } from '../../parts/Disc.tsx'
import { useUnits } from '../../data/preferences.tsx'
import { PER_M } from '../../../core/flight/side.ts'

interface SettlesProps {
  /** Codes of the discs asked about, in the order they are expected. */
  readonly codes: readonly string[]
  readonly nameOf: (code: string) => string
  readonly lookOf: (code: string) => number
  readonly worth: TellingPlan
  readonly working: boolean
}

const TABLE = 'border-separate border-spacing-1 transition-opacity'
const NAME = 'max-w-32 truncate pr-1.5 text-right text-note font-semibold'

/** What a plan can settle, in the terms of its question: labels, other arms, the wind, or every pair. */
export function Settles(props: SettlesProps) {
  const Shown = TABLES[props.worth.aims[0]?.aim.of ?? 'order']
  return (
    <div className="overflow-x-auto">
      <Shown {...props} />
    </div>
  )
}

/** A chance with what it could tell apart below it; the likelier the darker. */
function Chance({
  chance,
  least,
  leastWords,
  title,
  label,
}: {
  chance: number | undefined
  least: string | undefined
  leastWords: string
  title: string
  label: string
}) {
  return (
    <td
      title={title}
      className="figure h-11 w-12 rounded-md text-center text-body font-semibold text-ink"
      style={{
        background: `color-mix(in oklab, var(--water) ${Math.round(8 + 42 * Math.max(0, 2 * (chance ?? 0) - 1))}%, var(--card))`,
      }}
    >
      <span className="sr-only">{label}: </span>
      {chance === undefined ? '–' : percent(chance).replace(' %', '')}
      {least !== undefined && (
        <span className="block text-[12px] leading-none font-normal">
          <span className="sr-only"> per cent; {leastWords} </span>
          {least}
        </span>
      )}
    </td>
  )
}

/** Chance of every figure of every disc to be told true to its label, above it or below it. */
function Labels({ codes, nameOf, lookOf, worth, working }: SettlesProps) {
  return (
    <>
      <table className={clsx(TABLE, working && 'opacity-60')}>
        <caption className="sr-only">
          Chance, in per cent, that the plan tells each figure within half of its label, above or below
        </caption>
        <thead>
          <tr>
            <td />
            {LABEL_FIGURES.map((n) => (
              <th key={n} scope="col" className="text-note font-semibold">
                {n}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {codes.map((code) => (
            <tr key={code}>
              <DiscName {...{ code, nameOf, lookOf }} />
              {LABEL_FIGURES.map((figure) => {
                const told = worth.aims.find(
                  ({ aim }) => aim.of === 'label' && aim.disc === code && aim.figure === figure,
                )
                return (
                  <Chance
                    key={figure}
                    chance={told?.chanceSettled}
                    least={told && `±${(Z_SETTLED * told.sdAfter).toFixed(1)}`}
                    leastWords="known within"
                    label={figure}
                    title={`${figure} of ${nameOf(code)}: would be known within ±${told ? (Z_SETTLED * told.sdAfter).toFixed(1) : '–'}`}
                  />
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-quiet">
        Told nine times in ten: true to its label within half a number, above it or below it. Small: how
        closely it would be known, eight times in ten. Stability is where it flies, on the scale of turn +
        fade.
      </p>
    </>
  )
}

/** Chance to tell on which side of the line every disc finishes, arm by arm, and how closely. */
function Arms({ codes, nameOf, lookOf, worth, working }: SettlesProps) {
  const units = useUnits()
  const arms = [...new Set(worth.aims.flatMap(({ aim }) => (aim.of === 'finish' ? aim.armMps : [])))]
  return (
    <>
      <table className={clsx(TABLE, working && 'opacity-60')}>
        <caption className="sr-only">
          Chance, in per cent, that the plan tells on which side of the line each disc finishes for an arm
        </caption>
        <thead>
          <tr>
            <td />
            {arms.map((arm) => (
              <th key={arm} scope="col" className="figure px-1.5 text-note font-semibold">
                {units.speed.show(arm, 0)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {codes.map((code) => (
            <tr key={code}>
              <DiscName {...{ code, nameOf, lookOf }} />
              {arms.map((arm) => {
                const told = worth.aims.find(
                  ({ aim }) => aim.of === 'finish' && aim.disc === code && aim.armMps === arm,
                )
                const within = told && units.length.show(Z_SETTLED * told.sdAfter)
                return (
                  <Chance
                    key={arm}
                    chance={told?.chanceSettled}
                    least={told && `±${units.length.to(Z_SETTLED * told.sdAfter).toFixed(1)}`}
                    leastWords="known within"
                    label={units.speed.show(arm, 0)}
                    title={`Where ${nameOf(code)} finishes for an arm of ${units.speed.show(arm, 0)} would be known within ±${within ?? '–'}`}
                  />
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-quiet">
        Told nine times in ten: on which side of the line it finishes for that arm, thrown flat in still air.
        Small: how closely its finish would be known, {units.length.unit}, eight times in ten.
      </p>
    </>
  )
}

/** Chance to tell what a headwind does to one disc, or which of every two it moves less. */
function Wind(props: SettlesProps) {
  const units = useUnits()
  const { codes, nameOf, lookOf, worth, working } = props
  const alone = worth.aims.find(({ aim }) => aim.of === 'wind')
  const [code] = codes
  return (
    <>
      {alone && code !== undefined ? (
        <table className={clsx(TABLE, working && 'opacity-60')}>
          <caption className="sr-only">Chance, in per cent, that the plan tells what a headwind does</caption>
          <tbody>
            <tr>
              <DiscName {...{ code, nameOf, lookOf }} />
              <Chance
                chance={alone.chanceSettled}
                least={`±${units.length.to(Z_SETTLED * alone.sdAfter).toFixed(1)}`}
                leastWords="known within"
                label="a headwind"
                title={`What a headwind does to ${nameOf(code)} would be known within ±${units.length.show(Z_SETTLED * alone.sdAfter)} a m/s`}
              />
            </tr>
          </tbody>
        </table>
      ) : (
        <Triangle {...props} />
      )}
      <p className="mt-1 text-note text-quiet">
        {alone
          ? 'Told nine times in ten: to which side a headwind takes it. Small: how closely that would be known, '
          : 'Told nine times in ten: which of two a headwind moves less. Small: the least difference it would tell apart, '}
        {units.length.unit} for every m/s.
      </p>
    </>
  )
}

/** A disc at the head of a row. */
const DiscName = ({
  code,
  nameOf,
  lookOf,
}: { readonly code: string } & Pick<SettlesProps, 'nameOf' | 'lookOf'>) => (
  <th scope="row" className={NAME}>
    <span className="mr-1.5 inline-block align-middle">
      <DiscDot look={lookOf(code)} />
    </span>
    {nameOf(code)}
  </th>
)

/** Chance of every pair to be settled. */
function Pairs(props: SettlesProps) {
  const units = useUnits()
  return (
    <>
      <Triangle {...props} />
      <p className="mt-1 text-note text-quiet">
        Small: the least difference that would be told apart with 90 %, in {units.length.unit} over a flight
        of {units.length.show(PER_M, 0)}.
      </p>
    </>
  )
}

/** A figure for every pair, as a triangle. */
function Triangle({ codes, nameOf, lookOf, worth, working }: SettlesProps) {
  const units = useUnits()
  const pairOf = (x: string, y: string) =>
    worth.aims.find(
      ({ aim }) =>
        (aim.of === 'order' || aim.of === 'holds') &&
        ((aim.a === x && aim.b === y) || (aim.a === y && aim.b === x)),
    )
  return (
    <table className={clsx(TABLE, working && 'opacity-60')}>
      <caption className="sr-only">Chance, in per cent, that the plan settles each pair</caption>
      <tbody>
        {codes.map((row, i) => (
          <tr key={row}>
            <th scope="row" className={NAME}>
              {nameOf(row)}
            </th>
            {codes.slice(0, i).map((column) => {
              const pair = pairOf(row, column)
              const least = pair && Z_SETTLED * pair.sdAfter
              return (
                <Chance
                  key={column}
                  chance={pair?.chanceSettled}
                  least={least === undefined ? undefined : units.length.to(least).toFixed(1)}
                  leastWords="smallest difference told apart"
                  label={nameOf(column)}
                  title={`${nameOf(row)} and ${nameOf(column)}: would separate a difference of ${least === undefined ? '–' : units.length.show(least)}`}
                />
              )
            })}
            <td className="h-11 w-12 text-center">
              <span className="inline-block align-middle">
                <DiscDot look={lookOf(row)} />
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const TABLES = { order: Pairs, label: Labels, finish: Arms, wind: Wind, holds: Wind } as const
