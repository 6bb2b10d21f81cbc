import type { DocNode } from '../../../../core/review/document.ts'

/** A section as it is stored, and the version that counts how often it was. */
export interface StoredSection {
  readonly body: DocNode
  readonly version: number
}

/** A section that is written in. */
export interface SectionWriting {
  /** What was kept or put on the screen last. */
  readonly shown: DocNode
  /** The version it was made from: what is typed is an edit of that one. */
  readonly from: number
  /** What is stored, as far as is known. */
  readonly known: StoredSection
  /** Something was typed that is not kept yet. */
  readonly typing: boolean
}

/** What happened; `now` is what stands in the editor. */
export type WritingEvent =
  | { readonly did: 'typed' }
  /** There was a pause in typing, or the section was left. */
  | { readonly did: 'rested'; readonly now: DocNode }
  /** It became known what is stored, by this device or another. */
  | { readonly did: 'heard'; readonly stored: StoredSection; readonly now: DocNode }

/** What is to be done about it, in this order: what is to be kept, and what is to be shown in the editor's place. */
export interface WritingStep {
  readonly writing: SectionWriting
  readonly keep?: { readonly body: DocNode; readonly from: number }
  readonly show?: DocNode
}

/** Whether two documents say the same, whatever order a database keeps their parts in. */
export type SameDoc = (one: DocNode, other: DocNode) => boolean

export const startWriting = (stored: StoredSection): SectionWriting => ({
  shown: stored.body,
  from: stored.version,
  known: stored,
  typing: false,
})

/** What is stored takes the place of what is shown. */
const shownAnew = (writing: SectionWriting): WritingStep => {
  const { body, version } = writing.known
  return { writing: { ...writing, shown: body, from: version }, show: body }
}

/**
 * The section after something happened to it. Nothing that was typed is lost to what another device wrote: it is kept as an edit
 * of the version it was made from, and the other's is shown then.
 */
export function writingAfter(writing: SectionWriting, event: WritingEvent, same: SameDoc): WritingStep {
  switch (event.did) {
    case 'typed':
      return { writing: { ...writing, typing: true } }
    case 'rested': {
      const rested = { ...writing, typing: false }
      if (same(event.now, writing.shown)) return { writing: rested }
      const keep = { body: event.now, from: writing.from }
      const kept = { ...rested, shown: event.now }
      return writing.known.version > writing.from ? { ...shownAnew(kept), keep } : { writing: kept, keep }
    }
    case 'heard': {
      const { stored, now } = event
      const told = { ...writing, known: stored }
      if (same(stored.body, now) || same(stored.body, writing.shown))
        return { writing: { ...told, from: stored.version } }
      return writing.typing ? { writing: told } : shownAnew(told)
    }
  }
}
