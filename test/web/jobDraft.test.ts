import { expect } from 'chai'
import { flownBy } from '../../core/rotation/job.ts'
import { draftFrom, jobAfter, readJob } from '../../web/stations/rotation/jobDraft.ts'
import type { JobDraft, JobEvent } from '../../web/stations/rotation/jobDraft.ts'

const ID = '01900000-0000-7000-8000-000000000001'
const WHO = '01900000-0000-7000-8000-000000000002'
const like = { id: 'a', numbers: { speed: 9, glide: 5, turn: -1, fade: 2 } }
const blank = draftFrom(ID, 3, undefined)
const after = (draft: JobDraft, ...events: readonly JobEvent[]) => events.reduce(jobAfter, draft)
const half = (v: number) => Math.round(2 * v) / 2

describe('a job that is written down', () => {
  it('is wanted as a disc flies now, and follows how it is thrown', () => {
    const flies = after(blank, { did: 'chose disc', like })
    const now = flownBy(like.numbers, blank.row.throwing)!
    expect(flies.row.wanted).deep.equal({
      at60M: half(now.at60M) + 0,
      finishM: half(now.finishM),
      carryM: half(now.carryM),
    })
    const slower = after(flies, { did: 'threw otherwise', change: { power: 0.8 } })
    expect(slower.row.throwing.power).equal(0.8)
    expect(slower.row.wanted.carryM!).lessThan(flies.row.wanted.carryM!)
    const strong = after(flies, { did: 'chose arm', thrower: { id: WHO, mps: 30 } })
    expect(strong.row).include({ throwerId: WHO })
    expect(strong.row.wanted.carryM!).greaterThan(flies.row.wanted.carryM!)
    const nobody = after(strong, { did: 'chose arm', thrower: undefined })
    expect(nobody.row.throwerId).equal(null)
    expect(nobody.row.wanted).deep.equal(flies.row.wanted)
  })

  it('stays as it was drawn, however it is thrown afterwards', () => {
    const drawn = after(
      blank,
      { did: 'chose disc', like },
      { did: 'drew', wanted: { at60M: 1.26, finishM: 4.9, carryM: 80 } },
    )
    expect(drawn.like).equal(undefined)
    expect(drawn.row.wanted).deep.equal({ at60M: 1.5, finishM: 5, carryM: 80 })
    const thrown = after(drawn, { did: 'threw otherwise', change: { hyzerDeg: 10 } })
    expect(thrown.row.wanted).deep.equal(drawn.row.wanted)
    expect(after(drawn, { did: 'chose disc', like: undefined }).row.wanted).deep.equal(drawn.row.wanted)
  })

  it('is kept once it has a name and every figure, and says by field what is wrong', () => {
    const nameless = readJob(blank)
    expect('wrong' in nameless && nameless.wrong).have.key('name')
    const wrong = after(
      blank,
      { did: 'named', name: 'Late turn' },
      { did: 'measured', of: 'wanted', part: 'finishM', m: null },
    )
    const read = readJob(wrong)
    expect('wrong' in read && read.wrong).have.key('wanted.finishM')
    expect(after(wrong, { did: 'found wrong', wrong: { name: 'is missing' } }).wrong).have.key('name')
    const whole = after(
      wrong,
      { did: 'measured', of: 'wanted', part: 'finishM', m: 6 },
      // the carry does not matter
      { did: 'measured', of: 'within', part: 'carryM', m: null },
    )
    const kept = readJob(whole)
    expect('row' in kept && kept.row).deep.include({ id: ID, rank: 3, name: 'Late turn' })
    expect('row' in kept && kept.row.within.carryM).equal(null)
  })

  it('begins with the job that is changed', () => {
    const job = { ...blank.row, name: 'Old', rank: 1 }
    expect(draftFrom('another', 9, job).row).deep.equal(job)
  })
})
