import clsx from 'clsx'
import { ArrowLeft, Pencil } from 'lucide-react'
import { Link } from 'react-router'
import { mutate } from 'swr'
import { STILL_AIR } from '../../../core/flight/air.ts'
import { STANDARD_BODY } from '../../../core/flight/disc.ts'
import { pathFeatures, pathPoints, tracePath } from '../../../core/flight/path.ts'
import { referenceRelease } from '../../../core/flight/release.ts'
import { stabilityWord } from '../../../core/judge/words.ts'
import { LEVELS } from '../../../core/shelf/numbersInForce.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { write } from '../../data/api.ts'
import { useTrials } from '../../data/hooks.ts'
import { useUnits } from '../../data/preferences.tsx'
import { figure, numbersLine } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { say, sayWrong } from '../../parts/Toasts.tsx'
import { Flight, LandingDot } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { hueOf } from '../../strip/hues.ts'

/** One disc: what is claimed for it and where the claim stands, what it weighs, where it came from. */
export function DiscCard({ disc: d, onEdit }: { disc: ShelvedDisc; onEdit: () => void }) {
  const units = useUnits()
  const { trials } = useTrials()
  const numbers = d.inForce.numbers
  const path = tracePath(numbers, STANDARD_BODY, referenceRelease(numbers.speed), STILL_AIR)
  const features = pathFeatures(path)
  const line = pathPoints(path, 40).map((p) => ({ down: p.x, left: p.y }))
  const of = trials?.filter((t) => t.trial.discIds.includes(d.disc.id)) ?? []
  const off = d.disc.removedAt !== null

  const shelve = async (removedAt: string | null) => {
    const row = { ...d.disc, removedAt }
    try {
      await write(`/api/discs/${row.id}`, row)
      await mutate('/api/shelf')
      if (removedAt === null) say(`${row.code} is back on the shelf.`)
      else say(`${row.code} was taken off the shelf.`, { label: 'Put back', run: () => void shelve(null) })
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }

  const LEVEL_NAMES = {
    stamped: 'stamped on it',
    run: d.run?.name ?? 'no run noted',
    plastic: d.plastic.name,
    mold: d.mold.name,
  }
  const { markedG, weighedG } = d.disc
  return (
    <Card className="p-4" label={`Disc ${d.disc.code}`}>
      <Link to="/shelf" className="mb-2 inline-flex min-h-11 items-center gap-1 lg:hidden">
        <ArrowLeft size={18} aria-hidden /> Shelf
      </Link>
      <div className="flex items-start gap-3">
        <DiscDot place={0} size={52} code={d.disc.code} />
        <div className="min-w-0 flex-1">
          <h2 className="text-title">
            {d.mold.name}, {d.plastic.name}
          </h2>
          <p className="text-quiet">
            <span className="figure">{d.disc.code}</span> · {d.maker.name} · {d.mold.discClass}
          </p>
        </div>
        <Button onClick={onEdit} aria-label={`Edit ${d.disc.code}`}>
          <Pencil size={16} aria-hidden /> Edit
        </Button>
      </div>

      <h3 className="mt-4 text-lead">Numbers in force</h3>
      <table className="w-full">
        <tbody>
          {LEVELS.map((level) => {
            const inForce = level === d.inForce.level
            const given = d.levels[level]
            return (
              <tr
                key={level}
                className={clsx(
                  'border-b border-rule last:border-0',
                  inForce ? 'font-semibold' : 'text-quiet',
                )}
              >
                <th scope="row" className={clsx('py-1.5 text-left', !inForce && 'font-normal')}>
                  {inForce && <span aria-hidden>▸ </span>}
                  {LEVEL_NAMES[level]}
                  {inForce && <span className="sr-only"> (in force)</span>}
                </th>
                <td className="figure text-right">{given ? numbersLine(given) : 'none'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>

      <h3 className="mt-4 text-lead">What that claims</h3>
      <p className="mb-1 text-quiet">
        Thrown flat in still air at {units.speed.show(referenceRelease(numbers.speed).speedMps)}:{' '}
        {stabilityWord(numbers.turn + numbers.fade)}, carries {units.length.show(features.carryM, 0)}
        {features.widestTurnM < -0.5 && `, turns ${units.length.show(-features.widestTurnM)}`}, finishes{' '}
        {units.length.show(Math.abs(features.veerM))} to the {features.veerM >= 0 ? 'fade' : 'turn'} side.
      </p>
      <Strip
        height={120}
        fade="up"
        label={`Flight of ${numbersLine(numbers)} at its reference release`}
        reach={{
          down: 1.08 * features.carryM,
          left: Math.max(8, features.veerM + 3),
          right: Math.max(8, -features.widestTurnM + 3),
        }}
      >
        <Flight path={line} hue={hueOf(0)} />
        <LandingDot at={{ down: features.carryM, left: features.veerM }} hue={hueOf(0)} />
      </Strip>

      <dl className="mt-3 grid grid-cols-[7rem_1fr] gap-y-1.5">
        <dt className="text-quiet">Weight</dt>
        <dd>
          <span className="figure">{weighedG ?? markedG ?? '–'} g</span>{' '}
          <span className="text-quiet">
            {weighedG !== null && markedG !== null
              ? `on the scale, marked ${markedG} (${figure(weighedG - markedG, 1)})`
              : weighedG !== null
                ? 'on the scale'
                : markedG !== null
                  ? 'as marked, not weighed'
                  : 'not known; 175 g assumed'}
          </span>
        </dd>
        <dt className="text-quiet">Wear</dt>
        <dd>{d.disc.wear}</dd>
        <dt className="text-quiet">Came from</dt>
        <dd>{d.disc.source}</dd>
        {d.disc.note && (
          <>
            <dt className="text-quiet">Note</dt>
            <dd>{d.disc.note}</dd>
          </>
        )}
        <dt className="text-quiet">Trials</dt>
        <dd>
          {of.length === 0
            ? 'none yet'
            : of.map((t) => (
                <Link
                  key={t.trial.id}
                  to={`/trials/${t.trial.id}/readout`}
                  className="block underline underline-offset-4"
                >
                  {t.trial.name}
                </Link>
              ))}
        </dd>
      </dl>
      <div className="mt-3 border-t border-rule pt-3">
        {off ? (
          <Button onClick={() => void shelve(null)}>Put back on the shelf</Button>
        ) : (
          <Button kind="quiet" onClick={() => void shelve(new Date().toISOString())}>
            Take off the shelf
          </Button>
        )}
      </div>
    </Card>
  )
}
