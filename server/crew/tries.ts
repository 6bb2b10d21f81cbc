import ipaddr from 'ipaddr.js'
import { RateLimiterDrizzle, RateLimiterRes } from 'rate-limiter-flexible'
import { folded } from '../../contract/crew.ts'
import type { TRY_KINDS } from '../../contract/crew.ts'
import { Refusal } from '../middleware/problems.ts'
import { knownDevice, noteTry } from '../store/crew.ts'
import type { Database } from '../store/database.ts'
import { attempts } from '../store/schema.ts'

const QUARTER_S = 15 * 60
/** Tries of one name from one address, and of whatever from one address. Nobody elsewhere is kept out by them. */
const BY_NAME_AND_ADDRESS = { points: 5, duration: QUARTER_S }
const BY_ADDRESS = { points: 30, duration: QUARTER_S }
/** A device that once came in as somebody: so many tries as them, then one every so often, whatever anybody else tried. */
const BY_DEVICE = { points: 5, duration: QUARTER_S }
const SLOWLY = { points: 1, duration: 10 }

/** What counts as one address: of IPv6 the network somebody is given, whose addresses are all theirs. */
export function oneAddress(address: string): string {
  if (!ipaddr.isValid(address)) return address
  const read = ipaddr.process(address)
  return read.kind() === 'ipv4'
    ? read.toString()
    : `${ipaddr.IPv6.networkAddressFromCIDR(`${read.toString()}/64`).toString()}/64`
}

/** Who tries, as what, from where. */
export interface Trying {
  readonly what: (typeof TRY_KINDS)[number]
  /** As whom, where a name is given. */
  readonly name?: string
  readonly address: string
  /** What the browser shows that it came in with once. */
  readonly tokens: readonly string[]
}

type Counted = readonly (readonly [RateLimiterDrizzle, string])[]

/** Counts tries to come in, in the database, so that every instance knows them. */
export class Tries {
  readonly #both: RateLimiterDrizzle
  readonly #address: RateLimiterDrizzle
  readonly #device: RateLimiterDrizzle
  readonly #slowly: RateLimiterDrizzle

  constructor(private readonly db: Database) {
    const limit = (keyPrefix: string, { points, duration }: typeof SLOWLY) =>
      new RateLimiterDrizzle({
        storeClient: db,
        schema: attempts,
        keyPrefix,
        points,
        duration,
        clearExpiredByTimeout: false,
      })
    this.#both = limit('both', BY_NAME_AND_ADDRESS)
    this.#address = limit('address', BY_ADDRESS)
    this.#device = limit('device', BY_DEVICE)
    this.#slowly = limit('slowly', SLOWLY)
  }

  /**
   * Lets somebody try: counts it first, so that many at once are counted too, and forgets it where it goes well. One that
   * fails is noted for the owner.
   *
   * @param tried answers with undefined, or throws, where it fails
   * @throws Refusal 429 after too many
   */
  async allow<T>(trying: Trying, tried: () => Promise<T | undefined>): Promise<T | undefined> {
    const address = oneAddress(trying.address)
    const name = folded(trying.name ?? '')
    const device = name === '' ? undefined : await knownDevice(this.db, name, trying.tokens)
    const counted = await (device === undefined ? this.#stranger(name, address) : this.#known(device)).catch(
      async (e: unknown) => {
        await this.#failed(trying.what, name, address)
        throw e
      },
    )
    let came: T | undefined
    try {
      came = await tried()
    } finally {
      if (came === undefined) await this.#failed(trying.what, name, address)
    }
    if (came !== undefined) for (const [limit, key] of counted) await limit.reward(key)
    return came
  }

  async #stranger(name: string, address: string): Promise<Counted> {
    const counted: Counted = [
      ...(name === '' ? [] : [[this.#both, `${name} ${address}`] as const]),
      [this.#address, address],
    ]
    for (const [limit, key] of counted) await this.#consume(limit, key)
    return counted
  }

  async #known(device: string): Promise<Counted> {
    try {
      await this.#device.consume(device)
      return [[this.#device, device]]
    } catch (e) {
      if (!(e instanceof RateLimiterRes)) throw e
      await this.#consume(this.#slowly, device)
      return [[this.#slowly, device]]
    }
  }

  async #consume(limit: RateLimiterDrizzle, key: string): Promise<void> {
    try {
      await limit.consume(key)
    } catch (e) {
      if (!(e instanceof RateLimiterRes)) throw e
      throw new Refusal(429, 'Too many tries', `Too many tries; try again in ${waitWords(e.msBeforeNext)}.`)
    }
  }

  /** What cannot be noted is tried all the same. */
  #failed(what: Trying['what'], name: string, address: string): Promise<void> {
    return noteTry(this.db, what, name, address).catch(() => {})
  }
}

function waitWords(ms: number): string {
  const s = Math.max(1, Math.ceil(ms / 1000))
  if (s <= 60) return s === 1 ? 'a second' : `${s} seconds`
  const minutes = Math.ceil(s / 60)
  return `${minutes} minutes`
}
