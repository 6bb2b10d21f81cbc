import { expect } from 'chai'
import type { ReviewFile, ReviewSection } from '../../contract/reviews.ts'
import { doc, paragraph, textOf, withoutTail } from '../../core/review/document.ts'
import type { DocNode } from '../../core/review/document.ts'
import { filledSections } from '../../core/review/sections.ts'
import { facts } from '../core/review/twoFlints.ts'
import type { Source } from '../../web/stations/review/sources.tsx'
import {
  asFilled,
  claimsOfSections,
  composingAfter,
  NOTHING_READ,
  ownSection,
  refilled,
  saysFigures,
  shownSections,
  verdictWords,
} from '../../web/stations/review/composing.ts'
import type { ComposeEvent } from '../../web/stations/review/composing.ts'
import type { MarkedClaim } from '../../web/stations/review/editor/claimMarks.ts'

const section = (id: string, change: Partial<ReviewSection> = {}): ReviewSection => ({
  id,
  reviewId: 'r',
  kind: 'own',
  place: 1,
  title: id,
  body: doc(paragraph('It holds a headwind.')),
  verdicts: null,
  hidden: false,
  removedAt: null,
  version: 1,
  ...change,
})
const claim = (text: string) => ({ from: 0, to: 4, text, trial: 't' }) as MarkedClaim
const after = (...events: readonly ComposeEvent[]) => events.reduce(composingAfter, NOTHING_READ)
const NO_VERDICTS = { slot: null, overlaps: '', forWhom: '', notForMe: false, again: null }

describe('a review that is being written', () => {
  it('has the claims of its sections, the newest of each, those of hidden ones left aside', () => {
    const state = after(
      { did: 'found claims', section: 'a', claims: [claim('old')] },
      { did: 'found claims', section: 'a', claims: [claim('new'), claim('another')] },
      { did: 'found claims', section: 'b', claims: [claim('hidden')] },
    )
    const sections = [section('a'), section('b', { hidden: true }), section('c')]
    expect(claimsOfSections(state, sections).map((c) => [c.section, c.text])).deep.equal([
      ['a', 'new'],
      ['a', 'another'],
    ])
  })

  it('shows all it has while it is written, and what says something while it is read', () => {
    const sections = [
      section('says'),
      section('empty', { body: doc(paragraph()) }),
      section('hidden', { hidden: true }),
      section('disclosed', { kind: 'disclosure', hidden: true, body: doc(paragraph()) }),
      section('judged', { body: doc(paragraph()), verdicts: { ...NO_VERDICTS, notForMe: true } }),
      section('unjudged', { body: doc(paragraph()), verdicts: NO_VERDICTS }),
    ]
    const ids = (mode: 'write' | 'read') =>
      shownSections(after({ did: 'chose mode', mode }), sections).map((s) => s.id)
    expect(ids('write')).deep.equal(sections.map((s) => s.id))
    expect(ids('read')).deep.equal(['says', 'disclosed', 'judged'])
  })

  it('knows what was read of each trial, and what could not be', () => {
    const state = after({ did: 'read trial', trial: 't', source: null })
    expect([...state.sources]).deep.equal([['t', null]])
    expect(NOTHING_READ.sources.size).equal(0)
  })

  it('is said in other units where it says what it came filled with, and keeps what its writer wrote', () => {
    const read = (units: Source['units'], change = {}): ComposeEvent => ({
      did: 'read trial',
      trial: 't',
      source: { units, facts: { ...facts, ...change } } as unknown as Source,
    })
    const filled = filledSections([facts]).map((f) => section(f.kind, { ...f, place: 1 }))
    // a database keeps the parts of a document in an order of its own
    const stored = filled.map((s) => ({
      ...s,
      body: JSON.parse(
        JSON.stringify(s.body, (_, v: unknown) =>
          v !== null && typeof v === 'object' && !Array.isArray(v)
            ? Object.fromEntries(Object.entries(v).toReversed())
            : v,
        ),
      ) as ReviewSection['body'],
    }))
    // an editor ends a section with a line to write in
    for (const { body } of stored) (body.content as DocNode[]).push(paragraph())
    const sections = stored.map((s) =>
      s.kind === 'found' ? { ...s, body: doc(paragraph('I saw 4 m of it.')) } : s,
    )
    const file = { review: { id: 'r', trialIds: ['t'] }, sections } as unknown as ReviewFile
    expect(asFilled(after(), file), 'nothing is read yet').deep.equal([])
    const kinds = asFilled(after(read('metric')), file).map((s) => s.kind)
    expect(kinds).deep.equal(sections.map((s) => s.kind).filter((k) => k !== 'found'))

    const chosen: ComposeEvent = { did: 'chose units', units: 'imperial', sections: kinds }
    expect(refilled(after(read('metric'), chosen), file), 'read in metres still').deep.equal([])
    const feet = { conditions: ['Isolde', 'wind of up to 9 mph'] }
    const state = after(read('metric'), chosen, read('imperial', feet))
    const anew = refilled(state, file)
    expect(anew.map((s) => s.id)).deep.equal(kinds)
    expect(textOf(anew.find((s) => s.kind === 'how')!.body)).contain('wind of up to 9 mph')
    expect(refilled(composingAfter(state, { did: 'refilled' }), file)).deep.equal([])
    expect(sections.filter((s) => !kinds.includes(s.kind) && saysFigures(s)).map((s) => s.kind)).deep.equal([
      'found',
    ])
    expect(saysFigures(section('a'))).equal(false)
  })

  it('says the same with empty lines at its end and without; a line alone stays', () => {
    const said = doc(paragraph('one'), paragraph(), paragraph('two'))
    expect(withoutTail({ ...said, content: [...said.content!, paragraph(), paragraph()] })).deep.equal(said)
    expect(withoutTail(doc(paragraph(), paragraph()))).deep.equal(doc(paragraph()))
  })

  it('gets a section of one’s own after all others', () => {
    const file = {
      review: { id: 'r' },
      sections: [section('a'), section('b', { place: 7 })],
    } as unknown as ReviewFile
    expect(ownSection(file, 'new')).include({ id: 'new', reviewId: 'r', place: 8, kind: 'own', version: 0 })
    expect(ownSection({ ...file, sections: [] }, 'new').place).equal(1)
  })

  it('says the reviewer’s own words as sentences', () => {
    expect(
      verdictWords({
        slot: 'earns-a-slot',
        overlaps: 'the old one.',
        forWhom: 'slow arms ',
        notForMe: true,
        again: 'would-buy-again',
      }),
    ).deep.equal([
      'It earns a slot in my bag.',
      'It overlaps with the old one.',
      'For slow arms.',
      'It is not for me.',
      'I would buy again.',
    ])
    expect(verdictWords(NO_VERDICTS)).deep.equal([])
  })
})
