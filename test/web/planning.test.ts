import { expect } from 'chai'
import { harrowmere } from '../../demo/harrowmere.ts'
import { shelvedDiscs } from '../../contract/sheet.ts'
import type { Plan } from '../../contract/trials.ts'
import {
  countsOf,
  evenCounts,
  madeSoFar,
  proposed,
  reordered,
  stepped,
} from '../../web/stations/plan/planning.ts'

const demo = harrowmere()
const trial = demo.trials[1]!
const discs = trial.discIds.map((id) => shelvedDiscs(demo).find((d) => d.disc.id === id)!)
const plan = proposed({ ...trial, plannedThrows: 48 }, discs, 'molds', 5, [])
const size = (p: Plan) => p.throws.length

describe('a plan as it is edited', () => {
  it('starts with as many throws as the trial has, alike for every disc and angle', () => {
    expect(size(plan)).equal(48)
    const counts = countsOf(plan, trial.discIds)
    expect(new Set(counts.map((c) => c.throws))).deep.equal(new Set([2]))
    expect(counts.length).equal(trial.discIds.length * trial.hyzerDegs.length * 2)
    expect([...plan.expected].sort()).deep.equal([...trial.discIds].sort())
  })

  it('expects what the labels say, most stable first', () => {
    const stability = plan.expected.map((id) => {
      const { turn, fade } = discs.find((d) => d.disc.id === id)!.inForce.numbers
      return turn + fade
    })
    expect(stability).deep.equal([...stability].sort((a, b) => b - a))
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

  it('keeps what is made first, in its rounds, and orders the rest again', () => {
    const throws = demo.throws
      .filter((t) => t.trialId === trial.id)
      .sort((a, b) => Date.parse(a.thrownAt) - Date.parse(b.thrownAt))
    const made = madeSoFar(throws)
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

  it('throws from least to most stable where the order is fixed', () => {
    const fixed = reordered({ ...plan, order: 'fixed' }, countsOf(plan, trial.discIds), discs, [])
    const first = fixed.throws.filter((t) => t.round === 0).map((t) => t.discId)
    const stability = first.map((id) => {
      const { turn, fade } = discs.find((d) => d.disc.id === id)!.inForce.numbers
      return turn + fade
    })
    expect(stability).deep.equal([...stability].sort((a, b) => a - b))
  })
})
