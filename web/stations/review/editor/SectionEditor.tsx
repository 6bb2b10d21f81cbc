import { EditorContent, useEditor } from '@tiptap/react'
import type { Editor, JSONContent } from '@tiptap/react'
import { useEffect, useEffectEvent, useRef } from 'react'
import { withoutTail } from '../../../../core/review/document.ts'
import type { DocNode } from '../../../../core/review/document.ts'
import type { Verdict } from '../../../../core/review/judged.ts'
import { MARKS } from './claimMarks.ts'
import type { MarkedClaim, Namings } from './claimMarks.ts'
import { EXTENSIONS } from './extensions.ts'
import { startWriting, writingAfter } from './sectionWriting.ts'
import type { SameDoc, WritingEvent } from './sectionWriting.ts'

interface SectionEditorProps {
  /** Names it for those who cannot see it. */
  readonly label: string
  readonly body: DocNode
  /** Counts what was stored: what is typed is an edit of the version that was shown when it was typed. */
  readonly version: number
  readonly editable: boolean
  readonly namings: Namings
  readonly verdicts: ReadonlyMap<string, Verdict>
  /** @param from the version it was made from */
  readonly onBody: (body: DocNode, from: number) => void
  readonly onClaims: (claims: readonly MarkedClaim[]) => void
  readonly onFocus: (editor: Editor) => void
  readonly onEditor: (editor: Editor) => void
}

/** A pause in typing before it is kept, ms. */
const PAUSE_MS = 500

/** One section, written or read. What is typed is kept a moment later, and at once when the section is left. */
export function SectionEditor({
  label,
  body,
  version,
  editable,
  namings,
  verdicts,
  onBody,
  onClaims,
  onFocus,
  onEditor,
}: SectionEditorProps) {
  const writing = useRef(startWriting({ body, version }))
  const pause = useRef<ReturnType<typeof setTimeout>>(undefined)
  const tell = useEffectEvent((e: Editor, event: WritingEvent) => {
    const node = (of: DocNode) => e.schema.nodeFromJSON(withoutTail(of))
    const same: SameDoc = (one, other) => node(one).eq(node(other))
    const { writing: after, keep, show } = writingAfter(writing.current, event, same)
    writing.current = after
    if (keep) onBody(keep.body, keep.from)
    if (show) e.commands.setContent(show as JSONContent, { emitUpdate: false })
  })
  const rest = useEffectEvent((e: Editor) => {
    clearTimeout(pause.current)
    if (writing.current.typing) tell(e, { did: 'rested', now: e.getJSON() as DocNode })
  })
  const found = useEffectEvent((claims: readonly MarkedClaim[]) => onClaims(claims))
  const entered = useEffectEvent((e: Editor) => onFocus(e))
  const editor = useEditor({
    extensions: EXTENSIONS,
    content: body as JSONContent,
    editable,
    injectCSS: false,
    shouldRerenderOnTransaction: false,
    editorProps: {
      attributes: { 'aria-label': label, class: 'review-text', role: 'textbox', 'aria-multiline': 'true' },
    },
    onCreate: ({ editor: e }) => onEditor(e),
  })
  useEffect(() => {
    if (!editor) return
    const typed = () => {
      tell(editor, { did: 'typed' })
      clearTimeout(pause.current)
      pause.current = setTimeout(() => rest(editor), PAUSE_MS)
    }
    const left = () => rest(editor)
    const focused = () => entered(editor)
    editor.on('update', typed).on('blur', left).on('focus', focused)
    window.addEventListener('pagehide', left)
    return () => {
      editor.off('update', typed).off('blur', left).off('focus', focused)
      window.removeEventListener('pagehide', left)
      // a screen that is left by a key or the browser’s own button does not blur what is written in
      left()
    }
  }, [editor])
  useEffect(() => {
    if (editor) tell(editor, { did: 'heard', stored: { body, version }, now: editor.getJSON() as DocNode })
  }, [editor, body, version])
  useEffect(() => {
    editor?.setEditable(editable, false)
  }, [editor, editable])
  useEffect(() => {
    const meta = { namings, onClaims: (claims: readonly MarkedClaim[]) => found(claims) }
    editor?.view.dispatch(editor.state.tr.setMeta(MARKS, meta))
  }, [editor, namings])
  useEffect(() => {
    editor?.view.dispatch(editor.state.tr.setMeta(MARKS, { verdicts }))
  }, [editor, verdicts])
  return <EditorContent editor={editor} />
}
