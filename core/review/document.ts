/**
 * What a section of a review holds: a tree of blocks as ProseMirror editors keep them, restricted to what a review may hold. Live
 * blocks, throws of the line lab and figures follow the data until the review is frozen.
 */
export interface DocNode {
  readonly type: string
  readonly attrs?: Readonly<Record<string, unknown>> | undefined
  readonly content?: readonly DocNode[] | undefined
  readonly marks?: readonly DocMark[] | undefined
  readonly text?: string | undefined
}
export interface DocMark {
  readonly type: string
  readonly attrs?: Readonly<Record<string, unknown>> | undefined
}

/**
 * What live blocks show of a trial, and what each is called where one is chosen. A further one is a line here; its drawing is
 * asked for by the compiler in `web/stations/review/blocks/LiveBlock.tsx`.
 */
export const LIVE_WORDS = {
  discs: 'The discs',
  answer: 'Picture of the answer',
  flights: 'Flights',
  numbers: 'Claim and evidence',
  arms: 'Other arms',
  wind: 'The wind',
  pairs: 'Every pair',
  throws: 'The throws',
  'left-out': 'Throws left out',
  'in-the-hand': 'Rims',
} as const satisfies Record<string, string>
export type LiveView = keyof typeof LIVE_WORDS
export const LIVE_VIEWS = Object.keys(LIVE_WORDS) as LiveView[]
export const LIVE_SIZES = ['half', 'full'] as const

/** Nodes and marks a review may hold. */
export const NODE_TYPES = [
  'doc',
  'paragraph',
  'heading',
  'bulletList',
  'orderedList',
  'listItem',
  'blockquote',
  'horizontalRule',
  'hardBreak',
  'table',
  'tableRow',
  'tableHeader',
  'tableCell',
  'image',
  'text',
  'live',
  'flown',
  'figure',
] as const
export const MARK_TYPES = ['bold', 'italic', 'strike', 'underline', 'code', 'link'] as const
/** Where links of a review may lead. */
export const LINK_SCHEMES = ['https:', 'http:', 'mailto:'] as const

export const isLink = (href: unknown): boolean => {
  if (typeof href !== 'string') return false
  try {
    return (LINK_SCHEMES as readonly string[]).includes(new URL(href).protocol)
  } catch {
    return false
  }
}

export const doc = (...content: readonly DocNode[]): DocNode => ({ type: 'doc', content })
export const text = (words: string): DocNode => ({ type: 'text', text: words })
export const paragraph = (...of: readonly (DocNode | string)[]): DocNode => {
  const content = of.map((c) => (typeof c === 'string' ? text(c) : c)).filter((n) => n.text !== '')
  return content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' }
}
export const list = (...items: readonly string[]): DocNode => ({
  type: 'bulletList',
  content: items.map((words) => ({ type: 'listItem', content: [paragraph(words)] })),
})
export const live = (
  trial: string,
  view: LiveView,
  caption = '',
  size: (typeof LIVE_SIZES)[number] = 'full',
): DocNode => ({ type: 'live', attrs: { trial, view, caption, size } })

/** A document without the empty lines at its end, which an editor puts there to be written in. */
export function withoutTail(node: DocNode): DocNode {
  const content = [...(node.content ?? [])]
  while (content.length > 1 && content.at(-1)!.type === 'paragraph' && !content.at(-1)!.content?.length)
    content.pop()
  return { ...node, content }
}

/** Every node of a document, the outer before the inner. */
export function* nodesOf(node: DocNode): Generator<DocNode> {
  yield node
  for (const child of node.content ?? []) yield* nodesOf(child)
}

/** The text of a document, a line a block. */
export function textOf(node: DocNode): string {
  if (node.text !== undefined) return node.text
  const inner = (node.content ?? []).map(textOf)
  return inner.join(BLOCKS.has(node.type) ? '\n' : '')
}
const BLOCKS = new Set(['doc', 'bulletList', 'orderedList', 'listItem', 'blockquote', 'table', 'tableRow'])
