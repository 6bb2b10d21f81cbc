import { doesNow, lanesAfter, lanesOf, Remembered } from './board.ts'
import type { Lane, NamedJob } from './board.ts'
import { CarriedShelf, foretell } from './carried.ts'
import type { Foretold, ShelfDisc } from './carried.ts'
import type { Range } from './wear.ts'
import type { PlasticKind } from '../shelf/usualWear.ts'

/** A shelf, and what its discs are wanted for. */
export interface WantedOfShelf {
  readonly shelf: readonly ShelfDisc[]
  /** Ids of those that are at hand: neither lost nor sold. */
  readonly here: ReadonlySet<string>
  readonly jobs: readonly NamedJob[]
  /** The job each disc is carried for. */
  readonly assigned: ReadonlyMap<string, string>
}

/** How fast a blend wears, and how many tests say so. */
export interface BlendPace extends Range {
  readonly kind: PlasticKind
  readonly blend: string
  readonly tests: number
}

/** So many discs that have changed are little of a shelf. */
const LITTLE = 40

/** Ids of what is as it was. */
function sameIn<T extends { readonly id: string }>(before: readonly T[], now: readonly T[]): Set<string> {
  const was = new Map(before.map((b) => [b.id, b]))
  const isSame = (n: T) => was.get(n.id) === n || JSON.stringify(was.get(n.id)) === JSON.stringify(n)
  return new Set(now.filter(isSame).map((n) => n.id))
}

/** Ids of discs that are otherwise than before: in themselves, at hand or not, or carried for another job. */
function changedDiscs(before: WantedOfShelf, now: WantedOfShelf): Set<string> {
  const told = ({ shelf, here, assigned }: WantedOfShelf) =>
    shelf.map((disc) => ({ id: disc.id, disc, here: here.has(disc.id), job: assigned.get(disc.id) ?? null }))
  const [was, is] = [told(before), told(now)]
  const same = sameIn(was, is)
  return new Set([...was, ...is].map((d) => d.id).filter((id) => !same.has(id)))
}

/** The board of a shelf, worked out by whoever has time for it; it remembers what has not changed since. */
export class ShelfBoard {
  readonly #carried = new CarriedShelf()
  readonly #whole = new Remembered()
  readonly #after = new Remembered()
  readonly #own = new Remembered()
  readonly #does = new Remembered()
  /** The last board that was worked out whole. */
  #last: { readonly wanted: WantedOfShelf; readonly lanes: readonly Lane[] } | undefined

  /** Every lane of the board. */
  lanes(wanted: WantedOfShelf): Lane[] {
    const { shelf, here, jobs, assigned } = wanted
    this.#carried.wearOf(shelf)
    const lanes = lanesOf(
      shelf.filter((d) => here.has(d.id)).map((d) => this.#carried.carried(d)),
      jobs,
      assigned,
      this.#whole,
    )
    this.#last = { wanted, lanes }
    return lanes
  }

  /**
   * What is soon worked out of a board: the last one with what has changed since, where that is little, or else the lanes with
   * those alone that are carried for a job.
   */
  soon(wanted: WantedOfShelf): Lane[] {
    if (!this.#last) return this.#carriedLanes(wanted)
    const { wanted: before, lanes } = this.#last
    const changed = changedDiscs(before, wanted)
    if (changed.size > LITTLE) return this.#carriedLanes(wanted)
    const same = sameIn(before.jobs, wanted.jobs)
    return this.after(
      lanes.filter((l) => same.has(l.jobId)),
      changed,
      wanted,
    )
  }

  #carriedLanes({ shelf, here, jobs, assigned }: WantedOfShelf): Lane[] {
    this.#carried.wearOf(shelf)
    return lanesOf(
      shelf.filter((d) => here.has(d.id) && assigned.has(d.id)).map((d) => this.#carried.carried(d)),
      jobs,
      assigned,
      this.#own,
    )
  }

  /** The board after some discs have changed; see {@link lanesAfter}. */
  after(
    before: readonly Lane[],
    changed: ReadonlySet<string>,
    { shelf, here, jobs, assigned }: WantedOfShelf,
  ): Lane[] {
    this.#carried.wearOf(shelf)
    const isNew = jobs.some((j) => !before.some((l) => l.jobId === j.id))
    const looked = shelf.filter((d) => here.has(d.id) && (isNew || changed.has(d.id)))
    return lanesAfter(
      before,
      changed,
      looked.map((d) => this.#carried.carried(d)),
      jobs,
      assigned,
      this.#after,
    )
  }

  /** How surely some discs do each job now: disc, then job. */
  does(
    shelf: readonly ShelfDisc[],
    discIds: readonly string[],
    jobs: readonly NamedJob[],
  ): ReadonlyMap<string, ReadonlyMap<string, number>> {
    this.#carried.wearOf(shelf)
    const byId = new Map(shelf.map((d) => [d.id, d]))
    const does = new Map(
      discIds.flatMap((id) => {
        const disc = byId.get(id)
        return disc ? [[id, doesNow(this.#carried.carried(disc), jobs, this.#does)] as const] : []
      }),
    )
    this.#does.sweep()
    return does
  }

  /** How fast the blends of a shelf wear that were tested, those with most tests first. */
  blends(shelf: readonly ShelfDisc[]): BlendPace[] {
    const wear = this.#carried.wearOf(shelf)
    const tests = new Map<string, { kind: PlasticKind; blend: string; tests: number }>()
    for (const { kind, blend, tests: own } of shelf) {
      if (own.length === 0) continue
      const key = `${kind}/${blend}`
      tests.set(key, { kind, blend, tests: (tests.get(key)?.tests ?? 0) + own.length })
    }
    return [...tests.values()]
      .map((b) => ({ ...b, ...wear.paceOf(b.kind, b.blend) }))
      .sort((a, b) => b.tests - a.tests)
  }

  /** What wear does to one disc of the shelf; undefined where it is not on it. */
  foretell(shelf: readonly ShelfDisc[], discId: string): Foretold | undefined {
    const disc = shelf.find((d) => d.id === discId)
    return disc && foretell(shelf, disc, this.#carried)
  }
}
