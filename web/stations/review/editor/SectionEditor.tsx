import { EditorContent, useEditor } from '@tiptap/react'
import type { Editor, JSONContent } from '@tiptap/react'
import { useEffect, useRef } from 'react'
import type { DocNode } from '../../../../core/review/document.ts'
import type { Verdict } from '../../../../core/review/judged.ts'
import { MARKS } from './claimMarks.ts'
import type { MarkedClaim, Namings } from './claimMarks.ts'
import { EXTENSIONS } from './extensions.ts'

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
  const told = useRef(onBody)
  useEffect(() => {
    told.current = onBody
  })
  const pending = useRef<ReturnType<typeof setTimeout>>(undefined)
  const last = useRef<string>(undefined)
  /** The version that what is shown was made from, and what is known by now. */
  const from = useRef(version)
  const newest = useRef({ body, version })
  const editor = useEditor({
    extensions: EXTENSIONS,
    content: body as JSONContent,
    editable,
    injectCSS: false,
    shouldRerenderOnTransaction: false,
    editorProps: {
      attributes: { 'aria-label': label, class: 'review-text', role: 'textbox', 'aria-multiline': 'true' },
    },
    onCreate: ({ editor: e }) => {
      last.current = JSON.stringify(e.getJSON())
      onEditor(e)
    },
    onUpdate: ({ editor: e }) => {
      clearTimeout(pending.current)
      pending.current = setTimeout(() => keep(e), PAUSE_MS)
    },
    onFocus: ({ editor: e }) => onFocus(e),
    onBlur: ({ editor: e }) => keep(e),
  })
  const keep = (e: Editor) => {
    clearTimeout(pending.current)
    pending.current = undefined
    const now = JSON.stringify(e.getJSON())
    if (now === last.current) return
    last.current = now
    told.current(e.getJSON() as DocNode, from.current)
    // another device wrote while this was typed: what was typed is kept beside it, and its own is shown here
    if (newest.current.version > from.current) show(e)
  }
  const show = (e: Editor) => {
    e.commands.setContent(newest.current.body as JSONContent, { emitUpdate: false })
    last.current = JSON.stringify(e.getJSON())
    from.current = newest.current.version
  }
  const keeping = useRef(keep)
  useEffect(() => {
    keeping.current = keep
  })
  useEffect(() => {
    const leave = () => editor && pending.current !== undefined && keeping.current(editor)
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      leave()
    }
  }, [editor])
  const found = useRef(onClaims)
  useEffect(() => {
    found.current = onClaims
  })
  useEffect(() => {
    const meta = { onClaims: (claims: readonly MarkedClaim[]) => found.current(claims) }
    editor?.view.dispatch(editor.state.tr.setMeta(MARKS, meta))
  }, [editor])
  useEffect(() => {
    editor?.setEditable(editable, false)
  }, [editor, editable])
  // what another device wrote takes the place of what is shown, unless something is being typed
  useEffect(() => {
    newest.current = { body, version }
    if (!editor) return
    // by content: the database keeps the parts of a node in an order of its own
    const known = editor.schema.nodeFromJSON(body)
    const isOwn =
      known.eq(editor.state.doc) ||
      (last.current !== undefined &&
        known.eq(editor.schema.nodeFromJSON(JSON.parse(last.current) as JSONContent)))
    if (isOwn) from.current = version
    else if (pending.current === undefined) show(editor)
  }, [editor, body, version])
  useEffect(() => {
    editor?.view.dispatch(editor.state.tr.setMeta(MARKS, { namings }))
  }, [editor, namings])
  useEffect(() => {
    editor?.view.dispatch(editor.state.tr.setMeta(MARKS, { verdicts }))
  }, [editor, verdicts])
  return <EditorContent editor={editor} />
}
