import fs from 'node:fs'
import https from 'node:https'
import os from 'node:os'
import path from 'node:path'
import { keptDemo } from '../../demo/away.ts'
import { startServer } from '../../server/main.ts'
import type { RunningServer } from '../../server/main.ts'
import { testDatabase } from './server.ts'

export interface Answer {
  readonly status: number
  readonly headers: Readonly<Record<string, string | string[] | undefined>>
  readonly body: never
  readonly text: string
  /** What the answer gave the browser to come in with. */
  readonly cookie: string | undefined
}

export interface SharedServer extends RunningServer {
  /** Where phones reach it. */
  readonly https: string
  /** The authority's certificate, PEM. */
  readonly ca: string
  readonly folder: string
  /** Asks it as a browser at the machine itself does, which has what start printed. */
  readonly own: (path: string, init?: RequestInit) => Promise<Response>
  /** Asks it as a phone does that trusts nothing but its authority. */
  readonly ask: (
    method: string,
    path: string,
    body?: unknown,
    as?: { readonly cookie?: string | undefined; readonly headers?: Readonly<Record<string, string>> },
  ) => Promise<Answer>
}

/** A server on a database of its own that a second loopback address is let reach over HTTPS. */
export async function sharedServer(databaseUrl?: string, folder?: string): Promise<SharedServer> {
  const data = folder ?? fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-share-'))
  const running = await startServer({
    databaseUrl: databaseUrl ?? (await testDatabase()),
    host: '127.0.0.1',
    port: 0,
    quiet: true,
    demo: keptDemo,
    custody: { folder: path.join(data, 'copies'), most: 1e9, builtIn: true, data },
    share: { folder: data, host: '127.0.0.2', httpsPort: 0, httpPort: 0, on: true },
  })
  const [at] = running.sharing!.state().urls
  if (at === undefined) throw new Error(running.sharing!.state().problem ?? 'It is not shared.')
  const ca = fs.readFileSync(path.join(data, 'authority.pem'), 'utf8')
  return {
    ...running,
    https: at,
    ca,
    folder: data,
    own: (where, init = {}) =>
      fetch(new URL(where, running.url), {
        ...init,
        headers: { ...(init.headers as Record<string, string>), cookie: machineCookie(running) },
      }),
    ask: (method, where, body, as = {}) => asked(at, ca, method, where, body, as),
    stop: async () => {
      await running.stop()
      if (folder === undefined) fs.rmSync(data, { recursive: true, force: true })
    },
  }
}

/** What a browser has from the address that start prints. */
export const machineCookie = ({ url, ownUrl }: Pick<RunningServer, 'url' | 'ownUrl'>): string =>
  `veer-line-machine-${new URL(url).port}=${new URL(ownUrl()).hash.slice(1)}`

function asked(
  at: string,
  ca: string,
  method: string,
  where: string,
  body: unknown,
  { cookie, headers }: NonNullable<Parameters<SharedServer['ask']>[3]>,
): Promise<Answer> {
  return new Promise((answered, failed) => {
    const req = https.request(
      new URL(where, at),
      {
        method,
        ca,
        agent: false,
        ...(headers?.['host'] !== undefined && { checkServerIdentity: () => undefined }),
        headers: {
          ...(body !== undefined && { 'content-type': 'application/json' }),
          ...(cookie !== undefined && { cookie }),
          ...headers,
        },
      },
      (res) => {
        let text = ''
        res.setEncoding('utf8')
        res.on('data', (d: string) => (text += d))
        res.on('end', () => {
          const set = res.headers['set-cookie']?.find((c) => /^__Host-veer-line=[^;]/.test(c))
          answered({
            status: res.statusCode!,
            headers: res.headers,
            text,
            cookie: set?.split(';')[0],
            body: (res.headers['content-type']?.includes('json') ? JSON.parse(text) : undefined) as never,
          })
        })
      },
    )
    req.on('error', failed)
    req.end(body === undefined ? undefined : JSON.stringify(body))
  })
}
