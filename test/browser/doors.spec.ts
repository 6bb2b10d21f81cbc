import { execFile } from 'node:child_process'
import fs from 'node:fs'
import http from 'node:http'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { promisify } from 'node:util'
import { complaints, expect, test } from './bench.ts'
import { portOf } from './ports.ts'

const ROOT = path.resolve(import.meta.dirname, '../..')

/** The app built without a station: its folder and its line in the list deleted, nothing else. */
async function builtWithout(station: string): Promise<string> {
  const copy = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-doors-'))
  for (const part of [
    'core',
    'contract',
    'web',
    'scripts',
    'vite.config.ts',
    'package.json',
    'tsconfig.json',
  ])
    fs.cpSync(path.join(ROOT, part), path.join(copy, part), { recursive: true })
  fs.symlinkSync(path.join(ROOT, 'node_modules'), path.join(copy, 'node_modules'))
  fs.rmSync(path.join(copy, 'web/stations', station), { recursive: true })
  const list = path.join(copy, 'web/stations/doors.ts')
  const lines = fs.readFileSync(list, 'utf8').split('\n')
  const word = new RegExp(`\\b${station}\\b`)
  const kept = lines
    .filter((l) => !(word.test(l) && l.startsWith('import')))
    .map((l) =>
      l.includes('DOORS') || !l.startsWith('import')
        ? l.replace(new RegExp(`\\b${station}, ?|, ${station}\\b`), '')
        : l,
    )
    .filter((l) => l.trim() !== `${station},`)
  fs.writeFileSync(list, kept.join('\n'))
  await promisify(execFile)(
    process.execPath,
    [path.join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', '--outDir', '../dist'],
    { cwd: copy },
  )
  return copy
}

/** Serves a built app, and hands what it asks of its server on to the one under test. */
async function served(dist: string, port: number) {
  const TYPES: Record<string, string> = {
    '.js': 'text/javascript',
    '.css': 'text/css',
    '.html': 'text/html',
    '.svg': 'image/svg+xml',
  }
  const server = http
    .createServer((req, res) => {
      const { pathname } = new URL(req.url!, 'http://here')
      if (pathname.startsWith('/api/')) {
        const headers = { ...req.headers, host: `127.0.0.1:${port}` }
        delete (headers as { origin?: string }).origin
        const on = http.request(
          { host: '127.0.0.1', port, path: req.url, method: req.method, headers },
          (answer) => {
            res.writeHead(answer.statusCode!, answer.headers)
            answer.pipe(res)
          },
        )
        return void req.pipe(on)
      }
      const wanted = path.join(dist, pathname)
      const file =
        path.extname(pathname) !== '' && fs.existsSync(wanted) ? wanted : path.join(dist, 'index.html')
      res.setHeader('content-type', TYPES[path.extname(file)] ?? 'application/octet-stream')
      fs.createReadStream(file).pipe(res)
    })
    .listen(0, '127.0.0.1')
  await new Promise((up) => server.once('listening', up))
  const stop = async () => {
    server.closeAllConnections()
    await new Promise((closed) => server.close(closed))
  }
  return { origin: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, stop }
}

for (const [station, name, next] of [
  ['readout', 'Readout', 'Throw on'],
  ['review', 'Review', ''],
] as const)
  test(`without its folder and its line the ${name} is gone, and the app builds and runs`, async ({ page }, {
    parallelIndex,
  }) => {
    const said = complaints(page)
    const copy = await builtWithout(station)
    const { origin, stop } = await served(path.join(copy, 'dist'), portOf(parallelIndex))
    try {
      await page.goto(origin)
      await expect(page.getByRole('link', { name: 'Shelf', exact: true })).toBeVisible()
      await expect(page.getByRole('link', { name, exact: true })).toHaveCount(0)
      if (next !== '') {
        const card = page.getByRole('region', { name: 'Which fairway for the lake wind' })
        await expect(card.getByRole('link', { name: 'Read it' })).toHaveCount(0)
        await card.getByRole('link', { name: next }).click()
        await expect(page.getByRole('region', { name: 'Next throw' })).toBeVisible()
      }
      await page.getByRole('link', { name: 'Shelf', exact: true }).click()
      await page.getByRole('link', { name: /HS-021/ }).click()
      await expect(page.getByRole('region', { name: 'Numbers in force' })).toBeVisible()
      expect(said).toEqual([])
    } finally {
      // nobody asks for a file any more once they are gone
      await page.close()
      await stop()
      fs.rmSync(copy, { recursive: true, force: true })
    }
  })
