import fs from 'node:fs'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import path from 'node:path'

const DIST = path.resolve(import.meta.dirname, '../../dist')
const HASHED = /([\w.-]+?)-([\w-]{8})\.(js|css)\b/g
const TYPES: Readonly<Record<string, string>> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.svg': 'image/svg+xml',
  '.webmanifest': 'application/manifest+json',
  '.woff2': 'font/woff2',
}

/** Files of the app that is built, and of a newer one: every script and style under another name, as after any change. */
function builds() {
  const names = fs.readdirSync(DIST, { recursive: true, encoding: 'utf8' })
  const files = new Map<string, Buffer>(
    names.flatMap((name) => {
      const file = path.join(DIST, name)
      return fs.statSync(file).isFile() ? [[`/${name}`, fs.readFileSync(file)] as const] : []
    }),
  )
  const assets = [...files.keys()].filter((name) => name.startsWith('/assets/'))
  const hashed = new Set(assets.map((name) => path.basename(name)))
  const renamed = (text: string) =>
    text.replace(HASHED, (whole, name: string, hash: string, end: string) =>
      hashed.has(whole) ? `${name}-${hash.slice(0, 7)}${hash.endsWith('0') ? '1' : '0'}.${end}` : whole,
    )
  const next = new Map(
    [...files].map(([name, content]) => {
      if (!/\.(html|js|css)$/.test(name)) return [name, content] as const
      const text = renamed(content.toString())
        .replace('<html', '<html data-build="next"')
        .replace(/(index\.html",revision:")[^"]*/, '$1ffffffffffffffffffffffffffffffff')
      return [renamed(name), Buffer.from(text)] as const
    }),
  )
  return { before: files, next }
}

/**
 * An address before a server whose app is replaced by a newer build while pages are open: files are those of one build alone,
 * everything else is the server's own answer, none while it is away.
 */
export async function rollingOut(baseURL: string) {
  const files = builds()
  const { port } = new URL(baseURL)
  const front = { url: '', build: 'before' as 'before' | 'next', away: false, close: () => {} }
  const server = http.createServer((req, res) => {
    const { pathname } = new URL(req.url!, baseURL)
    if (!pathname.startsWith('/api/')) {
      const name = path.extname(pathname) === '' ? '/index.html' : pathname
      const content = files[front.build].get(name)
      res.writeHead(content ? 200 : 404, { 'content-type': TYPES[path.extname(name)] ?? 'text/plain' })
      return void res.end(content)
    }
    if (front.away) return void req.socket.destroy()
    const headers: http.OutgoingHttpHeaders = { ...req.headers, host: `127.0.0.1:${port}` }
    if (headers['origin'] !== undefined) headers['origin'] = baseURL
    const on = http.request(
      { host: '127.0.0.1', port, path: req.url, method: req.method, headers },
      (answer) => {
        res.writeHead(answer.statusCode!, answer.headers)
        answer.pipe(res)
      },
    )
    on.on('error', () => res.destroy())
    res.on('close', () => on.destroy())
    req.pipe(on)
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  front.url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  front.close = () => {
    server.close()
    server.closeAllConnections()
  }
  return front
}
