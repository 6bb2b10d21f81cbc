import PgBoss from 'pg-boss'
import { awayWords } from '../store/away.ts'
import type { Connection } from '../store/database.ts'

/** What is done away from requests, and what it has to be told. */
export interface Jobs {
  /** Everything that was thrown is weighed anew. */
  readonly weigh: Record<string, never>
  /** A few more throws follow what all the others say. */
  readonly follow: Record<string, never>
  /** Cards that are behind are looked for. */
  readonly cards: Record<string, never>
  /** What a trial says so far is worked out. */
  readonly card: { readonly trialId: string }
  /** A copy of everything is made. */
  readonly copy: { readonly errandId: string }
}
type Name = keyof Jobs

interface Rules {
  /** Tries it may take, and the pause before the next, s; each is longer than the one before. */
  readonly retryLimit: number
  readonly retryDelay: number
  /** Whoever has not done it by then has died over it, s. */
  readonly expireInSeconds: number
}
const OFTEN = { retryLimit: 20, retryDelay: 5, expireInSeconds: 900 }
const RULES: { readonly [N in Name]: Rules } = {
  weigh: { ...OFTEN, expireInSeconds: 3600 },
  // what cannot follow is weighed with everything else
  follow: { ...OFTEN, retryLimit: 0, expireInSeconds: 60 },
  cards: { ...OFTEN, expireInSeconds: 60 },
  card: OFTEN,
  // whoever asked for it is told, and asks again
  copy: { retryLimit: 0, retryDelay: 1, expireInSeconds: 6 * 3600 },
}
const NAMES = Object.keys(RULES) as Name[]

/** Workers of other instances look so often for what there is to do, ms; those of this one are told. */
const LOOK_MS = 1000
/** What was done is kept so long, for whoever wonders; so often what is older goes, and what died is offered again, s. */
const KEPT_S = 3600
const TIDY_S = 60

/** What is to be done, in the database: any instance asks for it, any that works does it, one that dies over it is replaced. */
export class WorkQueue {
  readonly #boss: PgBoss
  readonly #workers = new Map<Name, Worker>()
  /** Until when what was asked for cannot have begun. */
  readonly #asked = new Map<Name, number>()
  #state: 'not started' | 'started' | 'stopped' = 'not started'

  constructor(
    { pool }: Connection,
    private readonly onError: (e: unknown) => void,
  ) {
    this.#boss = new PgBoss({
      db: { executeSql: (text, values) => pool.query(text, values) },
      schedule: false,
      maintenanceIntervalSeconds: TIDY_S,
      archiveCompletedAfterSeconds: 60,
      deleteAfterSeconds: KEPT_S,
    })
    this.#boss.on('error', (e) => this.#trouble(e))
  }

  #trouble(e: unknown): void {
    // of a database that is away everybody is told who asks it
    if (this.#state !== 'stopped' && awayWords(e) === undefined) this.onError(e)
  }

  async start(): Promise<void> {
    await this.#boss.start()
    for (const name of NAMES)
      await this.#boss.createQueue(name, { name, policy: 'short', retryBackoff: true, ...RULES[name] })
    this.#state = 'started'
  }

  /**
   * Asks for something to be done. What already waits to be done is not asked for twice; on a server that was not started nobody
   * is asked.
   *
   * @param afterMs not before that
   * @returns whether it waits because of this; what waited already may begin sooner
   */
  async send<N extends Name>(name: N, data: Jobs[N], afterMs = 0): Promise<boolean> {
    if (this.#state !== 'started') return false
    const id = await this.#boss.send(name, data, {
      ...(afterMs > 0 && { startAfter: new Date(Date.now() + afterMs) }),
      singletonKey: Object.values(data as Record<string, string>).join(' '),
    })
    const worker = this.#workers.get(name)
    if (afterMs === 0) worker?.nudge()
    else setTimeout(() => worker?.nudge(), afterMs + 5).unref()
    return id !== null
  }

  /** As {@link send}, for nobody who would wait: trouble is told where troubles are. */
  ask<N extends Name>(name: N, data: Jobs[N], afterMs = 0): void {
    // what was asked for a moment ago, and is not to begin before a moment from now, is asked for
    const now = performance.now()
    if (afterMs > 0 && now < (this.#asked.get(name) ?? 0)) return
    this.send(name, data, afterMs).then(
      (waits) => waits && this.#asked.set(name, now + afterMs),
      (e: unknown) => this.#trouble(e),
    )
  }

  /**
   * Does what is asked for, until told otherwise.
   *
   * @param handler where it throws, it is tried again as the rules say
   * @param most so many are done at once
   */
  work<N extends Name>(name: N, handler: (jobs: Jobs[N][]) => Promise<void>, most = 1): void {
    if (this.#state !== 'started' || this.#workers.has(name)) return
    this.#workers.set(
      name,
      new Worker(
        async () => {
          const jobs = await this.#boss.fetch<Jobs[N]>(name, { batchSize: most })
          if (jobs.length === 0) return false
          const ids = jobs.map((j) => j.id)
          try {
            await handler(jobs.map((j) => j.data))
          } catch (e) {
            this.#trouble(e)
            await this.#boss.fail(name, ids)
            return true
          }
          await this.#boss.complete(name, ids)
          return true
        },
        (e) => this.#trouble(e),
      ),
    )
  }
  async rest(...names: readonly Name[]): Promise<void> {
    const resting = names.flatMap((name) => this.#workers.get(name) ?? [])
    for (const name of names) this.#workers.delete(name)
    await Promise.all(resting.map((w) => w.rest()))
  }

  /** What is under way here comes to its end before, or is given back. */
  async stop(): Promise<void> {
    const was = this.#state
    this.#state = 'stopped'
    await this.rest(...NAMES)
    if (was === 'started') await this.#boss.stop({ graceful: false }).catch(() => {})
  }
}

/**
 * Looks for something to do, does it, and looks again. Those of the queue itself do not wait for what the database says of work
 * that is done, and one that goes away at that moment would end the process.
 */
class Worker {
  #resting = false
  #nudged = false
  #wake: () => void = () => {}
  readonly #over: Promise<void>

  constructor(
    /** Answers with whether there was something. */
    private readonly look: () => Promise<boolean>,
    private readonly trouble: (e: unknown) => void,
  ) {
    this.#over = this.#run()
  }

  nudge(): void {
    this.#nudged = true
    this.#wake()
  }
  rest(): Promise<void> {
    this.#resting = true
    this.#wake()
    return this.#over
  }

  async #run(): Promise<void> {
    while (!this.#resting) {
      this.#nudged = false
      try {
        if (await this.look()) continue
      } catch (e) {
        this.trouble(e)
      }
      if (this.#resting || this.#nudged) continue
      await new Promise<void>((r) => {
        const timer = setTimeout(r, LOOK_MS).unref()
        this.#wake = () => {
          clearTimeout(timer)
          r()
        }
      })
    }
  }
}
