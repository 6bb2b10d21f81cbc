import { expect } from 'chai'
import { flownBy } from '../../../core/rotation/job.ts'
import type { ShelfDisc } from '../../../core/rotation/carried.ts'
import { ShelfBoard } from '../../../core/rotation/shelfBoard.ts'
import { eventWords, foretoldWords } from '../../../core/rotation/words.ts'
import { lives } from '../../simulate/lives.ts'

const throwing = { armMps: 26, hyzerDeg: 0, power: 1, windAlongMps: 0 }
const jobs = [
  {
    id: 'straight',
    job: {
      throwing,
      wanted: flownBy({ speed: 9, glide: 5, turn: -1, fade: 1.6 }, throwing)!,
      within: { at60M: 3, finishM: 6, carryM: Infinity },
    },
  },
]
const shelf = lives(0.4, 6, 3).map(({ id, kind, blend, published, use, tests }): ShelfDisc => ({
  id,
  kind,
  blend,
  published,
  rated: null,
  use,
  tests: tests.map((t) => ({ ...t, scatter: null })),
}))
const wanted = {
  shelf,
  here: new Set(shelf.map((d) => d.id)),
  jobs,
  assigned: new Map([[shelf[0]!.id, 'straight']]),
}

describe('the board of a shelf', () => {
  it('shows discs that were never thrown too, by their label, and none that is not at hand', () => {
    const board = new ShelfBoard()
    const fresh: ShelfDisc = { ...shelf[0]!, id: 'fresh', tests: [], use: { throws: 0, hardHits: 0 } }
    const label = { ...fresh, id: 'as the job', published: { speed: 9, glide: 5, turn: -1, fade: 1.6 } }
    const with_ = { ...wanted, shelf: [...shelf, fresh, label], here: new Set([...wanted.here, label.id]) }
    const [lane] = board.lanes(with_)
    expect(lane!.discs[0]).include({ discId: shelf[0]!.id, assigned: true })
    expect(lane!.discs.map((d) => d.discId)).not.include('fresh')
    const does = board.does(with_.shelf, [label.id, fresh.id, 'nobody'], jobs)
    expect(does.get(label.id)!.get('straight')).within(0.2, 0.9)
    expect(does.get(label.id)!.get('straight')).greaterThan(does.get(fresh.id)!.get('straight')!)
    expect(does.has('nobody')).equal(false)
  })

  it('comes to the same after a change as from the beginning', () => {
    const board = new ShelfBoard()
    const before = board.lanes(wanted)
    const worn = shelf.map((d, i) => (i === 0 ? { ...d, use: { ...d.use, throws: d.use.throws + 250 } } : d))
    const after = board.after(before, new Set([shelf[0]!.id]), { ...wanted, shelf: worn })
    const own = (lanes: typeof after) => lanes[0]!.discs.filter((d) => d.assigned)
    expect(own(after)).deep.equal(own(new ShelfBoard().lanes({ ...wanted, shelf: worn })))
    expect(own(after)).not.deep.equal(own(before))
  })

  it('is soon there: with those that are carried at first, then with what has changed since it was whole', () => {
    const board = new ShelfBoard()
    expect(board.soon(wanted)[0]!.discs.map((d) => d.discId)).deep.equal([shelf[0]!.id])
    const whole = board.lanes(wanted)
    expect(whole[0]!.discs.length).greaterThan(1)
    expect(board.soon(wanted)).deep.equal(whole)
    // one is lost, another carried, a third worn, and a job is new
    const [lost, taken, worn] = whole[0]!.discs.map((d) => d.discId)
    const changed = {
      shelf: shelf.map((d) => (d.id === worn ? { ...d, use: { ...d.use, throws: d.use.throws + 400 } } : d)),
      here: new Set([...wanted.here].filter((id) => id !== lost)),
      jobs: [...jobs, { id: 'another', job: jobs[0]!.job }],
      assigned: new Map([[taken!, 'straight']]),
    }
    const soon = board.soon(changed)
    const later = board.lanes(changed)
    expect(soon.map((l) => l.jobId)).deep.equal(['straight', 'another'])
    for (const [i, lane] of soon.entries()) {
      expect(lane.discs.map((d) => d.discId)).not.include(lost)
      const own = (of: typeof lane) => of.discs.filter((d) => d.assigned)
      expect(own(lane)).deep.equal(own(later[i]!))
    }
    expect(soon[0]!.discs.find((d) => d.discId === worn)!.prospect.now).not.equal(
      whole[0]!.discs.find((d) => d.discId === worn)!.prospect.now,
    )
  })

  it('says how fast each blend wears that was tested, and what that does to a disc', () => {
    const board = new ShelfBoard()
    const blends = board.blends(shelf)
    const tests = shelf.reduce((n, d) => n + d.tests.length, 0)
    expect(blends.reduce((n, b) => n + b.tests, 0)).equal(tests)
    for (const b of blends) expect(b.low < b.middle && b.middle < b.high).equal(true)
    const one = shelf.find((d) => d.tests.length > 1)!
    const told = board.foretell(shelf, one.id)!
    expect(told.nextHundred.value).lessThan(0)
    expect(told.tests.blend).at.least(one.tests.length)
    expect(told.tests.kind).at.least(told.tests.blend)
    const words = foretoldWords(told, one.kind, 'Stannery Slate')
    expect(words[0]).match(/^A hundred more throws change its stability by −\d\.\d\d ± \d\.\d\d\.$/)
    expect(words[1]).match(/^Stannery Slate wears \d\.\d times as fast as .* usually do/)
    expect(words[2]).match(/^A hard hit does as much as \d+ throws \(\d+ to \d+\)\.$/)
    const untested: ShelfDisc = { ...one, id: 'u', blend: 'Fellmoor Reed', tests: [] }
    expect(foretoldWords(board.foretell([...shelf, untested], 'u')!, one.kind, 'Fellmoor Reed')[1]).match(
      /^Nobody has tested Fellmoor Reed again/,
    )
    expect(board.foretell(shelf, 'nobody')).equal(undefined)
  })

  it('says what happened in the life of a disc', () => {
    expect(eventWords('moved', 'Straight mid')).equal('carried for Straight mid')
    expect(eventWords('moved', undefined)).equal('carried for no job')
    expect(eventWords('lost', undefined)).equal('lost')
    expect(eventWords('not-spared', undefined)).equal('no longer kept away')
  })
})
