// npm run bench -- --rotation: how soon the board of a shelf of 2,000 discs and 60 jobs is there, first and again, and after wear
// of one disc was noted: from the server, and on the page until it is shown.
import { randomLcg, randomUniform } from 'd3'
import { chromium } from 'playwright-core'
import { v7 as newId } from 'uuid'
import { flownBy } from '../../core/rotation/job.ts'
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'
import type { Board, JobRow } from '../../contract/rotation.ts'
import { origin, say, sleep, start, stopped } from './app.ts'
import { fill } from './fill.ts'
import { grownShelf } from './shelf.ts'

const JOBS = 60
const TRIALS = 60
const CHANGES = 6
/** Throws for them: hyzer, power, wind along. */
const THROWINGS = [
  [0, 1, 0],
  [0, 1, -5],
  [10, 1, 0],
  [-8, 1, 0],
  [0, 0.8, 0],
  [0, 0.6, 0],
] as const

let child = await start('empty')
const put = async (kind: string, row: { readonly id: string }) => {
  const answer = await fetch(`${origin}/api/${kind}/${row.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(row),
  })
  if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`)
}
async function timed(): Promise<{ ms: number; board: Board }> {
  const begun = performance.now()
  const board = (await (await fetch(`${origin}/api/rotation`)).json()) as Board
  return { ms: Math.round(performance.now() - begun), board }
}
const browser = await chromium.launch({ executablePath: CHROMIUM, args: [...CHROMIUM_ARGS] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
// what names functions for the tools here is not there
await page.addInitScript('globalThis.__name = (f) => f')

/** How long it takes from the press that notes wear of a disc until its lane says something else, ms. */
async function wears(code: string, job: string): Promise<number> {
  await page.locator(`section[aria-label="${job}"] li`, { hasText: code }).waitFor()
  await page.getByRole('button', { name: 'Log wear of several discs' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Throws each').fill('300')
  await dialog.getByLabel('To which discs').fill(code)
  await dialog.getByRole('button', { name: code }).click()
  const timed = page.evaluate(
    async ([code, job]) => {
      const says = () =>
        [...document.querySelectorAll(`section[aria-label="${job}"] li`)].find((li) =>
          li.textContent.includes(code!),
        )?.textContent
      const before = says()
      const begun = await new Promise<number>((done) =>
        document.addEventListener('click', () => done(performance.now()), { capture: true, once: true }),
      )
      while (says() === before) {
        if (performance.now() - begun > 20_000) throw new Error(`${code} still says ${before} for ${job}.`)
        await new Promise(requestAnimationFrame)
      }
      return performance.now() - begun
    },
    [code, job],
  )
  await dialog.getByRole('button', { name: /^Note it/ }).click()
  const ms = Math.round(await timed)
  // what is sent and asked again does not stand in the way of the next
  await sleep(3000)
  return ms
}

try {
  const all = grownShelf()
  const trials = all.trials.slice(0, TRIALS)
  const ids = new Set(trials.map((t) => t.id))
  const throws = all.throws.filter((t) => ids.has(t.trialId))
  const sessions = new Set(throws.map((t) => t.sessionId))
  await fill({ ...all, trials, throws, sessions: all.sessions.filter((s) => sessions.has(s.id)) })
  const random = randomLcg(0.5)
  const within = (low: number, high: number) => randomUniform.source(random)(low, high)()
  for (let i = 0; i < JOBS; i++) {
    const [hyzerDeg, power, windAlongMps] = THROWINGS[i % THROWINGS.length]!
    const throwing = { armMps: 26, hyzerDeg, power, windAlongMps }
    const speed = [3, 5, 7, 9, 12][i % 5]!
    const wanted = flownBy({ speed, glide: 4.5, turn: within(-2, 0), fade: within(0.5, 2.5) }, throwing)!
    const job: JobRow = {
      id: newId(),
      name: `Job ${i + 1}`,
      throwerId: null,
      throwing,
      wanted,
      within: { at60M: 3, finishM: 7, carryM: 10 },
      rank: i,
      removedAt: null,
    }
    await put('jobs', job)
  }
  say('waiting for the ratings …')
  await put('molds', all.shelf.molds[0]!)
  for (;;) {
    const { ratings } = (await (await fetch(`${origin}/api/health`)).json()) as { ratings: string }
    if (ratings === 'up-to-date') break
    await sleep(500)
  }
  say('the board, first …')
  // before anybody looked, as a page asks for it
  const answered = await timed()
  const shown: number[] = []
  const open = async () => {
    const begun = performance.now()
    await page.goto(`${origin}/rotation`)
    await page.locator('section[aria-label="Job 1"] li p').first().waitFor()
    shown.push(Math.round(performance.now() - begun))
  }
  await open()
  say('weighing re-tests …')
  let weighed = await timed()
  while (weighed.board.weighing) {
    await sleep(500)
    weighed = await timed()
  }
  await open()
  await open()
  const byLink: number[] = []
  for (let i = 0; i < 3; i++) {
    await page.goto(origin)
    await page.getByRole('region').first().waitFor()
    // what the bench reads is not in the way of what comes after it
    await sleep(2000)
    const begun = performance.now()
    await page.getByRole('link', { name: 'Rotation' }).click()
    await page.locator('section[aria-label="Job 1"] li p').first().waitFor()
    byLink.push(Math.round(performance.now() - begun))
  }
  say('started again …')
  await stopped(child)
  child = await start('empty')
  await open()
  const afterRestart = shown.pop()!
  say('wear of one disc …')
  const tested = weighed.board.discs.filter((d) => d.tests.length > 0)
  const worn: number[] = []
  // of one that will not leave for years, more wear says nothing else
  const soon = weighed.board.lanes.flatMap(({ jobId, discs }) => {
    const found = discs.find((d) => d.now > 0.5 && d.leaves.likely !== null && d.leaves.likely < 1500)
    return found ? [{ jobId, discId: found.discId }] : []
  })
  for (const { jobId, discId } of soon.slice(0, CHANGES)) {
    const disc = weighed.board.discs.find((d) => d.id === discId)!
    const job = weighed.board.jobs.find((j) => j.id === jobId)!
    worn.push(await wears(disc.code, job.name))
    say(`${disc.code} for ${job.name}: ${worn.at(-1)} ms`)
  }
  process.stdout.write(
    `${JSON.stringify(
      {
        discs: weighed.board.discs.length,
        tested: tested.length,
        jobs: weighed.board.jobs.length,
        server_first_ms: answered.ms,
        server_with_retests_ms: weighed.ms,
        page_loads_and_shows_board_ms: shown,
        page_shows_board_after_its_link_ms: byLink,
        page_shows_board_after_the_server_started_again_ms: afterRestart,
        page_shows_wear_of_one_disc_ms: worn,
      },
      null,
      2,
    )}\n`,
  )
} finally {
  await browser.close()
  await stopped(child)
}
