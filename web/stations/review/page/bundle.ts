import { gfm } from '@joplin/turndown-plugin-gfm'
import { strToU8, zipSync } from 'fflate'
import type { Zippable } from 'fflate'
import Turndown from 'turndown'
import type { Review } from '../../../../contract/reviews.ts'
import { addressOf } from '../../../../contract/writes.ts'
import { METHOD } from '../../../../core/review/method.ts'
import type { Source } from '../sources.tsx'
import { drawingsIn, standaloneSvg } from '../../../data/drawings.ts'

interface BundleParts {
  readonly name: string
  readonly review: Review
  readonly html: string
  /** The review as it is read. */
  readonly article: HTMLElement
  readonly sources: readonly Source[]
}

/** The review as Markdown, its drawings as files it names. */
function markdownOf(article: HTMLElement, files: ReadonlyMap<SVGSVGElement, string>): string {
  // a document of its own fetches nothing of what stands in it
  const apart = document.implementation.createHTMLDocument('')
  const copy = apart.importNode(article, true)
  const [own, copied] = [article, copy].map((e) => drawingsIn(e))
  own!.forEach((svg, i) => {
    const picture = apart.createElement('img')
    picture.src = files.get(svg)!
    picture.alt = svg.getAttribute('aria-label') ?? ''
    copied![i]!.replaceWith(picture)
  })
  for (const tool of copy.querySelectorAll('svg, input, button, select, [data-about="view"]')) tool.remove()
  const turndown = new Turndown({ headingStyle: 'atx', bulletListMarker: '-', codeBlockStyle: 'fenced' })
  turndown.use(gfm)
  return `${turndown.turndown(copy)}\n`
}

const README = (name: string, throws: readonly string[]) => `# ${name}

- \`${name}.html\` is the review as one page; open it in any browser.
- \`${name}.md\` is the same as text, with its drawings beside it.
- \`review.json\` holds every answer with its figures.
- ${throws.map((t) => `\`${t}\``).join(', ')}: every throw as it was logged. \`npm run rate -- FILE\` of Veer Line prints the numbers from it (${METHOD}).
`

/**
 * Everything of a review in one file: the page, Markdown with its drawings, the answers as JSON, and the throws as CSV, so that anyone can
 * check the numbers.
 */
export async function bundleOf({ name, review, html, article, sources }: BundleParts): Promise<Blob> {
  const drawings = drawingsIn(article)
  const files = new Map(drawings.map((svg, i) => [svg, `drawing-${i + 1}.svg`]))
  const throws = await Promise.all(
    sources.map(async ({ view }, i) => {
      const answer = await fetch(`${addressOf('trials', view.trial.id)}/throws.csv?all=1`)
      if (!answer.ok) throw new Error('The throws could not be read; the server has to be there for that.')
      return [`throws-${i + 1}.csv`, await answer.text()] as const
    }),
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
    [`${name}.md`]: strToU8(markdownOf(article, files)),
    'review.json': strToU8(JSON.stringify(json, null, 2)),
    ...Object.fromEntries(throws.map(([file, text]) => [file, strToU8(text)])),
    ...Object.fromEntries(drawings.map((svg) => [files.get(svg)!, strToU8(standaloneSvg(svg))])),
  }
  return new Blob([zipSync(all) as BlobPart], { type: 'application/zip' })
}
