import type { Setup } from '../lab/setup.ts'
import type { FieldPlace } from '../lab/field.ts'
import type { LabFlight } from '../lab/flight.ts'

/** How a question is answered: by a range that holds the figure four times in five, by shares of a hundred, by a circle. */
export type AnswerKind = 'range' | 'shares' | 'circle'

interface Asked {
  readonly asks: string
  readonly answer: AnswerKind
  /** Of what is answered by shares. */
  readonly options?: readonly string[]
  /**
   * Of what is answered by a range or a circle: its unit, and what the best answer costs of somebody who knows what is dealt but saw
   * nothing, in that unit.
   */
  readonly unit?: string
  readonly blind?: number
}

/** Everything that is asked of a flight. */
export const QUESTIONS = {
  angle: { asks: 'At what angle was it released?', answer: 'range', unit: '°', blind: 50 },
  turn: { asks: 'How much turn does the disc have?', answer: 'range', unit: '', blind: 3.6 },
  fade: { asks: 'How much fade does the disc have?', answer: 'range', unit: '', blind: 3.2 },
  nose: {
    asks: 'Was the nose up, level or down?',
    answer: 'shares',
    options: ['up', 'level', 'down'],
  },
  cause: {
    asks: 'It flew unlike it was meant. What did that?',
    answer: 'shares',
    options: ['the disc', 'the release', 'the wind'],
  },
  'more-stable': {
    asks: 'Which of the two is more stable?',
    answer: 'shares',
    options: ['the first', 'the second'],
  },
  'stood-up': { asks: 'Did it stand up to flat?', answer: 'shares', options: ['it did', 'it did not'] },
  landing: { asks: 'Where will it land?', answer: 'circle', unit: 'm', blind: 62 },
} as const satisfies Record<string, Asked>

export type DrillKind = keyof typeof QUESTIONS
export const DRILL_KINDS = Object.keys(QUESTIONS) as DrillKind[]

/** What is true of a question: a figure, the place of an option, or where it lands. */
export type Truth =
  | { readonly kind: 'range'; readonly value: number }
  | { readonly kind: 'shares'; readonly option: number }
  | { readonly kind: 'circle'; readonly at: FieldPlace }

/** What somebody says. */
export type DrillReply =
  | { readonly kind: 'range'; readonly low: number; readonly high: number }
  /** In the order of the options; together 1. */
  | { readonly kind: 'shares'; readonly shares: readonly number[] }
  | { readonly kind: 'circle'; readonly at: FieldPlace; readonly radiusM: number }

/** What an eye may be biased by: how a throw was released, and in which wind. */
export interface DrillThrow {
  readonly throw: Pick<Setup['throw'], 'hyzerDeg' | 'noseDeg'>
  readonly air: Pick<Setup['air'], 'windAlongMps' | 'windTowardFadeMps'>
}

/** A question about a flight, or about two. */
export interface DrillQuestion {
  readonly kind: DrillKind
  /** From 0, which any eye sees, to 1. */
  readonly level: number
  /** Flights that are made up; none where a recorded one is asked about. */
  readonly flights: readonly Setup[]
  readonly recorded?: { readonly name: string; readonly flight: LabFlight; readonly thrown: DrillThrow }
  readonly windShown: boolean
  /** As much of its time is shown. */
  readonly shownPart: number
  readonly truth: Truth
}
