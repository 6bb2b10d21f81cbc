import { AGAIN_WORDS, SLOT_WORDS } from '../../../contract/reviews.ts'
import type { ReviewFile, ReviewSection, Verdicts } from '../../../contract/reviews.ts'
import { doc, nodesOf, paragraph, withoutTail } from '../../../core/review/document.ts'
import { filledSections, SECTION_TITLES } from '../../../core/review/sections.ts'
import type { FilledSection } from '../../../core/review/sections.ts'
import type { PlacedClaim } from './ClaimsPanel.tsx'
import type { MarkedClaim } from './editor/claimMarks.ts'
import type { Source, Sources } from './sources.tsx'

/** A review that is being written, beside what is stored of it. */
export interface Composing {
  readonly mode: 'write' | 'read'
  /** What is read of its trials, as far as it is there. */
  readonly sources: Sources
  /** What its sections claim, section by section. */
  readonly claims: ReadonlyMap<string, readonly MarkedClaim[]>
  /** Sections that are to be filled anew once its trials are read in other units; those that hold words of the reviewer’s own are not. */
  readonly refilling?: { readonly units: Source['units']; readonly sections: readonly string[] }
}

export type ComposeEvent =
  | { readonly did: 'chose mode'; readonly mode: Composing['mode'] }
  | { readonly did: 'read trial'; readonly trial: string; readonly source: Source | null }
  | { readonly did: 'chose units'; readonly units: Source['units']; readonly sections: readonly string[] }
  | { readonly did: 'refilled' }
  | { readonly did: 'found claims'; readonly section: string; readonly claims: readonly MarkedClaim[] }

export const NOTHING_READ: Composing = { mode: 'write', sources: new Map(), claims: new Map() }

/** The review after something came or was chosen. */
export function composingAfter(state: Composing, event: ComposeEvent): Composing {
  switch (event.did) {
    case 'chose mode':
      return { ...state, mode: event.mode }
    case 'read trial':
      return { ...state, sources: new Map(state.sources).set(event.trial, event.source) }
    case 'chose units':
      return { ...state, refilling: { units: event.units, sections: event.sections } }
    case 'refilled': {
      const { refilling: _, ...rest } = state
      return rest
    }
    case 'found claims':
      return { ...state, claims: new Map(state.claims).set(event.section, event.claims) }
  }
}

/** Claims of sections that are read, each with its section. */
export const claimsOfSections = ({ claims }: Composing, sections: readonly ReviewSection[]): PlacedClaim[] =>
  sections
    .filter((s) => !s.hidden)
    .flatMap((s) => (claims.get(s.id) ?? []).map((c): PlacedClaim => ({ ...c, section: s.id })))

/** What a document says and shows, whatever order its parts are kept in. */
const contentOf = (body: ReviewSection['body']): string =>
  JSON.stringify(
    [...nodesOf(withoutTail(body))].map(({ type, text, attrs = {}, marks = [] }) => [
      type,
      text ?? '',
      Object.entries(attrs)
        .filter(([, v]) => v !== null)
        .sort(),
      marks.map((m) => m.type).sort(),
    ]),
  )

/** What sections of some kinds come filled with, from trials as they are read; nothing until all are. */
const filledNow = (sources: Sources, trialIds: readonly string[]): readonly FilledSection[] => {
  const facts = trialIds.flatMap((id) => sources.get(id)?.facts ?? [])
  return facts.length === trialIds.length ? filledSections(facts) : []
}

/** Whether a section says something that has a unit. */
export const saysFigures = ({ body }: ReviewSection): boolean =>
  [...nodesOf(body)].some((n) => /\d\s?(m|ft|m\/s|mph|km|°[CF])\b/.test(n.text ?? ''))

/** Sections that say no more than they came filled with. */
export function asFilled({ sources }: Composing, { review, sections }: ReviewFile): ReviewSection[] {
  const filled = new Map(filledNow(sources, review.trialIds).map((f) => [f.kind, contentOf(f.body)]))
  return sections.filter((s) => filled.get(s.kind) === contentOf(s.body))
}

/** Sections as they are filled in the units that were chosen, once the trials are read in them. */
export function refilled(
  { refilling, sources }: Composing,
  { review, sections }: ReviewFile,
): ReviewSection[] {
  if (!refilling || review.trialIds.some((id) => sources.get(id)?.units !== refilling.units)) return []
  const filled = new Map(filledNow(sources, review.trialIds).map((f) => [f.kind, f.body]))
  return sections
    .filter((s) => refilling.sections.includes(s.id))
    .flatMap((s) => {
      const body = filled.get(s.kind)
      return body ? [{ ...s, body }] : []
    })
}

/** The reviewer’s own words beside the numbers, as sentences. */
export function verdictWords({ slot, overlaps, forWhom, notForMe, again }: Verdicts): string[] {
  return [
    slot && `It ${SLOT_WORDS[slot]} in my bag.`,
    overlaps && `It overlaps with ${overlaps.replace(/[.\s]+$/, '')}.`,
    forWhom && `For ${forWhom.replace(/[.\s]+$/, '')}.`,
    notForMe && 'It is not for me.',
    again && `I ${AGAIN_WORDS[again]}.`,
  ].filter((words): words is string => typeof words === 'string' && words !== '')
}

/** What makes a section more than its heading, besides words. */
const SHOWN_NODES = ['live', 'flown', 'image', 'figure']

/** A section with nothing in it is not read. */
const saysSomething = ({ body, verdicts }: ReviewSection): boolean =>
  (verdicts !== null && verdictWords(verdicts).length > 0) ||
  [...nodesOf(body)].some((n) => n.text !== undefined || SHOWN_NODES.includes(n.type))

/** Sections as they are written, or as they are read; what is disclosed is always read. */
export const shownSections = (
  { mode }: Pick<Composing, 'mode'>,
  sections: readonly ReviewSection[],
): ReviewSection[] =>
  sections.filter((s) => mode === 'write' || s.kind === 'disclosure' || (!s.hidden && saysSomething(s)))

/** A section of one’s own, after all others. */
export const ownSection = ({ review, sections }: ReviewFile, id: string): ReviewSection => ({
  id,
  reviewId: review.id,
  kind: 'own',
  place: (sections.at(-1)?.place ?? 0) + 1,
  title: SECTION_TITLES.own,
  body: doc(paragraph()),
  verdicts: null,
  hidden: false,
  removedAt: null,
  version: 0,
})
