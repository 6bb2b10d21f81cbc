import { expect } from 'chai'
import { isLink, LIVE_VIEWS, MARK_TYPES, NODE_TYPES, nodesOf, textOf } from '../../../core/review/document.ts'
import { disclosureOf, filledSections, SECTION_KINDS } from '../../../core/review/sections.ts'
import { disc, facts } from './twoFlints.ts'
import { simulatedWords } from '../../../core/throw/simulated.ts'

describe('the sections of a review', () => {
  const sections = filledSections([facts])
  const words = (kind: string) => textOf(sections.find((s) => s.kind === kind)!.body)

  it('come filled, every kind once, in the order a review is read', () => {
    expect(sections.map((s) => s.kind)).deep.equal(SECTION_KINDS.filter((k) => k !== 'own'))
    expect(words('tested')).contain('Disc 1: Flint, Chalk by Undermoor Discs, new, 174 g, sent by the maker.')
    expect(words('how')).contain(
      'Isolde · 14 Nov 2026 · Millpond meadow · hyzer, flat and anhyzer · 36 throws counted, 3 left out.',
    )
    expect(words('how')).contain('Throws went toward trees')
    expect(words('found')).contain(facts.answer!.sentence)
    expect(words('numbers')).contain(facts.numbers!.sentence)
    expect(words('claimed')).contain('held, 97 %')
    expect(words('uses')).contain(
      'Disc 0 finishes on the line at 4° hyzer (±2°), thrown by Isolde in still air.',
    )
    expect(words('beside')).contain('Disc 0 is more stable than Disc 1 (')
    // what could not be answered is not spoken of: the two are no copies of one plastic
    expect(words('wear')).not.contain('copies of one plastic')
    expect(words('wear')).contain('Disc 1 is new and weighs 174 g.')
    expect(words('left-out')).contain('2 throws: hit a branch.')
    expect(words('left-out')).contain('1 throw: gust.')
  })

  it('name the sources of every disc, those nobody noted too', () => {
    expect(words('disclosure').split('\n')).deep.equal([
      'Disc 0 was bought by the reviewer.',
      'Disc 1 was sent by its maker: with a letter.',
    ])
    const simulated = simulatedWords(5, 36)!
    expect(simulated).match(/^5 of 36 throws were made by a simulated volunteer/)
    const told = filledSections([{ ...facts, simulated }]).find((s) => s.kind === 'disclosure')!
    expect(textOf(told.body)).contain(simulated)
    expect(simulatedWords(0, 36)).equal(undefined)
    expect(simulatedWords(1, 1)).match(/^The one throw was/)
    expect(simulatedWords(3, 3)).match(/^All 3 throws were/)
    expect(disclosureOf(disc(2, { source: 'unknown' }))).equal('Where Disc 2 came from was not noted.')
    expect(disclosureOf(disc(2, { source: 'lent', provenance: 'the shed' }))).equal(
      'Disc 2 was lent for this review: the shed.',
    )
  })

  it('say nothing of what nobody stated, but that a source was not noted', () => {
    const unstated = disc(0, { maker: undefined, lineage: 'Flint', grams: null, source: 'unknown' })
    const [tested] = filledSections([{ ...facts, discs: [unstated] }])
    expect(textOf(tested!.body)).contain('Disc 0: Flint, new, source not noted.')
  })

  it('put what is settled into what was found, and what is not into what is open', () => {
    const unsettled = {
      ...facts.answer!,
      settled: false,
      sentence: 'Which is more stable is not settled',
      open: [],
    }
    const [open] = filledSections([{ ...facts, answer: unsettled }]).filter((s) => s.kind === 'open')
    expect(textOf(open!.body)).contain('Which is more stable is not settled.')
    expect(words('open')).not.contain(facts.answer!.settled ? facts.answer!.sentence : 'no such words')
  })

  it('of several trials name each, and show each one’s own', () => {
    const two = filledSections([facts, { ...facts, trial: 'trial-1', name: 'A year on' }])
    const found = two.find((s) => s.kind === 'found')!
    expect(textOf(found.body)).contain('A year on')
    const shown = [...nodesOf(found.body)].flatMap((n) => (n.type === 'live' ? [n.attrs!['trial']] : []))
    expect(new Set(shown)).deep.equal(new Set(['trial-0', 'trial-1']))
  })

  it('hold nothing but what a review may hold, and say what is missing where nothing is known', () => {
    const bare = filledSections([
      {
        ...facts,
        discs: [disc(0)],
        answer: undefined,
        numbers: undefined,
        arms: undefined,
        wind: undefined,
        molds: undefined,
        leftOut: [],
        expected: [],
      },
    ])
    for (const { body } of [...sections, ...bare])
      for (const node of nodesOf(body)) {
        expect(NODE_TYPES).include(node.type)
        for (const mark of node.marks ?? []) expect(MARK_TYPES).include(mark.type)
        if (node.type === 'live') expect(LIVE_VIEWS).include(node.attrs!['view'])
        if (node.type === 'text') expect(node.text).not.equal('')
      }
    const said = (kind: string) => textOf(bare.find((s) => s.kind === kind)!.body)
    expect(said('left-out')).equal('No throw was left out.')
    expect(said('claimed')).equal('Nothing was written down before the first throw.')
    expect(said('hand')).equal('The discs were not measured in the hand.')
    expect(said('open')).equal('Nothing that was asked is open.')
  })
})

describe('links of a review', () => {
  it('lead where a reader can follow them, and nowhere else', () => {
    for (const good of ['https://example.org/a', 'http://example.org', 'mailto:isolde@example.org'])
      expect(isLink(good)).equal(true)
    for (const bad of [
      'javascript:alert(1)',
      'data:text/html,x',
      'file:///etc/passwd',
      '/here',
      '',
      7,
      undefined,
      'JAVASCRIPT:x',
    ])
      expect(isLink(bad), String(bad)).equal(false)
  })
})
