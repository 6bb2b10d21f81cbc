import clsx from 'clsx'
import { Users } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { fadeSide, STROKES } from '../../../core/flight/hand.ts'
import { wholeDegrees } from '../../../core/judge/sameLine.ts'
import type { LineAngle } from '../../../core/judge/sameLine.ts'
import type { Cell } from '../../../core/plan/nextThrow.ts'
import { Z90 } from '../../../core/rating/normal.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import type { Thrower } from '../../../contract/trials.ts'
import { angleWords, powerWords } from '../../data/units.ts'
import { Key } from '../../parts/Button.tsx'
import { Card } from '../../parts/Card.tsx'
import { DiscDot, DiscOnEdge } from '../../parts/Disc.tsx'
import { hueOf, looksById } from '../../strip/hues.ts'
import type { Meant, FieldStanding } from './draft.ts'
import { discOptions, Select, plainOptions } from '../../parts/Select.tsx'
import { ThrowerSelect } from '../../parts/ThrowerSelect.tsx'
import type { Look } from '../../strip/hues.ts'

const POWERS = [1, 0.85, 0.7] as const

interface NextCardProps {
  readonly discs: readonly ShelvedDisc[]
  readonly name: (code: string) => string
  readonly throwers: readonly Thrower[]
  readonly angles: readonly number[]
  readonly meant: Meant
  readonly standing: FieldStanding
  /** How it is aimed off the line on purpose; empty where along it. */
  readonly aimed: string
  /** Every disc is thrown at the angle that brings it back to the line; what that is, once it is known. */
  readonly sameLine: boolean
  readonly lineAngle: LineAngle | undefined
  readonly heading: string
  readonly warmingUp: boolean
  readonly onWarm: () => void
  /** The run line of a phone: which throw, which way. */
  readonly brief: string
  /** First names of whoever throws by turns. */
  readonly turns: readonly string[]
  readonly onTurns: () => void
  readonly onMeant: (change: Partial<Meant>) => void
  readonly onStanding: (change: Partial<FieldStanding>) => void
}

/** The throw to make: disc, angle, stroke, power, thrower. */
export function NextCard(card: NextCardProps) {
  const {
    discs,
    name,
    throwers,
    meant,
    standing,
    sameLine,
    lineAngle,
    heading,
    warmingUp,
    onWarm,
    brief,
    aimed,
  } = card
  // on a phone the choices fold away behind what is chosen
  const [changing, setChanging] = useState(false)
  const unfolded = useRef<HTMLElement>(null)
  useEffect(() => {
    if (changing) unfolded.current?.scrollIntoView({ block: 'start' })
  }, [changing])
  const disc = discs.find((d) => d.disc.id === meant.discId)
  const look = looksById(discs)(meant.discId)
  const thrower = throwers.find((t) => t.id === standing.throwerId)
  if (!disc || !thrower) return null
  return (
    <Card
      ref={unfolded}
      // unfolded it would hide the field: then it scrolls as the rest does
      className={clsx(
        'border-t-4 p-4 phone:order-1 phone:rounded-none phone:border-x-0 phone:px-3 phone:py-2 across:scroll-mt-14',
        !changing && 'phone:sticky phone:top-0 phone:z-20 across:top-13',
      )}
      label="Next throw"
    >
      <h1 className="sr-only">{name(disc.disc.code)}</h1>
      <div
        style={{ color: hueOf(look) }}
        className="-mx-4 -mt-5 mb-3 h-1 rounded-t-xl bg-current phone:hidden"
        aria-hidden
      />
      <div className="flex items-center justify-between gap-2 phone:hidden">
        <p className="text-note text-quiet">{heading}</p>
        {warmingUp && <SkipWarmUps onWarm={onWarm} />}
      </div>
      <div className="flex items-center gap-3 desk:mt-2">
        <Select
          hideLabel
          look="bare"
          className="min-w-0 flex-1"
          label="Disc in the hand"
          value={meant.discId}
          onChange={(v) => card.onMeant({ discId: v })}
          options={discOptions(discs, name)}
          face={<InTheHand {...{ look, disc, brief }} name={name(disc.disc.code)} />}
        />
        <button
          type="button"
          aria-expanded={changing}
          aria-label="Change the throw"
          onClick={() => setChanging((c) => !c)}
          className="min-h-11 max-w-44 rounded-lg border border-edge px-2 text-right across:max-w-27 desk:hidden"
        >
          <span className="block font-head text-lead leading-tight font-semibold">
            {angleWords(meant.hyzerDeg)}
          </span>
          {aimed !== '' && <span className="block text-note font-medium">{aimed}</span>}
          <span className="block text-note text-quiet across:max-w-32 across:truncate">
            {standing.stroke}, {powerWords(standing.power)}, {thrower.name.split(' ')[0]}
          </span>
        </button>
      </div>
      <div className="mt-2 flex items-center justify-between gap-2 border-t border-rule pt-2 phone:hidden">
        <p className="font-head text-lead leading-tight font-semibold">
          {angleWords(meant.hyzerDeg)}, {standing.stroke}
          {standing.power !== 1 && `, ${powerWords(standing.power)}`}
          {aimed !== '' && `, ${aimed}`}
        </p>
        <DiscOnEdge
          hyzerDeg={meant.hyzerDeg}
          fadeSide={fadeSide(thrower.hand, standing.stroke)}
          look={look}
          width={112}
        />
      </div>
      {warmingUp && (
        <div className="mt-1 desk:hidden">
          <SkipWarmUps onWarm={onWarm} />
        </div>
      )}
      {sameLine && !warmingUp && <ToTheLine angle={lineAngle} />}
      <Choices className={clsx('mt-2', !changing && 'phone:hidden')} {...card} />
    </Card>
  )
}

/** What is thrown next: which disc, as large as fits. */
const InTheHand = ({
  look,
  disc: { disc, mold, plastic },
  name,
  brief,
}: Pick<NextCardProps, 'brief'> & {
  readonly look: Look
  readonly disc: ShelvedDisc
  readonly name: string
}) => (
  <span className="flex min-w-0 items-center gap-2 desk:gap-3">
    <span className="phone:hidden">
      <DiscDot look={look} size={56} code={disc.code} />
    </span>
    <span className="desk:hidden">
      <DiscDot look={look} size={36} code={disc.code} />
    </span>
    <span className="min-w-0">
      <span className="block truncate font-head text-title leading-tight font-semibold across:text-lead">
        {name}
      </span>
      <span className="block truncate text-note text-quiet phone:hidden">
        {mold.name}, {plastic.name}
      </span>
      <span className="block truncate text-note text-quiet desk:hidden">{brief}</span>
      <span className="figure block truncate text-note">
        {disc.code}
        {(disc.weighedG ?? disc.markedG) !== null && (
          <span className="phone:hidden"> · {disc.weighedG ?? disc.markedG} g</span>
        )}
      </span>
    </span>
  </span>
)

/** The arm is warm already: the throws that count come now. */
const SkipWarmUps = ({ onWarm }: { onWarm: () => void }) => (
  <button
    type="button"
    onClick={onWarm}
    className="shrink-0 text-note underline underline-offset-4 phone:min-h-11"
  >
    Skip the warm-up
  </button>
)

/** Half as wide as the card, a box says it in a smaller hand, over two lines where it must. */
const HALF = 'h-full text-note leading-tight phone:text-body'

/** Everything that can be changed of the throw that comes next. */
function Choices({
  className,
  discs,
  name,
  throwers,
  angles,
  meant,
  standing,
  sameLine,
  turns,
  onTurns,
  onMeant,
  onStanding,
}: NextCardProps & { readonly className: string }) {
  const offered = sameLine ? LINE_ANGLES : angles
  const shownAngles = offered.includes(meant.hyzerDeg) ? offered : [...offered, meant.hyzerDeg]
  return (
    <div className={clsx('grid grid-cols-2 gap-2', className)}>
      <Select
        hideLabel
        label="Disc"
        className="col-span-2"
        value={meant.discId}
        onChange={(v) => onMeant({ discId: v })}
        options={discOptions(discs, name)}
      />
      <Select
        hideLabel
        label="Release angle"
        boxClass={HALF}
        value={meant.hyzerDeg}
        onChange={(v) => onMeant({ hyzerDeg: v })}
        options={shownAngles.map((a) => ({ value: a, words: angleWords(a) }))}
      />
      <Select
        hideLabel
        label="Power"
        boxClass={HALF}
        value={standing.power}
        onChange={(v) => onStanding({ power: v })}
        options={[
          ...POWERS.map((p) => ({ value: p, words: powerWords(p) })),
          ...(!POWERS.some((p) => p === standing.power)
            ? [{ value: standing.power, words: powerWords(standing.power) }]
            : []),
        ]}
      />
      <Select
        hideLabel
        label="Stroke"
        boxClass={HALF}
        value={standing.stroke}
        onChange={(v) => onStanding({ stroke: v })}
        options={plainOptions(STROKES)}
      />
      <ThrowerSelect
        hideLabel
        label="Thrower"
        boxClass={HALF}
        value={standing.throwerId}
        throwers={throwers}
        onChange={(v) => onStanding({ throwerId: v })}
      />
      {throwers.length > 1 && (
        <button
          type="button"
          aria-pressed={turns.length > 1}
          onClick={onTurns}
          title="Who throws by turns; T is the next thrower"
          className="col-span-2 flex min-h-9 items-center justify-between gap-2 rounded-lg border border-edge px-2 text-left text-note hover:bg-tint phone:min-h-11"
        >
          <span className="flex min-w-0 items-center gap-2 truncate">
            <Users size={15} aria-hidden />
            {turns.length > 1 ? `${turns.join(' and ')}, by turns` : 'Throw by turns'}
          </span>
          <Key>T</Key>
        </button>
      )}
    </div>
  )
}

/** Angles offered where each disc takes its own, the most hyzer first. */
const LINE_ANGLES = Array.from({ length: 51 }, (_, i) => 30 - i)

/** Why this angle: what brings the disc back to the line, and how surely. */
function ToTheLine({ angle }: { angle: LineAngle | undefined }) {
  return (
    <p className="mt-1 text-note text-quiet" role="status" data-testid="to-the-line">
      {angle === undefined
        ? 'Working out the angle that brings it back to the line …'
        : angle.found
          ? `To finish on the line: ${angleWords(wholeDegrees(angle.hyzerRad))}, give or take ${Math.max(1, wholeDegrees(Z90 * angle.sdRad))}°.`
          : `${angle.why} Throw what comes nearest.`}
    </p>
  )
}

interface UpNextProps {
  readonly cells: readonly Cell[]
  readonly discs: readonly ShelvedDisc[]
  readonly name: (code: string) => string
  readonly onPick: (cell: Cell) => void
  /** The most telling throws come first, instead of those thrown least. */
  readonly telling: boolean
  readonly onTelling: (on: boolean) => void
  /** The trial has a plan, and it has throws left. */
  readonly planned: boolean
  readonly sameLine: boolean
}

/** What follows, as planned, thrown least first or most telling first; pick one to throw it now. */
export function UpNext({ cells, discs, name, onPick, telling, onTelling, planned, sameLine }: UpNextProps) {
  const look = looksById(discs)
  return (
    <Card className="flex min-h-0 flex-col p-3 phone:hidden" label="Up next">
      <div className="flex items-center justify-between gap-2 px-1 text-note text-quiet">Up next</div>
      <button
        type="button"
        aria-pressed={telling}
        onClick={() => onTelling(!telling)}
        className={clsx(
          'mx-1 mt-1 mb-1.5 flex min-h-9 items-center justify-between gap-2 rounded-lg border px-2.5 text-left',
          telling ? 'border-pick bg-pick font-medium text-on-pick' : 'border-edge hover:bg-tint',
        )}
      >
        {telling ? 'Most telling first' : planned ? 'In the order planned' : 'Thrown least first'}{' '}
        <Key onDark={telling}>M</Key>
      </button>
      <ul className="min-h-0 flex-1 divide-y divide-rule overflow-hidden">
        {cells.map((c, i) => {
          const disc = discs.find((d) => d.disc.id === c.disc)
          return (
            <li key={i}>
              <button
                type="button"
                onClick={() => onPick(c)}
                className="flex min-h-11 w-full items-center gap-2.5 rounded px-1 text-left hover:bg-tint"
              >
                <DiscDot look={look(c.disc)} />
                <span className="min-w-0">
                  <span className="block truncate leading-tight font-semibold">
                    {disc && name(disc.disc.code)}
                  </span>
                  <span className="text-note text-quiet">
                    {sameLine ? 'back to the line' : angleWords(c.hyzerDeg)}
                  </span>
                </span>
              </button>
            </li>
          )
        })}
      </ul>
    </Card>
  )
}
