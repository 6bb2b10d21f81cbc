import clsx from 'clsx'
import { Check } from 'lucide-react'
import { useMemo, useRef, useState } from 'react'
import type { KeyboardEvent } from 'react'
import { v7 as newId } from 'uuid'
import { MEASURING_METHODS } from '../../../core/throw/method.ts'
import { dayAt } from '../../../core/throw/day.ts'
import { NOTHING_OBSERVED } from '../../../core/throw/observed.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import { NO_WATCHER, Throw } from '../../../contract/trials.ts'
import type { Plan, Session } from '../../../contract/trials.ts'
import { wrongWords } from '../../../contract/words.ts'
import { usePlaces, useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { noteMade } from '../../data/made.ts'
import { outbox } from '../../data/outbox.ts'
import { atPlace } from '../../data/outing.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button, buttonLook, Key } from '../../parts/Button.tsx'
import { Card, Empty, Trouble, Waiting } from '../../parts/Card.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { FigureInput, SelectInput, TextInput } from '../../parts/Inputs.tsx'
import { say } from '../../data/say.ts'
import { throwWords } from './RunOrder.tsx'
import { readDistance, readSide } from './sheetCells.ts'
import { StationLink } from '../../parts/StationLink.tsx'

/** Types the pencilled sheet in, in its own order. */
export default function SheetEntry({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the plan" />
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

const COLUMNS = ['down', 'side', 'hang', 'called', 'why'] as const
type Column = (typeof COLUMNS)[number]
/** A row has its throw’s id from its first letter on, so that keeping it twice is keeping it once. */
type Row = Record<Column, string> & { readonly id: string; readonly kept: boolean; readonly wrong?: string }
const EMPTY: Omit<Row, 'id'> = { down: '', side: '', hang: '', called: '', why: '', kept: false }

function Sheet({ view, plan }: { view: TrialView; plan: Plan }) {
  const { trial, discs } = view
  const units = useUnits()
  const places = usePlaces()
  const names = useMemo(() => trialNames(discs), [discs])
  // the sheet keeps its rows while they are being typed: it is taken from the throws there were when it was opened
  const [planned] = useState(() =>
    remainingThrows(
      plan.throws.map((t, i) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, i })),
      view.throws.filter((t) => t.counts).map((t) => ({ ...t, disc: t.discId })),
      plan.protocol,
    ),
  )
  const [rows, setRows] = useState<Record<number, Row>>({})
  const [session, setSession] = useState<Session>(() => {
    const place = places.find((p) => p.id === plan.placeId)
    return {
      ...NO_WATCHER,
      id: newId(),
      ...atPlace(place),
      day: dayAt(plan.startsAt ?? Date.now(), place?.timeZone ?? null),
      temperatureC: null,
      altitudeM: place?.altitudeM ?? null,
      method: 'paced',
    }
  })
  const [throwerId, setThrowerId] = useState(view.throwers[0]?.id ?? '')
  const [outAlong, setOutAlong] = useState<number | null>(null)
  const grid = useRef<HTMLTableElement>(null)
  // rows of one sheet were thrown one after another
  const [startedAt] = useState(() => Date.now())

  const focus = (line: number, column: Column) =>
    grid.current?.querySelector<HTMLInputElement>(`[data-cell="${line} ${column}"]`)?.focus()

  /** Stores a row where it says enough; says what is wrong with it where it does not. */
  const keep = async (line: number): Promise<void> => {
    const t = planned[line]!
    const row = rows[line]
    if (!row || COLUMNS.every((c) => row[c].trim() === '')) return
    const wrong = (sentence: string) => setRows((r) => ({ ...r, [line]: { ...row, wrong: sentence } }))
    const down = readDistance(row.down)
    const side = row.side.trim() === '' ? 0 : readSide(row.side)
    const hang = row.hang.trim() === '' ? null : readDistance(row.hang)
    const called = row.called.trim() === '' ? null : Number(row.called.replace(',', '.').replace('−', '-'))
    if (down === undefined) return wrong(`Down is “${row.down}”; write how far down the line it landed.`)
    if (side === undefined) return wrong(`Side is “${row.side}”; write the side too, such as 4 L or 2.5 R.`)
    if (hang === undefined) return wrong(`Hang time is “${row.hang}”; write seconds.`)
    if (called !== null && Number.isNaN(called))
      return wrong(`Angle is “${row.called}”; write degrees of hyzer.`)
    const thrower = view.throwers.find((x) => x.id === (t.throwerId ?? throwerId))
    if (!thrower) return wrong('Choose who threw.')
    const read = Throw.safeParse({
      id: row.id,
      trialId: trial.id,
      sessionId: session.id,
      discId: t.discId,
      throwerId: thrower.id,
      label: null,
      thrownAt: new Date(
        session.day === dayAt(startedAt, session.timeZone)
          ? startedAt + line
          : Date.parse(`${session.day}T12:00:00`) + line,
      ).toISOString(),
      ...NOTHING_OBSERVED,
      hand: thrower.hand,
      stroke: t.stroke,
      leg: t.leg,
      power: t.power,
      // on the line the angle it took is what was meant
      hyzerDeg: plan.protocol === 'same line' ? (called ?? t.hyzerDeg) : t.hyzerDeg,
      hyzerCalledDeg: called,
      windAlongMps: outAlong === null ? null : (t.leg === 'out' ? -1 : 1) * outAlong,
      windAcrossMps: outAlong === null ? null : 0,
      carryM: Math.round(10 * units.length.from(down)) / 10,
      rightM: Math.round(10 * units.length.from(side)) / 10 + 0,
      hangS: hang,
      counts: row.why.trim() === '',
      whyNot: row.why.trim() || null,
      notes: {},
      takenBackAt: null,
    })
    if (!read.success) return wrong(`${wrongWords(read.error.issues[0]!)}.`)
    if (!view.sessions.some((s) => s.id === session.id)) await outbox.put('sessions', session)
    await outbox.put('throws', read.data)
    noteMade(view.trial.id, read.data.id)
    setRows((r) => {
      const { wrong: _, ...rest } = r[line] ?? row
      return { ...r, [line]: { ...rest, kept: true } }
    })
  }

  const move = (e: KeyboardEvent<HTMLInputElement>, line: number, column: Column) => {
    if (e.key === 'Enter') {
      e.preventDefault()
      void keep(line)
      focus(line + 1, 'down')
    } else if (e.key === 'ArrowDown') focus(line + 1, column)
    else if (e.key === 'ArrowUp') focus(line - 1, column)
  }
  const kept = Object.values(rows).filter((r) => r.kept).length
  const HEADS: Record<Column, string> = {
    down: `down, ${units.length.unit}`,
    side: `side, ${units.length.unit}`,
    hang: 'hang, s',
    called: 'angle seen, °',
    why: 'does not count: why',
  }
  return (
    <div className="mx-auto grid max-w-5xl gap-3 p-3 md:p-4">
      <Card className="p-4" label="The outing">
        <div className="mb-3 flex flex-wrap items-baseline gap-3">
          <h1 className="mr-auto text-title">Type in the sheet of {trial.name}</h1>
          <StationLink at="plan" params={{ trialId: trial.id }} className="underline underline-offset-4">
            Back to the plan
          </StationLink>
        </div>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-6">
          <TextInput
            label="Day"
            type="date"
            value={session.day}
            onChange={(e) => e.target.value && setSession({ ...session, day: e.target.value })}
          />
          <TextInput
            label="Place"
            value={session.place}
            onChange={(e) => setSession({ ...session, place: e.target.value, placeId: null })}
          />
          <SelectInput
            label="Measured"
            value={session.method}
            onChange={(e) => setSession({ ...session, method: e.target.value as Session['method'] })}
          >
            {MEASURING_METHODS.map((m) => (
              <option key={m}>{m}</option>
            ))}
          </SelectInput>
          <FigureInput
            label="Air"
            unit={units.temperature.unit}
            value={session.temperatureC === null ? null : units.temperature.to(session.temperatureC)}
            onChange={(v) =>
              setSession({ ...session, temperatureC: v === null ? null : units.temperature.from(v) })
            }
          />
          <FigureInput
            label="Headwind, out"
            unit={units.speed.unit}
            value={outAlong === null ? null : units.speed.to(outAlong)}
            onChange={(v) => setOutAlong(v === null ? null : units.speed.from(v))}
          />
          <SelectInput label="Thrown by" value={throwerId} onChange={(e) => setThrowerId(e.target.value)}>
            {view.throwers.map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
          </SelectInput>
        </div>
        <p className="mt-2 text-note text-quiet">
          <Key>↵</Key> keeps a row and goes to the next, <Key>Tab</Key> goes along it, <Key>↓</Key>{' '}
          <Key>↑</Key> go down and up. Side as it is pencilled: 4 L, 2.5 R, 0. Leave out rows that were not
          thrown.
        </p>
      </Card>
      <Card className="overflow-x-auto p-4" label="The sheet">
        <table ref={grid} className="w-full text-left">
          <thead className="text-note text-quiet">
            <tr>
              <th className="w-12 font-normal">throw</th>
              <th className="font-normal">disc</th>
              <th className="font-normal">release</th>
              {COLUMNS.map((c) => (
                <th key={c} className="font-normal">
                  {HEADS[c]}
                </th>
              ))}
              <th className="w-8 font-normal">
                <span className="sr-only">kept</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {planned.map((t, line) => {
              const row: Omit<Row, 'id'> = rows[line] ?? EMPTY
              const at = discs.findIndex((d) => d.disc.id === t.discId)
              const code = discs[at]?.disc.code ?? ''
              return (
                <tr
                  key={t.i}
                  className={clsx(
                    'border-t',
                    line > 0 && planned[line - 1]!.round !== t.round
                      ? 'border-t-2 border-edge'
                      : 'border-rule',
                  )}
                >
                  <td className="figure py-1">
                    {t.i + 1} <span aria-hidden>{t.leg === 'out' ? '→' : '←'}</span>
                  </td>
                  <td className="whitespace-nowrap">
                    <span className="flex items-center gap-2">
                      <DiscDot place={at} /> {names.get(code)}
                    </span>
                  </td>
                  <td className="whitespace-nowrap">{throwWords({ ...t, power: t.power }, plan)}</td>
                  {COLUMNS.map((c) => (
                    <td key={c} className={c === 'why' ? 'min-w-40' : 'w-24'}>
                      <input
                        data-cell={`${line} ${c}`}
                        aria-label={`Throw ${t.i + 1}, ${names.get(code)}, ${HEADS[c]}`}
                        aria-invalid={row.wrong !== undefined}
                        value={row[c]}
                        autoComplete="off"
                        onChange={(e) => {
                          const { wrong: _, ...rest } = row
                          const id = rows[line]?.id ?? newId()
                          setRows((r) => ({ ...r, [line]: { ...rest, id, [c]: e.target.value } }))
                        }}
                        onKeyDown={(e) => move(e, line, c)}
                        onBlur={(e) => {
                          const to = (e.relatedTarget as HTMLElement | null)?.dataset['cell']
                          if (to?.split(' ')[0] !== String(line)) void keep(line)
                        }}
                        className={clsx(
                          'min-h-9 w-full border-l border-rule bg-card px-2 focus-visible:-outline-offset-3',
                          c !== 'why' && 'figure',
                          row.wrong !== undefined && 'bg-tint',
                        )}
                      />
                    </td>
                  ))}
                  <td>{row.kept && <Check size={18} aria-label="kept" className="text-water" />}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
        {planned.length === 0 && <p className="py-3 text-quiet">Every throw of the plan is made.</p>}
        <div role="alert">
          {' '}
          <ul className="mt-2">
            {planned.flatMap((t, line) =>
              rows[line]?.wrong === undefined
                ? []
                : [
                    <li key={line} className="font-medium text-accent">
                      Throw {t.i + 1}: {rows[line].wrong}
                    </li>,
                  ],
            )}
          </ul>
        </div>
        <div className="mt-3 flex items-center gap-3">
          <p role="status" className="text-quiet">
            {kept} of {planned.length} throws kept
          </p>
          <StationLink at="readout" params={{ trialId: trial.id }} className={buttonLook('primary')}>
            Read it
          </StationLink>
          <Button
            kind="quiet"
            disabled={kept === 0}
            onClick={() => {
              const own = Object.entries(rows).filter(([, r]) => r.kept)
              const at = new Date().toISOString()
              for (const [, r] of own) {
                const stored = view.throws.find((x) => x.id === r.id)
                if (stored) void outbox.put('throws', { ...stored, takenBackAt: at })
              }
              setRows({})
              say(`${own.length} throws of this sheet were taken back.`)
            }}
          >
            Take this sheet back
          </Button>
        </div>
      </Card>
    </div>
  )
}
