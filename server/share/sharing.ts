import { once } from 'node:events'
import fs from 'node:fs'
import http from 'node:http'
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'
import https from 'node:https'
import type { AddressInfo } from 'node:net'
import path from 'node:path'
import type { SharingNow } from '../../contract/crew.ts'
import { closed, patiently } from './patience.ts'
import { inUrl, reachedBy } from './addresses.ts'
import { Authority } from './authority.ts'
import type { Pair } from './authority.ts'
import { trustPage, trustPolicy } from './trustPage.ts'

export interface SharingOptions {
  /** Folder of the authority, and of whether it was on. */
  readonly folder: string
  /** Address to listen on: one of the machine's, or 0.0.0.0. */
  readonly host: string
  readonly httpsPort: number
  readonly httpPort: number
  /** Certificate and key that were given instead of the authority's: PEM files, read again when they change. */
  readonly given?: { readonly cert: string; readonly key: string }
  /** Names the given certificate is for, the best first. */
  readonly names?: readonly string[]
}

/** Certificates and addresses are looked at again so often, ms. */
const LOOKED_AT_MS = 10 * 60_000

interface Listening {
  readonly https: https.Server
  readonly http: http.Server
  readonly httpsPort: number
  readonly httpPort: number
  readonly authority: Authority | undefined
  readonly stopWatching: () => void
}

/** Lets others on this network reach the app over HTTPS; over HTTP they are only shown there. */
export class SharedServing {
  #on: Listening | undefined
  #problem: string | null = null
  #names: readonly string[] = []
  /** One after the other. */
  #turn: Promise<void> = Promise.resolve()

  constructor(
    private readonly options: SharingOptions,
    private readonly app: RequestListener,
  ) {}

  /** Whether it was on when the machine was last stopped. */
  get wasOn(): boolean {
    return fs.existsSync(this.#mark)
  }
  get #mark(): string {
    return path.join(this.options.folder, 'shared')
  }

  /** Names it answers to beside loopback. */
  names(): readonly string[] {
    return this.#on ? this.#names : []
  }

  state(): SharingNow {
    const on = this.#on
    const port = on?.httpsPort === 443 ? '' : `:${on?.httpsPort}`
    return {
      on: on !== undefined,
      switchable: true,
      urls: on ? this.#names.map((name) => `https://${inUrl(name)}${port}`) : [],
      trustUrl: on?.authority && this.#names[0] ? `http://${inUrl(this.#names[0])}:${on.httpPort}` : null,
      fingerprint: on?.authority?.fingerprint ?? null,
      problem: this.#problem,
    }
  }

  /** Switches it on or off, and remembers that. */
  turn(on: boolean): Promise<void> {
    const work = async () => {
      if (on) {
        await this.#start()
        if (this.#on) fs.writeFileSync(this.#mark, '')
      } else {
        fs.rmSync(this.#mark, { force: true })
        await this.#stop()
      }
    }
    this.#turn = this.#turn.then(work, work)
    return this.#turn
  }

  /** Ends it for now; it is on again after the next start. */
  stop(): Promise<void> {
    this.#turn = this.#turn.then(
      () => this.#stop(),
      () => this.#stop(),
    )
    return this.#turn
  }

  async #start(): Promise<void> {
    if (this.#on) return
    const { host, given, folder } = this.options
    try {
      fs.mkdirSync(folder, { recursive: true, mode: 0o700 })
      const authority = given ? undefined : await Authority.in(folder)
      this.#names = this.options.names ?? reachedBy(host)
      const pairNow = async (): Promise<Pair> =>
        given
          ? { cert: fs.readFileSync(given.cert, 'utf8'), key: fs.readFileSync(given.key, 'utf8') }
          : await authority!.leafFor(this.#names)
      const secure = patiently(https.createServer({ ...(await pairNow()), minVersion: 'TLSv1.2' }, this.app))
      const plain = patiently(http.createServer((req, res) => this.#show(req, res)))
      const httpsPort = await listening(secure, this.options.httpsPort, host)
      let httpPort
      try {
        httpPort = await listening(plain, this.options.httpPort, host)
      } catch (e) {
        await closed(secure)
        throw e
      }
      const renew = async () => {
        if (!this.options.names) this.#names = reachedBy(host)
        secure.setSecureContext({ ...(await pairNow()), minVersion: 'TLSv1.2' })
        this.#problem = null
      }
      const again = () =>
        void renew().catch((e: Error) => {
          // what is in force goes on serving
          this.#problem = `The certificate could not be renewed: ${e.message}`
        })
      const timer = setInterval(again, LOOKED_AT_MS).unref()
      const watched = given ? [given.cert, given.key] : []
      for (const file of watched) fs.watchFile(file, { interval: 5000, persistent: false }, again)
      this.#problem = null
      this.#on = {
        https: secure,
        http: plain,
        httpsPort,
        httpPort,
        authority,
        stopWatching: () => {
          clearInterval(timer)
          for (const file of watched) fs.unwatchFile(file, again)
        },
      }
    } catch (e) {
      this.#problem = troubleWith(e as NodeJS.ErrnoException, this.options)
      throw new Error(this.#problem, { cause: e })
    }
  }

  async #stop(): Promise<void> {
    const on = this.#on
    this.#on = undefined
    if (!on) return
    on.stopWatching()
    await Promise.all([closed(on.https), closed(on.http)])
  }

  /** What plain HTTP is for: the certificate and how to have it trusted; everything else is shown to HTTPS. */
  #show(req: IncomingMessage, res: ServerResponse): void {
    const on = this.#on
    const asked = new URL(req.url ?? '/', 'http://here').pathname
    const named = hostOf(req) ?? this.#names[0]
    if (!on || named === undefined || !this.#names.includes(named)) {
      res.writeHead(403, { 'content-type': 'text/plain; charset=utf-8' })
      res.end('This machine does not answer to that name.')
      return
    }
    const secure = `https://${inUrl(named)}${on.httpsPort === 443 ? '' : `:${on.httpsPort}`}`
    const wants = req.method === 'GET' || req.method === 'HEAD'
    if (on.authority && wants && asked === '/') {
      res.writeHead(200, {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': trustPolicy(secure),
        'cache-control': 'no-store',
      })
      res.end(trustPage(secure, on.authority.fingerprint))
    } else if (on.authority && wants && asked === '/veer-line.crt') {
      res.writeHead(200, {
        'content-type': 'application/x-x509-ca-cert',
        'content-disposition': 'attachment; filename="veer-line.crt"',
        'cache-control': 'no-store',
      })
      res.end(on.authority.der)
    } else {
      res.writeHead(308, { location: secure + (req.url?.startsWith('/') ? req.url : '/') })
      res.end()
    }
  }
}

function hostOf(req: IncomingMessage): string | undefined {
  try {
    return new URL(`http://${req.headers.host}`).hostname.replace(/^\[|\]$/g, '')
  } catch {
    return undefined
  }
}

async function listening(server: http.Server, port: number, host: string): Promise<number> {
  server.listen(port, host)
  await once(server, 'listening')
  return (server.address() as AddressInfo).port
}

function troubleWith(e: NodeJS.ErrnoException, { host, httpsPort, httpPort, given }: SharingOptions): string {
  if (e.code === 'EADDRINUSE')
    return `Ports ${httpsPort} and ${httpPort} are wanted for phones, and one of them is taken by another program. Name others with SHARE_PORT and SHARE_HTTP_PORT.`
  if (e.code === 'EADDRNOTAVAIL') return `${host} is no address of this machine.`
  if (e.code === 'EACCES') return `This user may not listen on port ${httpsPort} or ${httpPort}.`
  if (given) return `The certificate that was given cannot be used: ${e.message}`
  return e.message
}
