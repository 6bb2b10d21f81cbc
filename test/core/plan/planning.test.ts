import { expect } from 'chai'
import { harrowmere } from '../../../demo/harrowmere.ts'
import { demoId } from '../../../demo/shed.ts'
import { shelvedDiscs } from '../../../contract/sheet.ts'
import type { PlanDisc, RunPlan as Plan } from '../../../core/plan/planning.ts'
import {
  countsOf,
  evenCounts,
  anglesFor,
  madeSoFar,
  overAngles,
  proposed,
  reordered,
  stepped,
  swapped,
  warmUpsOf,
} from '../../../core/plan/planning.ts'

const demo = harrowmere()
const trial = demo.trials.find((t) => t.id === demoId('trial', 'fairways'))!
const discs = trial.discIds.map((id): PlanDisc => {
  const d = shelvedDiscs(demo).find((x) => x.disc.id === id)!
  return { id, numbers: d.inForce.numbers, isNew: d.disc.wear === 'new' }
})
const plan = proposed({ ...trial, plannedThrows: 48 }, discs, 'molds', 5, [])
const size = (p: Plan) => p.throws.length

describe('a plan as it is edited', () => {
  it('starts with as many throws as the trial has, alike for every disc and angle', () => {
    expect(size(plan)).equal(48)
    const counts = countsOf(plan, trial.discIds)
    expect(new Set(counts.map((c) => c.throws))).deep.equal(new Set([2]))
    expect(counts.length).equal(trial.discIds.length * trial.hyzerDegs.length * 2)
  })

  it('expects nothing that nobody said', () => {
    expect(plan.expected).deep.equal([])
  })

  it('takes the question’s own number of throws where the trial has none', () => {
    expect(size(proposed({ ...trial, plannedThrows: 0 }, discs, 'label', 5, []))).equal(
      6 * trial.discIds.length * trial.hyzerDegs.length,
    )
  })

  it('shares throws between the legs, odd ones by turns', () => {
    const counts = evenCounts(['a', 'b'], [0, 10], 3)
    expect(counts.reduce((s, c) => s + c.throws, 0)).equal(12)
    const out = counts.filter((c) => c.leg === 'out').reduce((s, c) => s + c.throws, 0)
    expect(out).equal(6)
  })

  it('goes one throw up and down, on the leg that needs it', () => {
    const counts = countsOf(plan, trial.discIds)
    const [disc] = trial.discIds as [string]
    const total = (list: typeof counts) => list.reduce((s, c) => s + c.throws, 0)
    const more = stepped(counts, disc, 0, 1)
    expect(total(more)).equal(49)
    expect(total(stepped(more, disc, 0, -1))).equal(48)
    let none = counts
    for (let i = 0; i < 6; i++) none = stepped(none, disc, 0, -1)
    expect(none.some((c) => c.disc === disc && c.hyzerDeg === 0)).equal(false)
  })

  it('throws as many of each disc by the other protocol, on the line at no angle of its own', () => {
    const counts = stepped(countsOf(plan, trial.discIds), trial.discIds[0]!, 0, 1)
    const of = (list: typeof counts, disc: string) =>
      list.filter((c) => c.disc === disc).reduce((s, c) => s + c.throws, 0)
    const onLine = overAngles(counts, trial.discIds, anglesFor(plan, 'same-line'))
    for (const id of trial.discIds) expect(of(onLine, id)).equal(of(counts, id))
    expect(new Set(onLine.map((c) => c.hyzerDeg)).size).equal(1)
    const back = overAngles(onLine, trial.discIds, anglesFor(plan, 'same-release'))
    expect(new Set(back.map((c) => c.hyzerDeg)).size).greaterThan(1)
    for (const id of trial.discIds) expect(of(back, id)).closeTo(of(counts, id), 1)
    // throws made at whatever angle count toward it
    const throws = demo.throws.filter((t) => t.trialId === trial.id)
    expect(new Set(madeSoFar(throws, 'same-line').map((m) => m.hyzerDeg))).deep.equal(new Set([0]))
  })

  it('keeps what is made first, in its rounds, and orders the rest again', () => {
    const throws = demo.throws
      .filter((t) => t.trialId === trial.id)
      .sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt))
    const made = madeSoFar(throws, 'same-release')
    expect(made.length).equal(throws.filter((t) => t.counts).length)
    for (const round of new Set(made.map((m) => m.round))) {
      const own = made.filter((m) => m.round === round)
      expect(new Set(own.map((m) => m.discId)).size).equal(own.length)
      expect(new Set(own.map((m) => m.leg)).size).equal(1)
    }
    const again = reordered(plan, countsOf(plan, trial.discIds), discs, made)
    expect(again.throws.slice(0, made.length)).deep.equal(made)
    expect(again.throws[made.length]!.round).equal(made[made.length - 1]!.round + 1)
    expect(size(again)).within(48, 48 + made.length)
  })

  it('swaps two throws, each round staying on its leg, and never throws a disc twice in a round', () => {
    const [a, b] = [0, plan.throws.findIndex((t, i) => i > 0 && t.round !== plan.throws[0]!.round)]
    const inRound = (p: Plan, round: number) => p.throws.filter((t) => t.round === round).map((t) => t.discId)
    for (let i = b; i < plan.throws.length; i++) {
      const next = swapped(plan, a, i)
      if (!next) continue
      expect(next.moved).equal(true)
      expect(next.throws.map((t) => [t.leg, t.round])).deep.equal(plan.throws.map((t) => [t.leg, t.round]))
      for (const round of new Set(next.throws.map((t) => t.round)))
        expect(new Set(inRound(next, round)).size).equal(inRound(next, round).length)
      expect(countsOf(next, trial.discIds).reduce((s, c) => s + c.throws, 0)).equal(48)
    }
    const other = plan.throws.findIndex(
      (t) => t.round !== plan.throws[0]!.round && t.discId !== plan.throws[0]!.discId,
    )
    expect(swapped(plan, 0, other)).equal(undefined)
    expect(swapped(plan, 0, 0)).equal(undefined)
  })

  it('warms up on the control disc where it is slow, else on the slowest', () => {
    expect(new Set(plan.warmUps)).deep.equal(new Set([trial.controlDiscId]))
    expect(warmUpsOf(discs, null)).length(4)
    expect(
      warmUpsOf(
        discs.filter((d) => d.numbers.speed > 5),
        null,
      ),
    ).deep.equal([])
  })

  it('proposes strokes and powers with the question', () => {
    const arms = proposed({ ...trial, plannedThrows: 48 }, discs, 'arms', 5, [])
    expect(arms.easedTo).equal(0.75)
    expect(new Set(arms.throws.map((t) => t.power))).deep.equal(new Set([null, 0.75]))
    const short = proposed({ ...trial, plannedThrows: 48 }, discs, 'short-game', 5, [])
    expect(new Set(short.throws.map((t) => t.stroke))).deep.equal(new Set(['backhand', 'forehand']))
  })

  it('throws the candidate last, or the known first, where the order is fixed so', () => {
    const fixed = (fixedBy: Plan['fixedBy']) =>
      reordered(
        { ...plan, order: 'fixed', fixedBy },
        countsOf(plan, trial.discIds),
        discs,
        [],
        trial.controlDiscId,
      )
        .throws.filter((t) => t.round === 0)
        .map((t) => t.discId)
    expect(fixed('candidate-last').at(-1)).equal(trial.discIds[0])
    expect(fixed('known-before-unknown')[0]).equal(trial.controlDiscId)
  })

  it('throws from least to most stable where the order is fixed', () => {
    const fixed = reordered({ ...plan, order: 'fixed' }, countsOf(plan, trial.discIds), discs, [])
    const first = fixed.throws.filter((t) => t.round === 0).map((t) => t.discId)
    const stability = first.map((id) => {
      const { turn, fade } = discs.find((d) => d.id === id)!.numbers
      return turn + fade
    })
    expect(stability).deep.equal([...stability].sort((a, b) => a - b))
  })
})
