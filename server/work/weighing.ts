import type { Records } from './records.ts'
import type { Rotation } from './rotation.ts'
import type { ShelfState } from './shelf.ts'

/** Whatever works out what pages that look at the whole shelf say. */
export interface Weighing {
  /** What discs' pages say of them. */
  readonly records: Records
  /** Which discs do which jobs. */
  readonly rotation: Rotation
  /** How the ratings stand. */
  readonly shelf: ShelfState
}
