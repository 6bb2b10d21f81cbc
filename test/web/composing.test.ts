import { expect } from 'chai'
import type { ReviewFile, ReviewSection } from '../../contract/reviews.ts'
import { doc, paragraph } from '../../core/review/document.ts'
import {
  claimsOfSections,
  composingAfter,
  NOTHING_READ,
  ownSection,
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
