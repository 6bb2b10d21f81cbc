import type { Editor, JSONContent } from '@tiptap/react'
import type { ChainedCommands } from '@tiptap/react'
import { useEditorState } from '@tiptap/react'
import clsx from 'clsx'
import {
  Bold,
  Heading3,
  ImagePlus,
  Italic,
  Link as LinkIcon,
  List,
  ListOrdered,
  Quote,
  Redo2,
  Table,
  Undo2,
  Wind,
} from 'lucide-react'
import type { LucideIcon } from 'lucide-react'
import { useRef, useState } from 'react'
import { LIVE_VIEWS, LIVE_WORDS } from '../../../core/review/document.ts'
import { isLink } from '../../../core/review/document.ts'
import { useUnits } from '../../data/preferences.tsx'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { TextInput } from '../../parts/Inputs.tsx'
import { figureWords } from './blocks/figures.ts'
import { FlownDialog } from './FlownDialog.tsx'
import type { Sources } from './sources.tsx'
import { Select } from '../../parts/Select.tsx'

interface ToolbarProps {
  /** The section that is written in; nothing can be done without one. */
  readonly editor: Editor | undefined
  readonly sources: Sources
  readonly onPhoto: (file: File) => Promise<string | undefined>
}

interface Mark {
  readonly label: string
  readonly icon: typeof Bold
  /** Whether what is written in has it. */
  readonly is: (editor: Editor) => boolean
  readonly use: (chain: ChainedCommands) => ChainedCommands
}
/** What is put on and off what is written. */
const MARKS: readonly Mark[] = [
  { label: 'Bold', icon: Bold, is: (e) => e.isActive('bold'), use: (c) => c.toggleBold() },
  { label: 'Italic', icon: Italic, is: (e) => e.isActive('italic'), use: (c) => c.toggleItalic() },
  {
    label: 'Heading',
    icon: Heading3,
    is: (e) => e.isActive('heading', { level: 3 }),
    use: (c) => c.toggleHeading({ level: 3 }),
  },
  { label: 'List', icon: List, is: (e) => e.isActive('bulletList'), use: (c) => c.toggleBulletList() },
  {
    label: 'Numbered list',
    icon: ListOrdered,
    is: (e) => e.isActive('orderedList'),
    use: (c) => c.toggleOrderedList(),
  },
  { label: 'Quote', icon: Quote, is: (e) => e.isActive('blockquote'), use: (c) => c.toggleBlockquote() },
]

/** What can be done to the section that is written in. */
export function Toolbar({ editor, sources, onPhoto }: ToolbarProps) {
  const on = useEditorState({
    editor: editor ?? null,
    selector: ({ editor: e }): Readonly<Record<string, boolean>> => ({
      ...Object.fromEntries(MARKS.map(({ label, is }) => [label, e !== null && is(e)])),
      Link: e?.isActive('link') ?? false,
    }),
  })
  const [linking, setLinking] = useState(false)
  const [flying, setFlying] = useState(false)
  const file = useRef<HTMLInputElement>(null)
  const run = () => editor!.chain().focus()
  return (
    <div
      role="toolbar"
      aria-label="Text"
      className="sticky top-14 z-20 max-md:top-0 flex flex-wrap items-center gap-0.5 rounded-xl border border-rule bg-card px-2 py-1"
    >
      {MARKS.map(({ label, icon, use }) => (
        <Tool
          key={label}
          label={label}
          icon={icon}
          disabled={!editor}
          onUse={() => use(run()).run()}
          pressed={on?.[label]}
        />
      ))}
      <Tool
        label="Link"
        icon={LinkIcon}
        disabled={!editor}
        onUse={() => setLinking(true)}
        pressed={on?.['Link']}
      />
      <Tool
        label="Table"
        icon={Table}
        disabled={!editor}
        onUse={() => run().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run()}
      />
      <Tool label="Photo" icon={ImagePlus} disabled={!editor} onUse={() => file.current!.click()} />
      <Tool label="Undo" icon={Undo2} disabled={!editor} onUse={() => run().undo().run()} />
      <Tool label="Redo" icon={Redo2} disabled={!editor} onUse={() => run().redo().run()} />
      <Tool label="A throw of the line lab" icon={Wind} disabled={!editor} onUse={() => setFlying(true)} />
      <PutIn editor={editor} sources={sources} />
      <input
        ref={file}
        type="file"
        accept="image/*"
        className="hidden"
        aria-label="Photo for the review"
        onChange={(e) => {
          const [chosen] = e.target.files ?? []
          e.target.value = ''
          if (chosen && editor)
            void onPhoto(chosen).then(
              (src) => src && putIn(editor, { type: 'image', attrs: { src, alt: chosen.name } }),
            )
        }}
      />
      {flying && editor && (
        <FlownDialog
          onClose={() => setFlying(false)}
          onFlown={(setup) => {
            setFlying(false)
            putIn(editor, { type: 'flown', attrs: { setup, caption: '', size: 'full' } })
          }}
        />
      )}
      {linking && editor && (
        <LinkDialog
          href={String(editor.getAttributes('link')['href'] ?? '')}
          onClose={() => setLinking(false)}
          onLink={(href) => {
            setLinking(false)
            if (href === '') run().extendMarkRange('link').unsetLink().run()
            else run().extendMarkRange('link').setLink({ href }).run()
          }}
        />
      )}
    </div>
  )
}

/** Puts something behind what is chosen, which stays. */
const putIn = (editor: Editor, node: JSONContent) =>
  editor.chain().focus().insertContentAt(editor.state.selection.to, node).run()

interface ToolProps {
  readonly label: string
  readonly icon: LucideIcon
  readonly disabled: boolean
  readonly onUse: () => void
  readonly pressed?: boolean | undefined
}

function Tool({ label, icon: Icon, disabled, onUse, pressed }: ToolProps) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      disabled={disabled}
      // the section keeps its selection
      onMouseDown={(e) => e.preventDefault()}
      onClick={onUse}
      className={clsx(
        'grid size-9 place-items-center rounded-lg hover:bg-tint disabled:opacity-40',
        pressed && 'bg-tint text-ink ring-1 ring-edge',
      )}
    >
      <Icon size={17} aria-hidden />
    </button>
  )
}

/** Puts a live view or a live figure where one writes. */
function PutIn({ editor, sources }: Pick<ToolbarProps, 'editor' | 'sources'>) {
  const units = useUnits()
  const known = [...sources.values()].filter((s) => s !== null)
  const one = known.length === 1
  return (
    <>
      <Select
        hideLabel
        label="Put in a view"
        className="ml-auto"
        disabled={!editor || known.length === 0}
        value={null}
        placeholder="View …"
        onChange={(chosen) =>
          putIn(editor!, { type: 'live', attrs: { ...chosen, caption: '', size: 'full' } })
        }
        options={known.flatMap((s) =>
          LIVE_VIEWS.map((view) => ({
            value: { trial: s.view.trial.id, view },
            words: `${LIVE_WORDS[view]}${one ? '' : `, ${s.view.trial.name}`}`,
          })),
        )}
      />
      <Select
        hideLabel
        label="Put in a figure"
        disabled={!editor || known.length === 0}
        value={null}
        placeholder="Figure …"
        onChange={(chosen) => putIn(editor!, { type: 'figure', attrs: chosen })}
        options={known.flatMap((s) =>
          Object.values(s.answers).flatMap((answer) =>
            Object.entries(answer.figures).map(([name, figure]) => ({
              value: { trial: s.view.trial.id, question: answer.question, name },
              words: `${named(name, s.names)}: ${figureWords(figure, units)}`,
            })),
          ),
        )}
      />
    </>
  )
}

/** A figure’s name with its discs called as the trial calls them. */
const named = (figure: string, names: ReadonlyMap<string, string>): string =>
  [...names].reduce((text, [code, name]) => text.replaceAll(code, name), figure)

function LinkDialog({
  href,
  onClose,
  onLink,
}: {
  href: string
  onClose: () => void
  onLink: (href: string) => void
}) {
  const [address, setAddress] = useState(href)
  const wrong = address !== '' && !isLink(address)
  return (
    <Dialog open onClose={onClose} title="Link">
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (!wrong) onLink(address)
        }}
      >
        <TextInput
          label="Address"
          value={address}
          placeholder="https://"
          onChange={(e) => setAddress(e.target.value.trim())}
          error={wrong ? 'A link begins with https:, http: or mailto:.' : undefined}
        />
        <div className="mt-3 flex gap-2">
          <Button kind="primary" type="submit" disabled={wrong}>
            {address === '' ? 'Take the link off' : 'Set the link'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  )
}
