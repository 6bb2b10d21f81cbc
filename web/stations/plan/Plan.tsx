import { Minus, Plus, Printer, Shuffle } from 'lucide-react'
import { useMemo } from 'react'
import { Link, useSearchParams } from 'react-router'
import { CONVENTIONS, PROTOCOLS } from '../../../contract/trials.ts'
import type { Plan, Trial } from '../../../contract/trials.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { fadeSide } from '../../../core/flight/hand.ts'
import { expectedCarry } from './carry.ts'
import { effortOf } from '../../../core/plan/effort.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import { QUESTION_KINDS } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import { useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../data/naming.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { angleWords, percent } from '../../data/units.ts'
import { Button } from '../../parts/Button.tsx'
import { Card, Trouble, Waiting } from '../../parts/Card.tsx'
import { Choice } from '../../parts/Choice.tsx'
import { DiscDot } from '../../parts/Disc.tsx'
import { Claims } from '../../parts/Claims.tsx'
import { SelectInput } from '../../parts/Inputs.tsx'
import { Expectation } from './Expectation.tsx'
import { countsOf, evenCounts, madeSoFar, proposed, questionOf, reordered, stepped } from './planning.ts'
import { PlanSheet } from './PlanSheet.tsx'
import { RunOrder } from './RunOrder.tsx'
import { Settles } from './Settles.tsx'
import { usePlanWorth } from './usePlanWorth.ts'
import type { PlanWorth } from './usePlanWorth.ts'

export default function PlanStation({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the plan" />
  return <Planning view={view} />
}

/** What a trial asks, guessed from its discs until somebody says. */
const guess = (discs: readonly ShelvedDisc[]): QuestionKind =>
  discs.length < 2 ? 'label' : new Set(discs.map((d) => d.mold.id)).size === 1 ? 'plastics' : 'molds'

function Planning({ view }: { view: TrialView }) {
  const { trial, discs } = view
  const units = useUnits()
  const names = useMemo(() => trialNames(discs), [discs])
  const byId = useMemo(() => new Map(discs.map((d) => [d.disc.id, d])), [discs])
  const made = useMemo(() => madeSoFar(view.throws), [view.throws])
  // the same trial proposes the same order, until somebody shuffles
  const seed = Number.parseInt(trial.id.slice(-5), 16)
  const [params] = useSearchParams()
  const wanted = params.get('kind')
  const kind = QUESTION_KINDS.find((k) => k === wanted) ?? guess(discs)
  const plan = useMemo(
    () => trial.plan ?? proposed(trial, discs, kind, seed, made),
    [trial, discs, kind, seed, made],
  )
  const { worth, working } = usePlanWorth(view, plan)
  const codeOf = (id: string) => byId.get(id)?.disc.code ?? ''
  const nameOf = (id: string) => names.get(codeOf(id)) ?? codeOf(id)
  const placeOf = (id: string) => discs.findIndex((d) => d.disc.id === id)
  const thrower = view.throwers[0]
  const locked = view.throws.length + view.takenBack.length > 0

  const untold = locked && (trial.plan === null || trial.plan.expected.length === 0)

  const keep = (next: Plan) => {
    const row: Trial = {
      ...trial,
      plan: untold ? { ...next, expected: [] } : next,
      plannedThrows: next.throws.length,
    }
    void outbox.put(`/api/trials/${trial.id}`, row)
  }
  const recount = (counts: ReturnType<typeof countsOf>) => keep(reordered(plan, counts, discs, made))
  const counts = countsOf(plan, trial.discIds)
  const done = useMemo(() => {
    const left = new Set(
      remainingThrows(
        plan.throws.map((t, i) => ({ disc: t.discId, hyzerDeg: t.hyzerDeg, i })),
        view.throws.filter((t) => t.counts).map((t) => ({ disc: t.discId, hyzerDeg: t.hyzerDeg })),
      ).map((t) => t.i),
    )
    return new Set(plan.throws.flatMap((_, i) => (left.has(i) ? [] : [i])))
  }, [plan, view.throws])
  const carries = useMemo(
    () => new Map(discs.map((d) => [d.disc.id, expectedCarry(d, thrower?.backhandMps ?? null, plan.power)])),
    [discs, thrower, plan.power],
  )
  const effort = effortOf(
    plan.throws.filter((_, i) => !done.has(i)).map((t) => ({ ...t, disc: t.discId })),
    (id) => carries.get(id) ?? 80,
    plan.power,
  )
  const question = questionOf(plan.kind)
  const asked = (plan.expected.length > 0 ? plan.expected : trial.discIds).filter(
    (id) => id !== trial.controlDiscId,
  )

  return (
    <>
      <div className="grid gap-3 p-3 md:p-4 lg:grid-cols-[17rem_minmax(0,1fr)] xl:grid-cols-[17rem_minmax(0,1fr)_21rem] print:hidden">
        <div className="grid content-start gap-3">
          <Card className="space-y-2.5 p-4" label="Question">
            <h1 className="text-lead">{question.words}</h1>
            <p className="text-note text-quiet">
              Wants {question.discs}. Answered by {question.measure}.
            </p>
            <SelectInput
              label="Question"
              value={plan.kind}
              onChange={(e) => {
                const kind = e.target.value as QuestionKind
                keep({ ...plan, kind, power: questionOf(kind).power })
              }}
            >
              {QUESTION_KINDS.map((k) => (
                <option key={k} value={k}>
                  {questionOf(k).words}
                </option>
              ))}
            </SelectInput>
            <Choice
              label="Printed numbers describe a disc that is"
              showLabel
              value={plan.convention}
              options={CONVENTIONS.map((c) => ({ value: c, label: c }))}
              onChange={(convention) => keep({ ...plan, convention })}
            />
            <Choice
              label="Every disc is thrown with the"
              showLabel
              value={plan.protocol}
              options={PROTOCOLS.map((c) => ({ value: c, label: c }))}
              onChange={(protocol) => keep({ ...plan, protocol })}
            />
          </Card>
          <Card className="p-4" label="What do you expect?">
            <h2 className="text-lead">What do you expect?</h2>
            <p className="mb-2 text-note text-quiet">
              {untold
                ? 'Nobody said before the first throw, and afterwards nobody remembers it right.'
                : locked
                  ? 'Most stable first. Locked since the first throw.'
                  : 'Most stable first; drag. Locked at the first throw.'}
            </p>
            <Expectation
              expected={untold ? [] : plan.expected}
              nameOf={nameOf}
              placeOf={placeOf}
              locked={locked}
              onOrder={(expected) => keep({ ...plan, expected })}
            />
            <div className="mt-3">
              <Claims
                title="Claims to test"
                claims={plan.claims}
                locked={locked}
                onClaims={(claims) => keep({ ...plan, claims })}
              />
            </div>
          </Card>
        </div>

        <div className="grid min-w-0 content-start gap-3">
          <Card className="p-4" label="Run order">
            <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-2">
              <div className="mr-auto">
                <h2 className="text-lead">Run order</h2>
                <p className="text-note text-quiet">
                  {plan.order === 'shuffled'
                    ? `shuffled and balanced in both legs, seed ${plan.seed}`
                    : 'least to most stable every time: the last disc meets the latest wind and a tired arm'}
                </p>
              </div>
              <Choice
                label="Order"
                value={plan.order}
                options={[
                  { value: 'shuffled', label: 'Shuffled' },
                  { value: 'fixed', label: 'Fixed' },
                ]}
                onChange={(order) => keep(reordered({ ...plan, order }, counts, discs, made))}
              />
              {plan.order === 'shuffled' && (
                <Button
                  onClick={() => keep(reordered({ ...plan, seed: plan.seed + 1 }, counts, discs, made))}
                >
                  <Shuffle size={16} aria-hidden /> Shuffle again
                </Button>
              )}
              <Button onClick={() => window.print()}>
                <Printer size={16} aria-hidden /> Print sheet
              </Button>
            </div>
            <RunOrder
              plan={plan}
              nameOf={nameOf}
              placeOf={placeOf}
              fadeSide={fadeSide(thrower?.hand ?? 'right', 'backhand')}
              done={done}
            />
          </Card>
          <Card className="grid grid-cols-2 gap-3 p-4 sm:grid-cols-4" label="What it takes">
            {(
              [
                [String(effort.throws), done.size > 0 ? 'throws left' : 'throws'],
                [String(effort.fullPower), 'at full power'],
                [String(Math.round(effort.minutes)), 'minutes'],
                [
                  units.kind === 'metric'
                    ? `${(effort.walkM / 1000).toFixed(1)} km`
                    : `${(effort.walkM / 1609.344).toFixed(1)} mi`,
                  'walk',
                ],
              ] as const
            ).map(([value, label]) => (
              <p key={label}>
                <span className="figure block text-title">{value}</span>
                <span className="text-note text-quiet">{label}</span>
              </p>
            ))}
          </Card>
          <Card className="overflow-x-auto p-4" label="Throws of each disc">
            <h2 className="mb-1 text-lead">Throws of each disc</h2>
            <table className="w-full">
              <thead>
                <tr className="text-note text-quiet">
                  <th className="text-left font-normal">disc</th>
                  {trial.hyzerDegs.map((deg) => (
                    <th key={deg} className="font-normal">
                      {angleWords(deg)}
                    </th>
                  ))}
                  <th className="text-right font-normal">in all</th>
                </tr>
              </thead>
              <tbody>
                {trial.discIds.map((id) => (
                  <tr key={id} className="border-t border-rule">
                    <th scope="row" className="py-1 text-left font-medium">
                      <span className="flex items-center gap-2">
                        <DiscDot place={placeOf(id)} /> <span className="truncate">{nameOf(id)}</span>
                        {id === trial.controlDiscId && <span className="text-note text-quiet">control</span>}
                      </span>
                    </th>
                    {trial.hyzerDegs.map((deg) => (
                      <td key={deg}>
                        <Count
                          what={`${nameOf(id)}, ${angleWords(deg)}`}
                          value={counts
                            .filter((c) => c.disc === id && c.hyzerDeg === deg)
                            .reduce((s, c) => s + c.throws, 0)}
                          onStep={(by) => recount(stepped(counts, id, deg, by))}
                        />
                      </td>
                    ))}
                    <td className="figure text-right">
                      {counts.filter((c) => c.disc === id).reduce((s, c) => s + c.throws, 0)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Card>
        </div>

        <div className="grid content-start gap-3 lg:max-xl:col-span-2 lg:max-xl:grid-cols-2">
          <Card className="p-4" label="What this plan can settle">
            <h2 className="text-lead">What this plan can settle</h2>
            <p className="mb-2 text-note text-quiet">
              Chance that {done.size > 0 ? 'the throws left' : `these ${plan.throws.length} throws`} tell each
              pair apart, as things are believed now and with every angle called
            </p>
            {worth ? (
              <Settles
                codes={asked.map(codeOf)}
                nameOf={(code) => names.get(code) ?? code}
                placeOf={(code) => discs.findIndex((d) => d.disc.code === code)}
                worth={worth.planned}
                working={working}
              />
            ) : (
              <p className="text-quiet" role="status">
                Weighing the plan …
              </p>
            )}
          </Card>
          {worth && asked.length > 1 && (
            <Telling
              worth={worth}
              working={working}
              nameOf={(code) => names.get(code) ?? code}
              onTake={() =>
                recount(
                  takenFrom(worth, (code) => discs.find((d) => d.disc.code === code)!.disc.id, plan, done),
                )
              }
              onEven={() =>
                recount(
                  evenCounts(
                    trial.discIds,
                    trial.hyzerDegs,
                    Math.max(
                      1,
                      Math.round(plan.throws.length / (trial.discIds.length * trial.hyzerDegs.length)),
                    ),
                  ),
                )
              }
            />
          )}
          <Link
            to={`/trials/${trial.id}/field`}
            onClick={() => trial.plan === null && keep(plan)}
            className="inline-flex min-h-11 items-center justify-center rounded-lg bg-spruce px-4 font-semibold text-on-spruce hover:brightness-125"
          >
            {locked ? 'Throw on' : 'Throw the first'}
          </Link>
        </div>
      </div>
      <PlanSheet
        trial={trial}
        plan={plan}
        nameOf={nameOf}
        codeOf={codeOf}
        lengthUnit={units.length.unit}
        done={done}
      />
    </>
  )
}

/** The telling throws as counts, with what is already thrown kept as it was. */
function takenFrom(
  worth: PlanWorth,
  idOf: (code: string) => string,
  plan: Plan,
  done: ReadonlySet<number>,
): ReturnType<typeof countsOf> {
  const tally = new Map<string, ReturnType<typeof countsOf>[number]>()
  const add = (disc: string, hyzerDeg: number, leg: 'out' | 'back') => {
    const key = `${disc} ${hyzerDeg} ${leg}`
    tally.set(key, { disc, hyzerDeg, leg, throws: (tally.get(key)?.throws ?? 0) + 1 })
  }
  plan.throws.forEach((t, i) => done.has(i) && add(t.discId, t.hyzerDeg, t.leg))
  for (const t of worth.telling.throws)
    add(idOf(t.disc), Math.round((t.hyzerRad * 180) / Math.PI), t.air.windAlongMps <= 0 ? 'out' : 'back')
  return [...tally.values()]
}

function Count({ what, value, onStep }: { what: string; value: number; onStep: (by: 1 | -1) => void }) {
  const step =
    'grid size-7 place-items-center rounded-md border border-edge hover:bg-tint disabled:opacity-40 max-md:size-11'
  return (
    <span className="flex items-center justify-center gap-1.5">
      <button
        type="button"
        className={step}
        aria-label={`One throw fewer: ${what}`}
        disabled={value === 0}
        onClick={() => onStep(-1)}
      >
        <Minus size={14} aria-hidden />
      </button>
      <span className="figure w-5 text-center">{value}</span>
      <button type="button" className={step} aria-label={`One throw more: ${what}`} onClick={() => onStep(1)}>
        <Plus size={14} aria-hidden />
      </button>
    </span>
  )
}

interface TellingProps {
  readonly worth: PlanWorth
  readonly working: boolean
  readonly nameOf: (code: string) => string
  readonly onTake: () => void
  readonly onEven: () => void
}

/** The same number of throws where they tell most, beside the plan as it is. */
function Telling({ worth: { planned, telling }, working, nameOf, onTake, onEven }: TellingProps) {
  const share = (p: PlanWorth['planned']) =>
    p.pairs.reduce((s, x) => s + x.chanceSettled, 0) / Math.max(1, p.pairs.length)
  const better = telling.wrongAfter < planned.wrongAfter - 1e-4
  return (
    <Card className="p-4" label="Spend the throws where they tell most">
      <h2 className="text-lead">Spend the throws where they tell most</h2>
      <p className="mt-1 mb-2" role="status">
        {better ? changeWords(planned, telling, nameOf) : 'No other set of as many throws would tell more.'}
      </p>
      {[
        ['as planned', share(planned)] as const,
        ...(better ? [['most telling', share(telling)] as const] : []),
      ].map(([label, p], i) => (
        <div key={label} className="flex items-center gap-2 py-0.5">
          <span className="w-24 shrink-0 text-note">{label}</span>
          <span className="h-3.5 flex-1 overflow-hidden rounded bg-tint" aria-hidden>
            <span
              className={i === 0 ? 'block h-full bg-quiet' : 'block h-full bg-water'}
              style={{ width: `${100 * p}%` }}
            />
          </span>
          <span className="figure w-12 text-right">{percent(p)}</span>
        </div>
      ))}
      <p className="mt-1 text-note text-quiet">of the pairs expected to be settled</p>
      <div className="mt-3 flex gap-2">
        <Button kind="primary" disabled={!better || working} onClick={onTake}>
          Rearrange
        </Button>
        <Button onClick={onEven}>Spread evenly</Button>
      </div>
    </Card>
  )
}

/** What would change, in one sentence: who gets throws, who gives them. */
function changeWords(
  planned: PlanWorth['planned'],
  telling: PlanWorth['telling'],
  nameOf: (code: string) => string,
): string {
  const tally = (p: PlanWorth['planned']) =>
    p.throws.reduce((m, t) => m.set(t.disc, (m.get(t.disc) ?? 0) + 1), new Map<string, number>())
  const [before, after] = [tally(planned), tally(telling)]
  const moved = [...new Set([...before.keys(), ...after.keys()])]
    .map((code) => ({ code, by: (after.get(code) ?? 0) - (before.get(code) ?? 0) }))
    .filter((m) => m.by !== 0)
    .sort((a, b) => b.by - a.by)
  const list = (of: typeof moved, word: string) =>
    new Intl.ListFormat('en').format(
      of.slice(0, 3).map((m, i) => `${Math.abs(m.by)}${i === 0 ? ` ${word}` : ''} for ${nameOf(m.code)}`),
    )
  const [more, fewer] = [moved.filter((m) => m.by > 0), moved.filter((m) => m.by < 0).reverse()]
  const said = [more.length > 0 && list(more, 'more'), fewer.length > 0 && list(fewer, 'fewer')].filter(
    Boolean,
  )
  const off = telling.throws.filter((t) => t.hyzerRad !== 0).length / Math.max(1, telling.throws.length)
  return said.length > 0 ? `${said.join('; ')}.` : `${percent(off)} of the throws off flat.`
}
