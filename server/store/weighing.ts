import type { FlownDisc, Likenesses } from '../../core/judge/likeness.ts'
import type { LabelGap } from '../../core/judge/label.ts'
import type { RatedDisc } from '../../core/rating/evidence.ts'
import type { Lane } from '../../core/rotation/board.ts'
import type { Foretold, ShelfDisc } from '../../core/rotation/carried.ts'
import type { DayOutcome } from '../../core/rotation/scatter.ts'
import type { BlendPace, WantedOfShelf } from '../../core/rotation/shelfBoard.ts'
import type { SheetThrow } from '../../core/throw/sheetThrow.ts'

/** A day's throws, as the fit takes them. */
export interface WeighedDay {
  readonly day: string
  readonly sheet: readonly SheetThrow[]
  readonly discs: readonly RatedDisc[]
}

/** A day, and what stands for all that is known of its throws: another when anything changed. */
export interface DayKey {
  readonly day: string
  readonly stamp: string
}

/** Which discs fly most like another, and how many are wanted. */
export interface LikeQuestion {
  readonly disc: FlownDisc
  readonly others: ReadonlyMap<string, FlownDisc>
  readonly armMps: number
  readonly shown: { readonly most: number; readonly least: number }
}

/** What has to be weighed for discs' pages. */
export interface WeighsDays {
  /**
   * Every day weighed on its own; undefined for those still being weighed.
   *
   * @param read reads the throws of those days of which anything may have changed since they were last asked for
   */
  days(
    days: readonly DayKey[],
    read: (days: readonly string[]) => Promise<readonly WeighedDay[]>,
  ): Promise<(readonly DayOutcome[] | undefined)[]>
  /** Undefined while it is being worked out. */
  likest(question: LikeQuestion): Promise<Likenesses | undefined>
}

/** What is worked out of a board. */
export interface Worked {
  readonly lanes: Lane[]
  readonly blends: BlendPace[]
}

/** Which discs do which jobs, and what wear does to them. */
export interface WeighsJobs {
  /** The board as soon as it is worked out; until then, or where no more is wanted, what is soon done of it. */
  board(wanted: WantedOfShelf, isWhole: boolean): Promise<Worked & { readonly whole: boolean }>
  foretell(shelf: readonly ShelfDisc[], discId: string): Promise<Foretold | undefined>
}

/** How the ratings of the shelf stand. */
export interface WeighsShelf {
  /** Whether newer throws are being weighed than the ratings show. */
  behind(): Promise<boolean>
  /** What throws say against the numbers of a disc's plastic. */
  gapsOf(discId: string): Promise<readonly LabelGap[]>
}

/** Whatever works out what pages that look at the whole shelf say. */
export interface Weighing {
  readonly records: WeighsDays
  readonly rotation: WeighsJobs
  readonly shelf: WeighsShelf
}
