import { strToU8, zipSync } from 'fflate'
import type { Zippable } from 'fflate'
import type { Review } from '../../../../contract/reviews.ts'
import { sheetOf } from '../../../../contract/sheet.ts'
import { writeThrowsCsv } from '../../../../core/formats/throwsCsv.ts'
import { aliasesOf, discreet, withAliases } from '../../../../core/review/discreet.ts'
import { METHOD } from '../../../../core/review/method.ts'
import { drawingsIn, standaloneSvg } from '../../../data/drawings.ts'
import type { Source } from '../sources.tsx'
import { markdownFrom } from './markdown.ts'

interface BundleParts {
  readonly name: string
  readonly review: Review
  readonly html: string
  /** The review as it is read. */
  readonly article: HTMLElement
  readonly sources: readonly Source[]
}

const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
}

/** Photos of the review as files: by where each stands in it, what it is called beside it, and its bytes. */
async function photosIn(
  article: HTMLElement,
): Promise<{ names: ReadonlyMap<string, string>; files: Zippable }> {
  const names = new Map<string, string>()
  const files: Zippable = {}
  for (const { src } of article.querySelectorAll('img')) {
    if (src === '' || names.has(src)) continue
    const answer = await fetch(src).catch(() => undefined)
    if (!answer?.ok)
      throw new Error('A photo of the review could not be read; the server has to be there for that.')
    const blob = await answer.blob()
    const name = `photo-${names.size + 1}.${ENDINGS[blob.type] ?? 'bin'}`
    names.set(src, name)
    files[name] = new Uint8Array(await blob.arrayBuffer())
  }
  return { names, files }
}

/** The review as Markdown, its drawings and photos as files it names. */
function markdownOf(
  article: HTMLElement,
  files: ReadonlyMap<SVGSVGElement, string>,
  photos: ReadonlyMap<string, string>,
): string {
  // a document of its own fetches nothing of what stands in it
  const apart = document.implementation.createHTMLDocument('')
  const copy = apart.importNode(article, true)
  const photographs = [...article.querySelectorAll('img')].map((img) => photos.get(img.src) ?? '')
  copy.querySelectorAll('img').forEach((img, i) => img.setAttribute('src', photographs[i]!))
  const [own, copied] = [article, copy].map((e) => drawingsIn(e))
  own!.forEach((svg, i) => {
    const picture = apart.createElement('img')
    picture.src = files.get(svg)!
    picture.alt = svg.getAttribute('aria-label') ?? ''
    copied![i]!.replaceWith(picture)
  })
  for (const tool of copy.querySelectorAll('svg, input, button, select, [data-about="view"]')) tool.remove()
  return markdownFrom(copy)
}

const README = (name: string, throws: readonly string[]) => `# ${name}

- \`${name}.html\` is the review as one page; open it in any browser.
- \`${name}.md\` is the same as text, with its drawings and photos beside it.
- \`review.json\` holds every answer with its figures.
- ${throws.map((t) => `\`${t}\``).join(', ')}: every throw as it was logged; people whom the review does not name, and notes it does not show, are left out. \`npm run rate -- FILE\` of Veer Line prints the numbers from it (${METHOD}).
`

/**
 * Everything of a review in one file: the page, Markdown with its drawings, the answers as JSON, and the throws as CSV, so that anyone can
 * check the numbers.
 */
export async function bundleOf({ name, review, html, article, sources }: BundleParts): Promise<Blob> {
  const drawings = drawingsIn(article)
  const files = new Map(drawings.map((svg, i) => [svg, `drawing-${i + 1}.svg`]))
  const photos = await photosIn(article)
  const shown = article.textContent
  const sheets = sources.map(({ view }) => sheetOf(view.file, view.discs, view.throwers, 'label'))
  const aliases = aliasesOf(
    sheets.flat().map((t) => t.thrower),
    shown,
  )
  const throws = sheets.map(
    (sheet, i) => [`throws-${i + 1}.csv`, writeThrowsCsv(discreet(sheet, shown))] as const,
  )
  const json = {
    title: review.title,
    method: METHOD,
    trials: sources.map(({ view, answers, facts, reading }) => ({
      name: view.trial.name,
      question: facts.question,
      discs: facts.discs,
      answers: Object.values(answers).map(({ question, sentence, probability, settled, figures }) => ({
        question,
        sentence,
        probability,
        settled,
        figures,
      })),
      ratings: reading.outcome.discs,
    })),
  }
  const all: Zippable = {
    'README.md': strToU8(
      README(
        name,
        throws.map(([file]) => file),
      ),
    ),
    [`${name}.html`]: strToU8(html),
    [`${name}.md`]: strToU8(markdownOf(article, files, photos.names)),
    'review.json': strToU8(withAliases(JSON.stringify(json, null, 2), aliases)),
    ...photos.files,
    ...Object.fromEntries(throws.map(([file, text]) => [file, strToU8(text)])),
    ...Object.fromEntries(drawings.map((svg) => [files.get(svg)!, strToU8(standaloneSvg(svg))])),
  }
  return new Blob([zipSync(all) as BlobPart], { type: 'application/zip' })
}
