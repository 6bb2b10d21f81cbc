import pg from 'pg'
import type { News } from '../../contract/news.ts'

const CHANNEL = 'veer_news'
/** On which instances tell each other that somebody may do less than before. */
const RIGHTS = 'veer_rights'
/** PostgreSQL tells no longer payload than 8000 bytes; a row that is longer is read by whoever wants it. */
const LONGEST = 7500
/** A line to the database that broke is made again, ms. */
const AGAIN_MS = 500

type Hear = (news: News) => void

/** What is written, told to every page of every instance through the database. */
export class NewsWire {
  readonly #listeners = new Set<Hear>()
  /** Called on every instance when somebody may come in no more, or do less. */
  onRights: () => void = () => {}
  #client: pg.Client | undefined
  #stopped = false
  #timer: ReturnType<typeof setTimeout> | undefined
  #lost = false

  constructor(
    private readonly url: string,
    private readonly pool: pg.Pool,
    private readonly onError: (e: unknown) => void,
  ) {}

  /** Listens, from now on and again whenever the line breaks. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true })
    const broken = () => {
      if (this.#client !== client) return
      this.#client = undefined
      this.#lost = true
      this.#again()
    }
    client.on('error', broken)
    client.on('end', broken)
    client.on('notification', ({ channel, payload }) => {
      if (channel === RIGHTS) this.onRights()
      else if (payload !== undefined) this.#hear(JSON.parse(payload) as News)
    })
    this.#client = client
    try {
      await client.connect()
      await client.query(`listen ${CHANNEL}; listen ${RIGHTS}`)
    } catch {
      void client.end().catch(() => {})
      return broken()
    }
    // what was told while nobody listened is read again
    if (this.#lost) {
      this.#hear({ type: 'everything' })
      this.onRights()
    }
    this.#lost = false
    if (this.#stopped) await client.end()
  }

  #again(): void {
    if (this.#stopped) return
    clearTimeout(this.#timer)
    this.#timer = setTimeout(() => void this.open().catch(this.onError), AGAIN_MS).unref()
  }

  #hear(news: News): void {
    for (const hear of this.#listeners) hear(news)
  }

  /** @returns how to stop hearing */
  listen(hear: Hear): () => void {
    this.#listeners.add(hear)
    return () => this.#listeners.delete(hear)
  }

  /** Tells all; a write that is stored is not undone because nobody could be told of it. */
  tell(news: News): void {
    let payload = JSON.stringify(news)
    if (Buffer.byteLength(payload) > LONGEST && news.type === 'row')
      payload = JSON.stringify({ ...news, row: null })
    this.pool.query('select pg_notify($1, $2)', [CHANNEL, payload]).catch(() => {})
  }

  /** Tells every instance that somebody may come in no more, or do less. */
  tellRights(): void {
    this.pool.query('select pg_notify($1, $2)', [RIGHTS, '']).catch(() => this.onRights())
  }

  async stop(): Promise<void> {
    this.#stopped = true
    clearTimeout(this.#timer)
    const client = this.#client
    this.#client = undefined
    await client?.end().catch(() => {})
  }
}
