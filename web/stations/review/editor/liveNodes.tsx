import { Node } from '@tiptap/core'
import { NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import type { ReactNodeViewProps } from '@tiptap/react'
import { X } from 'lucide-react'
import clsx from 'clsx'
import { createContext, useContext } from 'react'
import type { ReactNode } from 'react'
import { LIVE_WORDS } from '../../../../core/review/document.ts'
import type { LiveView } from '../../../../core/review/document.ts'
import type { Answered } from '../../../../core/judge/answers/answerOf.ts'
import { FIRST_SETUP } from '../../../../contract/lab.ts'
import type { LabSetup } from '../../../../contract/lab.ts'
import { FlownBlock } from '../blocks/FlownBlock.tsx'
import { LiveBlock } from '../blocks/LiveBlock.tsx'
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

interface FramedProps extends Pick<
  ReactNodeViewProps,
  'editor' | 'updateAttributes' | 'deleteNode' | 'selected'
> {
  /** What is shown, in words, and a name for what it is. */
  readonly words: string
  readonly shows: string
  readonly caption: string
  readonly size: 'half' | 'full'
  readonly children: ReactNode
}
/** Something drawn inside a review, with its width, its caption and a way out. */
function Framed({
  words,
  shows,
  caption,
  size,
  children,
  editor,
  updateAttributes,
  deleteNode,
  selected,
}: FramedProps) {
  const writing = useContext(Writing)
  return (
    <NodeViewWrapper
      as="figure"
      data-live={shows}
      className={clsx(
        'my-3 rounded-lg',
        size === 'half' && 'mx-auto max-w-xl',
        selected && writing && editor.isFocused && 'outline-2 outline-offset-4 outline-water',
      )}
    >
      {writing && (
        <div contentEditable={false} data-about="view" className="mb-1 flex flex-wrap items-center gap-2">
          <span className="text-note font-semibold">{words}</span>
          <button
            type="button"
            className="min-h-9 text-note underline underline-offset-4"
            onClick={() => updateAttributes({ size: size === 'half' ? 'full' : 'half' })}
          >
            {size === 'half' ? 'full width' : 'half width'}
          </button>
          <button
            type="button"
            aria-label={`Take out ${words}`}
            className="ml-auto grid size-9 place-items-center rounded-lg hover:bg-tint"
            onClick={deleteNode}
          >
            <X size={16} aria-hidden />
          </button>
        </div>
      )}
      <div contentEditable={false} data-drawn="">
        {children}
      </div>
      {writing ? (
        <input
          aria-label={`Caption of ${words}`}
          placeholder="Caption"
          className="mt-1 w-full border-b border-rule bg-transparent py-1 text-note"
          value={caption}
          onChange={(e) => updateAttributes({ caption: e.target.value })}
        />
      ) : (
        caption !== '' && <figcaption className="mt-1 text-note text-quiet">{caption}</figcaption>
      )}
    </NodeViewWrapper>
  )
}

function Live({ node, ...frame }: ReactNodeViewProps) {
  const { trial, view, caption, size } = node.attrs as LiveAttrs
  return (
    <Framed words={LIVE_WORDS[view]} shows={view} {...{ caption, size }} {...frame}>
      <LiveBlock trial={trial} view={view} />
    </Framed>
  )
}

function Flown({ node, ...frame }: ReactNodeViewProps) {
  const { setup, caption, size } = node.attrs as Pick<LiveAttrs, 'caption' | 'size'> & { setup: LabSetup }
  return (
    <Framed words="A throw of the line lab" shows="throw" {...{ caption, size }} {...frame}>
      <FlownBlock setup={setup} />
    </Framed>
  )
}

/** A throw of the line lab, whose discs fly by what is known of them. */
export const FlownNode = Node.create({
  name: 'flown',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({
    setup: { default: FIRST_SETUP },
    caption: { default: '' },
    size: { default: 'full' },
  }),
  parseHTML: () => [],
  renderHTML: () => ['figure', { 'data-live': 'throw' }],
  addNodeView: () => ReactNodeViewRenderer(Flown),
})

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
