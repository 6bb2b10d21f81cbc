import type { Asked, Found } from './answer.ts'
import { answerDifferences } from './differences.ts'

/** Whether runs are alike: runs of a plastic against the one named first. */
export const answerRuns = (asked: Asked): Found =>
  answerDifferences(asked, { one: 'run', many: 'runs', key: 'run', levels: ['run'] })
