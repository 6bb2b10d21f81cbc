import { expect } from 'chai'
import type { Proposal } from '../../contract/shelfPage.ts'
import type { ShelvedDisc } from '../../contract/sheet.ts'
import { questionOf } from '../../core/plan/questions.ts'
import type { DiscClass } from '../../core/shelf/kinds.ts'
import {
  addedFor,
  draftOf,
  foundBy,
  startingAfter,
  startingWith,
  plannedThrowsOf,
  wrongWith,
} from '../../web/stations/bench/starting.ts'
import type { Starting, StartingEvent } from '../../web/stations/bench/starting.ts'

const id = (n: number) => `01900000-0000-7000-8000-0000000000${n}`
/** What a start looks at of a disc of the shelf. */
const shelved = (n: number, code: string, mold: string, plastic: string) =>
  ({
    disc: { id: id(n), code, wear: 'new' },
    mold: { name: mold, discClass: 'fairway-driver' satisfies DiscClass },
    plastic: { name: plastic },
    run: null,
    maker: { name: 'Eskwright' },
  }) as unknown as ShelvedDisc
const discs = [
  shelved(11, 'HS-001', 'Tarnwick', 'Slate'),
  shelved(12, 'HS-002', 'Tarnwick', 'Loam'),
  shelved(13, 'HS-003', 'Beckfoot', 'Slate'),
]
const after = (state: Starting, ...events: readonly StartingEvent[]) => events.reduce(startingAfter, state)
const found = (ids: readonly string[], change: Partial<Proposal> = {}): Proposal => ({
  discs: [...ids],
  control: null,
  lacks: null,
  ...change,
})

describe('a trial that is being started', () => {
  it('asks of one disc brought from the shelf what its label says, and wants discs proposed', () => {
    const one = startingWith(id(10), [id(11)])
    expect(one).include({ kind: 'label' })
    expect(one.wants).deep.equal({ kind: 'label', about: id(11) })
    expect(draftOf(one, discs).name).equal('Tarnwick, Slate, against its label')
    const several = startingWith(id(10), [id(11), id(13)])
    expect(several).include({ kind: 'molds', wants: null })
    expect(startingWith(id(10), []).wants).equal(null)
  })

  it('takes what is proposed for what it asks, and not what comes too late', () => {
    const one = startingWith(id(10), [id(11)])
    const asked = after(one, { did: 'asked', kind: 'plastics' })
    expect(asked.wants).deep.equal({ kind: 'plastics', about: id(11) })
    const late = after(asked, {
      did: 'proposed',
      of: { kind: 'label', about: id(11) },
      found: found([id(13)]),
    })
    expect(late).deep.equal(asked)
    const told = after(asked, {
      did: 'proposed',
      of: { kind: 'plastics', about: id(11) },
      found: found([id(11), id(12)], { control: id(12), lacks: 'a worn copy' }),
    })
    expect(told).include({ controlDiscId: id(12), lacks: 'a worn copy', wants: null })
    expect(told.discIds).deep.equal([id(11), id(12)])
    expect(draftOf(told, discs).name).equal('Tarnwick in its plastics')
    const failed = after(asked, { did: 'proposed', of: asked.wants!, found: null })
    expect([failed.wants, failed.discIds]).deep.equal([null, [id(11)]])
  })

  it('proposes for the first disc that is picked, and never over several picked by hand', () => {
    const none = startingWith(id(10), [])
    const first = after(none, { did: 'picked', disc: id(12) })
    expect(first.wants).deep.equal({ kind: 'label', about: id(12) })
    const second = after(first, { did: 'picked', disc: id(13) })
    expect(second).include({ wants: null })
    const asked = after(second, { did: 'asked', kind: 'wind' })
    expect(asked.wants).equal(null)
    expect(asked.discIds).deep.equal([id(12), id(13)])
    expect(asked.hyzerDegs).deep.equal(questionOf('wind').hyzerDegs)
    // a control disc that is left out is none
    const control = after(asked, { did: 'chose control', disc: id(13) }, { did: 'picked', disc: id(13) })
    expect(control).include({ controlDiscId: null })
  })

  it('says what it ticked itself, takes that back for another question, and nothing that a hand ticked', () => {
    const told = after(startingWith(id(10), [id(11)]), {
      did: 'proposed',
      of: { kind: 'label', about: id(11) },
      found: found([id(11), id(12)], { control: id(12) }),
    })
    expect(addedFor(told)).deep.equal([id(12)])
    expect(told.picked).deep.equal([id(11)])
    // another question proposes others in their place
    const asked = after(told, { did: 'asked', kind: 'plastics' })
    const other = after(asked, {
      did: 'proposed',
      of: asked.wants!,
      found: found([id(13), id(11)], { control: id(13) }),
    })
    expect([other.discIds, addedFor(other), other.controlDiscId]).deep.equal([
      [id(11), id(13)],
      [id(13)],
      id(13),
    ])
    // a tick of a hand stays whatever is asked, and what was proposed goes in one press
    const own = after(other, { did: 'picked', disc: id(12) }, { did: 'asked', kind: 'wind' })
    expect(own.wants).equal(null)
    expect(own.discIds).deep.equal([id(11), id(12), id(13)])
    const mine = after(own, { did: 'left proposed' })
    expect([mine.discIds, mine.controlDiscId]).deep.equal([[id(11), id(12)], null])
    // a control disc that somebody chose is not replaced
    const control = after(told, { did: 'chose control', disc: id(11) }, { did: 'asked', kind: 'plastics' })
    const kept = after(control, {
      did: 'proposed',
      of: control.wants!,
      found: found([id(11), id(12)], { control: id(12) }),
    })
    expect(kept.controlDiscId).equal(id(11))
  })

  it('plans as many throws as what is chosen comes to, until somebody sets it; the same of its name and question', () => {
    const two = after(startingWith(id(10), [id(11), id(12)]), { did: 'turned angle', hyzerDeg: -15 })
    expect(two.hyzerDegs).include(-15)
    const { throwsACell } = questionOf('molds')
    expect(draftOf(two, discs).plannedThrows).equal(2 * two.hyzerDegs.length * throwsACell)
    expect(after(two, { did: 'turned angle', hyzerDeg: -15 }).hyzerDegs).not.include(-15)
    const set = after(
      two,
      { did: 'set', change: { plannedThrows: 40, name: 'Mine' } },
      { did: 'set', change: { question: 'Which floats?' } },
      { did: 'picked', disc: id(13) },
      { did: 'asked', kind: 'plastics' },
    )
    expect(draftOf(set, discs)).include({ plannedThrows: 40, name: 'Mine', question: 'Which floats?' })
    expect(plannedThrowsOf(set)).not.equal(40)
  })

  it('says what is wrong with it by field, once it was to be kept', () => {
    const none = after(startingWith(id(10), []), { did: 'tried' })
    expect(none.tried).equal(true)
    expect(wrongWith(draftOf(none, discs))).include({ discIds: 'must name at least one disc' })
    const empty = after(startingWith(id(10), [id(11)]), { did: 'set', change: { plannedThrows: null } })
    expect(wrongWith(draftOf(empty, discs))).have.keys(['plannedThrows'])
    expect(wrongWith(draftOf(startingWith(id(10), [id(11)]), discs))).equal(undefined)
  })

  it('finds discs by words of any kind', () => {
    const codes = (find: string) => foundBy(discs, find).map((d) => d.disc.code)
    expect(codes('')).length(3)
    expect(codes('tarnwick loam')).deep.equal(['HS-002'])
    expect(codes('  SLATE fairway ')).deep.equal(['HS-001', 'HS-003'])
    expect(codes('nothing such')).deep.equal([])
  })
})
