import escapeHtml from 'escape-html'
import type { ReaderData } from '../../../../core/review/reader.ts'
import { dataAddress } from '../../../data/pictures.ts'
import { sized } from '../../../data/drawings.ts'
import { PAGE_STYLE } from './readerStyle.ts'
import { ownStyle } from './styles.ts'

/** What a page is made from. */
export interface PageParts {
  readonly title: string
  /** One line below the title. */
  readonly about: string
  /** The review as it is shown where it is read. */
  readonly article: HTMLElement
  readonly data: ReaderData
}

/** Somebody stopped it; nothing was made. */
export class Stopped extends Error {}

interface Making {
  readonly signal: AbortSignal
  /** Told now and then what share is done. */
  readonly onShare: (share: number) => void
}

/** Gives others a turn, and ends where nobody wants it any more. */
async function breath(signal: AbortSignal): Promise<void> {
  await new Promise((next) => setTimeout(next, 0))
  if (signal.aborted) throw new Stopped()
}

/** What belongs to writing, not to what is read. */
const TOOLS = 'input, button, select, textarea, [role="radiogroup"], [data-about="view"]'
/** What an editor puts on its elements for itself. */
const OF_EDITOR = [
  'contenteditable',
  'tabindex',
  'role',
  'aria-multiline',
  'aria-label',
  'translate',
  'draggable',
  'data-node-view-wrapper',
  'data-drag-handle',
]

/** The review without what it was written with; drawings that fit any width, tables that scroll by themselves. */
function cleaned(article: HTMLElement): HTMLElement {
  const copy = article.cloneNode(true) as HTMLElement
  const [own, copied] = [article, copy].map((e) => [...e.querySelectorAll<SVGSVGElement>('svg')])
  own!.forEach((svg, i) => {
    const { width, height } = svg.getBoundingClientRect()
    if (svg.getAttribute('role') === 'img') sized(copied![i]!, width || 760, height || 300)
  })
  for (const tool of copy.querySelectorAll(TOOLS)) tool.remove()
  for (const text of copy.querySelectorAll('.ProseMirror, .ProseMirror *')) {
    if (!text.closest('svg')) for (const name of OF_EDITOR) text.removeAttribute(name)
    text.classList.remove('ProseMirror', 'tiptap', 'ProseMirror-focused', 'ProseMirror-selectednode')
  }
  // a strip keeps the height it had on the screen; a page decides by its own width
  for (const strip of copy.querySelectorAll<HTMLElement>('figure div[style*="height"]'))
    strip.style.height = ''
  for (const gap of copy.querySelectorAll('.ProseMirror-trailingBreak, img.ProseMirror-separator'))
    gap.remove()
  for (const table of copy.querySelectorAll('table')) {
    if (table.closest('.wide, .tableWrapper, .reader-table')) continue
    const wide = document.createElement('div')
    wide.className = 'wide'
    wide.tabIndex = 0
    wide.setAttribute('role', 'group')
    wide.setAttribute('aria-label', 'Table')
    table.replaceWith(wide)
    wide.append(table)
  }
  return copy
}

/** Puts every photo inside; one that cannot be had is said to be missing. */
async function withPhotos(copy: HTMLElement, { signal, onShare }: Making): Promise<void> {
  // one that has not been sent yet is inside already
  const photos = [...copy.querySelectorAll<HTMLImageElement>('img:not([src^="data:"])')]
  for (const [i, photo] of photos.entries()) {
    await breath(signal)
    onShare(0.2 + (0.6 * i) / photos.length)
    try {
      const answer = await fetch(photo.getAttribute('src')!, { signal })
      if (!answer.ok) throw new Error('no photo')
      photo.src = await dataAddress(await answer.blob())
    } catch (e) {
      if (signal.aborted) throw new Stopped()
      // a disc need not have one
      if (photo.getAttribute('src')!.startsWith('/api/discs/')) {
        photo.remove()
        continue
      }
      const missing = document.createElement('p')
      missing.textContent = `(The photo ${photo.alt} could not be read.)`
      if (!(e instanceof Error)) throw e
      photo.replaceWith(missing)
    }
  }
}

const hashed = async (text: string): Promise<string> => {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text))
  return `'sha256-${btoa(String.fromCharCode(...new Uint8Array(digest)))}'`
}

/**
 * The whole review as one page that stands alone: style, fonts, drawings, photos and the reader’s panel inside, a content security policy
 * of its own, nothing fetched.
 *
 * @throws Stopped where the signal stopped it
 */
export async function pageOf({ title, about, article, data }: PageParts, making: Making): Promise<string> {
  const { signal, onShare } = making
  onShare(0)
  const copy = cleaned(article)
  await breath(signal)
  const style = `${await ownStyle()}\n${PAGE_STYLE}`
  onShare(0.15)
  await breath(signal)
  const { default: script } = await import('virtual:reader')
  await withPhotos(copy, making)
  await breath(signal)
  onShare(0.85)
  copy.querySelector('h1')?.remove()
  const inside = JSON.stringify(data).replaceAll('<', '\\u003c')
  const policy = [
    "default-src 'none'",
    `script-src ${await hashed(script)}`,
    `style-src ${await hashed(style)}`,
    "style-src-attr 'unsafe-inline'",
    'img-src data:',
    'font-src data:',
    "base-uri 'none'",
    "form-action 'none'",
  ].join('; ')
  onShare(1)
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="content-security-policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="color-scheme" content="light dark">
<meta name="referrer" content="no-referrer">
<title>${escapeHtml(title)}</title>
<style>${style}</style>
</head>
<body class="page">
<main>
<h1>${escapeHtml(title)}</h1>
<p class="review-about">${escapeHtml(about)}</p>
<section id="reader" hidden aria-label="For your arm"></section>
${copy.innerHTML}
</main>
<script type="application/json" id="reader-data">${inside}</script>
<script>${script}</script>
</body>
</html>
`
}
