import { spawn, spawnSync } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import http from 'node:http'
import net from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect } from 'chai'
import { v7 as newId } from 'uuid'
import { startPostgres } from '../../scripts/database.mjs'
import { urlOf } from '../../scripts/running.mjs'
import type { Running } from '../../scripts/running.mjs'
import { connect } from '../../server/store/database.ts'
import { preferences } from '../../server/store/schema.ts'

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
  const child = spawn(process.execPath, [START, ...flags.filter((f) => f !== '--surely')], {
    cwd: ROOT,
    env: {
      ...process.env,
      VEER_DATA: data,
      PORT: String(port),
      VEER_QUIET: '1',
      // one that is killed must keep what it was given
      VEER_FAST_DATABASE: flags.includes('--surely') ? '' : '1',
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

  /** The start command where it ends by itself; this process goes on meanwhile. */
  async function ended(env: Readonly<Record<string, string>>): Promise<{ status: number; said: string }> {
    const child = spawn(process.execPath, [START], {
      cwd: ROOT,
      env: { ...process.env, VEER_QUIET: '1', VEER_FAST_DATABASE: '1', PORT: '0', DATABASE_URL: '', ...env },
      stdio: ['ignore', 'ignore', 'pipe'],
    })
    let said = ''
    child.stderr.on('data', (d) => (said += String(d)))
    const [status] = (await once(child, 'close')) as [number]
    return { status, said }
  }

  it('touches nothing in a folder that is not empty and no cluster', async () => {
    const odd = path.join(data, 'odd')
    const precious = path.join(odd, 'postgres', 'pgdata', 'base.tar')
    fs.mkdirSync(path.dirname(precious), { recursive: true })
    fs.writeFileSync(precious, 'a year of throws')
    const { status, said } = await ended({ VEER_DATA: odd })
    expect(status).equal(1)
    expect(said).match(/pgdata is not empty, and it has no PG_VERSION.*Nothing in it was touched/)
    expect(fs.readFileSync(precious, 'utf8')).equal('a year of throws')
  })

  it('comes up whatever an earlier life left: a stranger’s numbers in its files, no password, a broken-off beginning', async () => {
    const again = path.join(data, 'again')
    const port = await freePort()
    fs.mkdirSync(path.join(again, 'postgres', 'pgdata.making'), { recursive: true })
    fs.writeFileSync(path.join(again, 'postgres', 'pgdata.making', 'PG_VERSION'), '0')
    const first = await started(again, port)
    const { cluster } = JSON.parse(fs.readFileSync(path.join(again, 'running.json'), 'utf8')) as {
      cluster: string
    }
    await stopped(first.child, 'SIGTERM')

    const other = await startPostgres(path.join(data, 'stranger'), { fast: true })
    const bystander = spawn(process.execPath, ['-e', 'setInterval(() => {}, 1000)', 'start.mjs'])
    try {
      const left = path.join(cluster, 'pgdata', 'postmaster.pid')
      const lines = [other.pid, path.join(cluster, 'pgdata'), 1, other.port, '', '127.0.0.1', 1, 'ready']
      fs.writeFileSync(left, lines.join('\n'))
      fs.rmSync(path.join(cluster, 'password'))
      fs.writeFileSync(
        path.join(again, 'running.json'),
        JSON.stringify({ pid: bystander.pid, begun: '1', url: 'http://127.0.0.1:1' }),
      )
      const second = await started(again, port)
      expect(second.said()).not.contain('Loaded the Harrowmere demo')
      expect(alive(other.pid)).equal(true)
      const trials = (await (await fetch(`http://127.0.0.1:${port}/api/trials`)).json()) as unknown[]
      expect(trials.length).greaterThan(1)
      await stopped(second.child, 'SIGTERM')
      expect(alive(other.pid)).equal(true)
    } finally {
      bystander.kill()
      await other.stop()
    }
  })

  it('starts its database again whenever that is killed, and loses nothing of what fifty write meanwhile that was acknowledged', async () => {
    const hit = path.join(data, 'hit')
    const port = await freePort()
    const { child, said } = await started(hit, port, '--empty', '--surely')
    child.removeAllListeners('exit')
    const put = async (id: string) => {
      const answer = await fetch(`http://127.0.0.1:${port}/api/preferences/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ id, units: 'imperial', theme: 'sun' }),
      })
      return answer.status
    }
    const acknowledged: string[] = []
    const statuses = new Map<number, number>()
    let going = true
    // fifty write one after the other, and again what was not acknowledged
    const writing = Array.from({ length: 50 }, async () => {
      while (going) {
        const id = newId()
        for (let status = 0; status !== 200;) {
          status = await put(id)
          statuses.set(status, (statuses.get(status) ?? 0) + 1)
          if (status !== 200) await new Promise((r) => setTimeout(r, 100))
        }
        acknowledged.push(id)
      }
    })
    for (let blow = 0; blow < 3; blow++) {
      const before = acknowledged.length
      while (acknowledged.length < before + 200) await new Promise((r) => setTimeout(r, 10))
      const pid = Number(fs.readFileSync(postmasterOf(hit), 'utf8').split('\n')[0])
      process.kill(pid, 'SIGKILL')
      while (!said().includes('PostgreSQL is back') || said().split('PostgreSQL is back').length < blow + 2)
        await new Promise((r) => setTimeout(r, 20))
    }
    const back = acknowledged.length
    while (acknowledged.length < back + 100) await new Promise((r) => setTimeout(r, 10))
    going = false
    await Promise.all(writing)
    // whoever was not heard was told so, and nothing else
    expect([...statuses.keys()].toSorted()).deep.equal([200, 503])
    const { db, close } = connect(
      urlOf(JSON.parse(fs.readFileSync(path.join(hit, 'running.json'), 'utf8')) as Running),
    )
    try {
      const rows = await db.select({ id: preferences.id }).from(preferences)
      const stored = new Set(rows.map((r) => r.id))
      expect(acknowledged.filter((id) => !stored.has(id))).deep.equal([])
    } finally {
      await close()
    }
    const last = Number(fs.readFileSync(postmasterOf(hit), 'utf8').split('\n')[0])
    expect(await stopped(child, 'SIGTERM')).equal(0)
    expect(alive(last)).equal(false)
  })

  it('stays up while its disk is full, says how much is missing, and goes on by itself when there is room', async function () {
    this.timeout(240_000)
    // a disk of its own, that can be filled
    const disk = path.join(data, 'disk')
    fs.mkdirSync(disk)
    if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=260m,mode=0755', 'tmpfs', disk]).status !== 0)
      this.skip()
    const filler = path.join(disk, 'filler')
    const port = await freePort()
    const origin = `http://127.0.0.1:${port}`
    const { child, said } = await started(disk, port, '--empty', '--surely')
    child.removeAllListeners('exit')
    let ended = false
    child.once('exit', () => (ended = true))
    const acknowledged: string[] = []
    const put = async () => {
      const id = newId()
      const answer = await fetch(`${origin}/api/preferences/${id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ id, units: 'imperial', theme: 'sun' }),
      })
      if (answer.status === 200) acknowledged.push(id)
      return { status: answer.status, detail: ((await answer.json()) as { detail?: string }).detail ?? '' }
    }
    const health = async () =>
      (await (await fetch(`${origin}/api/health`)).json()) as {
        writes: boolean
        database: string
        full?: string
      }
    const postmaster = () => Number(fs.readFileSync(postmasterOf(disk), 'utf8').split('\n')[0])
    try {
      expect((await put()).status).equal(200)
      expect(await health()).include({ writes: true, database: 'takes-writes' })
      // all of it, to the last byte
      const out = fs.openSync(filler, 'w')
      const block = Buffer.alloc(1_000_000)
      for (let size = block.length; size >= 1;)
        try {
          fs.writeSync(out, block, 0, size)
        } catch {
          size = Math.floor(size / 2)
        }
      fs.closeSync(out)
      const full = await health()
      expect(full).include({ writes: false, database: 'full' })
      expect(full.full).match(/disk of the server is full: \d+ MB are missing in .*disk/)
      // its database ends over it, or is killed, and cannot come up: the app stays
      process.kill(postmaster(), 'SIGKILL')
      while (!said().includes('is full. It is tried again and again')) {
        expect(ended, said()).equal(false)
        await new Promise((r) => setTimeout(r, 50))
      }
      const refused = await put()
      expect(refused.status).equal(503)
      expect(refused.detail).match(/disk of the server is full: \d+ MB are missing/)
      expect((await fetch(`${origin}/`)).status).equal(200)
      fs.rmSync(filler)
      while ((await put()).status !== 200) await new Promise((r) => setTimeout(r, 100))
      expect(await health()).include({ writes: true, database: 'takes-writes' })
      const { db, close } = connect(
        urlOf(JSON.parse(fs.readFileSync(path.join(disk, 'running.json'), 'utf8')) as Running),
      )
      const stored = new Set((await db.select({ id: preferences.id }).from(preferences)).map((r) => r.id))
      await close()
      expect(acknowledged.filter((id) => !stored.has(id))).deep.equal([])
      expect(ended).equal(false)
    } finally {
      await stopped(child, 'SIGTERM')
      spawnSync('umount', [disk])
    }
  })

  it('says in a sentence what is wrong with a database somebody named', async () => {
    const nobody = await freePort()
    const web = http.createServer((_, res) => res.end('hello')).listen(0, '127.0.0.1')
    await once(web, 'listening')
    // never answers, not even with a refusal
    const silent = net.createServer(() => {}).listen(0, '127.0.0.1')
    await once(silent, 'listening')
    const other = await startPostgres(path.join(data, 'named'), { fast: true })
    const portOf = (s: net.Server) => (s.address() as net.AddressInfo).port
    const wrong = new URL(other.url())
    wrong.password = 'guess'
    try {
      const wrongs = [
        ['Harrowmere', /^DATABASE_URL is not an address of the form postgres:\/\//],
        [`postgres://u:p@127.0.0.1:${nobody}/veer`, /^No PostgreSQL answers at DATABASE_URL/],
        ['postgres://u:p@nowhere.invalid/veer', /^The host that DATABASE_URL names is not known/],
        [wrong.href, /^PostgreSQL does not take the user and password of DATABASE_URL/],
        [`postgres://u:p@127.0.0.1:${portOf(web)}/veer`, /^Whatever answers at DATABASE_URL does not speak/],
        [
          `postgres://u:p@127.0.0.1:${portOf(silent)}/veer`,
          /^Whatever answers at DATABASE_URL does not speak/,
        ],
      ] as const
      await Promise.all(
        wrongs.map(async ([url, sentence], i) => {
          const { status, said } = await ended({
            VEER_DATA: path.join(data, `outer ${i}`),
            DATABASE_URL: url,
          })
          expect(status, url).equal(1)
          expect(said, url).match(sentence)
          expect(said, url).not.match(/ at .*\.(ts|js|mjs):\d/)
        }),
      )
    } finally {
      web.close()
      silent.close()
      await other.stop()
    }
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
