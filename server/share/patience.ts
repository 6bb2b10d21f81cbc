import type { Server } from 'node:http'
import type { Socket } from 'node:net'

/** Somebody who is slow to say what they want is let go, ms; so is one who wants nothing more. */
const HEADERS_MS = 20_000
const REQUEST_MS = 180_000
const IDLE_MS = 65_000
/** Connections open at a time: pages keep a few each. */
const MOST = 2000

/** Sockets of each server, those that have not said yet what they want among them. */
const open = new WeakMap<Server, Set<Socket>>()

/** Has a server wait no longer than is reasonable, and for no more than it can hold. */
export function patiently<S extends Server>(server: S): S {
  server.headersTimeout = HEADERS_MS
  server.requestTimeout = REQUEST_MS
  server.keepAliveTimeout = IDLE_MS
  server.maxConnections = MOST
  const sockets = new Set<Socket>()
  open.set(server, sockets)
  server.on('connection', (socket: Socket) => {
    sockets.add(socket)
    socket.once('close', () => sockets.delete(socket))
  })
  return server
}

/** A server that takes nobody any more is over by then, whatever it still counts, ms; so often it is looked who is left. */
const OVER_MS = 5000
const SWEEP_MS = 100

/** Ends a server and every connection to it, one in the middle of its handshake too. */
export async function closed(server: Server): Promise<void> {
  const over = new Promise((done) => server.close(done))
  const sweep = () => {
    for (const socket of open.get(server) ?? []) socket.destroy()
    server.closeAllConnections()
  }
  sweep()
  // one that was let in at this very moment is told of only now
  const again = setInterval(sweep, SWEEP_MS)
  await Promise.race([over, new Promise((r) => setTimeout(r, OVER_MS).unref())])
  clearInterval(again)
}
