import { expect } from 'chai'
import {
  backupNow,
  doesNow,
  dueOf,
  lanesAfter,
  lanesOf,
  movesOf,
  offersOf,
  Remembered,
  wearInNext,
} from '../../../core/rotation/board.ts'
import type { Lane, OnLane } from '../../../core/rotation/board.ts'
import { Doing } from '../../../core/rotation/doing.ts'
import { flownBy } from '../../../core/rotation/job.ts'
import type { Job } from '../../../core/rotation/job.ts'
import {
  dueWords,
  monthWords,
  moveWords,
  offerWords,
  prospectWords,
  throwsLeftWords,
} from '../../../core/rotation/words.ts'
import { carried, lives } from '../../simulate/lives.ts'

const throwing = { armMps: 26, hyzerDeg: 0, power: 1, windAlongMps: 0 }
const jobOf = (turn: number, fade: number): Job => ({
  throwing,
  wanted: flownBy({ speed: 9, glide: 5, turn, fade }, throwing)!,
  within: { at60M: 3, finishM: 6, carryM: Infinity },
})
const on = (discId: string, rest: Partial<OnLane['prospect']> = {}, more: Partial<OnLane> = {}): OnLane => ({
  discId,
  assigned: true,
  along: { now: 0.5, soon: 0.6 },
  retest: 0,
  prospect: {
    now: 0.9,
    best: { probability: 0.9, throws: 0 },
    enters: 0,
    leaves: { earliest: 200, likely: 400, latest: 800 },
    ...rest,
  },
  ...more,
})
const known = {
  paceOf: () => 0,
  isSpared: () => false,
  isOutOfMake: () => false,
  growthOf: () => undefined,
}
const lane = (...discs: OnLane[]): Lane => ({ jobId: 'j', discs })

describe('the board', () => {
  const discs = carried(lives(0.3, 8, 3))
  const jobs = [
    { id: 'straight', job: jobOf(-1, 1.6) },
    { id: 'stable', job: jobOf(-0.3, 2.2) },
  ]

  it('has every job with the discs carried for it first, and those that could be, the surest first', () => {
    const assigned = new Map([[discs[3]!.id, 'stable']])
    const [straight, stable] = lanesOf(discs, jobs, assigned)
    expect(stable!.discs[0]).include({ discId: discs[3]!.id, assigned: true })
    for (const { discs: list } of [straight!, stable!]) {
      const others = list.filter((d) => !d.assigned)
      expect(others).length.within(1, 4)
      const sure = others.map((d) => d.prospect.now)
      expect(sure).deep.equal(sure.toSorted((a, b) => b - a))
    }
    // whatever does it and has a way through it is on its way: before it, in it, or past it
    for (const d of straight!.discs.filter((x) => x.prospect.now > 0.8))
      expect(d.along!.now).within(-0.3, 1.3)
    for (const d of stable!.discs) if (d.along) expect(d.along.soon).greaterThan(d.along.now)
  })

  it('overlooks none of the surest, though it looks closely at few', () => {
    const many = carried(lives(0.7, 8, 15))
    const shown = lanesOf(many, jobs, new Map())
    for (const { id, job } of jobs) {
      const all = many
        .map((d) => ({ id: d.id, now: new Doing(d, job).prospect().now }))
        .sort((a, b) => b.now - a.now)
      const lane = shown.find((l) => l.jobId === id)!
      const surest = lane.discs.map((d) => d.prospect.now)
      // one that is as sure will do
      expect(surest[0]).greaterThan(all[0]!.now - 0.03)
      expect(surest[3]).greaterThan(all[3]!.now - 0.06)
    }
  })

  it('works out again what has changed, and nothing else', () => {
    const remembered = new Remembered()
    const assigned = new Map(discs.map((d) => [d.id, 'straight']))
    const before = lanesOf(discs, jobs, assigned, remembered)
    const more = discs.map((d, i) => (i === 5 ? { ...d, use: { ...d.use, throws: d.use.throws + 300 } } : d))
    const after = lanesOf(more, jobs, assigned, remembered)
    const of = (lanes: readonly Lane[], id: string) => lanes[0]!.discs.find((d) => d.discId === id)!
    for (const [i, { id }] of discs.entries())
      if (i === 5) expect(of(after, id).prospect).not.deep.equal(of(before, id).prospect)
      else expect(of(after, id).prospect).equal(of(before, id).prospect)
    // and comes to the same, whatever it remembers
    expect(lanesOf(discs, jobs, assigned, remembered)).deep.equal(before)
    expect(lanesOf(discs, jobs, assigned)).deep.equal(before)
    // what is there no more is forgotten: it is worked out anew when it comes back
    const kept = of(lanesOf(discs, jobs, assigned, remembered), discs[0]!.id)
    lanesOf(discs.slice(1), jobs, assigned, remembered)
    const back = of(lanesOf(discs, jobs, assigned, remembered), discs[0]!.id)
    expect(back).deep.equal(kept)
    expect(back.prospect).not.equal(kept.prospect)
  })

  it('is the same after some discs changed as looked at whole, but for others that would come instead', () => {
    const assigned = new Map(discs.map((d, i) => [d.id, i % 2 === 0 ? 'straight' : 'stable']))
    const before = lanesOf(discs, jobs, assigned)
    const worn = discs.map((d, i) =>
      i === 3 || i === 6 ? { ...d, use: { ...d.use, throws: d.use.throws + 400 } } : d,
    )
    // one goes to the other job, one is lost, two are worn
    const moved = new Map(assigned).set(discs[1]!.id, 'straight')
    const left = worn.filter((_, i) => i !== 8)
    const changed = new Set([1, 3, 6, 8].map((i) => discs[i]!.id))
    const anew = lanesAfter(before, changed, left, jobs, moved)
    const whole = lanesOf(left, jobs, moved)
    for (const [i, lane] of whole.entries()) {
      const own = (l: Lane) => l.discs.filter((d) => d.assigned)
      expect(own(anew[i]!)).deep.equal(own(lane))
      for (const d of anew[i]!.discs) {
        expect(d.discId).not.equal(discs[8]!.id)
        const same = lane.discs.find((x) => x.discId === d.discId)
        if (same) expect(d).deep.equal(same)
      }
    }
  })

  it('looks at every disc for a job that is new, and at none for one that is gone', () => {
    const before = lanesOf(discs, [jobs[0]!], new Map())
    const after = lanesAfter(before, new Set(), discs, [jobs[1]!], new Map())
    expect(after).deep.equal(lanesOf(discs, [jobs[1]!], new Map()))
  })

  it('says of any disc how surely it does each job, as its lane would', () => {
    const lanes = lanesOf(discs, jobs, new Map(discs.map((d) => [d.id, 'straight'])))
    for (const disc of discs) {
      const does = doesNow(disc, jobs)
      const on = lanes[0]!.discs.find((d) => d.discId === disc.id)!
      if (on.prospect.now > 0.02) expect(does.get('straight')).closeTo(on.prospect.now, 1e-9)
      else expect(does.get('straight')).lessThan(0.03)
    }
  })

  it('names one of discs that are alike beside those that are carried', () => {
    const copies = ['x', 'y', 'z'].map((id) => ({ ...discs[0]!, id }))
    const lane = lanesOf(copies, [jobs[0]!], new Map())[0]!
    expect(lane.discs.length).at.most(1)
    expect(lanesOf(copies, [jobs[0]!], new Map([['y', 'straight']]))[0]!.discs[0]!.discId).equal('y')
  })

  it('says who moves next: by days where it is thrown, else by throws', () => {
    const waits = (discId: string, enters: number) => on(discId, { now: 0.2, enters })
    const lanes = [lane(on('a'), waits('b', 150), on('c', { now: 0.4, enters: null }), waits('d', 30))]
    const moves = movesOf(lanes, (id) => (id === 'a' ? 4 : id === 'b' ? 1 : 0))
    expect(moves.map((m) => [m.discId, m.kind, m.throws, m.days])).deep.equal([
      ['a', 'leaves', 400, 100],
      ['b', 'enters', 150, 150],
      ['d', 'enters', 30, Infinity],
    ])
    expect(moveWords(moves[0]!, 'Straight mid', '2026-11-27')).equal(
      'leaves Straight mid in about 400 throws, in March 2027 at its pace',
    )
    expect(moveWords(moves[2]!, 'Straight mid', '2026-11-27')).equal(
      'wears into Straight mid in about 30 throws',
    )
  })

  it('says each sign that a backup is due, and none where there are two that stay', () => {
    expect(dueOf(lane(on('a'), on('b')), known)).deep.equal([])
    expect(dueOf(lane(on('a')), known)).deep.equal([{ kind: 'a single copy', discId: 'a' }])
    expect(dueOf(lane(on('a', { now: 0.2 })), known)).deep.equal([{ kind: 'nobody does it' }])
    // one that is not carried for it does not count
    expect(dueOf(lane(on('a', {}, { assigned: false })), known)).deep.equal([{ kind: 'nobody does it' }])
    expect(
      dueOf(lane(on('a'), on('b')), {
        paceOf: (id) => (id === 'a' ? 8 : 1),
        isSpared: (id) => id === 'b',
        isOutOfMake: () => true,
        growthOf: () => undefined,
      }),
    ).deep.equal([
      { kind: 'out of make', discId: 'a' },
      { kind: 'leaves soon', discId: 'a', days: 50 },
      { kind: 'spared', discId: 'b' },
      { kind: 'out of make', discId: 'b' },
    ])
    const scattering = dueOf(lane(on('a'), on('b')), {
      ...known,
      growthOf: (id) => (id === 'a' ? { times: 1.43, probability: 0.96 } : { times: 1.5, probability: 0.6 }),
    })
    expect(scattering).deep.equal([{ kind: 'scatter grows', discId: 'a', times: 1.43 }])
    expect(dueWords(scattering[0]!, (id) => `HS-${id}`)).equal('HS-a scatters 1.4 times as much as it did.')
    const gone = on('old', { now: 0.1 }, { along: { now: 1.4, soon: 1.6 } })
    expect(dueOf(lane(on('a'), on('b'), gone), known)).deep.equal([{ kind: 'has left', discId: 'old' }])
  })

  it('offers a disc that leaves its job the one it flies into, and no other', () => {
    const leaving = { along: { now: 0.9, soon: 1.1 } }
    const other = (discId: string, now: number) => on(discId, { now }, { assigned: false })
    const lanes: Lane[] = [
      { jobId: 'stable', discs: [on('a', {}, leaving), on('b'), on('c', {}, leaving)] },
      { jobId: 'straight', discs: [other('a', 0.7), other('b', 0.9), other('c', 0.3)] },
      { jobId: 'turning', discs: [other('a', 0.8)] },
    ]
    expect(offersOf(lanes)).deep.equal([{ discId: 'a', from: 'stable', to: 'turning', now: 0.8 }])
    expect(offerWords('Late turn driver', 0.8)).equal(
      'It flies into Late turn driver: 80 % that it does it now.',
    )
  })

  it('names the copy to wear in: the one that comes in soonest and is carried for nothing else', () => {
    const waits = (discId: string, enters: number | null, assigned = false) =>
      on(discId, { now: 0.2, enters }, { assigned })
    const all = lane(
      on('now'),
      waits('far', 400),
      waits('near', 150),
      waits('taken', 50),
      waits('never', null),
    )
    expect(wearInNext(all, (id) => id !== 'taken')).deep.equal({ discId: 'near', throws: 150 })
    expect(wearInNext(all, () => true)).deep.equal({ discId: 'taken', throws: 50 })
    expect(wearInNext(lane(on('now')), () => true)).equal(undefined)
  })

  it('names who could be carried at once: the surest that does it and is carried for nothing', () => {
    const free = (discId: string, now: number, assigned = false) => on(discId, { now }, { assigned })
    const all = lane(
      on('now'),
      free('hardly', 0.4),
      free('sure', 0.9),
      free('surer', 0.95),
      free('taken', 0.99),
    )
    expect(backupNow(all, (id) => id !== 'taken')?.discId).equal('surer')
    expect(backupNow(lane(on('now'), free('own', 0.9, true), free('hardly', 0.4)), () => true)).equal(
      undefined,
    )
  })

  it('says in sentences what a disc does and when that ends, no closer than anybody knows', () => {
    const say = (o: OnLane, left = false, aDay = 0) => prospectWords(o.prospect, left, aDay, '2026-11-27')
    expect(say(on('a'))).equal(
      'Does it, 90 %; leaves after about 400 throws (200 at the earliest, 800 at the latest).',
    )
    expect(say(on('a'), false, 4)).match(/, in March 2027 at this pace\.$/)
    expect(say(on('a', { now: 1, leaves: { earliest: null, likely: null, latest: null } }))).equal(
      'Does it, 99 %; stays for more than 3000 throws.',
    )
    expect(say(on('a', { leaves: { earliest: 0, likely: 37, latest: null } }))).include(
      'about 35 throws (may leave any time)',
    )
    expect(say(on('a', { now: 0.1 }), true)).equal('Has left it: 10 % that it still does it.')
    expect(say(on('a', { now: 0.3, enters: 120 }), false, 2)).equal(
      'Wears into it in about 120 throws, by January 2027 at this pace; 30 % now.',
    )
    expect(say(on('a', { now: 0.3, enters: null, best: { probability: 0.4, throws: 90 } }))).equal(
      'Hardly: 30 % now, 40 % at best.',
    )
    expect([3, 12, 144, 1234].map(throwsLeftWords)).deep.equal(['5', '10', '140', '1250'])
    expect(monthWords(100, 0, '2026-11-27')).equal(undefined)
    expect(dueWords({ kind: 'leaves soon', discId: 'a', days: 50 }, (id) => `HS-${id}`)).equal(
      'HS-a likely leaves it in 50 days.',
    )
  })
})
