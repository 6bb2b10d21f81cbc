import { clsx } from 'clsx'
import { Link2 } from 'lucide-react'
import { Fragment, useCallback } from 'react'
import type { ReactNode } from 'react'
import { useKey } from '../../parts/keys.ts'
import { LAB_KEYS } from './keys.ts'
import type { Angles } from '../../../core/lab/angles.ts'
import type { FieldPlace } from '../../../core/lab/field.ts'
import { throwTo } from '../../../core/lab/throwTo.ts'
import { LAB_RANGE, linkOf, onField } from '../../../contract/lab.ts'
import type { LabObstacle, LabSetup } from '../../../contract/lab.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, percent } from '../../data/units.ts'
import { useAsked } from '../../data/useAsked.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, Unanswered } from '../../parts/Card.tsx'
import { usePlaying } from '../../flown/usePlaying.ts'
import { FromBehind, FromSide } from '../../flown/Views.tsx'
import type { ShownFlight } from '../../flown/Views.tsx'
import { spacePressesWhatHasFocus } from '../../parts/focusKeys.ts'
import { say, sayWrong } from '../../data/say.ts'
import { askAngles } from '../../workers/lab.ts'
import type { FlownCloud } from '../../workers/lab.ts'
import { Beside } from './Beside.tsx'
import { Compared } from './Compared.tsx'
import { clamp } from './dials.tsx'
import { DiscsCard } from './Discs.tsx'
import { FindThrow, useSearch } from './FindThrow.tsx'
import { FromAbove } from '../../flown/FromAbove.tsx'
import { Obstacles, PutOnField } from './Obstacles.tsx'
import { PlayBar } from './PlayBar.tsx'
import { ThrowingPanel } from './Throwing.tsx'
import { ThrowIt } from './ThrowIt.tsx'
import { meantOf, useDiscs } from '../../flown/useDiscs.ts'
import { useFlown } from '../../flown/useFlown.ts'
import { useSetup } from './useSetup.ts'
import { chanceWords, comesDownWords, doesIt, landsWords } from '../../flown/words.ts'

/** More things on the field than that are listed under it, where there is more room. */
const FEW = 3

/** Any disc, any release, any wind, before it is thrown. */
export default function Lab() {
  const { setup, change, unreadable } = useSetup()
  const discs = useDiscs()
  const units = useUnits()
  const { named } = discs
  const flown = useFlown(setup, named)
  const { who, known, first, from, flights, before, cloud, clouds, spread, reach } = flown
  const angles = useAsked(first ? JSON.stringify(first) : null, () => askAngles(first!), {
    about: setup.discs.map((d) => JSON.stringify(d)).join(),
    pauseMs: 120,
    inTurn: true,
  })
  const shown = flights[0]
  const lastsS = Math.max(1, ...flights.map((f) => f.flight.hangS))
  const playing = usePlaying(lastsS)
  const search = useSearch(setup, discs, known, who)
  useKey(LAB_KEYS.play, (e) => {
    if (spacePressesWhatHasFocus(e)) return
    e.preventDefault()
    playing.toggle()
  })
  useKey(LAB_KEYS.back, () => playing.step(-1))
  useKey(LAB_KEYS.on, () => playing.step(1))
  useKey(LAB_KEYS.find, () => void search.run())

  const land = (at: FieldPlace) => first && change({ throw: meantOf(throwTo(first, at)) })
  const move = (place: number, o: LabObstacle) =>
    change((now) => ({ obstacles: now.obstacles.map((was, i) => (i === place ? onField(o) : was)) }))
  const chance = setup.obstacles.length > 0 ? cloud.value?.chance : undefined
  const obstacles = (
    <Obstacles obstacles={setup.obstacles} chance={chance} onChange={(now) => change({ obstacles: now })} />
  )
  const best = bestWords(flights, clouds.of, setup.obstacles)
  return (
    <div className="p-3 md:p-4">
      <LabHead setup={setup} unreadable={unreadable} />
      <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[auto_1fr]">
        <Card className="p-4" label="The field">
          {shown ? (
            <>
              <p className="text-title leading-7" data-testid="lands">
                {landsWords(shown.flight, units, setup.fade, flights.length > 1 ? shown.name : undefined)}{' '}
                {chance && chanceWords(chance, setup.obstacles)}
              </p>
              {best && <p className="text-lead">{best}</p>}
              <Told
                shown={shown}
                angles={angles.value}
                spread={spread}
                onAngle={(hyzerDeg) => change((now) => ({ throw: { ...now.throw, hyzerDeg } }))}
              />
            </>
          ) : (
            <p className="text-title leading-7">
              {discs.reading ? 'Reading the shelf …' : 'This does not fly: choose another disc.'}
            </p>
          )}
          <div className="mt-2">
            <FromAbove
              flights={flights}
              before={before}
              clouds={clouds}
              obstacles={setup.obstacles}
              fade={setup.fade}
              atS={playing.atS}
              reach={reach}
              onLand={land}
              onMove={move}
            />
          </div>
          {cloud.error && <Unanswered asked={cloud} />}
          <PlayBar playing={playing} lastsS={lastsS} />
          <PutOnField
            obstacles={setup.obstacles}
            farM={shown?.flight.landed.downM ?? 80}
            onChange={(obstacles) => change({ obstacles })}
          />
          <Beside
            flown={flown}
            obstacles={setup.obstacles}
            fade={setup.fade}
            onThrow={(place) => {
              const disc = flights[place]!.disc
              change((now) => ({ discs: [disc, ...now.discs.filter((d) => d !== disc)] }))
            }}
          />
        </Card>
        <div className="grid gap-3 lg:col-start-2 lg:row-span-2 lg:row-start-1">
          <DiscsCard flown={setup.discs} discs={discs} onChange={change} />
          <ThrowingPanel setup={setup} who={who} onChange={change} />
          {setup.obstacles.length <= FEW && obstacles}
        </div>
        <div className="grid gap-3">
          <Views {...{ setup, flights, before, reach, change }} atS={playing.atS} />
          <div className={clsx('grid items-start gap-3', !setup.before && 'md:grid-cols-2')}>
            <FindThrow setup={setup} discs={discs} flown={known} search={search} onTake={change} />
            <Compared {...{ setup, named, from }} to={first} onChange={change} />
          </div>
          {setup.obstacles.length > FEW && obstacles}
        </div>
      </div>
    </div>
  )
}

/** What the lab is, what was set as a link, and the way from it to the field. */
function LabHead({ setup, unreadable }: Pick<ReturnType<typeof useSetup>, 'setup' | 'unreadable'>) {
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(`${location.origin}${location.pathname}?${linkOf(setup)}`)
      say('The link is copied; it holds everything that is set here.')
    } catch {
      sayWrong('The link could not be copied; the address of this page is the same link.')
    }
  }
  const thrown = setup.discs[0]!
  const intended =
    'id' in thrown
      ? {
          discId: thrown.id,
          hyzerDeg: setup.throw.hyzerDeg,
          power: setup.throw.power,
          aimDeg: setup.throw.aimDeg,
        }
      : undefined
  return (
    <>
      <div className="mb-3 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-title">Line lab</h1>
          <p className="text-quiet">Which line a disc takes, before you throw it.</p>
        </div>
        <div className="flex flex-wrap gap-2">
          <ThrowIt intended={intended} />
          <Button onClick={() => void copy()}>
            <Link2 size={18} aria-hidden /> Copy the link
          </Button>
        </div>
      </div>
      {unreadable && (
        <Card className="mb-3 p-3.5">
          <p role="alert">
            The link holds no setup this lab can read; a usual throw is shown instead. Ask for the link again.
          </p>
        </Card>
      )}
    </>
  )
}

interface ViewsProps {
  readonly setup: LabSetup
  readonly flights: readonly ShownFlight[]
  readonly before: ShownFlight | undefined
  readonly reach: ReturnType<typeof useFlown>['reach']
  readonly atS: number | undefined
  readonly change: ReturnType<typeof useSetup>['change']
}

/** The flights from the side, where their launch is pulled, and from behind the tee. */
function Views({ setup, flights, before, reach, atS, change }: ViewsProps) {
  const launch = useCallback(
    (deg: number) =>
      change((now) => ({
        throw: { ...now.throw, launchDeg: clamp(Math.round(2 * deg) / 2, LAB_RANGE.launchDeg) },
      })),
    [change],
  )
  return (
    <div className="grid gap-3 md:grid-cols-2">
      <View label="From the side" words="From the side: pull the line to launch it otherwise">
        <FromSide
          flights={flights}
          before={before}
          obstacles={setup.obstacles}
          atS={atS}
          reach={reach.down}
          launchDeg={setup.throw.launchDeg}
          onLaunch={launch}
        />
      </View>
      <View label="From behind the tee" words="As you see it from behind the tee">
        <FromBehind
          flights={flights}
          before={before}
          obstacles={setup.obstacles}
          atS={atS}
          fade={setup.fade}
        />
      </View>
    </div>
  )
}

/** Which of several discs most likely does it; undefined where nothing is asked, or not all is known yet. */
function bestWords(
  flights: readonly ShownFlight[],
  clouds: readonly (FlownCloud | undefined)[],
  obstacles: readonly LabObstacle[],
): string | undefined {
  const does = flights.map(({ name }, i) => ({
    name,
    does: clouds[i] && doesIt(clouds[i].chance, obstacles),
  }))
  const share = (i: (typeof does)[number]) => i.does?.share ?? 0
  if (does.length < 2 || does.some((d) => !d.does)) return undefined
  const [first, second] = [...does].sort((a, b) => share(b) - share(a))
  if (percent(share(first!)) === percent(share(second!)))
    return `${first!.name} and ${second!.name} do it as often: ${percent(share(first!))}.`
  return `Most likely with ${first!.name}: ${percent(share(first!))}, before ${second!.name} with ${percent(share(second!))}.`
}

/** The flight as it is seen from somewhere. */
const View = ({ label, words, children }: { label: string; words: string; children: ReactNode }) => (
  <Card className="p-3.5" label={label}>
    <h2 className="mb-1 text-note text-quiet">{words}</h2>
    {children}
  </Card>
)

/** Angles somebody may look for, as they are said. */
const SOUGHT: readonly { readonly of: keyof Angles; readonly does: string; readonly from: string }[] = [
  { of: 'standsUp', does: 'stands up to flat', from: 'from' },
  { of: 'onLine', does: 'finishes on the line', from: 'from' },
  { of: 'flexes', does: 'flexes back', from: 'from up to' },
]

/** What else is said of the throw: how it scatters, how it comes down, and the angles somebody may look for, each to be taken. */
function Told({
  shown: { flight },
  angles,
  spread,
  onAngle,
}: {
  readonly shown: ShownFlight
  readonly angles: Angles | undefined
  readonly spread: { readonly alongM: number; readonly asideM: number } | undefined
  readonly onAngle: (hyzerDeg: number) => void
}) {
  const { length } = useUnits()
  const rolls = comesDownWords(flight)
  const found = SOUGHT.flatMap(({ of, does, from }) => {
    const deg = angles?.[of]
    return deg === undefined || deg === null ? [] : [{ does, from, deg: Math.round(deg) }]
  })
  return (
    <p className="text-quiet">
      {spread &&
        `Two throws in three within ${length.show(spread.alongM, 0)} of that along and ${length.show(spread.asideM, 0)} across. `}
      {rolls && <b className="font-medium text-accent">{rolls} </b>}
      {found.length > 0 && 'With this power it '}
      {found.map(({ does, from, deg }, i) => (
        <Fragment key={does}>
          {does} {from}{' '}
          <button
            type="button"
            className="underline decoration-edge underline-offset-4 hover:decoration-ink"
            aria-label={`Throw it ${angleWords(deg)}: ${does}`}
            onClick={() => onAngle(deg)}
          >
            {angleWords(deg)}
          </button>
          {i < found.length - 1 ? ', ' : '.'}
        </Fragment>
      ))}
    </p>
  )
}
