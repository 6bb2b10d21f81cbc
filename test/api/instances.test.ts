import { expect } from 'chai'
import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import net from 'node:net'
import type { AddressInfo } from 'node:net'
import os from 'node:os'
import path from 'node:path'
import { eq, sql } from 'drizzle-orm'
import { v7 as newId } from 'uuid'
import type { Custody, Errand } from '../../contract/custody.ts'
import type { ShelfPage } from '../../contract/shelfPage.ts'
import type { Throw } from '../../contract/trials.ts'
import { loadDemo } from '../../demo/load.ts'
import { startServer } from '../../server/main.ts'
import { openDatabase, wireColumns } from '../../server/store/database.ts'
import type { Connection } from '../../server/store/database.ts'
import { cards, shelfState, throws, unweighed } from '../../server/store/schema.ts'
import { startWork } from '../../server/work/apart.ts'
import { testDatabase } from './server.ts'
import { bundleProgram } from '../../scripts/bundles.mjs'

/** A server in a process of its own. */
async function instance(url: string): Promise<{ readonly port: number; readonly process: ChildProcess }> {
  const child = spawn(process.execPath, [await bundleProgram('test/api/instance.ts'), url], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const [said] = (await once(child.stdout, 'data')) as [Buffer]
  return { port: Number(new URL(said.toString().trim()).port), process: child }
}

/** One address before several servers: each connection goes to the next one that answers. */
async function oneAddress(ports: readonly number[]): Promise<{ url: string; close: () => void }> {
  let turn = 0
  const server = net.createServer((near) => {
    near.on('error', () => {})
    const to = (left: number) => {
      const far = net.connect(ports[turn++ % ports.length]!, '127.0.0.1')
      far.once('connect', () => {
        near.pipe(far).pipe(near)
        far.on('error', () => near.destroy())
      })
      far.once('error', () => (left > 1 ? to(left - 1) : near.destroy()))
    }
    to(ports.length)
  })
  server.listen(0, '127.0.0.1')
  await once(server, 'listening')
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => void server.close(),
  }
}

/** Waits until something is so; fails with `what` when it takes too long. */
async function until(what: string, isSo: () => Promise<boolean>, ms = 60_000): Promise<void> {
  for (const begun = Date.now(); !(await isSo()); await new Promise((r) => setTimeout(r, 50)))
    if (Date.now() - begun > ms) expect.fail(`It did not come to be: ${what}.`)
}

/** Asks as a page does: on a connection of its own, and again until somebody answers. */
async function asked(url: string, init: RequestInit = {}): Promise<Response> {
  for (;;)
    try {
      return await fetch(url, { ...init, headers: { ...init.headers, connection: 'close' } })
    } catch {
      await new Promise((r) => setTimeout(r, 20))
    }
}
const put = (url: string, row: object) =>
  asked(url, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(row),
  })

describe('two instances on one database', () => {
  let connection: Connection
  before(async () => {
    connection = await openDatabase(await testDatabase())
    await loadDemo(connection.db)
  })
  after(() => connection.close())
  const keeper = async () =>
    (await connection.db.select().from(shelfState).where(eq(shelfState.id, 1)))[0]!.keeper
  const behind = async () => (await connection.db.select().from(unweighed).limit(1)).length > 0
  async function someThrow(): Promise<Throw> {
    const [row] = await connection.db
      .select(wireColumns(throws))
      .from(throws)
      .where(sql`${throws.counts} and ${throws.takenBackAt} is null`)
      .limit(1)
    return row as Throw
  }

  it('one that keeps the ratings is killed: the other takes its place, and nothing acknowledged is lost', async () => {
    const one = await instance(connection.url)
    const kept = await keeper()
    expect(kept).to.not.equal(null)
    const two = await instance(connection.url)
    const front = await oneAddress([one.port, two.port])
    try {
      await until('the shelf is weighed', async () => !(await behind()))
      expect(await keeper()).to.equal(kept)
      const sample = await someThrow()
      const acknowledged: string[] = []
      for (let i = 0; i < 30; i++) {
        if (i === 12) {
          // whatever it was about to weigh is left for the other
          one.process.kill('SIGKILL')
        }
        const id = newId()
        const answer = await put(`${front.url}/api/throws/${id}`, {
          ...sample,
          id,
          version: 0,
          carryM: 60 + i,
          thrownAt: new Date(Date.parse(sample.thrownAt) + 1000 * i).toISOString(),
        })
        expect(answer.status, await answer.text()).to.equal(200)
        acknowledged.push(id)
      }
      const stored = await connection.db.select({ id: throws.id }).from(throws)
      expect(stored.map((t) => t.id)).to.include.members(acknowledged)
      expect(acknowledged).to.have.length(30)
      await until('the other keeps it', async () => ![kept, null].includes(await keeper()))
      await until('all is weighed', async () => !(await behind()))
      const page = (await (await asked(`${front.url}/api/discs`)).json()) as ShelfPage
      expect(page.behind).to.equal(false)
      await until('its card is made again', async () => {
        const [card] = await connection.db.select().from(cards).where(eq(cards.trialId, sample.trialId))
        return card!.card !== null && card!.mark.includes(` ${await countOf(sample.trialId)} `)
      })
    } finally {
      front.close()
      for (const { process } of [one, two]) process.kill('SIGKILL')
    }
  })
  const countOf = async (trialId: string) =>
    (await connection.db.select({ id: throws.id }).from(throws).where(eq(throws.trialId, trialId))).length

  it('one that answers and one that works: ratings and copies are made by the one that was asked for nothing', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-copies-'))
    const failures: unknown[] = []
    const copies = { folder: path.join(folder, 'copies'), most: 1e9 }
    const server = await startServer({
      databaseUrl: connection.url,
      host: '127.0.0.1',
      port: 0,
      quiet: true,
      doing: false,
      custody: { ...copies, builtIn: false, data: folder },
    })
    try {
      const sample = await someThrow()
      await put(`${server.url}/api/throws/${sample.id}`, { ...sample, carryM: sample.carryM + 2 })
      const begun = (await (
        await asked(`${server.url}/api/copies`, { method: 'POST', body: '{}' })
      ).json()) as Errand
      const errand = async () =>
        (await (await asked(`${server.url}/api/errands/${begun.id}`)).json()) as Errand
      await new Promise((r) => setTimeout(r, 1500))
      // nobody does it yet, and it is said
      expect(await errand()).to.include({ state: 'waiting' })
      expect(await behind()).to.equal(true)
      const work = await startWork(connection.url, copies, (e) => failures.push(e))
      try {
        await until('it is weighed', async () => !(await behind()))
        await until('a copy is made', async () => (await errand()).state === 'done')
        const custody = (await (await asked(`${server.url}/api/custody`)).json()) as Custody
        expect(custody.copies.map((c) => c.why)).to.include('by-hand')
        expect(failures).to.deep.equal([])
      } finally {
        await work.stop()
      }
      // one that was cancelled before anybody began is not begun
      const second = (await (
        await asked(`${server.url}/api/copies`, { method: 'POST', body: '{}' })
      ).json()) as Errand
      await asked(`${server.url}/api/errands/${second.id}/cancel`, { method: 'POST', body: '{}' })
      const state = (await (await asked(`${server.url}/api/errands/${second.id}`)).json()) as Errand
      expect(state.state).to.equal('cancelled')
    } finally {
      await server.stop()
      fs.rmSync(folder, { recursive: true, force: true })
    }
  })
})
