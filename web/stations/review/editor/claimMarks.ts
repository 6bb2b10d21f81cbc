import { Extension } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { Plugin, PluginKey } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'
import { claimsIn } from '../../../../core/review/saidClaims.ts'
import type { Naming, SaidClaim } from '../../../../core/review/saidClaims.ts'
import type { Verdict } from '../../../../core/review/judged.ts'

/** A claim in a section, where it stands, and of which trial it speaks. */
export interface MarkedClaim {
  readonly from: number
  readonly to: number
  readonly text: string
  readonly trial: string
  readonly claim: SaidClaim
}
/** How discs are spoken of, trial by trial. */
export type Namings = readonly { readonly trial: string; readonly naming: Naming }[]

/** One claim is judged once, however often it is said. */
export const claimKey = ({ trial, claim }: Pick<MarkedClaim, 'trial' | 'claim'>): string =>
  JSON.stringify([trial, claim])

/** Claims in a document, paragraph by paragraph; what reads as a claim of several trials is one of the first. */
export function claimsOf(doc: Node, namings: Namings): MarkedClaim[] {
  const found: MarkedClaim[] = []
  doc.descendants((node, pos) => {
    if (!node.isTextblock) return true
    // what is not text keeps its place, and ends a name
    const text = node.textBetween(0, node.content.size, undefined, '\u{fffc}')
    const own: MarkedClaim[] = []
    for (const { trial, naming } of namings)
      for (const { from, to, claim } of claimsIn(text, naming))
        if (!own.some((o) => o.from < pos + 1 + to && pos + 1 + from < o.to))
          own.push({ from: pos + 1 + from, to: pos + 1 + to, text: text.slice(from, to), trial, claim })
    found.push(...own.sort((a, b) => a.from - b.from))
    return false
  })
  return found
}

interface Marks {
  readonly namings: Namings
  readonly verdicts: ReadonlyMap<string, Verdict>
  readonly claims: readonly MarkedClaim[]
  /** Told of the claims whenever they are others. */
  readonly onClaims: ((claims: readonly MarkedClaim[]) => void) | undefined
}
export const MARKS = new PluginKey<Marks>('claims')

/** Marks claims with what the throws make of them; told names and verdicts by {@link MARKS} on a transaction. */
export const ClaimMarks = Extension.create({
  name: 'claimMarks',
  addProseMirrorPlugins() {
    return [
      new Plugin<Marks>({
        key: MARKS,
        state: {
          init: () => ({ namings: [], verdicts: new Map(), claims: [], onClaims: undefined }),
          apply: (tr, before, _old, state) => {
            const told = tr.getMeta(MARKS) as Partial<Marks> | undefined
            if (!told && !tr.docChanged) return before
            const next = { ...before, ...told }
            return tr.docChanged || told?.namings
              ? { ...next, claims: claimsOf(state.doc, next.namings) }
              : next
          },
        },
        props: {
          decorations: (state) => {
            const { claims, verdicts } = MARKS.getState(state)!
            return DecorationSet.create(
              state.doc,
              claims.map((c) =>
                Decoration.inline(c.from, c.to, {
                  class: `claim claim-${(verdicts.get(claimKey(c)) ?? 'weighed').replace(' ', '-')}`,
                }),
              ),
            )
          },
        },
        view: () => ({
          update: (view, before) => {
            const now = MARKS.getState(view.state)!.claims
            if (now !== MARKS.getState(before)?.claims) MARKS.getState(view.state)!.onClaims?.(now)
          },
        }),
      }),
    ]
  },
})
