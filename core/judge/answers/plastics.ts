import type { Asked, Found } from './answer.ts'
import { answerDifferences } from './differences.ts'

/** What the plastic changes: plastics of a mold against the one named first. */
export const answerPlastics = (asked: Asked): Found =>
  answerDifferences(asked, {
    one: 'plastic',
    many: 'plastics',
    key: 'plastic',
    levels: ['plastic', 'blend'],
  })
