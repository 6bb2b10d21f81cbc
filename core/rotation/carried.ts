import { greatest } from 'd3'
import type { FlightNumbers } from '../flight/disc.ts'
import { DISC_PRIOR_SD } from '../rating/evidence.ts'
import type { Estimate } from '../rating/outcome.ts'

import { StableAt } from './doing.ts'
import type { CarriedDisc } from './doing.ts'
import { changeBy, Wear, whenLess } from './wear.ts'
import type { Leaving, Range, Way, WearTest, WornDisc } from './wear.ts'
import { usualDrop } from '../shelf/usualWear.ts'
import type { PlasticKind, Use } from '../shelf/usualWear.ts'

/** A day a disc was tested. */
export interface DayTest extends WearTest {
  /** How much it scattered against the other discs of the day, see scatter.ts; null where nobody can say. */
  readonly scatter: Estimate | null
}

/** A disc of a shelf, with everything that its wear and its jobs are told by. */
export interface ShelfDisc {
  readonly id: string
  readonly kind: PlasticKind
  /** Discs of one blend wear alike. */
  readonly blend: string
  /** What its numbers in force say. */
  readonly published: FlightNumbers
  /** As its throws say, and the covariance of (glide, turn, fade), row by row; null where nobody threw it. */
  readonly rated: { readonly numbers: FlightNumbers; readonly covariance: readonly number[] } | null
  /** What it has been through by now. */
  readonly use: Use
  readonly tests: readonly DayTest[]
}

/** What is believed of a disc's stability from its label alone. */
export const carriedLabel = ({ turn, fade }: Pick<FlightNumbers, 'turn' | 'fade'>): Estimate => ({
  value: turn + fade,
  sd: Math.hypot(DISC_PRIOR_SD[1], DISC_PRIOR_SD[2]),
})
/** The same of (glide, turn, fade), row by row. */
export const LABEL_COVARIANCE: readonly number[] = [0, 1, 2].flatMap((i) =>
  [0, 1, 2].map((j) => (i === j ? DISC_PRIOR_SD[i]! ** 2 : 0)),
)

const wornOf = ({ id, kind, blend, published, tests }: ShelfDisc): WornDisc => ({
  id,
  kind,
  blend,
  label: carriedLabel(published),
  tests,
})

/** All that a disc tells of wear. */
const toldOf = (d: ShelfDisc): string => JSON.stringify(wornOf(d))

/** Discs of a shelf as the rotation knows them; the tests of all are weighed again only where one of them changed. */
export class CarriedShelf {
  #tested: readonly ShelfDisc[] = []
  #wear = new Wear([])
  /** Of discs that were thrown, with what they were worked out of. */
  #ways = new Map<string, { readonly of: string; readonly ways: readonly Way[] }>()

  /** What tests across a shelf say of how its discs wear. */
  wearOf(shelf: readonly ShelfDisc[]): Wear {
    const tested = shelf.filter((d) => d.tests.length > 0)
    const isSame = (d: ShelfDisc, i: number) => {
      const before = this.#tested[i]
      return before === d || (before !== undefined && toldOf(before) === toldOf(d))
    }
    if (tested.length !== this.#tested.length || !tested.every(isSame)) {
      this.#wear = new Wear(tested.map(wornOf))
      this.#ways = new Map()
    }
    this.#tested = tested
    return this.#wear
  }

  #waysOf(disc: ShelfDisc, unhit: boolean): readonly Way[] {
    const ways = this.#wear.waysOf(wornOf(disc))
    return asRated(unhit ? unhitOf(ways) : ways, disc)
  }

  #keptWays(disc: ShelfDisc, unhit: boolean): readonly Way[] {
    const { id, published, rated, use, tests } = disc
    // discs that nobody threw wear alike where they are alike, see Wear
    if (!rated && tests.length === 0) return this.#waysOf(disc, unhit)
    const of = JSON.stringify([unhit, published, rated, tests.length > 0 ? null : use])
    const known = this.#ways.get(id)
    if (known?.of === of) return known.ways
    const ways = this.#waysOf(disc, unhit)
    this.#ways.set(id, { of, ways })
    return ways
  }

  /**
   * A disc of the shelf whose tests were given last.
   *
   * @throws RangeError where it is of another shelf
   */
  carried(disc: ShelfDisc): CarriedDisc {
    const { id, kind, published, rated, use } = disc
    // a disc that was never hit wears the same whatever a hit does
    const unhit = use.hardHits === 0 && disc.tests.every((t) => t.use.hardHits === 0)
    const ways = this.#keptWays(disc, unhit)
    return {
      id,
      published,
      numbers: rated?.numbers ?? published,
      covariance: rated?.covariance ?? LABEL_COVARIANCE,
      kind,
      use,
      ways,
    }
  }
}

/**
 * Ways of a disc that is as stable as all its throws together say, which is what is said of it everywhere: its tests, each a day by
 * itself, say how fast it wears. All throws say it as it was when it was last thrown.
 */
function asRated(ways: readonly Way[], { kind, published, rated, tests, use }: ShelfDisc): readonly Way[] {
  if (!rated) return ways
  const stable = new StableAt({ published, ...rated })
  const last = greatest(tests, (t) => t.use.throws)?.use ?? use
  return ways.map((way) => ({
    ...way,
    start: { value: stable.stability + way.pace * usualDrop(kind, last, way.hitThrows), sd: stable.sd },
  }))
}

const unhitWays = new WeakMap<readonly Way[], readonly Way[]>()
/** Ways that differ in nothing but what a hit does, taken together. */
function unhitOf(ways: readonly Way[]): readonly Way[] {
  const known = unhitWays.get(ways)
  if (known) return known
  const byPace = new Map<number, Way>()
  for (const way of ways) {
    const before = byPace.get(way.pace)
    byPace.set(way.pace, before ? { ...before, share: before.share + way.share } : way)
  }
  const together = [...byPace.values()]
  unhitWays.set(ways, together)
  return together
}

/** What wear does to a disc from here on. */
export interface Foretold {
  /** Change of stability over the next hundred throws. */
  readonly nextHundred: Estimate
  /** When it is half a number less stable. */
  readonly halfLess: Leaving
  /** How much faster than usual for its kind its blend wears. */
  readonly pace: Range
  /** Throws that a hit hard enough to hear is worth to its kind of plastic. */
  readonly hit: Range
  /** Tests of its blend, and of its kind, that this was learned from. */
  readonly tests: { readonly blend: number; readonly kind: number }
}
const LESS = 0.5

/** What wear does to one disc of a shelf. */
export function foretell(shelf: readonly ShelfDisc[], disc: ShelfDisc, carriedShelf: CarriedShelf): Foretold {
  const wear = carriedShelf.wearOf(shelf)
  const { kind, use, ways } = carriedShelf.carried(disc)
  const count = (of: (d: ShelfDisc) => boolean) => shelf.reduce((n, d) => (of(d) ? n + d.tests.length : n), 0)
  return {
    nextHundred: changeBy(kind, ways, use, { throws: 100, hardHits: 0 }),
    halfLess: whenLess(kind, ways, use, LESS),
    pace: wear.paceOf(kind, disc.blend),
    hit: wear.hitOf(kind),
    tests: {
      blend: count((d) => d.kind === kind && d.blend === disc.blend),
      kind: count((d) => d.kind === kind),
    },
  }
}
