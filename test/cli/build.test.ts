import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { pathToFileURL } from 'node:url'
import { expect } from 'chai'

const INSTALL = pathToFileURL(path.resolve(import.meta.dirname, '../../scripts/install.mjs')).href

/** Writes what a build does, in its order: the page first, what makes it work without a network last. */
const BUILDER = `
  import fs from 'node:fs'
  import path from 'node:path'
  const out = process.argv[process.argv.indexOf('--outDir') + 1] ?? path.join(process.cwd(), 'dist')
  fs.mkdirSync(out, { recursive: true })
  fs.writeFileSync(path.join(out, 'index.html'), fs.readFileSync('web/page.txt', 'utf8'))
  process.stderr.write('half')
  await new Promise((r) => setTimeout(r, Number(process.env.PAUSE)))
  fs.writeFileSync(path.join(out, 'sw.js'), '')
`

describe('the build of the app', () => {
  const root = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-build-'))
  after(() => fs.rmSync(root, { recursive: true, force: true }))
  const file = (name: string) => path.join(root, name)
  before(() => {
    fs.mkdirSync(file('web'))
    fs.mkdirSync(file('node_modules/vite/bin'), { recursive: true })
    fs.writeFileSync(file('node_modules/vite/package.json'), '{"type":"module"}')
    fs.writeFileSync(file('node_modules/vite/bin/vite.js'), BUILDER)
  })
  /** Builds where something changed; broken off as Ctrl-C does it once it is half done. */
  async function build(brokenOff: boolean): Promise<void> {
    const child = spawn(
      process.execPath,
      [
        '-e',
        `import(${JSON.stringify(INSTALL)}).then((m) => m.orSay(() => m.ensureBuilt(${JSON.stringify(root)})))`,
      ],
      {
        env: { ...process.env, PAUSE: brokenOff ? '60000' : '0' },
        stdio: ['ignore', 'ignore', 'pipe'],
        detached: true,
      },
    )
    const ended = once(child, 'close')
    if (brokenOff)
      child.stderr.on('data', (d) => void (String(d).includes('half') && process.kill(-child.pid!, 'SIGINT')))
    await ended
  }
  const change = (text: string) => {
    fs.writeFileSync(file('web/page.txt'), text)
    const later = new Date(Date.now() - 1000)
    fs.utimesSync(file('web/page.txt'), later, later)
    if (fs.existsSync(file('dist'))) {
      const before = new Date(Date.now() - 60_000)
      for (const f of fs.readdirSync(file('dist'))) fs.utimesSync(path.join(file('dist'), f), before, before)
    }
  }
  const served = () =>
    fs.existsSync(file('dist/index.html'))
      ? [fs.readFileSync(file('dist/index.html'), 'utf8'), fs.existsSync(file('dist/sw.js'))]
      : undefined

  it('is whole or not there: one that was broken off is made again, and one before it stays until then', async () => {
    change('first')
    await build(true)
    expect(served()).equal(undefined)
    await build(false)
    expect(served()).deep.equal(['first', true])
    change('second')
    await build(true)
    expect(served()).deep.equal(['first', true])
    await build(false)
    expect(served()).deep.equal(['second', true])
    expect(fs.readdirSync(root).sort()).deep.equal(['dist', 'node_modules', 'web'])
  })
})
