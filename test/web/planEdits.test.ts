import { expect } from 'chai'
import type { Trial } from '../../contract/trials.ts'
import { guessKind } from '../../core/plan/guess.ts'
import { countsOf, madeSoFar } from '../../core/plan/planning.ts'
import type { MadeThrow, PlanDisc } from '../../core/plan/planning.ts'
import { questionOf } from '../../core/plan/questions.ts'
import { askingOtherwise } from '../../web/data/ask.ts'
import { afterEvent, doneOf, shownPlan } from '../../web/stations/plan/edits.ts'
import type { PlanEvent, Planning } from '../../web/stations/plan/edits.ts'

const id = (n: number) => `01900000-0000-7000-8000-00000000000${n}`
const [ONE, OTHER, THIRD] = [id(1), id(2), id(3)]
const trial: Trial = {
  id: id(9),
  name: 'Three of a kind',
  question: 'Which is the most stable?',
  discIds: [ONE, OTHER, THIRD],
  controlDiscId: THIRD,
  hyzerDegs: [10, 0, -8],
  plannedThrows: 0,
  finishedAt: null,
  removedAt: null,
  plan: null,
}
const discs: readonly PlanDisc[] = [
  { id: ONE, numbers: { speed: 9, glide: 5, turn: -1, fade: 2 }, isNew: true },
  { id: OTHER, numbers: { speed: 9, glide: 5, turn: -2, fade: 1 }, isNew: false },
  { id: THIRD, numbers: { speed: 7, glide: 5, turn: 0, fade: 2 }, isNew: false },
]
const thrown = (discId: string, hyzerDeg: number): MadeThrow => ({
  discId,
  hyzerDeg,
  stroke: 'backhand',
  power: 1,
  throwerId: id(8),
  leg: 'out',
  counts: true,
})

/** A plan that was shown and kept, with some throws made. */
function planning(throws: readonly MadeThrow[] = [], change: Partial<Planning> = {}): Planning {
  const plan = shownPlan(trial, discs, 'plastics', madeSoFar(throws, 'same-release'), [])
  return { trial: { ...trial, plan }, plan, discs, throws, untold: false, ...change }
}
const after = (before: Planning, event: PlanEvent): Planning => {
  const next = afterEvent(before, event)!
  return { ...before, trial: next, plan: next.plan! }
}
const throwsOf = ({ plan }: Planning, disc: string) => plan.throws.filter((t) => t.discId === disc).length

describe('a plan as somebody edits it', () => {
  it('is what its question proposes, the same whenever it is shown, and asks about the pair it was opened for', () => {
    const [first, again] = [planning().plan, planning().plan]
    expect(again).deep.equal(first)
    // nobody has said anything yet
    expect(first.expected).deep.equal([])
    const made = madeSoFar([], 'same-release')
    expect(shownPlan(trial, discs, 'plastics', made, [OTHER, ONE]).pair).deep.equal([OTHER, ONE])
    for (const odd of [[ONE], [ONE, ONE], [ONE, OTHER, THIRD]])
      expect(shownPlan(trial, discs, 'plastics', made, odd).pair).equal(null)
    const own = { ...first, pair: [THIRD, ONE] as [string, string] }
    expect(shownPlan({ ...trial, plan: own }, discs, 'plastics', made, [OTHER, ONE]).pair).deep.equal(
      own.pair,
    )
  })

  it('is kept as it was shown, with as many throws as it has', () => {
    const before = planning()
    const kept = afterEvent({ ...before, trial }, { did: 'shown' })!
    expect(kept.plan).deep.equal(before.plan)
    expect(kept.plannedThrows).equal(before.plan.throws.length)
  })

  it('says nothing of what was expected where something was thrown before', () => {
    const late = planning([thrown(ONE, 0)], { untold: true })
    const kept = afterEvent(late, { did: 'changed', change: { windMps: 4 } })!
    expect(kept.plan).include({ windMps: 4 })
    expect(kept.plan!.expected).deep.equal([])
  })

  it('keeps the order of its throws where something beside them changes, and deals them anew where they do', () => {
    const before = planning()
    const claimed = after(before, { did: 'changed', change: { claims: ['it holds a headwind'] } })
    expect(claimed.plan.throws).deep.equal(before.plan.throws)
    const shuffled = after(before, { did: 'dealt', change: { seed: before.plan.seed + 1 } })
    expect(shuffled.plan.throws).not.deep.equal(before.plan.throws)
    const counts = (p: Planning) => countsOf(p.plan, trial.discIds)
    expect(counts(shuffled)).have.deep.members(counts(before))
    const back = after(shuffled, { did: 'dealt', change: { seed: before.plan.seed } })
    expect(back.plan.throws).deep.equal(before.plan.throws)
  })

  it('asks another question with its strokes, its power and its wind, of the same throws', () => {
    const before = planning()
    const wind = after(before, { did: 'asked', kind: 'wind' })
    expect(wind.plan.kind).equal('wind')
    expect(wind.plan.windMps).at.least(3)
    expect(countsOf(wind.plan, trial.discIds)).have.deep.members(countsOf(before.plan, trial.discIds))
  })

  it('keeps a question as somebody worded it, whatever it is read as', () => {
    const worded = after(planning(), { did: 'worded', question: ' Which floats? ' })
    expect(worded.trial.question).equal('Which floats?')
    const wind = after(worded, { did: 'asked', kind: 'wind' })
    expect([wind.trial.question, wind.plan.kind]).deep.equal(['Which floats?', 'wind'])
    // one that came with its question goes with it
    const plain = after(worded, { did: 'worded', question: questionOf(worded.plan.kind).words })
    expect(after(plain, { did: 'asked', kind: 'wind' }).trial.question).equal(questionOf('wind').words)
  })

  it('is read for another question where it is read, without dealing its throws anew', () => {
    const { trial: planned, plan } = after(planning(), { did: 'shown' })
    const wind = askingOtherwise(planned, 'wind')
    expect([wind.plan!.kind, wind.plan!.throws]).deep.equal(['wind', plan.throws])
    const imported = askingOtherwise({ ...planned, plan: null, question: 'whatever' }, 'wear')
    expect(guessKind(imported.question, [])).equal('wear')
  })

  it('throws by another protocol at its angles, as many of each disc', () => {
    const before = planning()
    const line = after(before, { did: 'chose protocol', protocol: 'same-line' })
    expect(line.plan.protocol).equal('same-line')
    expect(line.trial.hyzerDegs).length(1)
    for (const disc of trial.discIds) expect(throwsOf(line, disc)).closeTo(throwsOf(before, disc), 1)
    const back = after(line, { did: 'chose protocol', protocol: 'same-release' })
    expect(back.trial.hyzerDegs.length).greaterThan(1)
  })

  it('has one throw more or fewer of a disc at an angle, and as many of each where that is asked', () => {
    const before = planning()
    const more = after(before, { did: 'stepped', disc: ONE, hyzerDeg: 10, by: 1 })
    expect(throwsOf(more, ONE)).equal(throwsOf(before, ONE) + 1)
    expect(throwsOf(more, OTHER)).equal(throwsOf(before, OTHER))
    expect(more.trial.plannedThrows).equal(before.plan.throws.length + 1)
    const fewer = after(more, { did: 'stepped', disc: ONE, hyzerDeg: 10, by: -1 })
    expect(throwsOf(fewer, ONE)).equal(throwsOf(before, ONE))
    const even = after(more, { did: 'evened' })
    expect(new Set(trial.discIds.map((d) => throwsOf(even, d))).size).equal(1)
    const took = after(before, {
      did: 'took counts',
      counts: [{ disc: OTHER, hyzerDeg: 0, leg: 'out', throws: 5 }],
    })
    expect(trial.discIds.map((d) => throwsOf(took, d))).deep.equal([0, 5, 0])
  })

  it('swaps two throws, or says that it cannot', () => {
    const before = planning()
    const { throws } = before.plan
    const last = throws.length - 1
    const next = afterEvent(before, { did: 'swapped', one: 0, other: last })
    if (next) expect(next.plan!.moved).equal(true)
    const twin = throws.findIndex(
      (t, i) => i > 0 && t.round !== throws[0]!.round && t.discId !== throws[0]!.discId,
    )
    // the disc of the other throw is in the first round already
    const there = throws.some(
      (t, i) => i !== 0 && t.round === throws[0]!.round && t.discId === throws[twin]!.discId,
    )
    expect(there).equal(true)
    expect(afterEvent(before, { did: 'swapped', one: 0, other: twin })).equal(undefined)
  })

  it('keeps what was made first, and counts it as done', () => {
    const throws = [thrown(OTHER, 0), thrown(ONE, 10)]
    const before = planning(throws)
    const made = madeSoFar(throws, 'same-release')
    expect([...doneOf(before.plan, made)]).deep.equal([0, 1])
    const shuffled = after(before, { did: 'dealt', change: { seed: before.plan.seed + 3 } })
    expect(shuffled.plan.throws.slice(0, 2).map((t) => t.discId)).deep.equal([OTHER, ONE])
    expect(doneOf(shuffled.plan, made).size).equal(2)
  })
})
