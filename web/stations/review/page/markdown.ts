import { gfm } from '@joplin/turndown-plugin-gfm'
import Turndown from 'turndown'

/** What begins a tag or a named character in Markdown, where it stands for itself. */
const RAW = { '<': '&lt;', '&': '&amp;' } as const
const escaped = (text: string): string =>
  text.replaceAll(/<|&(?=#|[a-z])/gi, (c) => RAW[c as keyof typeof RAW])

/** Elements that Markdown, or its tables, have a way of writing. */
const KNOWN = new Set(
  'P BR H1 H2 H3 H4 H5 H6 BLOCKQUOTE UL OL LI PRE HR A EM I STRONG B CODE TABLE THEAD TBODY TFOOT TR TH TD DEL S STRIKE INPUT'.split(
    ' ',
  ),
)
const INLINE = new Set('SPAN SMALL SUB SUP ABBR TIME MARK INS KBD VAR Q CITE LABEL FONT U WBR'.split(' '))
/** What a cell of a table has no room for. */
const NOT_IN_A_CELL = 'ul, ol, table, pre, h1, h2, h3, h4, h5, h6, blockquote, hr'

const oneLine = (text: string | null) => (text ?? '').replaceAll(/\s+/g, ' ').trim()
/** A row of a table whose cells are their text. */
const rowOf = (row: Element): string =>
  `| ${Array.from(row.querySelectorAll('td, th'), (c) => escaped(oneLine(c.textContent)).replaceAll('|', '\\|')).join(' | ')} |`

/** What is read, as Markdown that holds no HTML: what would be a tag is read as it was written. */
export function markdownFrom(html: string | HTMLElement): string {
  const turndown = new Turndown({ headingStyle: 'atx', bulletListMarker: '-', codeBlockStyle: 'fenced' })
  turndown.use(gfm)
  const usual = turndown.escape.bind(turndown)
  turndown.escape = (text) => escaped(usual(text))
  // whatever has no way of writing in Markdown is its text: nothing is kept as it was
  turndown.addRule('no HTML', {
    filter: (node) => !KNOWN.has(node.nodeName),
    replacement: (content, node) => (INLINE.has(node.nodeName) ? content : `\n\n${content}\n\n`),
  })
  turndown.addRule('picture', {
    filter: 'img',
    replacement: (_, node) => {
      const [src, alt] = ['src', 'alt'].map((name) => (node as Element).getAttribute(name) ?? '')
      return src === ''
        ? ''
        : `![${turndown.escape(oneLine(alt!))}](${src!.replaceAll(/[\s()<>]/g, encodeURIComponent)})`
    },
  })
  turndown.addRule('link', {
    filter: (node) => node.nodeName === 'A',
    replacement: (content, node) => {
      const href = (node as Element).getAttribute('href') ?? ''
      return href === '' || content.trim() === ''
        ? content
        : `[${content}](${href.replaceAll(/[\s()<>]/g, encodeURIComponent)})`
    },
  })
  turndown.addRule('crowded table', {
    filter: (node) => node.nodeName === 'TABLE' && (node as Element).querySelector(NOT_IN_A_CELL) !== null,
    replacement: (_, node) => {
      const [head, ...rows] = Array.from((node as Element).querySelectorAll('tr'), rowOf)
      if (head === undefined) return ''
      const columns = (node as Element).querySelector('tr')!.querySelectorAll('td, th').length
      return `\n\n${[head, `|${' --- |'.repeat(columns)}`, ...rows].join('\n')}\n\n`
    },
  })
  return `${turndown.turndown(html)}\n`
}
