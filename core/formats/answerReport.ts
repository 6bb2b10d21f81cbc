import { percent } from '../judge/answers/answer.ts'
import type { Figure } from '../judge/answers/answer.ts'
import type { Answer } from '../judge/answers/answerOf.ts'

/** An answer as `rate --json` prints it. */
export interface AnswerReport {
  readonly question: string
  readonly sentence: string
  /** Of what the sentence says; null where nothing can be said. */
  readonly probability: number | null
  readonly settled: boolean
  readonly figures: Readonly<Record<string, Figure>>
}

export const answerReport = ({
  question,
  sentence,
  probability,
  settled,
  figures,
}: Answer): AnswerReport => ({ question, sentence, probability: probability ?? null, settled, figures })

/** The same to be read: the sentence, what else can be said, and what cannot. */
export const answerText = ({ sentence, probability, besides, open }: Answer): string =>
  [
    `${sentence}${probability === undefined ? '' : `, ${percent(probability)}`}.`,
    ...besides.map((b) => `  ${b}`),
    ...(open.length > 0 ? ['Not settled:', ...open.map((o) => `  ${o}`)] : []),
  ].join('\n')
