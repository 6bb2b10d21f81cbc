import type { QuestionKind } from '../../../core/drill/question.ts'

/** What is asked, in a word or two. */
export const KIND_WORDS: Record<QuestionKind, string> = {
  angle: 'release angle',
  turn: 'turn',
  fade: 'fade',
  nose: 'nose',
  cause: 'disc, release or wind',
  'more stable': 'more stable of two',
  'stood up': 'stood up',
  landing: 'landing',
}
