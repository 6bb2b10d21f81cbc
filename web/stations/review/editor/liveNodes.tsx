import { Node } from '@tiptap/core'
import { NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import type { ReactNodeViewProps } from '@tiptap/react'
import { X } from 'lucide-react'
import clsx from 'clsx'
import { createContext, useContext } from 'react'
import type { LiveView } from '../../../../core/review/document.ts'
import type { Answered } from '../../../../core/judge/answers/answer.ts'
import { LiveBlock } from '../blocks/LiveBlock.tsx'
import { LIVE_WORDS } from '../blocks/liveWords.ts'
import { figureWords } from '../blocks/figures.ts'
import { useSources } from '../sources.tsx'
import { useUnits } from '../../../data/preferences.tsx'

/** Whether the review is written or read: an editor’s own word for it draws nothing anew. */
export const Writing = createContext(true)

interface LiveAttrs {
  readonly trial: string
  readonly view: LiveView
  readonly caption: string
  readonly size: 'half' | 'full'
}

function Live({ node, editor, updateAttributes, deleteNode, selected }: ReactNodeViewProps) {
  const writing = useContext(Writing)
  const attrs = node.attrs as LiveAttrs
  return (
    <NodeViewWrapper
      as="figure"
      data-live={attrs.view}
      className={clsx(
        'my-3 rounded-lg',
        attrs.size === 'half' && 'mx-auto max-w-xl',
        selected && writing && editor.isFocused && 'outline-2 outline-offset-4 outline-water',
      )}
    >
      {writing && (
        <div contentEditable={false} data-about="view" className="mb-1 flex flex-wrap items-center gap-2">
          <span className="text-note font-semibold">{LIVE_WORDS[attrs.view]}</span>
          <button
            type="button"
            className="min-h-9 text-note underline underline-offset-4"
            onClick={() => updateAttributes({ size: attrs.size === 'half' ? 'full' : 'half' })}
          >
            {attrs.size === 'half' ? 'full width' : 'half width'}
          </button>
          <button
            type="button"
            aria-label={`Take out ${LIVE_WORDS[attrs.view]}`}
            className="ml-auto grid size-9 place-items-center rounded-lg hover:bg-tint"
            onClick={deleteNode}
          >
            <X size={16} aria-hidden />
          </button>
        </div>
      )}
      <div contentEditable={false} data-drawn="">
        <LiveBlock trial={attrs.trial} view={attrs.view} />
      </div>
      {writing ? (
        <input
          aria-label={`Caption of ${LIVE_WORDS[attrs.view]}`}
          placeholder="Caption"
          className="mt-1 w-full border-b border-rule bg-transparent py-1 text-note"
          value={attrs.caption}
          onChange={(e) => updateAttributes({ caption: e.target.value })}
        />
      ) : (
        attrs.caption !== '' && <figcaption className="mt-1 text-note text-quiet">{attrs.caption}</figcaption>
      )}
    </NodeViewWrapper>
  )
}

/** A view of a trial that follows its data. */
export const LiveNode = Node.create({
  name: 'live',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({
    trial: { default: '' },
    view: { default: 'answer' },
    caption: { default: '' },
    size: { default: 'full' },
  }),
  parseHTML: () => [],
  renderHTML: ({ node }) => ['figure', { 'data-live': String(node.attrs['view']) }],
  addNodeView: () => ReactNodeViewRenderer(Live),
})

function Figured({ node }: ReactNodeViewProps) {
  const units = useUnits()
  const { trial, question, name } = node.attrs as { trial: string; question: Answered; name: string }
  const source = useSources().get(trial)
  const figure = source?.answers[question]?.figures[name]
  return (
    <NodeViewWrapper as="span" className="figure font-semibold" title={name} contentEditable={false}>
      {figure ? figureWords(figure, units) : source === undefined ? '…' : '(no such figure any more)'}
    </NodeViewWrapper>
  )
}

/** A figure inside a sentence that follows the data. */
export const FigureNode = Node.create({
  name: 'figure',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ trial: { default: '' }, question: { default: '' }, name: { default: '' } }),
  parseHTML: () => [],
  renderHTML: () => ['span', { 'data-figure': '' }],
  addNodeView: () => ReactNodeViewRenderer(Figured),
})
