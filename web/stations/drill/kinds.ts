import type { DrillKind } from '../../../core/drill/question.ts'

/** What is asked, in a word or two. */
export const DRILL_WORDS: Record<DrillKind, string> = {
  angle: 'release angle',
  turn: 'turn',
  fade: 'fade',
  nose: 'nose',
  cause: 'disc, release or wind',
  'more-stable': 'more stable of two',
  'stood-up': 'stood up',
  landing: 'landing',
}
