import { RateLimiterDrizzle, RateLimiterRes } from 'rate-limiter-flexible'
import { Refusal } from '../middleware/problems.ts'
import type { Database } from '../store/database.ts'
import { attempts } from '../store/schema.ts'

/** Tries to come in that fail: so many by name and by address, then none for a while. */
const BY_NAME = { points: 5, duration: 15 * 60 }
const BY_ADDRESS = { points: 30, duration: 15 * 60 }

/** Counts tries to come in, in the database, so that every instance knows them. */
export class Tries {
  readonly #limits: { readonly name: RateLimiterDrizzle; readonly address: RateLimiterDrizzle }

  constructor(db: Database) {
    const limit = (keyPrefix: string, { points, duration }: typeof BY_NAME) =>
      new RateLimiterDrizzle({
        storeClient: db,
        schema: attempts,
        keyPrefix,
        points,
        duration,
        clearExpiredByTimeout: false,
      })
    this.#limits = { name: limit('name', BY_NAME), address: limit('address', BY_ADDRESS) }
  }

  /**
   * Lets somebody try: counts it first, so that many at once are counted too, and forgets it where it goes well.
   *
   * @param keys the name, where one is given, and the address it comes from
   * @throws Refusal 429 after too many
   */
  async allow<T>(
    keys: { readonly name?: string; readonly address: string },
    tried: () => Promise<T | undefined>,
  ): Promise<T | undefined> {
    const counted = [
      ...(keys.name === undefined ? [] : [[this.#limits.name, keys.name.toLowerCase()] as const]),
      [this.#limits.address, keys.address] as const,
    ]
    for (const [limit, key] of counted)
      try {
        await limit.consume(key)
      } catch (e) {
        if (!(e instanceof RateLimiterRes)) throw e
        const minutes = Math.ceil(e.msBeforeNext / 60_000)
        throw new Refusal(
          429,
          'Too many tries',
          `Too many tries; try again in ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}.`,
        )
      }
    const let_ = await tried()
    if (let_ !== undefined) for (const [limit, key] of counted) await limit.reward(key)
    return let_
  }
}
