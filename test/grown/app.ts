// The app as a person starts it, for what is measured of it from outside.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import net from 'node:net'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'

const ROOT = path.resolve(import.meta.dirname, '../..')
export const data = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-bench-'))
fs.chmodSync(data, 0o755)
export const sleep = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms))
export const say = (line: string): void => void process.stderr.write(`${line}\n`)

const probe = net.createServer().listen(0, '127.0.0.1')
await once(probe, 'listening')
const { port } = probe.address() as AddressInfo
probe.close()
export const origin = `http://127.0.0.1:${port}`

/** What `npm start` runs: what it sets, and what it gives node. */
function startCommand(): { set: Record<string, string>; args: string[] } {
  const { scripts } = JSON.parse(fs.readFileSync(path.join(ROOT, 'package.json'), 'utf8')) as {
    scripts: { start: string }
  }
  const words = scripts.start.split(' ')
  const at = words.indexOf('node')
  return {
    set: Object.fromEntries(words.slice(0, at).map((w) => w.split('=') as [string, string])),
    args: words.slice(at + 1),
  }
}

/** Starts the app and waits for its address; with the demo, or with nothing in it. */
export async function start(how: 'demo' | 'empty') {
  const { set, args: given } = startCommand()
  const args = [...given, ...(how === 'empty' ? ['--empty'] : [])]
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    env: { ...process.env, ...set, VEER_DATA: data, PORT: String(port), VEER_QUIET: '1', DATABASE_URL: '' },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  await new Promise<void>((up, failed) => {
    child.stderr.on('data', (d) => {
      said += String(d)
      if (said.includes('Ctrl-C stops it')) up()
    })
    child.on('exit', () => failed(new Error(`It did not start: ${said}`)))
  })
  return child
}
export const stopped = async (child: Awaited<ReturnType<typeof start>>): Promise<void> => {
  child.removeAllListeners('exit')
  child.kill('SIGTERM')
  await once(child, 'exit')
}
