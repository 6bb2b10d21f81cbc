import { format } from 'date-fns'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { BLANK_PLAN } from '../../../contract/trials.ts'
import type { Plan, Trial } from '../../../contract/trials.ts'
import { bodyOf } from '../../../contract/sheet.ts'
import { plannedDisc, seedOf } from '../../../contract/proposed.ts'
import { fadeSide } from '../../../core/flight/hand.ts'
import { expectedCarry } from '../../../core/plan/carry.ts'
import { effortOf } from '../../../core/plan/effort.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import { QUESTION_KINDS, questionOf } from '../../../core/plan/questions.ts'
import type { QuestionKind } from '../../../core/plan/questions.ts'
import { useTrial } from '../../data/hooks.ts'
import type { TrialView } from '../../data/hooks.ts'
import { trialNames } from '../../../contract/naming.ts'
import { kindOf } from '../../data/ask.ts'
import { outbox } from '../../data/outbox.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Card, Trouble, Unanswered, Waiting } from '../../parts/Card.tsx'
import { Claims } from '../../parts/Claims.tsx'
import { SelectInput } from '../../parts/Inputs.tsx'
import { sayWrong } from '../../data/say.ts'
import { BuiltClaims } from './BuiltClaims.tsx'
import { CountsCard } from './CountsCard.tsx'
import { HowThrown, MakersClaims } from './HowThrown.tsx'
import { QuestionCard } from './QuestionCard.tsx'
import { dayOf, Takes, useOverloads } from './Takes.tsx'
import { Telling } from './Telling.tsx'
import { WhenWhere } from './WhenWhere.tsx'
import { Expectation } from './Expectation.tsx'
import {
  anglesFor,
  countsOf,
  evenCounts,
  madeSoFar,
  overAngles,
  proposed,
  reordered,
  stepped,
  swapped,
} from '../../../core/plan/planning.ts'
import { countsTaken } from '../../../core/plan/weighed.ts'
import { PlanSheet } from './PlanSheet.tsx'
import { RunOrder } from './RunOrder.tsx'
import { RunOrderHead } from './RunOrderHead.tsx'
import { Settles } from './Settles.tsx'
import { usePlanWorth } from './usePlanWorth.ts'
import { StationLink } from '../../parts/StationLink.tsx'

export default function PlanStation({ trialId }: { trialId: string }) {
  const { view, error } = useTrial(trialId)
  if (error && !view) return <Trouble error={error} />
  if (!view) return <Waiting what="the plan" />
  return <Planning view={view} />
}

/** What a plan is to tell, where that is not every pair apart. */
const TOLD: Partial<Record<QuestionKind, string>> = {
  label: 'each number',
  arms: 'where each finishes for other arms',
  wind: 'what the wind does',
}

function Planning({ view }: { view: TrialView }) {
  const { trial, discs } = view
  const units = useUnits()
  const names = useMemo(() => trialNames(discs), [discs])
  const byId = useMemo(() => new Map(discs.map((d) => [d.disc.id, d])), [discs])
  const planned = useMemo(() => discs.map(plannedDisc), [discs])
  const protocol = trial.plan?.protocol ?? 'same release'
  const made = useMemo(() => madeSoFar(view.throws, protocol), [view.throws, protocol])
  // the same trial proposes the same order, until somebody shuffles
  const seed = seedOf(trial.id)
  const [params] = useSearchParams()
  const wanted = params.get('kind')
  const kind = QUESTION_KINDS.find((k) => k === wanted) ?? kindOf(view)
  const asking = params.get('pair')
  const plan = useMemo(() => {
    const own = trial.plan ?? { ...BLANK_PLAN, ...proposed(trial, planned, kind, seed, made) }
    // whoever comes to settle a pair finds the plan asking about it
    const ids = (asking?.split(',') ?? []).flatMap(
      (code) => discs.find((d) => d.disc.code === code)?.disc.id ?? [],
    )
    return own.pair === null && ids.length === 2 && ids[0] !== ids[1]
      ? { ...own, pair: [ids[0]!, ids[1]!] as [string, string] }
      : own
  }, [trial, planned, kind, seed, made, asking, discs])
  const [spend, setSpend] = useState<number | null>(null)
  const weighed = usePlanWorth(view, plan, spend)
  const { value: worth, working } = weighed
  const codeOf = (id: string) => byId.get(id)?.disc.code ?? ''
  const nameOf = (id: string) => names.get(codeOf(id)) ?? codeOf(id)
  const placeOf = (id: string) => discs.findIndex((d) => d.disc.id === id)
  const thrower = view.throwers[0]
  const locked = view.throws.length + view.takenBack.length > 0

  const firstAt = [...view.throws, ...view.takenBack].reduce(
    (first, t) => (first === '' || t.thrownAt < first ? t.thrownAt : first),
    '',
  )
  const untold = locked && (trial.plan === null || trial.plan.expected.length === 0)

  const kept = useRef(false)
  const keep = (next: Plan, change: Partial<Trial> = {}) => {
    kept.current = true
    const row: Trial = {
      ...trial,
      ...change,
      plan: untold ? { ...next, expected: [] } : next,
      plannedThrows: next.throws.length,
    }
    void outbox.put('trials', row)
  }
  // what was shown here is what the Field throws, however somebody goes there
  const leave = useRef(() => {})
  useEffect(() => {
    leave.current = () => {
      if (trial.plan === null && !kept.current) keep(plan)
    }
  })
  useEffect(() => () => leave.current(), [])
  const recount = (counts: ReturnType<typeof countsOf>) =>
    keep(reordered(plan, counts, planned, made, trial.controlDiscId))
  const counts = countsOf(plan, trial.discIds)
  const done = useMemo(() => {
    const left = new Set(
      remainingThrows(
        plan.throws.map((t, i) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, i })),
        made.map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power })),
        plan.protocol,
      ).map((t) => t.i),
    )
    return new Set(plan.throws.flatMap((_, i) => (left.has(i) ? [] : [i])))
  }, [plan.throws, plan.power, plan.protocol, made])
  const carries = useMemo(
    () =>
      new Map(
        discs.map((d) => [
          d.disc.id,
          expectedCarry(d.inForce.numbers, bodyOf(d.disc), thrower?.backhandMps ?? null, plan.power),
        ]),
      ),
    [discs, thrower, plan.power],
  )
  const effort = effortOf(
    plan.throws
      .filter((_, i) => !done.has(i))
      .map((t) => ({ ...t, disc: t.discId, power: t.power ?? plan.power, thrower: t.throwerId })),
    (id) => carries.get(id) ?? 80,
  )
  const overloads = useOverloads(effort, view.throwers, dayOf(plan)) ?? []
  const over = overloads.reduce((n, a) => n + Math.max(a.tooMany, a.tooManyFull), 0)
  const longestM = Math.max(0, ...carries.values())
  /** Another question proposes its strokes and powers; discs and angles stay those of the trial. */
  const askAnew = (kind: QuestionKind) => {
    const q = questionOf(kind)
    const next: Plan = {
      ...plan,
      kind,
      power: q.power,
      easedTo: q.easedTo ?? null,
      strokes: q.bothStrokes ? ['backhand', 'forehand'] : ['backhand'],
      windMps: q.wantsWind ? Math.max(3, plan.windMps) : plan.windMps,
    }
    keep(reordered(next, counts, planned, made, trial.controlDiscId))
  }
  /** Another protocol throws other angles: as many throws of each disc as before. */
  const throwBy = (next: Plan['protocol']) => {
    const hyzerDegs = [...anglesFor(plan, next)]
    const again = reordered(
      { ...plan, protocol: next },
      overAngles(counts, trial.discIds, hyzerDegs),
      planned,
      madeSoFar(view.throws, next),
      trial.controlDiscId,
    )
    keep(again, { hyzerDegs })
  }
  const asked = (plan.expected.length > 0 ? plan.expected : trial.discIds).filter(
    (id) => id !== trial.controlDiscId,
  )

  return (
    <>
      <div className="grid gap-3 p-3 md:p-4 lg:grid-cols-[17rem_minmax(0,1fr)] xl:grid-cols-[17rem_minmax(0,1fr)_21rem] print:hidden">
        <div className="grid content-start gap-3">
          <QuestionCard
            plan={plan}
            onProtocol={throwBy}
            onKind={askAnew}
            discIds={asked}
            nameOf={nameOf}
            onPair={(pair) => keep({ ...plan, pair })}
            onConvention={(convention) => keep({ ...plan, convention })}
          />
          <Card className="p-4" label="What do you expect?">
            <h2 className="text-lead">What do you expect?</h2>
            <p className="mb-2 text-note text-quiet">
              {untold
                ? 'Nobody said before the first throw, and afterwards nobody remembers it right.'
                : locked
                  ? `Most stable first. Locked since the first throw, ${format(firstAt, 'd MMM, H:mm')}.`
                  : 'Most stable first; drag. Locked at the first throw.'}
            </p>
            <Expectation
              expected={untold ? [] : plan.expected}
              nameOf={nameOf}
              placeOf={placeOf}
              locked={locked}
              onOrder={(expected) => keep({ ...plan, expected })}
            />
            {(!locked || plan.likeDiscId !== null) && (
              <SelectInput
                label="It should fly like"
                className="mt-2"
                disabled={locked}
                value={plan.likeDiscId ?? ''}
                onChange={(e) => keep({ ...plan, likeDiscId: e.target.value || null })}
              >
                <option value="">nothing said</option>
                {discs.map((d) => (
                  <option key={d.disc.id} value={d.disc.id}>
                    {nameOf(d.disc.id)}
                  </option>
                ))}
              </SelectInput>
            )}
            <div className="mt-3">
              <BuiltClaims
                built={plan.built}
                discIds={asked}
                nameOf={nameOf}
                locked={locked}
                onBuilt={(built) => keep({ ...plan, built })}
              />
              <Claims
                title="Claims in words of your own"
                claims={plan.claims}
                locked={locked}
                onClaims={(claims) => keep({ ...plan, claims })}
              />
              {!locked && (
                <MakersClaims
                  discs={discs}
                  claims={plan.claims}
                  onClaim={(claim) => keep({ ...plan, claims: [...plan.claims, claim] })}
                />
              )}
            </div>
          </Card>
        </div>

        <div className="grid min-w-0 content-start gap-3">
          <Card className="p-4" label="Run order">
            <RunOrderHead
              plan={plan}
              trialId={trial.id}
              onPlan={(change) =>
                keep(reordered({ ...plan, ...change }, counts, planned, made, trial.controlDiscId))
              }
              onSheet={() => trial.plan === null && keep(plan)}
            />
            <RunOrder
              plan={plan}
              nameOf={nameOf}
              placeOf={placeOf}
              throwers={view.throwers}
              fadeSide={fadeSide(thrower?.hand ?? 'right', 'backhand')}
              done={done}
              onSwap={(a, b) => {
                const next = swapped(plan, a, b)
                if (next) keep(next)
                else sayWrong('That round would need the same disc twice, and there is one of it.')
              }}
            />
          </Card>
          <Takes effort={effort} left={done.size > 0} throwers={view.throwers} day={dayOf(plan)} />
          <CountsCard
            {...{ trial, plan, counts, nameOf, placeOf }}
            onStep={(disc, deg, by) => recount(stepped(counts, disc, deg, by))}
          />
          <WhenWhere
            {...{ trial, plan }}
            minutes={effort.minutes}
            longestM={longestM}
            onPlan={(change) => keep({ ...plan, ...change })}
          />
        </div>

        <div className="grid content-start gap-3 lg:max-xl:col-span-2 lg:max-xl:grid-cols-2">
          <Card className="p-4" label="What this plan can settle">
            <h2 className="text-lead">What this plan can settle</h2>
            <p className="mb-2 text-note text-quiet">
              Chance that {done.size > 0 ? 'the throws left' : `these ${plan.throws.length} throws`} tell{' '}
              {TOLD[plan.kind] ?? 'each pair apart'}, by this trial’s own throws as its answer is, every angle
              called
            </p>
            {worth ? (
              <Settles
                codes={asked.map(codeOf)}
                nameOf={(code) => names.get(code) ?? code}
                placeOf={(code) => discs.findIndex((d) => d.disc.code === code)}
                worth={worth.settles}
                working={working}
              />
            ) : weighed.error ? (
              <Unanswered asked={weighed} />
            ) : (
              <p className="text-quiet" role="status">
                {working
                  ? 'Weighing the plan …'
                  : 'Add a thrower first: what a plan shows depends on the arm.'}
              </p>
            )}
          </Card>
          {worth && worth.planned.aims.length > 0 && (
            <Telling
              worth={worth}
              working={working}
              spend={spend}
              onSpend={setSpend}
              nameOf={(code) => names.get(code) ?? code}
              onTake={() =>
                recount(
                  countsTaken(
                    plan,
                    done,
                    worth.telling.throws,
                    (code) => discs.find((d) => d.disc.code === code)!.disc.id,
                  ),
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
          <StationLink
            at="field"
            params={{ trialId: trial.id }}
            onClick={() => trial.plan === null && keep(plan)}
            className="inline-flex min-h-11 items-center justify-center rounded-lg bg-spruce px-4 font-semibold text-on-spruce hover:brightness-125"
          >
            {locked ? 'Throw on' : 'Throw the first'}
            {over > 0 && `, ${over} beyond the arm’s budget`}
          </StationLink>
          <HowThrown
            {...{ plan, discs, nameOf }}
            throwers={view.throwers}
            onPlan={(change) => keep({ ...plan, ...change })}
            onDeal={(change) =>
              keep(reordered({ ...plan, ...change }, counts, planned, made, trial.controlDiscId))
            }
          />
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
