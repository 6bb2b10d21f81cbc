import type { TrialView } from '../../../data/hooks.ts'
import type { Reading } from '../../../workers/rating.worker.ts'

/** What every view of a readout is given. */
export interface ViewProps {
  readonly view: TrialView
  readonly reading: Reading
  /** What the worker knows the reading by. */
  readonly ratingKey: string
  readonly names: ReadonlyMap<string, string>
  readonly name: (code: string) => string
  readonly place: (code: string) => number
  readonly working: boolean
  readonly share: number | undefined
}
