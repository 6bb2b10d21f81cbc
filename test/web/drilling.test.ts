import { expect } from 'chai'
import { DRILL_KINDS } from '../../core/drill/question.ts'
import type { RecordedThrow } from '../../core/drill/recorded.ts'
import {
  answerGiven,
  askableOf,
  drillAfter,
  meanPoints,
  minutesLeft,
  NO_DRILL,
  questionFor,
} from '../../web/stations/drill/drilling.ts'
import type { DrillEvent, Drilling } from '../../web/stations/drill/drilling.ts'

const after = (drill: Drilling, ...events: readonly DrillEvent[]) => events.reduce(drillAfter, drill)
/** Numbers between 0 and 1, the same each time. */
function chances(): () => number {
  let n = 0.2
  return () => (n = (n + 0.618034) % 1)
}
const NOSE: Drilling = { ...NO_DRILL, kinds: ['nose'] }
const question = questionFor(NOSE, [], [], chances())
const by = (n: number) => ({
  id: `01900000-0000-7000-8000-00000000000${n}`,
  throwerId: null,
  answeredAt: `2026-11-01T10:00:0${n}Z`,
})
const surely = (option: number) => ({
  kind: 'shares' as const,
  shares: [0, 1, 2].map((i) => (i === option ? 1 : 0)),
})
const truth = question.truth.kind === 'shares' ? question.truth.option : -1

const at = [0, 1, 2, 3, 4, 5]
const landed: RecordedThrow = {
  name: 'HS-017, 2026-10-04',
  timeS: at.map((i) => 0.8 * i),
  downM: at.map((i) => 16 * i),
  sideM: at.map((i) => 0.3 * i * i),
  upM: at.map((i) => 1.2 + 2 * i * (5 - i)),
  landed: { downM: 80, sideM: 7.5 },
  hyzerDeg: 9,
  noseDeg: 0,
  wind: undefined,
  rated: undefined,
}

describe('a session of the drill', () => {
  it('asks what is to be asked, never nothing', () => {
    const one = after(
      NO_DRILL,
      ...DRILL_KINDS.slice(1).map((kind) => ({ did: 'turned kind', kind }) as const),
    )
    expect(one.kinds).deep.equal([DRILL_KINDS[0]])
    expect(after(one, { did: 'turned kind', kind: DRILL_KINDS[0]! })).equal(one)
    expect(after(one, { did: 'turned kind', kind: 'nose' }).kinds).deep.equal([DRILL_KINDS[0], 'nose'])
    expect(question).include({ kind: 'nose' })
  })

  it('lasts five minutes and ends with the answer after that', () => {
    const began = after(NOSE, { did: 'began', atMs: 1_000, question })
    expect(minutesLeft(began.session!, 1_000)).equal(5)
    expect(minutesLeft(began.session!, 260_000)).equal(1)
    expect(minutesLeft(began.session!, 400_000)).equal(0)
    const answer = answerGiven(question, surely(truth), by(1))
    const answered = after(began, { did: 'answered', answer })
    // the question that was answered still stands while one reads what was true
    expect(answered.session).include({ asked: 0, question })
    const on = after(answered, { did: 'went on', atMs: 301_000, question })
    expect(on.session).include({ asked: 1 })
    expect(on.session!.given).deep.equal([answer])
    const over = after(on, { did: 'went on', atMs: 301_001, question })
    expect(over.session).equal(undefined)
    expect(over.over).deep.equal([answer])
    expect(after(over, { did: 'began', atMs: 1, question }).over).equal(undefined)
    expect(after(over, { did: 'answered', answer }, { did: 'went on', atMs: 1, question })).equal(over)
  })

  it('keeps what was said with what was true, and adds it up', () => {
    const right = answerGiven(question, surely(truth), by(1))
    const wrong = answerGiven(question, surely((truth + 1) % 3), by(2))
    expect(right).include({ kind: 'nose', right: true, points: 100 })
    expect(wrong.right).equal(false)
    expect(meanPoints([])).equal(undefined)
    expect(meanPoints([right, wrong])).closeTo((100 + wrong.points) / 2, 1e-9)
  })

  it('gets harder for an eye that is right, also by answers that are not stored yet, and counts none twice', () => {
    const given = [1, 2, 3, 4, 5, 6].map((n) => answerGiven(question, surely(truth), by(n)))
    const session = { startedAt: 0, question, asked: 6, given }
    const next = questionFor({ ...NOSE, session }, [], [], chances())
    expect(next.level).greaterThan(question.level)
    expect(questionFor({ ...NOSE, session }, given.slice(0, 4), [], chances()).level).equal(next.level)
  })

  it('asks of recorded throws what they can say', () => {
    const own = { ...NO_DRILL, source: 'recorded' as const }
    expect(askableOf(own, [landed])).deep.equal([landed])
    expect(askableOf(NOSE, [landed])).deep.equal([])
    expect(questionFor(own, [], [landed], chances())).deep.include({
      kind: 'landing',
      truth: { kind: 'circle', at: landed.landed },
    })
  })
})
