import clsx from 'clsx'
import { Download, Upload } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { statements } from '../../../core/judge/statements.ts'
import { fadeSign } from '../../../core/flight/hand.ts'
import { ClaimEvidence } from '../../charts/ClaimEvidence.tsx'
import { Ladder } from '../../charts/Ladder.tsx'
import { Sentences } from '../../charts/Sentences.tsx'
import { useTrial } from '../../data/hooks.ts'
import { trialNames } from '../../data/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { halves, numbersLine, percent } from '../../data/units.ts'
import { Button, buttonLook } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { say } from '../../parts/Toasts.tsx'
import { Band, EndLabels, Flight, LandingDot } from '../../strip/layers.tsx'
import { Strip } from '../../strip/Strip.tsx'
import { hueOf } from '../../strip/hues.ts'
import { useRating, weighing } from '../../workers/rating.ts'
import { Expected } from './Expected.tsx'
import { SameLine } from './SameLine.tsx'
import { ShortGames } from './ShortGames.tsx'
import { Throws } from './Throws.tsx'
import { StationLink } from '../../parts/StationLink.tsx'

const BUTTON_LINK = buttonLook()

export default function Readout({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  const { reading, settlings, working, share, error: ratingError } = useRating(view)
  const [params, setParams] = useSearchParams()
  const [picked, setPicked] = useState<string>()
  const units = useUnits()
  const names = useMemo(() => trialNames(view?.discs ?? []), [view])
  if ((error && !view) || ratingError) return <Trouble error={(error ?? ratingError)!} />
  if (!view) return <Waiting what="the trial" />
  if (!reading)
    return (
      <Waiting what={`${view.throws.length} throws${share === undefined ? '' : `, ${percent(share)}`}`} />
    )
  const { trial } = view
  const name = (code: string) => names.get(code) ?? code
  const place = (code: string) => view.discs.findIndex((d) => d.disc.code === code)
  const show = params.get('show') === 'thrown' ? 'thrown' : 'corrected'
  const stretch = params.get('stretch') === '1'
  const counted = view.throws.filter((t) => t.counts).length
  const byStability = [...reading.outcome.discs].sort((a, b) => b.stability.value - a.stability.value)
  const said = statements(reading.outcome, reading.ranks, name, settlings)

  const sets = new Set(view.throws.map((t) => fadeSign(t.hand, t.stroke)))
  const fade = sets.size === 1 ? (sets.has(-1) ? 'left' : 'right') : 'up'
  // a flight's veer is to the fade side; up on the strip is the thrower's left
  const up = fade === 'right' ? -1 : 1
  const thrownById = new Map(view.throws.map((t) => [t.id, t]))
  const flights =
    show === 'corrected'
      ? reading.corrected.map((c) => ({
          down: c.features.carryM,
          ys: c.band.flatMap((b) => [up * b.low, up * b.high]),
        }))
      : reading.asThrown.map((t) => ({
          down: Math.max(...t.path.map((p) => p.x)),
          ys: t.path.map((p) => up * p.y),
        }))
  const ys = flights.flatMap((f) => f.ys)
  const reach = {
    down: 1.03 * Math.max(40, ...flights.map((f) => f.down)),
    left: Math.max(8, ...ys) + 3,
    right: Math.max(8, ...ys.map((y) => -y)) + 3,
  }
  const speeds = [...new Set(reading.corrected.map((c) => c.speedMps))]
  const set = (key: string, value: string | null) =>
    setParams((p) => (value === null ? p.delete(key) : p.set(key, value), p), { replace: true })

  const finish = async () => {
    const next = { ...trial, finishedAt: trial.finishedAt === null ? new Date().toISOString() : null }
    await outbox.put('trials', next)
    say(next.finishedAt ? `${trial.name} is finished.` : `${trial.name} is open again.`)
  }

  if (view.throws.length === 0)
    return (
      <Empty
        title={`${trial.name} has no throws yet`}
        action={
          <div className="flex flex-wrap justify-center gap-2">
            <StationLink at="field" params={{ trialId: trial.id }} className={buttonLook('primary')}>
              Throw the first
            </StationLink>
            <StationLink at="readout/import" params={{ trialId: trial.id }} className={BUTTON_LINK}>
              Import a file
            </StationLink>
          </div>
        }
      >
        The readout shows what the throws prove, and how surely, once there are some.
      </Empty>
    )

  return (
    <div className="grid gap-3 p-3 md:p-4 xl:grid-cols-[minmax(0,1fr)_25rem] lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="grid min-w-0 content-start gap-3">
        <Card className="p-4" label="Flights">
          <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2">
            <div className="mr-auto min-w-0">
              <h1 className="text-lead">
                {show === 'corrected'
                  ? speeds.length === 1
                    ? `Flat, still air, ${units.speed.show(speeds[0]!, 0)}`
                    : 'Flat, still air, each at its own speed'
                  : 'As thrown'}
              </h1>
              <p className="text-note text-quiet" role="status">
                {working
                  ? weighing(view.throws.length, share)
                  : show === 'corrected'
                    ? `${counted} counted throws, angle, power and wind taken out`
                    : `${view.throws.length} throws, the way they most likely flew`}
              </p>
            </div>
            <Choice
              label="Flights shown"
              value={show}
              onChange={(v) => set('show', v === 'thrown' ? 'thrown' : null)}
              options={[
                { value: 'corrected', label: 'Corrected' },
                { value: 'thrown', label: 'As thrown' },
              ]}
            />
            <Button
              aria-pressed={stretch}
              onClick={() => set('stretch', stretch ? null : '1')}
              className={clsx(stretch && 'bg-tint')}
            >
              {stretch ? 'Side × 2' : 'True scale'}
            </Button>
          </div>
          <div className="relative">
            <Strip
              height={show === 'corrected' ? 258 : 420}
              stretch={stretch ? 2 : 1}
              fade={fade}
              names={show === 'corrected' ? reading.corrected.map((c) => name(c.disc)) : []}
              reach={reach}
              label={`${show === 'corrected' ? 'Corrected' : 'Thrown'} flights, seen from above; the table below says the same in figures`}
            >
              {show === 'corrected' && (
                <>
                  {reading.corrected.map((c) => (
                    <g key={c.disc} opacity={picked && picked !== c.disc ? 0.15 : 1}>
                      <Band
                        hue={hueOf(place(c.disc))}
                        band={c.band.map((b) => ({ down: b.x, low: up * b.low, high: up * b.high }))}
                      />
                    </g>
                  ))}
                  {reading.corrected.map((c) => {
                    const hue = hueOf(place(c.disc))
                    return (
                      <g key={c.disc} opacity={picked && picked !== c.disc ? 0.2 : 1}>
                        {picked === c.disc && (
                          <Flight
                            dashed
                            hue="var(--ink)"
                            width={2}
                            path={c.published.map((p) => ({ down: p.x, left: up * p.y }))}
                          />
                        )}
                        <Flight hue={hue} path={c.path.map((p) => ({ down: p.x, left: up * p.y }))} />
                      </g>
                    )
                  })}
                  <EndLabels
                    ends={reading.corrected.map((c) => {
                      const end = c.path[c.path.length - 1]!
                      return {
                        at: { down: end.x, left: up * end.y },
                        hue: hueOf(place(c.disc)),
                        words: name(c.disc),
                      }
                    })}
                  />
                </>
              )}
              {show === 'thrown' &&
                reading.asThrown.map(({ throw: id, path }) => {
                  const t = thrownById.get(id)
                  if (!t) return null
                  const code = view.discs.find((d) => d.disc.id === t.discId)!.disc.code
                  const end = path[path.length - 1]!
                  const hue = hueOf(place(code))
                  return (
                    <g key={id} opacity={picked && picked !== code ? 0.1 : 1}>
                      {t.counts && (
                        <Flight
                          hue={hue}
                          width={1.5}
                          opacity={0.4}
                          path={path.map((p) => ({ down: p.x, left: up * p.y }))}
                        />
                      )}
                      <LandingDot
                        at={{ down: end.x, left: up * end.y }}
                        hue={hue}
                        radius={4}
                        leftOut={!t.counts}
                      />
                    </g>
                  )
                })}
            </Strip>
            {show === 'thrown' && (
              <ul className="absolute top-2 right-2 space-y-0.5 rounded-lg bg-card/90 px-3 py-2 max-md:static max-md:flex max-md:flex-wrap max-md:gap-x-4 max-md:px-0">
                {byStability.map((d) => (
                  <li key={d.disc} className="flex items-center gap-2 text-note font-medium">
                    <DiscDot place={place(d.disc)} size={12} /> {name(d.disc)}
                  </li>
                ))}
              </ul>
            )}
          </div>
        </Card>

        <Card className="overflow-x-auto px-4 py-2" label="Claim and evidence">
          <table className="w-full text-left md:min-w-[40rem]">
            <thead className="text-note text-quiet">
              <tr>
                <th className="py-1.5 font-normal">Disc</th>
                <th className="px-2 text-right font-normal max-md:hidden">Throws</th>
                <th className="font-normal md:px-3">Glide</th>
                <th className="font-normal md:px-3">Turn</th>
                <th className="font-normal md:px-3">Fade</th>
                <th className="font-normal max-md:hidden">
                  <span className="sr-only">Published numbers and </span>Label → reads as
                </th>
              </tr>
            </thead>
            <tbody>
              {byStability.map((d) => {
                const shelved = view.discs[place(d.disc)]!
                const hue = hueOf(place(d.disc))
                const cell = (key: 'glide' | 'turn' | 'fade') => (
                  <td className="px-0.5 max-md:w-[21%] md:px-2">
                    <ClaimEvidence
                      what={`${name(d.disc)}, ${key}`}
                      published={d.published[key]}
                      observed={d.observed[key]}
                      sd={d.sd[key]}
                      hue={hue}
                    />
                  </td>
                )
                const read = {
                  ...d.observed,
                  glide: halves(d.observed.glide),
                  turn: halves(d.observed.turn),
                  fade: halves(d.observed.fade),
                }
                return (
                  <tr
                    key={d.disc}
                    className={clsx('border-t border-rule', picked === d.disc && 'bg-tint')}
                    onMouseEnter={() => setPicked(d.disc)}
                    onMouseLeave={() => setPicked(undefined)}
                  >
                    <th scope="row" className="py-1 font-normal">
                      <StationLink
                        at="shelf/disc"
                        params={{ discId: shelved.disc.id }}
                        className="flex items-center gap-2.5"
                        onFocus={() => setPicked(d.disc)}
                        onBlur={() => setPicked(undefined)}
                      >
                        <DiscDot place={place(d.disc)} />
                        <span>
                          <span className="font-semibold">{name(d.disc)}</span>
                          <span className="figure block text-note text-quiet">
                            {d.disc}
                            {shelved.disc.id === trial.controlDiscId && (
                              <>
                                <span className="max-md:hidden"> · </span>
                                <span className="max-md:block">control</span>
                              </>
                            )}
                          </span>
                        </span>
                      </StationLink>
                    </th>
                    <td className="figure px-2 text-right max-md:hidden">{d.throws}</td>
                    {cell('glide')}
                    {cell('turn')}
                    {cell('fade')}
                    <td className="figure whitespace-nowrap max-md:hidden">
                      <span className="block text-note text-quiet">{numbersLine(d.published)}</span>
                      {numbersLine(read)}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        </Card>
        {trial.plan?.protocol === 'same line' && <SameLine {...{ view, reading, name, place }} />}
        <Expected view={view} outcome={reading.outcome} name={name} />
        <ShortGames view={view} name={name} />
      </div>

      <div className="grid min-w-0 content-start gap-3">
        <Card className="p-4" label="Ladder of stability">
          <h2 className="mb-1 text-lead">Stability, most to least</h2>
          <Ladder discs={reading.outcome.discs} name={name} place={place} />
        </Card>
        <Card className="p-4" label="What you can say">
          <h2 className="text-lead">What you can say</h2>
          <Sentences list={said} working={working} />
          {trial.controlDiscId === null && (
            <p className="mt-2 text-note text-quiet">
              No control disc: a habit of the thrower and a bias shared by all discs cannot be told apart
              here. The order of the discs does not suffer from it.
            </p>
          )}
        </Card>
      </div>

      <Card className="min-w-0 p-4 lg:col-span-2" label="Throws">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <h2 className="mr-auto text-lead">
            Throws{' '}
            <span className="font-sans text-note font-normal text-quiet">
              {view.throws.length - counted} left out, each with its reason
            </span>
          </h2>
          <a href={`/api/trials/${trial.id}/throws.csv`} download className={BUTTON_LINK}>
            <Download size={16} aria-hidden /> Export CSV
          </a>
          <StationLink at="readout/import" params={{ trialId: trial.id }} className={BUTTON_LINK}>
            <Upload size={16} aria-hidden /> Import CSV
          </StationLink>
          <Button onClick={() => void finish()}>
            {trial.finishedAt === null ? 'Call it finished' : 'Open it again'}
          </Button>
        </div>
        <Throws view={view} outcome={reading.outcome} name={name} />
      </Card>
    </div>
  )
}
