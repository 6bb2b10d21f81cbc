import { once } from 'node:events'
import http from 'node:http'
import type { AddressInfo, Socket } from 'node:net'
import { makeApp } from './app.ts'
import type { AppOptions } from './app.ts'
import type { Nature } from './devices/volunteer.ts'
import { Copies } from './custody/copies.ts'
import { fillingOf } from './custody/room.ts'
import type { CopiesOptions } from './custody/copies.ts'
import type { CustodyOptions } from './routes/custody.ts'
import { makeCopies } from './work/copying.ts'
import { closed, patiently } from './share/patience.ts'
import { inUrl } from './share/addresses.ts'
import { MachineKey } from './middleware/machineKey.ts'
import type { ServerReach } from './share/settings.ts'
import { SharedServing } from './share/sharing.ts'
import { givesBackAtRest } from './work/rest.ts'
import { Works } from './work/works.ts'
import { alone, openDatabase } from './store/database.ts'
import type { Database } from './store/database.ts'
import { somebodyLetIn } from './store/crew.ts'
import { NewsWire } from './store/newsWire.ts'
import { sayError } from './work/sayError.ts'
import { tidyDaily } from './store/tidy.ts'

export interface ServerOptions extends ServerReach {
  readonly databaseUrl: string
  readonly port: number
  readonly dist?: string
  readonly quiet?: boolean
  /** How discs and arms of a demo really are. */
  readonly nature?: Nature
  readonly demo?: AppOptions['demo']
  /** Devices that take the place of their stand-ins. */
  readonly devices?: AppOptions['devices']
  /** Where copies are kept, and what is said of where the data are. */
  readonly custody?: CopiesOptions &
    Pick<CustodyOptions, 'builtIn'> & {
      readonly data: string
      /** Where the database of its own lies, where that is not the folder of the data. */
      readonly cluster?: string | undefined
    }
  /** Whether it does what is asked of the queue; where not, others do. */
  readonly doing?: boolean
  /** Called on a migrated database before the server listens. */
  readonly prepare?: (db: Database) => Promise<void>
}

export interface RunningServer {
  readonly url: string
  /** What whoever sits at the machine itself opens. */
  readonly ownUrl: () => string
  readonly sharing: SharedServing | undefined
  /** The store, for what is asked of it beside requests. */
  readonly db: Database
  readonly stop: () => Promise<void>
}

/** Migrates, prepares, listens. */
export async function startServer(options: ServerOptions): Promise<RunningServer> {
  const { host, port, dist, quiet } = options
  const connection = await openDatabase(options.databaseUrl)
  try {
    const { prepare } = options
    if (prepare) await alone(connection.url, 'prepare', () => prepare(connection.db))
    const onError = sayError
    const works = new Works(connection, onError)
    // whoever reaches the plain listener sits at this machine, unless a proxy stands before it
    const ours = new WeakSet<Socket>()
    const { behind } = options
    const sharing: SharedServing | undefined =
      options.share && !behind
        ? new SharedServing(options.share, (req, res) => void handled(req, res))
        : undefined
    const machineKey = options.share && !behind ? new MachineKey(options.share.folder) : undefined
    // of a public name somebody may come as soon as it is set
    if (machineKey && (options.share!.names || (await somebodyLetIn(connection.db)))) machineKey.need()
    const { custody } = options
    const copies = custody && new Copies(connection.pool, custody)
    const room = fillingOf(
      custody?.builtIn ? (custody.cluster ?? custody.data) : undefined,
      copies && { folder: copies.folder, lastBytes: async () => (await copies.list())[0]?.bytes ?? 0 },
    )
    const news = new NewsWire(connection.url, connection.pool, onError)
    await news.open()
    works.onAnything = () => news.tell({ type: 'everything' })
    const app = makeApp({
      db: connection.db,
      works,
      names: () => [host, ...(behind?.names ?? []), ...(sharing?.names() ?? [])],
      isOwn: (req) => !behind && ours.has(req.socket),
      ...(behind && { proxies: behind.proxies }),
      ...(machineKey && { machineKey }),
      news,
      ...(sharing && { sharing }),
      room: room.read,
      ...(copies && {
        custody: { connection, copies, room: room.read, builtIn: custody.builtIn, folder: custody.data },
      }),
      ...(options.devices && { devices: options.devices }),
      ...(options.nature && { nature: options.nature }),
      ...(options.demo && { demo: options.demo }),
      ...(dist && { dist }),
      ...(quiet && { quiet }),
    })
    const handled = app.callback()
    const server = patiently(http.createServer((req, res) => void handled(req, res)))
    server.on('connection', (socket: Socket) => ours.add(socket))
    server.listen(port, host)
    await once(server, 'listening')
    // what keeps phones out keeps nobody else out
    if (sharing && (options.share!.on || sharing.wasOn)) {
      machineKey?.need()
      await sharing.turn(true).catch(() => {})
    }
    const doing = options.doing ?? true
    await works.start(doing)
    if (copies && doing) makeCopies(works, copies)
    copies?.daily(onError)
    const untidy = tidyDaily(connection.db, onError)
    const restless = givesBackAtRest()
    const { port: bound } = server.address() as AddressInfo
    return {
      url: `http://${inUrl(host)}:${bound}`,
      ownUrl: () => {
        const at = `http://${inUrl(host)}:${bound}`
        const secret = machineKey?.secret
        return secret === undefined ? at : `${at}/at-machine#${secret}`
      },
      sharing,
      db: connection.db,
      stop: async () => {
        untidy()
        restless()
        await sharing?.stop()
        await works.errands.stop()
        await news.stop()
        await copies?.stop()
        await closed(server)
        await works.stop()
        await connection.close()
      },
    }
  } catch (e) {
    await connection.close()
    throw e
  }
}
