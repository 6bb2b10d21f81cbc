// npm run bench -- --readout: how soon the readout answers, and how soon another of its views is there, as a person meets it.
import { median } from 'd3'
import { chromium } from 'playwright-core'
import type { Page } from 'playwright-core'
import { v7 as newId } from 'uuid'
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'
import { sheetOfSession } from '../simulate/sheet.ts'
import { origin, say, start, stopped } from './app.ts'

const LONG = 1500
/** Views with something in them whose coming can be seen, and what that is. */
const VIEWS = ['Pairs', 'Throws', 'Throwers', 'Likeness', 'Flights'] as const

const answered = (page: Page) =>
  page.getByTestId('answer').filter({ hasNotText: 'Working out' }).waitFor({ timeout: 120_000 })

/** ms from a press to the view being there, as the page itself sees it. */
async function switched(page: Page, view: string): Promise<number> {
  return await page.evaluate(async (name) => {
    const link = [
      ...document.querySelectorAll<HTMLAnchorElement>('nav[aria-label="Views of the readout"] a'),
    ].find((a) => a.textContent === name)!
    const begun = performance.now()
    link.click()
    while (!document.querySelector(`section[aria-label="${name}"]`))
      await new Promise((next) => requestAnimationFrame(next))
    return performance.now() - begun
  }, view)
}

const figures: Record<string, number> = {}
const child = await start('demo')
const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_ARGS })
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${origin}/`)
  await page
    .getByRole('region', { name: 'Tarnwick in four plastics' })
    .getByRole('link', { name: 'Read it' })
    .click()
  await answered(page)
  const taken: number[] = []
  for (let round = 0; round < 3; round++)
    for (const view of VIEWS) {
      const ms = await switched(page, view)
      // what is loaded when it is first entered is not there again
      if (round > 0) taken.push(ms)
      await page.waitForTimeout(300)
    }
  figures['switch_view_median_ms'] = Math.round(median(taken)!)
  figures['switch_view_most_ms'] = Math.round(Math.max(...taken))

  const id = newId()
  const sent = await fetch(`${origin}/api/trials/${id}/import?name=Long&method=ranged&store=1`, {
    method: 'POST',
    headers: { 'content-type': 'text/csv' },
    body: sheetOfSession({ seed: 0.42, throws: LONG, discs: 6, called: true }),
  })
  if (!sent.ok) throw new Error(await sent.text())
  await page.addInitScript(() => {
    const held = window as unknown as { longest: number }
    held.longest = 0
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) held.longest = Math.max(held.longest, e.duration)
    }).observe({ type: 'longtask', buffered: true })
  })
  const begun = performance.now()
  await page.goto(`${origin}/trials/${id}/readout`)
  await answered(page)
  figures['answer_of_1500_ms'] = Math.round(performance.now() - begun)
  await page.getByText('A first look').waitFor({ state: 'detached', timeout: 120_000 })
  figures['all_1500_weighed_ms'] = Math.round(performance.now() - begun)
  figures['longest_task_ms'] = Math.round(
    await page.evaluate(() => (window as unknown as { longest: number }).longest),
  )
} finally {
  await browser.close()
  await stopped(child)
}
for (const [name, value] of Object.entries(figures)) say(`  ${name}: ${value}`)
process.stdout.write(`${JSON.stringify(figures)}\n`)
