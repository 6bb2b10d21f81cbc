// npm run bench -- --costs: what a trial costs whoever runs a server: bytes in the database, and processor time for storing its
// throws and for working out what they say; and what a server costs with nobody at it.
import fs from 'node:fs'
import path from 'node:path'
import { v7 as newId } from 'uuid'
import { urlOf } from '../../scripts/running.mjs'
import type { Running } from '../../scripts/running.mjs'
import { once } from '../../server/store/database.ts'
import { data, origin, say, sleep, start, stopped } from './app.ts'
import { fill } from './fill.ts'
import { grownShelf } from './shelf.ts'

const STEPS = [20, 60]
const THROWS = 480
const IDLE_S = 30
/** Clock ticks a second, as Linux counts processor time. */
const TICKS = 100

const child = await start('empty')
const running = JSON.parse(fs.readFileSync(path.join(data, 'running.json'), 'utf8')) as Running
const url = urlOf(running)
const postmaster = Number(
  fs.readFileSync(path.join(running.cluster, 'pgdata', 'postmaster.pid'), 'utf8').split('\n')[0],
)
/** Fields of /proc/PID/stat behind the name. */
const statOf = (pid: number | string) => {
  const stat = fs.readFileSync(`/proc/${pid}/stat`, 'utf8')
  return stat.slice(stat.lastIndexOf(')') + 2).split(' ')
}
/** Processor time of a process and of its children that ended, s. */
const secondsOf = (pid: number | string) =>
  statOf(pid)
    .slice(11, 15)
    .reduce((sum, t) => sum + Number(t), 0) / TICKS
const childrenOf = (pid: number) =>
  fs.readdirSync('/proc').filter((p) => {
    try {
      return /^\d+$/.test(p) && Number(statOf(p)[1]) === pid
    } catch {
      return false
    }
  })
const cpu = () => ({
  server: secondsOf(child.pid!),
  database: [postmaster, ...childrenOf(postmaster)].reduce<number>((sum, p) => sum + secondsOf(p), 0),
})
/** Memory a process has to itself, MB. */
const memoryOf = (pid: number | string) =>
  Number(fs.readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8').match(/Pss:\s+(\d+)/)![1]) / 1024

async function asked<T>(sql: string): Promise<T> {
  const { rows } = await once(url, sql)
  return (rows[0] as { it: T }).it
}
const bytes = async () => Number(await asked<string>('select pg_database_size(current_database()) as it'))
/** Waits until ratings and cards show all that was written. */
async function rested(): Promise<void> {
  while (
    await asked<boolean>(`select exists(select 1 from unweighed)
      or exists(select 1 from pgboss.job where state < 'completed' and start_after < now() + interval '10 seconds') as it`)
  )
    await sleep(200)
}
async function costing<T>(work: () => Promise<T>) {
  const before = cpu()
  const came = await work()
  const after = cpu()
  return { came, server: after.server - before.server, database: after.database - before.database }
}
const r = (v: number, digits = 2) => Math.round(v * 10 ** digits) / 10 ** digits

try {
  const all = grownShelf()
  const said: Record<string, unknown> = {}
  let before = 0
  let size = await bytes()
  for (const step of STEPS) {
    const trials = all.trials.slice(before, step)
    const ids = new Set(trials.map((t) => t.id))
    const throws = all.throws.filter((t) => ids.has(t.trialId))
    const sessions = new Set(throws.map((t) => t.sessionId))
    say(`${step} trials …`)
    await fill({ ...all, trials, throws, sessions: all.sessions.filter((s) => sessions.has(s.id)) })
    const worked = await costing(async () => {
      await fetch(`${origin}/api/cards?trials=${trials.map((t) => t.id).join(',')}`)
      const [one] = trials
      const row = await (await fetch(`${origin}/api/trials/${one!.id}`)).json()
      await fetch(`${origin}/api/trials/${one!.id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify((row as { trial: unknown }).trial),
      })
      await sleep(2500)
      await rested()
    })
    const now = await bytes()
    said[`${step}_trials`] = {
      throws_added: throws.length,
      kb_a_throw: r((now - size) / 1024 / throws.length),
      cpu_s_to_work_all_out: r(worked.server + worked.database, 1),
    }
    size = now
    before = step
  }
  const [trial] = all.trials
  const template = all.throws.find((t) => t.trialId === trial!.id)!
  say(`${THROWS} throws, one by one …`)
  const stored = await costing(async () => {
    for (let i = 0; i < THROWS; i++) {
      const row = { ...template, id: newId(), label: null, version: 0, thrownAt: new Date().toISOString() }
      const answer = await fetch(`${origin}/api/throws/${row.id}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(row),
      })
      if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
      // they land some seconds apart; what follows them is worked out in between
      if (i % 8 === 7) await sleep(400)
    }
    await rested()
  })
  said['a_throw_ms'] = {
    server: r((1000 * stored.server) / THROWS, 1),
    database: r((1000 * stored.database) / THROWS, 1),
  }
  say('nobody …')
  await sleep(25_000)
  const idle = await costing(() => sleep(1000 * IDLE_S))
  said['idle'] = {
    server_mb: r(memoryOf(child.pid!), 0),
    database_mb: r(
      [postmaster, ...childrenOf(postmaster)].reduce<number>((sum, p) => sum + memoryOf(p), 0),
      0,
    ),
    cpu_percent_of_a_core: r((100 * (idle.server + idle.database)) / IDLE_S),
  }
  process.stdout.write(`${JSON.stringify(said, null, 2)}\n`)
} finally {
  await stopped(child)
}
