import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import type { Server } from 'node:http'
import { expect } from 'chai'
import type { z } from 'zod'
import { API } from '../../contract/api.ts'
import type { Address } from '../../contract/api.ts'
import { keptDemo } from '../../demo/away.ts'
import { loadDemo } from '../../demo/load.ts'
import { makeApp } from '../../server/app.ts'
import { Works } from '../../server/work/works.ts'
import { openDatabase } from '../../server/store/database.ts'
import type { Connection } from '../../server/store/database.ts'

import type { Cluster } from '../../scripts/database.mjs'
import { clusterFolder, startPostgres } from '../../scripts/database.mjs'

let postgres: Promise<Cluster> | undefined
let databases = 0

/** One throwaway PostgreSQL for the whole run. */
function cluster(): Promise<Cluster> {
  postgres ??= (async () => {
    const wanted = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-test-'))
    fs.chmodSync(wanted, 0o755)
    const { folder } = clusterFolder(path.join(wanted, 'postgres'))
    const started = await startPostgres(folder, { fast: true })
    return {
      ...started,
      stop: async () => {
        // nothing in it is wanted any more: it need not be written down first
        await started.stop('SIGQUIT')
        fs.rmSync(wanted, { recursive: true, force: true })
      },
    }
  })()
  return postgres
}

export interface TestServer extends Connection {
  readonly server: Server
  readonly works: Works
  /** What was stumbled over away from requests. */
  readonly failures: unknown[]
  readonly stop: () => Promise<void>
}

/** Address of a database of its own, made when first connected to. */
export const testDatabase = async (): Promise<string> => (await cluster()).url(`test_${++databases}`)

/**
 * What the server answers is what the contract says, no less and no more: what it does not name is not sent.
 *
 * @throws AssertionError where it is not, and the request fails
 */
export function isAsAgreed(address: Address, answer: unknown): void {
  const sent: unknown = JSON.parse(JSON.stringify(answer))
  const agreed = (API[address].answers as z.ZodType).parse(sent)
  expect(agreed, address).deep.equal(sent)
}

/** The server on a database of its own. */
export async function testServer(): Promise<TestServer> {
  const url = await testDatabase()
  const connection = await openDatabase(url)
  const failures: unknown[] = []
  const works = new Works(connection, (error) => failures.push(error))
  await works.start()
  const app = makeApp({ db: connection.db, works, quiet: true, demo: keptDemo, answered: isAsAgreed })
  const server = app.listen(0, '127.0.0.1')
  return {
    ...connection,
    works,
    failures,
    server,
    stop: async () => {
      server.closeAllConnections()
      server.close()
      await works.stop()
      await connection.close()
    },
  }
}

/** Waits until the ratings show all that was written. */
export async function rested({ works }: Pick<TestServer, 'works'>): Promise<void> {
  while (await works.shelf.behind()) await new Promise((r) => setTimeout(r, 10))
}

/** The server on a database of its own that holds the demo. */
export async function demoServer(): Promise<TestServer> {
  const it_ = await testServer()
  await loadDemo(it_.db)
  return it_
}

/** The same once the ratings show all of it. */
export async function ratedDemoServer(): Promise<TestServer> {
  const it_ = await demoServer()
  await it_.works.shelf.everything()
  await rested(it_)
  return it_
}

/** Stops the cluster; called once after the last suite. */
export async function stopCluster(): Promise<void> {
  if (postgres) await (await postgres).stop()
  postgres = undefined
}
