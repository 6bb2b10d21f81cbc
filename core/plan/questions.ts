/** What published numbers describe: a disc fresh from the shop, or one that has been seasoned. */
export const CONVENTIONS = ['fresh', 'seasoned'] as const
export type Convention = (typeof CONVENTIONS)[number]

/** What a question proposes; everything can be changed. */
interface Proposed {
  /** As a person asks it. */
  readonly words: string
  /** Which discs answer it. */
  readonly discs: string
  /** Release angles, degrees of hyzer. */
  readonly hyzerDegs: readonly number[]
  /** Throws of each disc at each angle. */
  readonly throwsACell: number
  /** Share of full power. */
  readonly power: number
  /** Half of the throws are made with less, to stand in for a slower arm. */
  readonly easedTo?: number
  /** Whether it is answered with both strokes. */
  readonly bothStrokes?: true
  /** Whether it wants the wind along the aim line, instead of none. */
  readonly wantsWind?: true
  /** The measure that answers it. */
  readonly measure: string
}

const SPREAD = [10, 0, -8] as const

/** What a trial can ask, and what each question proposes. A further question is a further entry. */
const PROPOSALS = {
  label: {
    words: 'Is it true to its numbers?',
    discs: 'the disc and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 6,
    power: 1,
    measure: 'turn and fade against the published numbers',
  },
  plastics: {
    words: 'What does the plastic change?',
    discs: 'one mold in its plastics, and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 4,
    power: 1,
    measure: 'differences of stability between plastics',
  },
  runs: {
    words: 'Are the runs alike?',
    discs: 'one plastic in several runs, and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 6,
    power: 1,
    measure: 'differences of stability between runs',
  },
  wear: {
    words: 'What has wear changed?',
    discs: 'a new copy, worn copies of the same plastic, and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 5,
    power: 1,
    measure: 'turn and fade from new to worn',
  },
  weight: {
    words: 'What does the weight change?',
    discs: 'light and heavy copies of one plastic, weighed, and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 5,
    power: 1,
    measure: 'stability left once mass is in the physics',
  },
  molds: {
    words: 'Which of these molds is more stable?',
    discs: 'the candidate, the molds it is compared with, and a control disc',
    hyzerDegs: SPREAD,
    throwsACell: 4,
    power: 1,
    measure: 'order of stability, and how likely it is',
  },
  arms: {
    words: 'What will it do for another arm?',
    discs: 'the disc and a control disc, thrown by two arms, or eased to stand in for the slower one',
    hyzerDegs: [8, 0],
    throwsACell: 6,
    power: 1,
    easedTo: 0.75,
    measure: 'the numbers it seems to have at each speed',
  },
  wind: {
    words: 'How does it take the wind?',
    discs: 'the disc and one that holds its line',
    hyzerDegs: [8, 0],
    throwsACell: 8,
    power: 1,
    wantsWind: true,
    measure: 'finish into the wind against finish with it',
  },
  ground: {
    words: 'How far does it skip?',
    discs: 'one mold in its plastics',
    hyzerDegs: [15],
    throwsACell: 8,
    power: 0.8,
    measure: 'ground play after the same shot',
  },
  'short game': {
    words: 'Does it stop where it should?',
    discs: 'approach discs and putters side by side',
    hyzerDegs: [5, 0],
    throwsACell: 8,
    power: 0.5,
    bothStrokes: true,
    measure: 'distance past or short of the mark',
  },
} as const satisfies Record<string, Proposed>

/** One of the questions a trial can ask. */
export type QuestionKind = keyof typeof PROPOSALS
/** All of them by name, in the order in which they are offered. */
export const QUESTION_KINDS = Object.keys(PROPOSALS) as QuestionKind[]

/** What a question proposes. */
export interface QuestionProposal extends Proposed {
  readonly kind: QuestionKind
}
/** What one question proposes. */
export const questionOf = (kind: QuestionKind): QuestionProposal => ({ kind, ...PROPOSALS[kind] })
/** The same with what each proposes. */
export const QUESTIONS: readonly QuestionProposal[] = QUESTION_KINDS.map(questionOf)
