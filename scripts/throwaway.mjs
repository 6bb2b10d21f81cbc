// A server on a throwaway database with the demo, for browser tests and pictures: prints its address, lives until stopped.
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { spawn } from 'node:child_process'
import { ROOT } from './install.mjs'

const data = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-'))
fs.chmodSync(data, 0o755)
const child = spawn(process.execPath, [path.join(ROOT, 'scripts', 'start.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, VEER_DATA: data, VEER_FAST_DATABASE: '1', VEER_QUIET: '1', DATABASE_URL: '' },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill('SIGTERM'))
child.on('exit', (code) => {
  fs.rmSync(data, { recursive: true, force: true })
  process.exit(code ?? 1)
})
