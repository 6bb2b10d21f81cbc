import { QUESTIONS } from './questions.ts'
import type { QuestionKind } from './questions.ts'

/** What of a disc says what it can be asked. */
export interface GuessedDisc {
  readonly mold: string
  readonly plastic?: string
  readonly run?: string
  readonly wear?: string | number
}

/** Words a question is known by, the surest first. */
const WORDS: readonly (readonly [RegExp, QuestionKind])[] = [
  [/\b(putt(s|ing)|approach(es)?|stops?)\b/i, 'short game'],
  [/\bskips?\b|\bground\b/i, 'ground'],
  [/\b(another|other|slow(er)?|fast(er)?|weak(er)?|young(er)?) arms?\b/i, 'arms'],
  [/\b(head|tail)?winds?\b/i, 'wind'],
  [/\bplastics?\b.*\bchange|\bchange.*\bplastics?\b/i, 'plastics'],
  [/\b(numbers?|label|published|true to)\b/i, 'label'],
  [/\bruns?\b.*\balike|\balike\b.*\bruns?\b/i, 'runs'],
  [/\b(wear|worn|beat(en)?|season(ed)?)\b/i, 'wear'],
  [/\b(weights?|weighs?|heav(y|ier)|light(er)?|grams?)\b/i, 'weight'],
  [/\bstable\b|\bmolds?\b/i, 'molds'],
]

/**
 * What a trial asks, guessed until somebody says: from its question, as it is proposed or as it was written, else from what its discs differ in.
 *
 * @param discs those asked about, the control disc not among them
 */
export function guessKind(question: string, discs: readonly GuessedDisc[]): QuestionKind {
  const asked = QUESTIONS.find((q) => q.words === question.trim())
  if (asked) return asked.kind
  const said = WORDS.find(([words]) => words.test(question))
  if (said) return said[1]
  if (discs.length < 2) return 'label'
  const differ = (of: (d: GuessedDisc) => unknown) => new Set(discs.map(of)).size > 1
  if (differ((d) => d.mold)) return 'molds'
  if (differ((d) => d.plastic)) return 'plastics'
  if (differ((d) => d.run)) return 'runs'
  if (differ((d) => d.wear)) return 'wear'
  return 'plastics'
}
