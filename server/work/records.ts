import { group } from 'd3'
import type { Likenesses } from '../../core/judge/likeness.ts'
import type { DayOutcome } from '../../core/rotation/scatter.ts'
import type { KeptDays } from '../store/keptDays.ts'
import type { WeighedDay, DayKey, LikeQuestion, WeighsDays } from '../store/weighing.ts'
import type { RecordWork } from './records.worker.ts'
import { digest, Once, Soon } from './soon.ts'
import { Thread } from './thread.ts'

/** Answers that are kept. */
const KEPT = 400

/** What has to be weighed for discs' pages. The same throws are weighed once. */
export class Records implements WeighsDays {
  readonly #thread = new Thread<RecordWork>(new URL('./records.worker.mjs', import.meta.url))
  readonly #answers: Soon
  /** By what was thrown: most changes of a shelf change nothing of a day. */
  readonly #weighed = new Once<readonly DayOutcome[]>(KEPT)

  constructor(
    private readonly kept: KeptDays,
    onError: (error: unknown) => void,
  ) {
    this.#answers = new Soon(KEPT, onError)
  }

  async days(
    days: readonly DayKey[],
    read: (days: readonly string[]) => Promise<readonly WeighedDay[]>,
  ): Promise<(readonly DayOutcome[] | undefined)[]> {
    // those that are begun at once are read together; one that has to wait is read when its turn comes, as it is by then
    const changed: string[] = []
    let gathering = true
    const fresh = Promise.resolve().then(async () => {
      gathering = false
      return group(await read(changed), (d) => d.day)
    })
    const readOf = async (day: string) => {
      if (!gathering) return await read([day])
      changed.push(day)
      return (await fresh).get(day) ?? []
    }
    return Promise.all(
      days.map(({ day, stamp }) =>
        this.#answers.get(stamp, day, async () => {
          const [thrown] = await readOf(day)
          if (!thrown) return []
          const { sheet, discs } = thrown
          const key = digest(sheet, discs)
          return this.#weighed.get(key, async () => {
            const kept = await this.kept.read(key)
            if (kept) return kept
            const outcomes = await this.#thread.asked((work) => work.day(sheet, discs))
            await this.kept.keep(key, outcomes)
            return outcomes
          })
        }),
      ),
    )
  }

  likest({ disc, others, armMps, shown }: LikeQuestion): Promise<Likenesses | undefined> {
    return this.#answers.get(digest('like', disc, [...others], armMps, shown), 'like', () =>
      this.#thread.asked((work) => work.likest(disc, others, armMps, shown)),
    )
  }

  async stop(): Promise<void> {
    this.#answers.stop()
    await this.#thread.stop()
  }
}
