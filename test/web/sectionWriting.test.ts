import { expect } from 'chai'
import type { DocNode } from '../../core/review/document.ts'
import { startWriting, writingAfter } from '../../web/stations/review/editor/sectionWriting.ts'
import type { SectionWriting, WritingEvent } from '../../web/stations/review/editor/sectionWriting.ts'

const says = (text: string): DocNode => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
})
const textOf = (doc: DocNode): string => doc.text ?? (doc.content ?? []).map(textOf).join('')
const same = (one: DocNode, other: DocNode) => textOf(one) === textOf(other)

/** What was kept and shown over some events, and the section after them. */
function over(start: SectionWriting, ...events: readonly WritingEvent[]) {
  const did: string[] = []
  const writing = events.reduce((w, event) => {
    const step = writingAfter(w, event, same)
    if (step.keep) did.push(`keep ${textOf(step.keep.body)} of ${step.keep.from}`)
    if (step.show) did.push(`show ${textOf(step.show)}`)
    return step.writing
  }, start)
  return { writing, did }
}
const opened = startWriting({ body: says('a'), version: 3 })
const typed = { did: 'typed' } as const
const rested = (text: string) => ({ did: 'rested', now: says(text) }) as const
const heard = (text: string, version: number, now: string) =>
  ({ did: 'heard', stored: { body: says(text), version }, now: says(now) }) as const

describe('a section that is written in', () => {
  it('is kept when one rests, once, and not where nothing changed', () => {
    expect(over(opened, typed, rested('ab'), rested('ab')).did).deep.equal(['keep ab of 3'])
    expect(over(opened, typed, rested('a')).did).deep.equal([])
  })

  it('takes what comes back of its own for the version it goes on from', () => {
    const { writing, did } = over(opened, typed, rested('ab'), heard('ab', 4, 'ab'), typed, rested('abc'))
    expect(did).deep.equal(['keep ab of 3', 'keep abc of 4'])
    expect(writing).include({ from: 4, typing: false })
    // typed on meanwhile: what was kept before comes back, and nothing is shown in its place
    expect(over(opened, typed, rested('ab'), typed, heard('ab', 4, 'abc'), rested('abc')).did).deep.equal([
      'keep ab of 3',
      'keep abc of 4',
    ])
  })

  it('shows what another wrote, unless something is being typed', () => {
    expect(over(opened, heard('z', 4, 'a')).did).deep.equal(['show z'])
    expect(over(opened, heard('z', 4, 'a')).writing).include({ from: 4 })
    expect(over(opened, typed, heard('z', 4, 'ab')).did).deep.equal([])
  })

  it('keeps what was typed over what another wrote as an edit of the older one, and shows the other’s', () => {
    const { writing, did } = over(opened, typed, heard('z', 4, 'ab'), rested('ab'))
    expect(did).deep.equal(['keep ab of 3', 'show z'])
    expect(writing).include({ from: 4, typing: false })
    expect(textOf(writing.shown)).equal('z')
  })
})
