import path from 'node:path'
import type { BlockList } from 'node:net'
import type { SharingOptions } from './sharing.ts'
import { addressesOf } from '../middleware/forwarded.ts'

/** Who can reach a server, and how. */
export interface ServerReach {
  readonly host: string
  /** How others can be let reach it; where it is not said, they cannot. */
  readonly share?: SharingOptions & { /** From the start. */ readonly on?: boolean }
  /**
   * Proxies it stands behind, and what they are reached by: then nobody is taken to sit at the machine itself, and everybody
   * comes in with a key.
   */
  readonly behind?: { readonly proxies: BlockList; readonly names: readonly string[] }
}

/** Something named in the environment that cannot be. */
export class BadSetting extends Error {}

type Env = Readonly<Record<string, string | undefined>>

const LOOPBACK = /^(127(\.\d{1,3}){3}|localhost|::1)$/
/** Where phones reach it where nothing else is said. */
const USUAL = { host: '0.0.0.0', httpsPort: 4443, httpPort: 4480 }

function portOf(env: Env, name: string, usual: number): number {
  const said = env[name]
  if (said === undefined || said === '') return usual
  const port = Number(said)
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new BadSetting(`${name} is ${said}; it must be a whole number from 0 to 65535.`)
  return port
}

const listed = (said: string | undefined) =>
  (said ?? '')
    .split(',')
    .map((s) => s.trim())
    .filter(Boolean)

/**
 * How a server is reached, from what the environment names.
 *
 * @param data folder of the data
 * @param wanted whether others are to reach it from the start
 * @throws BadSetting where something named cannot be
 */
export function serverReachOf(env: Env, data: string, wanted: boolean): ServerReach {
  const host = env['HOST'] || '127.0.0.1'
  if (env['TRUSTED_PROXY']) {
    const names = listed(env['PUBLIC_NAME'])
    if (names.length === 0)
      throw new BadSetting(
        'TRUSTED_PROXY is set, so PUBLIC_NAME must say what the proxy is reached by, such as veer.example.org.',
      )
    try {
      return { host, behind: { proxies: addressesOf(env['TRUSTED_PROXY']), names } }
    } catch (e) {
      throw new BadSetting((e as Error).message, { cause: e })
    }
  }
  const [cert, key] = [env['TLS_CERT'], env['TLS_KEY']]
  if (!cert !== !key)
    throw new BadSetting('TLS_CERT and TLS_KEY go together: the certificate and its key, PEM files.')
  const names = listed(env['PUBLIC_NAME'])
  const alone = LOOPBACK.test(host)
  return {
    // others come in by HTTPS; what is plain stays on this machine
    host: alone ? host : '127.0.0.1',
    share: {
      folder: path.join(data, 'share'),
      host: env['SHARE_HOST'] || (alone ? USUAL.host : host),
      httpsPort: portOf(env, 'SHARE_PORT', USUAL.httpsPort),
      httpPort: portOf(env, 'SHARE_HTTP_PORT', USUAL.httpPort),
      on: wanted || !alone,
      ...(cert && key && { given: { cert: path.resolve(cert), key: path.resolve(key) } }),
      ...(names.length > 0 && { names }),
    },
  }
}
