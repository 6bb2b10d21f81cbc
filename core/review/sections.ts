import { SOURCE_WORDS } from '../shelf/kinds.ts'
import type { DiscSource } from '../shelf/kinds.ts'
import type { Answer } from '../judge/answers/answerOf.ts'
import { percent } from '../judge/statements.ts'
import { doc, list, live, paragraph } from './document.ts'
import type { DocNode } from './document.ts'

/** Sections a review can have, in the order they come filled; `own` are those a reviewer adds. */
export const SECTION_KINDS = [
  'tested',
  'how',
  'hand',
  'claimed',
  'found',
  'numbers',
  'arms',
  'uses',
  'beside',
  'wear',
  'left-out',
  'open',
  'verdict',
  'disclosure',
  'own',
] as const
export type SectionKind = (typeof SECTION_KINDS)[number]

/** What each section is called until somebody calls it something else. */
export const SECTION_TITLES: Readonly<Record<SectionKind, string>> = {
  tested: 'What was tested',
  how: 'How it was thrown',
  hand: 'In the hand',
  claimed: 'Expected and claimed before',
  found: 'What was found',
  numbers: 'Its numbers beside the published',
  arms: 'For whom',
  uses: 'What for, and what not',
  beside: 'Beside similar molds',
  wear: 'Wear and weight',
  'left-out': 'Throws that were left out',
  open: 'What is still open',
  verdict: 'Verdict',
  disclosure: 'Disclosure',
  own: 'More',
}

/** A disc as a review speaks of it. */
export interface DiscFacts {
  readonly code: string
  readonly name: string
  /** “Tarnwick, Slate · first run, 2024”. */
  readonly lineage: string
  /** Where it is stated. */
  readonly maker: string | undefined
  readonly wear: string
  readonly grams: number | null
  readonly source: DiscSource
  readonly provenance: string
  readonly control: boolean
  /** What was felt and measured in the hand, in sentences; nothing where it was not. */
  readonly inHand: readonly string[]
}

/** Everything a review is filled from, of one trial. */
export interface TrialFacts {
  readonly trial: string
  readonly name: string
  /** As it was asked. */
  readonly question: string
  readonly discs: readonly DiscFacts[]
  readonly answer: Answer | undefined
  /** Answers to other questions than the one that was asked. */
  readonly numbers?: Answer | undefined
  readonly arms?: Answer | undefined
  readonly wind?: Answer | undefined
  readonly molds?: Answer | undefined
  readonly wear?: Answer | undefined
  readonly weight?: Answer | undefined
  readonly ground?: Answer | undefined
  readonly approach?: Answer | undefined
  /** Who threw, when, where, in which wind and air, how it was measured. */
  readonly conditions: readonly string[]
  readonly angles: string
  readonly counted: number
  /** How many of its throws were simulated, where any was, as a sentence. */
  readonly simulated: string | undefined
  /** Why throws were left out, and how many for each reason. */
  readonly leftOut: readonly { readonly why: string; readonly count: number }[]
  /** What was expected or claimed before the first throw, and what became of it. */
  readonly expected: readonly string[]
  /** At which angle each disc finishes on the line, sentences without their ends. */
  readonly lines: readonly string[]
  /** Words of caution its throws call for. */
  readonly cautions: readonly string[]
}

/** A section before it is stored. */
export interface FilledSection {
  readonly kind: SectionKind
  readonly title: string
  readonly body: DocNode
}

const ended = (sentence: string) => (/[.!?]$/.test(sentence) ? sentence : `${sentence}.`)
const surely = ({ sentence, probability, settled }: Answer): string =>
  // some sentences end with how sure they are
  probability === undefined || / %$/.test(sentence)
    ? ended(sentence)
    : `${sentence} (${percent(probability)}${settled ? '' : ', not settled'}).`

/** Where a disc came from, as a disclosure has to say it: a disc whose source nobody noted is said to be so. */
export function disclosureOf({ name, source, provenance }: DiscFacts): string {
  const from = provenance === '' ? '' : `: ${provenance}`
  switch (source) {
    case 'bought':
      return `${name} was bought by the reviewer${from}.`
    case 'lent':
      return `${name} was lent for this review${from}.`
    case 'sent-by-the-maker':
      return `${name} was sent by its maker${from}.`
    case 'found':
      return `${name} was found${from}.`
    default:
      return `Where ${name} came from was not noted${from}.`
  }
}

const several = (facts: readonly TrialFacts[], of: (f: TrialFacts) => readonly DocNode[]): DocNode[] =>
  facts.flatMap((f) => {
    const nodes = of(f)
    return facts.length > 1 && nodes.length > 0
      ? [{ type: 'heading', attrs: { level: 3 }, content: [{ type: 'text', text: f.name }] }, ...nodes]
      : [...nodes]
  })
const listOf = (items: readonly string[]): DocNode[] => (items.length > 0 ? [list(...items)] : [])

/** What each section is filled with; nothing where the throws say nothing to it. */
const FILL: Readonly<Record<Exclude<SectionKind, 'own'>, (f: TrialFacts) => readonly DocNode[]>> = {
  tested: (f) => [
    paragraph(
      `${f.question} ${f.discs.length === 1 ? 'One disc was' : `${f.discs.length} discs were`} thrown.`,
    ),
    ...listOf(
      f.discs.map(
        (d) =>
          `${d.name}: ${[
            d.maker === undefined ? d.lineage : `${d.lineage} by ${d.maker}`,
            d.wear,
            ...(d.grams === null ? [] : [`${d.grams.toFixed(0)} g`]),
            d.source === 'unknown' ? 'source not noted' : SOURCE_WORDS[d.source],
          ].join(', ')}${d.control ? '; the control disc' : ''}.`,
      ),
    ),
    live(f.trial, 'discs', 'The discs and what is printed on them.'),
  ],
  how: (f) => [
    paragraph(
      ended(
        [
          ...f.conditions,
          f.angles,
          `${f.counted} throws counted, ${f.leftOut.reduce((n, l) => n + l.count, 0)} left out`,
        ]
          .filter((s) => s !== '')
          .join(' · '),
      ),
    ),
    ...f.cautions.map((c) => paragraph(c)),
  ],
  hand: (f) => {
    const felt = f.discs.flatMap((d) => d.inHand.map((words) => `${d.name}: ${words}`))
    return felt.length === 0
      ? [paragraph('The discs were not measured in the hand.')]
      : [...listOf(felt), live(f.trial, 'in-the-hand', 'Rims laid over each other.', 'half')]
  },
  claimed: (f) =>
    f.expected.length === 0
      ? [paragraph('Nothing was written down before the first throw.')]
      : listOf(f.expected.map(ended)),
  found: (f) => [
    ...(f.answer ? [paragraph(surely(f.answer)), live(f.trial, 'answer', f.question)] : []),
    ...listOf((f.answer?.besides ?? []).map(ended)),
    live(f.trial, 'flights', 'Flat, clean, in still air; the bands hold nine of ten.'),
  ],
  numbers: (f) => [
    ...(f.numbers ? [paragraph(surely(f.numbers))] : []),
    live(f.trial, 'numbers', 'What the throws show against what is printed; within half a number is true.'),
  ],
  arms: (f) => [
    ...(f.arms ? [paragraph(surely(f.arms))] : []),
    live(f.trial, 'arms', 'From a junior’s arm to a full-power one.'),
  ],
  uses: (f) => [
    ...(f.wind ? [paragraph(surely(f.wind)), ...listOf(f.wind.besides.map(ended))] : []),
    live(f.trial, 'wind', 'Where each finishes in a wind along the line.'),
    ...listOf(f.lines.map(ended)),
    ...[f.ground, f.approach].flatMap((a) =>
      a?.probability === undefined ? [] : [paragraph(surely(a)), ...listOf(a.besides.map(ended))],
    ),
  ],
  beside: (f) => [
    ...(f.molds?.probability === undefined
      ? []
      : [paragraph(surely(f.molds)), ...listOf(f.molds.besides.map(ended))]),
    live(f.trial, 'pairs', 'Chance that the disc of the row is more stable than that of the column.'),
  ],
  wear: (f) => [
    ...[f.wear, f.weight].flatMap((a) =>
      a?.probability === undefined ? [] : [paragraph(surely(a)), ...listOf(a.besides.map(ended))],
    ),
    ...listOf(
      f.discs.map(
        (d) =>
          `${d.name} is ${d.wear}${d.grams === null ? ', not weighed' : ` and weighs ${d.grams.toFixed(0)} g`}.`,
      ),
    ),
  ],
  'left-out': (f) =>
    f.leftOut.length === 0
      ? [paragraph('No throw was left out.')]
      : [
          ...listOf(f.leftOut.map((l) => `${l.count} ${l.count === 1 ? 'throw' : 'throws'}: ${l.why}.`)),
          live(f.trial, 'left-out', 'Every throw that was left out.'),
        ],
  open: (f) => {
    const open = [
      ...[f.answer, f.numbers, f.arms, f.wind].flatMap((a) => (a && !a.settled ? [ended(a.sentence)] : [])),
      ...(f.answer?.open ?? []).map(ended),
    ]
    return open.length === 0 ? [paragraph('Nothing that was asked is open.')] : listOf([...new Set(open)])
  },
  verdict: () => [],
  disclosure: (f) => [
    ...(f.simulated === undefined ? [] : [paragraph(f.simulated)]),
    ...f.discs.map((d) => paragraph(disclosureOf(d))),
  ],
}

/** The sections of a review of some trials, filled from what their throws say. */
export function filledSections(facts: readonly TrialFacts[]): FilledSection[] {
  return SECTION_KINDS.flatMap((kind) => {
    if (kind === 'own') return []
    const content = several(facts, FILL[kind])
    return [
      { kind, title: SECTION_TITLES[kind], body: doc(...(content.length > 0 ? content : [paragraph()])) },
    ]
  })
}
