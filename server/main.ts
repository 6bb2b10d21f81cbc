import { once } from 'node:events'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { makeApp } from './app.ts'
import type { AppOptions } from './app.ts'
import type { Nature } from './devices/volunteer.ts'
import { Works } from './work/works.ts'
import { openDatabase } from './store/database.ts'
import type { Database } from './store/database.ts'

export interface ServerOptions {
  readonly databaseUrl: string
  readonly host: string
  readonly port: number
  readonly dist?: string
  readonly quiet?: boolean
  /** How discs and arms of a demo really are. */
  readonly nature?: Nature
  readonly demo?: AppOptions['demo']
  /** Devices that take the place of their stand-ins. */
  readonly devices?: AppOptions['devices']
  /** Called on a migrated database before the server listens. */
  readonly prepare?: (db: Database) => Promise<void>
}

export interface RunningServer {
  readonly url: string
  readonly stop: () => Promise<void>
}

/** An error may quote everything that was to be stored. */
const LONGEST_SAID = 500

/** Migrates, prepares, listens. */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const { host, port, dist, quiet } = options
  const connection = await openDatabase(options.databaseUrl)
  try {
    await options.prepare?.(connection.db)
    const works = new Works(connection, (error) =>
      process.stderr.write(
        `${JSON.stringify({ level: 'error', work: 'away from requests', error: String(error).slice(0, LONGEST_SAID) })}\n`,
      ),
    )
    const app = makeApp({
      db: connection.db,
      works,
      host,
      ...(options.devices && { devices: options.devices }),
      ...(options.nature && { nature: options.nature }),
      ...(options.demo && { demo: options.demo }),
      ...(dist && { dist }),
      ...(quiet && { quiet }),
    })
    const server: Server = app.listen(port, host)
    await once(server, 'listening')
    works.touch('throws')
    works.cards.wake()
    const { port: bound } = server.address() as AddressInfo
    return {
      url: `http://${host.includes(':') ? `[${host}]` : host}:${bound}`,
      stop: async () => {
        server.closeAllConnections()
        await new Promise((done) => server.close(done))
        await works.stop()
        await connection.close()
      },
    }
  } catch (e) {
    await connection.close()
    throw e
  }
}
