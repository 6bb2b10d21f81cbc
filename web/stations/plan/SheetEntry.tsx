import clsx from 'clsx'
import { Check } from 'lucide-react'
import { Fragment, useMemo, useReducer, useRef, useState } from 'react'
import type { Dispatch, KeyboardEvent } from 'react'
import { v7 as newId } from 'uuid'
import { MEASURING_METHODS } from '../../../core/throw/method.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import type { Plan, Session } from '../../../contract/trials.ts'
import { usePlaces, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { noteMade } from '../../data/made.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import type { Units } from '../../data/units.ts'
import { Button, buttonLook, Key } from '../../parts/Button.tsx'
import { Card, Empty, TroubleNote, WaitingNote } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput, TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { throwWords } from './RunOrder.tsx'
import { SHEET_COLUMNS, emptySheet, keptRows, readRow, sheetAfter, storedIds } from './sheet.ts'
import type { Column, SheetEvent, SheetState } from './sheet.ts'
import { StationLink } from '../../parts/StationLink.tsx'
import { Select, plainOptions } from '../../parts/Select.tsx'
import { ThrowerSelect } from '../../parts/ThrowerSelect.tsx'
import { looksById } from '../../strip/hues.ts'

/** Types the pencilled sheet in, in its own order. */
export default function SheetEntry({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <TroubleNote error={error} />
  if (!view) return <WaitingNote what="the plan" />
  const { plan } = view.trial
  if (!plan || plan.throws.length === 0)
    return (
      <Empty title="There is no plan yet">
        <StationLink at="plan" params={{ trialId: trialId }} className="underline underline-offset-4">
          Plan the throws
        </StationLink>{' '}
        first; the sheet follows their order.
      </Empty>
    )
  return <Sheet view={view} plan={plan} />
}

/** What is left of a plan to throw, as the sheet has it. */
const leftOf = (plan: Plan, view: TrialView) =>
  remainingThrows(
    plan.throws.map((t, i) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, i })),
    view.throws.filter((t) => t.counts).map((t) => ({ ...t, disc: t.discId })),
    plan.protocol,
  )
type Left = ReturnType<typeof leftOf>[number]

function Sheet({ view, plan }: { view: TrialView; plan: Plan }) {
  const { trial, throwers } = view
  const units = useUnits()
  const places = usePlaces()
  // the sheet keeps its rows while they are being typed: it is taken from the throws there were when it was opened
  const [planned] = useState(() => leftOf(plan, view))
  const [startedAtMs] = useState(() => Date.now())
  const [state, tell] = useReducer(sheetAfter, undefined, () =>
    emptySheet(
      newId(),
      plan,
      places.find((p) => p.id === plan.placeId),
      throwers,
      startedAtMs,
    ),
  )

  /** Stores a row where it says enough; says what is wrong with it where it does not. */
  const keep = async (line: number): Promise<void> => {
    const of = {
      trialId: trial.id,
      plan,
      planned,
      throwers,
      inM: units.length.from,
      inMps: units.speed.from,
      startedAtMs,
    }
    const read = readRow(state, line, of)
    if (read === undefined) return
    if (typeof read === 'string') return tell({ did: 'found wrong', line, sentence: read })
    if (!view.sessions.some((s) => s.id === state.session.id)) await outbox.put('sessions', state.session)
    await outbox.put('throws', read)
    noteMade(trial.id, read.id)
    tell({ did: 'kept', line, row: state.rows[line]! })
  }
  const takeBack = () => {
    const ids = new Set(storedIds(state))
    const at = new Date().toISOString()
    for (const stored of view.throws)
      if (ids.has(stored.id)) void outbox.put('throws', { ...stored, takenBackAt: at })
    tell({ did: 'took back' })
    say(`${ids.size} throws of this sheet were taken back.`)
  }
  return (
    <div className="mx-auto grid max-w-5xl gap-3 p-3 md:p-4">
      <Outing {...{ view, state, tell, units }} />
      <Card className="overflow-x-auto p-4" label="The sheet">
        <Cells {...{ view, plan, planned, state, tell, units }} onKeep={(line) => void keep(line)} />
        {planned.length === 0 && <p className="py-3 text-quiet">Every throw of the plan is made.</p>}
        {/* seen in its row, heard at once */}
        <div role="alert" className="sr-only">
          <ul>
            {planned.map(
              (t, line) =>
                state.rows[line]?.wrong !== undefined && (
                  <li key={t.i}>
                    Throw {t.i + 1}: {state.rows[line].wrong}
                  </li>
                ),
            )}
          </ul>
        </div>
        <div className="mt-3 flex items-center gap-3">
          <p role="status" className="text-quiet">
            {keptRows(state)} of {planned.length} throws kept
          </p>
          <StationLink at="readout" params={{ trialId: trial.id }} className={buttonLook('primary')}>
            Read it
          </StationLink>
          <Button kind="quiet" disabled={storedIds(state).length === 0} onClick={takeBack}>
            Take this sheet back
          </Button>
        </div>
      </Card>
    </div>
  )
}

interface SheetProps {
  readonly view: TrialView
  readonly state: SheetState
  readonly tell: Dispatch<SheetEvent>
  readonly units: Units
}

/** When, where and by whom the sheet was thrown. */
function Outing({ view: { trial, throwers }, state, tell, units }: SheetProps) {
  const { session, headwindMps } = state
  const change = (to: Partial<Session>) => tell({ did: 'changed outing', change: to })
  return (
    <Card className="p-4" label="The outing">
      <div className="mb-3 flex flex-wrap items-baseline gap-3">
        <h1 className="mr-auto text-title">Type in the sheet of {trial.name}</h1>
        <StationLink at="plan" params={{ trialId: trial.id }} className="tap underline underline-offset-4">
          Back to the plan
        </StationLink>
      </div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-6">
        <TextInput
          label="Day"
          type="date"
          value={session.day}
          onChange={(e) => e.target.value && change({ day: e.target.value })}
        />
        <TextInput
          label="Place"
          value={session.place}
          onChange={(e) => change({ place: e.target.value, placeId: null })}
        />
        <Select
          label="Measured"
          value={session.method}
          onChange={(v) => change({ method: v })}
          options={plainOptions(MEASURING_METHODS)}
        />
        <FigureInput
          signed
          label="Air"
          unit={units.temperature.unit}
          value={session.temperatureC === null ? null : units.temperature.to(session.temperatureC)}
          onChange={(v) => change({ temperatureC: v === null ? null : units.temperature.from(v) })}
        />
        <FigureInput
          signed
          label="Headwind, out"
          unit={units.speed.unit}
          value={headwindMps === null ? null : units.speed.to(headwindMps)}
          onChange={(v) => tell({ did: 'noted headwind', mps: v === null ? null : units.speed.from(v) })}
        />
        <ThrowerSelect
          label="Thrown by"
          value={state.throwerId}
          throwers={throwers}
          onChange={(v) => tell({ did: 'chose thrower', throwerId: v })}
        />
      </div>
      <p className="mt-2 text-note text-quiet">
        <Key>↵</Key> keeps a row and goes to the next, <Key>Tab</Key> goes along it, <Key>↓</Key> <Key>↑</Key>{' '}
        go down and up. Side as it is pencilled: 4 L, 2.5 R, 0. A wind beside a throw is that throw’s alone:
        into the face, −3 from behind. Leave out rows that were not thrown.
      </p>
    </Card>
  )
}

interface CellsProps extends SheetProps {
  readonly plan: Plan
  readonly planned: readonly Left[]
  readonly onKeep: (line: number) => void
}

const headsIn = ({ length, speed }: Units): Record<Column, string> => ({
  down: `down, ${length.unit}`,
  side: `side, ${length.unit}`,
  wind: `headwind, ${speed.unit}`,
  hang: 'hang, s',
  called: 'angle seen, °',
  why: 'does not count: why',
})

/** The rows of the sheet, in the order they were thrown. */
function Cells({ view: { discs }, plan, planned, state, tell, units, onKeep }: CellsProps) {
  const grid = useRef<HTMLTableElement>(null)
  const names = useMemo(() => trialNames(discs), [discs])
  const look = useMemo(() => looksById(discs), [discs])
  const heads = headsIn(units)
  const focus = (line: number, column: Column) =>
    grid.current?.querySelector<HTMLInputElement>(`[data-cell="${line} ${column}"]`)?.focus()
  const move = (e: KeyboardEvent<HTMLInputElement>, line: number, column: Column) => {
    if (e.key === 'Enter') {
      e.preventDefault()
      onKeep(line)
      focus(line + 1, 'down')
    } else if (e.key === 'ArrowDown') focus(line + 1, column)
    else if (e.key === 'ArrowUp') focus(line - 1, column)
  }
  return (
    <table ref={grid} className="w-full text-left">
      <thead className="text-note text-quiet">
        <tr>
          <th className="w-12 font-normal">throw</th>
          <th className="font-normal">disc</th>
          <th className="font-normal">release</th>
          {SHEET_COLUMNS.map((c) => (
            <th key={c} className="font-normal">
              {heads[c]}
            </th>
          ))}
          <th className="w-8 font-normal">
            <span className="sr-only">kept</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {planned.map((t, line) => {
          const row = state.rows[line]
          const name = names.get(discs.find((d) => d.disc.id === t.discId)?.disc.code ?? '')
          const isNewRound = line > 0 && planned[line - 1]!.round !== t.round
          return (
            <Fragment key={t.i}>
              <tr className={clsx('border-t', isNewRound ? 'border-t-2 border-edge' : 'border-rule')}>
                <td className="figure py-1">
                  {t.i + 1} <span aria-hidden>{t.leg === 'out' ? '→' : '←'}</span>
                </td>
                <td className="whitespace-nowrap">
                  <span className="flex items-center gap-2">
                    <DiscDot look={look(t.discId)} /> {name}
                  </span>
                </td>
                <td className="whitespace-nowrap">{throwWords({ ...t, power: t.power }, plan)}</td>
                {SHEET_COLUMNS.map((column) => (
                  <td key={column} className={column === 'why' ? 'min-w-40' : 'w-24'}>
                    <input
                      data-cell={`${line} ${column}`}
                      aria-label={`Throw ${t.i + 1}, ${name}, ${heads[column]}`}
                      aria-invalid={row?.wrong !== undefined}
                      value={row?.[column] ?? ''}
                      autoComplete="off"
                      onChange={(e) =>
                        tell({ did: 'typed', line, column, text: e.target.value, id: newId() })
                      }
                      onKeyDown={(e) => move(e, line, column)}
                      onBlur={(e) => {
                        const to = (e.relatedTarget as HTMLElement | null)?.dataset['cell']
                        if (to?.split(' ')[0] !== String(line)) onKeep(line)
                      }}
                      className={clsx(
                        'min-h-9 w-full border-l border-rule bg-card px-2 focus-visible:-outline-offset-3',
                        column !== 'why' && 'figure',
                        row?.wrong !== undefined && 'bg-tint',
                      )}
                    />
                  </td>
                ))}
                <td>{row?.kept && <Check size={18} aria-label="kept" className="text-water" />}</td>
              </tr>
              {row?.wrong !== undefined && (
                <tr aria-hidden>
                  <td colSpan={3} />
                  <td
                    colSpan={SHEET_COLUMNS.length + 1}
                    className="bg-tint px-2 pb-1.5 font-medium text-accent"
                  >
                    {row.wrong}
                  </td>
                </tr>
              )}
            </Fragment>
          )
        })}
      </tbody>
    </table>
  )
}
