// npm run bench -- --grown: what the app takes on a database of years, as a person meets it.
import fs from 'node:fs'
import { chromium } from 'playwright-core'
import type { Page } from 'playwright-core'
import { v7 as newId } from 'uuid'
import type { ShelfPage } from '../../contract/shelfPage.ts'
import type { Throw, TrialFile } from '../../contract/trials.ts'
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'
import { data, origin, say, sleep, start, stopped } from './app.ts'
import { fill } from './fill.ts'
import { GROWN, grownShelf } from './shelf.ts'

const figures: Record<string, number> = {}
const timed = async <T>(name: string, work: () => Promise<T>): Promise<T> => {
  const begun = performance.now()
  const result = await work()
  figures[name] = Math.round(performance.now() - begun)
  say(`  ${name}: ${figures[name]}`)
  return result
}
const json = async <T>(address: string, init?: RequestInit): Promise<T> => {
  const answer = await fetch(origin + address, init)
  if (!answer.ok) throw new Error(`${address}: ${answer.status} ${await answer.text()}`)
  return (await answer.json()) as T
}
const put = (row: Throw) =>
  json<Throw>(`/api/throws/${row.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(row),
  })
async function rated(): Promise<void> {
  while ((await json<ShelfPage>('/api/discs')).behind) await sleep(100)
}

/** What /api/health takes while other things are done, ms: the longest. */
async function healthMeanwhile(name: string, work: () => Promise<unknown>): Promise<void> {
  let over = false
  let longest = 0
  const asking = (async () => {
    while (!over) {
      const begun = performance.now()
      await json('/api/health')
      longest = Math.max(longest, performance.now() - begun)
      await sleep(20)
    }
  })()
  try {
    await work()
  } finally {
    over = true
    await asking
  }
  figures[`${name}_health_longest_ms`] = Math.round(longest)
}

say('Making the database of years …')
let child = await start('empty')
const grown = grownShelf()
await fill(grown)
await stopped(child)
say(`  ${grown.throws.length} throws, ${grown.trials.length} trials, ${GROWN.discs} discs`)

say('Measuring …')
const begun = performance.now()
child = await start('empty')
try {
  await rated()
  figures['first_rating_ms'] = Math.round(performance.now() - begun)
  const [small, long] = [grown.trials[0]!, grown.trials.at(-1)!]
  const template = grown.throws[0]!
  await healthMeanwhile('rating', async () => {
    await put({ ...template, id: newId(), version: 0 })
    await timed('rating_after_one_throw_ms', rated)
  })
  await healthMeanwhile('record', async () => {
    await timed('record_ms', () => json(`/api/discs/${template.discId}/record`))
    await timed('record_again_ms', () => json(`/api/discs/${grown.throws.at(-1)!.discId}/record`))
  })
  await timed('list_of_trials_ms', () => json('/api/trials'))
  await timed('long_trial_ms', () => json<TrialFile>(`/api/trials/${long.id}`))

  const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_ARGS })
  try {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      serviceWorkers: 'block',
    })
    const page = await context.newPage()
    let requests = 0
    page.on('request', (r) => void (r.url().includes('/api/') && requests++))
    await page.goto(`${origin}/settings`)
    await page.getByRole('heading', { name: 'Settings' }).waitFor()
    requests = 0
    await timed('bench_heading_ms', async () => {
      await page.goto(origin)
      await page.getByRole('heading', { name: 'Bench' }).waitFor()
    })
    const cards = async () => {
      for (let still = -1; still !== 0; await sleep(50))
        still =
          (await page.getByText(/^Weighing \d+ throws/).count()) +
          ((await page.getByTestId('sentences').count()) === 0 ? 1 : 0)
    }
    await timed('bench_cards_ms', cards)
    figures['bench_requests'] = requests

    await keptIn(page, small.id, 'keep_in_91_ms')
    await keptIn(page, long.id, 'keep_in_2000_ms')

    await page.goto(`${origin}/settings`)
    await page.getByRole('heading', { name: 'Settings' }).waitFor()
    await page.addInitScript(() => {
      const tasks: number[] = []
      Object.assign(window, { tasks })
      new PerformanceObserver((list) => tasks.push(...list.getEntries().map((e) => e.duration))).observe({
        type: 'longtask',
        buffered: true,
      })
    })
    await timed('readout_of_2000_ms', async () => {
      await page.goto(`${origin}/trials/${long.id}/readout`)
      await page.getByRole('heading', { name: 'What you can say' }).waitFor({ timeout: 120_000 })
    })
    await sleep(1000)
    figures['readout_longest_task_ms'] = Math.round(
      Math.max(0, ...(await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks))),
    )
  } finally {
    await browser.close()
  }

  const header =
    'throw,thrower,hand,stroke,disc,maker,mold,plastic,speed,glide,turn,fade,hyzer_deg,carry_m,right_m'
  const rows = Array.from(
    { length: 20_000 },
    (_, i) =>
      `im-${i},Tove Marlin,right,backhand,IM-${i % 60},Grown & Sons,Imported,Slate,9,5,-1,2,${i % 11},${70 + (i % 30)},-3`,
  )
  const trial = { ...small, id: newId(), name: 'Imported' }
  await json(`/api/trials/${trial.id}`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(trial),
  })
  await healthMeanwhile('import', () =>
    timed('import_20000_ms', () =>
      json(`/api/trials/${trial.id}/import?store=1`, {
        method: 'POST',
        headers: { 'content-type': 'text/csv' },
        body: [header, ...rows].join('\n'),
      }),
    ),
  )
  figures['import_rows_per_s'] = Math.round(20_000 / (figures['import_20000_ms']! / 1000))
  const status = fs.readFileSync(`/proc/${child.pid}/status`, 'utf8')
  for (const [name, field] of [
    ['memory_now_mb', 'VmRSS'],
    ['memory_most_mb', 'VmHWM'],
  ] as const)
    figures[name] = Math.round(Number(new RegExp(`${field}:\\s+(\\d+)`).exec(status)![1]) / 1024)
} finally {
  await stopped(child)
  fs.rmSync(data, { recursive: true, force: true })
}

/** Logs a throw in a trial's field, from the key that keeps it to the next throw's number. */
async function keptIn(page: Page, trialId: string, name: string): Promise<void> {
  await page.goto(`${origin}/trials/${trialId}/field`)
  const clear = page.getByRole('button', { name: 'The range is clear' })
  await page.getByLabel('Landed, down').waitFor({ timeout: 120_000 })
  if (await clear.isVisible()) await clear.click()
  const times: number[] = []
  for (let i = 0; i < 5; i++) {
    const heading = page.getByText(/^Throw \d+/).first()
    const before = await heading.textContent()
    await page.getByLabel('Landed, down').fill(String(80 + i))
    await page.getByLabel('Landed, down').blur()
    await sleep(1500)
    times.push(
      // plain text: what a loader adds to functions is not there on the page
      await page.evaluate<number>(`(async () => {
        const heading = [...document.querySelectorAll('body *')].find(
          (e) => e.children.length === 0 && e.textContent === ${JSON.stringify(before)},
        )
        const begun = performance.now()
        ;[...document.querySelectorAll('button')].find((b) => b.textContent.includes('Keep throw')).click()
        while (heading.textContent === ${JSON.stringify(before)}) await new Promise((r) => setTimeout(r, 2))
        return performance.now() - begun
      })()`),
    )
  }
  figures[name] = Math.round(times.sort((a, b) => a - b)[2]!)
  say(`  ${name}: ${figures[name]} (${times.map(Math.round).join(', ')})`)
}

if (process.argv.includes('--json')) console.log(JSON.stringify(figures))
else for (const [name, value] of Object.entries(figures)) console.log(`${name.padEnd(36)} ${value}`)
process.exit(0)
