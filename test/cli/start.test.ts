import { spawn, spawnSync } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect } from 'chai'
import { v7 as newId } from 'uuid'

const ROOT = fileURLToPath(new URL('../..', import.meta.url))
const START = path.join(ROOT, 'scripts', 'start.mjs')

async function freePort(): Promise<number> {
  const server = net.createServer().listen(0, '127.0.0.1')
  await once(server, 'listening')
  const { port } = server.address() as net.AddressInfo
  server.close()
  await once(server, 'close')
  return port
}

/** The start command on a data folder of its own, up to the line that says where it is. */
async function started(
  data: string,
  port: number,
  ...flags: string[]
): Promise<{ child: ChildProcess; said: () => string }> {
  const child = spawn(process.execPath, [START, ...flags], {
    cwd: ROOT,
    env: {
      ...process.env,
      VEER_DATA: data,
      PORT: String(port),
      VEER_QUIET: '1',
      VEER_FAST_DATABASE: '1',
      DATABASE_URL: '',
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  await new Promise<void>((up, failed) => {
    child.stderr!.on('data', (d) => {
      said += String(d)
      if (said.includes('Ctrl-C stops it')) up()
    })
    child.on('exit', () => failed(new Error(`it ended: ${said}`)))
  })
  return { child, said: () => said }
}

async function stopped(child: ChildProcess, signal: NodeJS.Signals): Promise<number> {
  child.removeAllListeners('exit')
  const ended = once(child, 'exit')
  child.kill(signal)
  return ((await ended) as [number])[0]
}

const alive = (pid: number) => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

describe('npm start', function () {
  this.timeout(180_000)
  const data = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-start-'))
  fs.chmodSync(data, 0o755)
  after(() => fs.rmSync(data, { recursive: true, force: true }))

  it('serves, says so to a second start, stops cleanly and keeps the data', async () => {
    const port = await freePort()
    const url = `http://127.0.0.1:${port}`
    const first = await started(data, port)
    expect(first.said()).contain('Loaded the Harrowmere demo').contain(url)
    const page = await fetch(url)
    expect(page.headers.get('content-security-policy')).contain("default-src 'none'")
    expect(await page.text()).contain('<div id="root">')
    expect((await fetch(`${url}/assets/../../package.json`)).headers.get('content-type')).not.contain('json')

    const second = spawnSync(process.execPath, [START], {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, VEER_DATA: data, PORT: String(port) },
    })
    expect(second.status).equal(0)
    expect(second.stderr).contain(`already running at ${url}`)

    const id = newId()
    const kept = { id, units: 'imperial', theme: 'sun' }
    const put = await fetch(`${url}/api/preferences/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(kept),
    })
    expect(put.status).equal(200)

    const postgres = Number(fs.readFileSync(postmasterOf(data), 'utf8').split('\n')[0])
    expect(alive(postgres)).equal(true)
    expect(await stopped(first.child, 'SIGINT')).equal(0)
    expect(alive(postgres)).equal(false)

    const again = await started(data, port)
    expect(again.said()).not.contain('Loaded the Harrowmere demo')
    expect(await (await fetch(`${url}/api/preferences/${id}`)).json()).deep.equal(kept)
    await stopped(again.child, 'SIGTERM')
  })

  it('begins with an empty shelf where that is asked, and stays so', async () => {
    const own = path.join(data, 'own')
    const port = await freePort()
    const discs = async () => {
      const page = (await (await fetch(`http://127.0.0.1:${port}/api/discs`)).json()) as { total: number }
      return page.total
    }
    const empty = await started(own, port, '--empty')
    expect(empty.said()).not.contain('Loaded the Harrowmere demo')
    expect(await discs()).equal(0)
    await stopped(empty.child, 'SIGTERM')

    const again = await started(own, port)
    expect(again.said()).not.contain('Loaded the Harrowmere demo')
    expect(await discs()).equal(0)
    await stopped(again.child, 'SIGTERM')
  })

  it('puts the demo away where it was', async () => {
    const had = path.join(data, 'had')
    const port = await freePort()
    const first = await started(had, port)
    expect(first.said()).contain('Loaded the Harrowmere demo')
    await stopped(first.child, 'SIGTERM')

    const emptied = await started(had, port, '--empty')
    const trials = await fetch(`http://127.0.0.1:${port}/api/trials`)
    expect(await trials.json()).deep.equal([])
    await stopped(emptied.child, 'SIGTERM')
  })

  it('says in a sentence what is wrong with a port', async () => {
    const bad = spawnSync(process.execPath, [START], {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, VEER_DATA: data, PORT: 'front door' },
    })
    expect(bad.status).equal(1)
    expect(bad.stderr).contain('PORT is front door; it must be a whole number from 0 to 65535.')
  })

  it('says what is wrong with a recording before anything is started', () => {
    const bad = spawnSync(process.execPath, [START], {
      cwd: ROOT,
      encoding: 'utf8',
      env: { ...process.env, VEER_DATA: path.join(data, 'unused'), VEER_ANEMOMETER: '/nowhere/wind.csv' },
    })
    expect(bad.status).equal(1)
    expect(bad.stderr).match(/VEER_ANEMOMETER is \/nowhere\/wind\.csv, which cannot be read/)
    expect(fs.readdirSync(path.join(data, 'unused'))).deep.equal([])
  })
})

/** The cluster's pid file: beside the data, or where the start command says it had to put it. */
function postmasterOf(folder: string): string {
  const lock = JSON.parse(fs.readFileSync(path.join(folder, 'running.json'), 'utf8')) as { cluster: string }
  return path.join(lock.cluster, 'pgdata', 'postmaster.pid')
}
