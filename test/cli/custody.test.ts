import { spawn } from 'node:child_process'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { expect } from 'chai'
import { sql } from 'drizzle-orm'
import { loadDemo } from '../../demo/load.ts'
import { rowsOfTrial } from '../../server/custody/trialRows.ts'
import { writePackage } from '../../server/custody/write.ts'
import { openDatabase } from '../../server/store/database.ts'
import { testDatabase } from '../api/server.ts'

const ROOT = path.resolve(import.meta.dirname, '../..')
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-backup-'))
const copies = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-copies-'))
after(() => {
  for (const made of [folder, copies]) fs.rmSync(made, { recursive: true, force: true })
})

/** Types a command, and waits for its end beside the server of the tests. */
function typed(url: string, ...args: string[]): Promise<{ status: number; said: string }> {
  const child = spawn(process.execPath, [path.join(ROOT, 'scripts/custody.mjs'), ...args], {
    cwd: ROOT,
    env: { ...process.env, DATABASE_URL: url, INIT_CWD: folder, VEER_COPIES: copies },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let said = ''
  child.stderr.on('data', (d) => (said += String(d)))
  return new Promise((ended) => child.on('close', (status) => ended({ status: status!, said })))
}

async function throwsIn(url: string): Promise<number> {
  const { db, close } = await openDatabase(url)
  const { rows } = await db.execute<{ n: number }>(sql`select count(*)::int as n from throws`)
  await close()
  return rows[0]!.n
}

describe('npm run backup and npm run restore', function () {
  this.timeout(120_000)
  let full: string
  before(async () => {
    full = await testDatabase()
    const { db, close } = await openDatabase(full)
    await loadDemo(db)
    await close()
  })

  it('write everything into one file beside whoever types it, and bring it back into another database', async () => {
    const out = await typed(full, 'backup', 'all.zip')
    expect(out.status, out.said).to.equal(0)
    expect(out.said).to.match(/Everything is in .*all\.zip: 116 throws, .*read back and whole/)
    expect(fs.readdirSync(folder)).to.deep.equal(['all.zip'])
    const empty = await testDatabase()
    const back = await typed(empty, 'restore', 'all.zip')
    expect(back.status, back.said).to.equal(0)
    expect(back.said).to.match(/Restored from .*: 116 throws/)
    expect(await throwsIn(empty)).to.equal(116)
  })

  it('put nothing in the place of throws of one’s own before that is said', async () => {
    const own = await testDatabase()
    const { db, close } = await openDatabase(own)
    await loadDemo(db)
    await db.execute(
      sql`update throws set id = gen_random_uuid() where id in (select id from throws limit 3)`,
    )
    await close()
    const asked = await typed(own, 'restore', 'all.zip')
    expect(asked.status).to.equal(2)
    expect(asked.said).to.match(/holds 3 throws of your own.*add --yes/)
    const kept = () => fs.readdirSync(copies).length
    const before = kept()
    const sure = await typed(own, 'restore', 'all.zip', '--yes')
    expect(sure.status, sure.said).to.equal(0)
    // and what was there can be had back
    const [, name] = sure.said.match(/What was here before is .*\/(veer-line-\S+\.zip)\./) ?? []
    expect(kept()).to.equal(before + 1)
    const back = await typed(own, 'restore', path.join(copies, name!), '--yes')
    expect(back.status, back.said).to.equal(0)
    expect(back.said).to.include(`${await throwsIn(own)} throws`)
  })

  it('put no trial in the place of everything, and leave no copy of what did not change', async () => {
    const own = await testDatabase()
    const { db, pool, close } = await openDatabase(own)
    await loadDemo(db)
    const { rows } = await db.execute<{ id: string }>(sql`select id from trials limit 1`)
    await writePackage(pool, fs.createWriteStream(path.join(folder, 'trial.zip')), {
      rows: rowsOfTrial(rows[0]!.id),
      kind: 'trial',
    })
    await close()
    const before = fs.readdirSync(copies)
    const refused = await typed(own, 'restore', 'trial.zip', '--yes')
    expect(refused.status).to.equal(2)
    expect(refused.said).to.match(/holds one trial, not everything.*Bring it in beside/)
    expect(await throwsIn(own)).to.equal(116)
    expect(fs.readdirSync(copies)).to.deep.equal(before)
  })

  it('say in a sentence what keeps them from it', async () => {
    const cases: readonly (readonly [string[], RegExp])[] = [
      [['backup'], /npm run backup -- FILE/],
      [['backup', 'a.zip', 'b.zip'], /npm run backup -- FILE/],
      [['restore', 'none.zip'], /There is no file .*none\.zip/],
      [['backup', 'no/such/folder/all.zip'], /cannot be written/],
      [['restore', 'torn.zip'], /no zip file/],
    ]
    fs.writeFileSync(
      path.join(folder, 'torn.zip'),
      fs.readFileSync(path.join(folder, 'all.zip')).subarray(0, 900),
    )
    for (const [args, says] of cases) {
      const { status, said } = await typed(full, ...args)
      expect(status, args.join(' ')).to.equal(2)
      expect(said).to.match(says)
      expect(said).to.not.match(/at .*\.ts:\d+/)
    }
    expect(fs.readdirSync(folder).filter((n) => n.endsWith('.part'))).to.deep.equal([])
  })
})
