// npm run bench -- --lab: how soon the cloud of 2,000 throws follows the hand, from what is pulled until it is drawn, and how soon
// the best throw of a shelf of 100 discs is told, from the press until it is read: on the page, among trees and water.
import { median } from 'd3'
import { chromium } from 'playwright-core'
import { FIRST_SETUP, linkOf } from '../../contract/lab.ts'
import type { LabObstacle } from '../../contract/lab.ts'
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'
import { origin, say, start, stopped } from './app.ts'
import { fill } from './fill.ts'
import { grownShelf } from './shelf.ts'

const DISCS = 100
const PULLS = 40
const SEARCHES = 5

const tree = (downM: number, sideM: number): LabObstacle => ({
  kind: 'tree',
  at: { downM, sideM },
  radiusM: 1,
  heightM: 12,
})
const obstacles: LabObstacle[] = [
  tree(32, -3),
  tree(32, 3),
  tree(55, 6),
  { kind: 'line', from: { downM: 0, sideM: 16 }, to: { downM: 90, sideM: 16 }, water: true },
  { kind: 'zone', at: { downM: 78, sideM: 3 }, radiusM: 8 },
]

const child = await start('empty')
const browser = await chromium.launch({ executablePath: CHROMIUM, args: [...CHROMIUM_ARGS] })
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
// what names functions for the tools here is not there
await page.addInitScript('globalThis.__name = (f) => f')

/** From a pull of the release angle by a degree until the cloud is another and painted, ms. */
const pulled = (key: 'ArrowRight' | 'ArrowLeft') =>
  page.evaluate(async (key) => {
    const dial = document.querySelector('[role=slider][aria-label="Release angle"]')!
    const cloud = () => document.querySelector('[data-testid="cloud"]')!.innerHTML
    const before = cloud()
    const begun = performance.now()
    dial.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
    while (cloud() === before) {
      if (performance.now() - begun > 10_000) throw new Error('The cloud did not follow.')
      await new Promise(requestAnimationFrame)
    }
    return performance.now() - begun
  }, key)

/** From the press until throws are listed that were not there, ms. */
async function searched(): Promise<number> {
  const begun = page.evaluate(async () => {
    const card = document.querySelector('section[aria-label="Find the throw"]')!
    const at = await new Promise<number>((done) =>
      document.addEventListener('click', () => done(performance.now()), { capture: true, once: true }),
    )
    await new Promise(requestAnimationFrame)
    while (card.textContent.includes('Looking')) {
      if (performance.now() - at > 60_000) throw new Error('Nothing was found.')
      await new Promise(requestAnimationFrame)
    }
    return performance.now() - at
  })
  await page.getByRole('button', { name: 'Find the throw' }).click()
  const ms = await begun
  if ((await page.locator('section[aria-label="Find the throw"] li').count()) === 0)
    throw new Error('No throw was listed.')
  return ms
}

const rounded = (of: readonly number[]) => ({
  median_ms: Math.round(median(of)!),
  most_ms: Math.round(Math.max(...of)),
})
try {
  const { shelf } = grownShelf()
  await fill({
    shelf: { ...shelf, discs: shelf.discs.slice(0, DISCS) },
    throwers: [],
    trials: [],
    sessions: [],
    throws: [],
  })
  await page.goto(`${origin}/lab?${linkOf({ ...FIRST_SETUP, obstacles })}`)
  await page.locator('[data-testid="cloud"] path').first().waitFor()
  say('pulling …')
  const pulls: number[] = []
  for (let i = 0; i < PULLS; i++) pulls.push(await pulled(i % 24 < 12 ? 'ArrowRight' : 'ArrowLeft'))
  say('looking …')
  await page.getByRole('button', { name: 'Any disc of the shelf' }).click()
  const searches: number[] = []
  for (let i = 0; i < SEARCHES; i++) searches.push(await searched())
  process.stdout.write(
    `${JSON.stringify({ discs: DISCS, cloud_follows: rounded(pulls.slice(5)), throw_is_found: rounded(searches) }, null, 2)}\n`,
  )
} finally {
  await browser.close()
  await stopped(child)
}
