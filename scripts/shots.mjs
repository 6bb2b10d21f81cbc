// npm run shots: takes every picture of docs/screenshots/ from the demo data, on a throwaway database.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import path from 'node:path'
import { CHROMIUM, CHROMIUM_ARGS } from './chromium.mjs'
import { ensureChromium, ensurePackages, orSay, ROOT, say } from './install.mjs'

orSay(() => {
  ensurePackages()
  ensureChromium()
})
const { chromium } = await import('playwright-core')
const only = process.argv[2]
const folder = path.join(ROOT, 'docs', 'screenshots')
fs.mkdirSync(folder, { recursive: true })

const port = process.env.PORT || '4471'
const origin = `http://127.0.0.1:${port}`
const server = spawn(process.execPath, [path.join(ROOT, 'scripts', 'throwaway.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, PORT: port, HOST: '127.0.0.1' },
})
const exited = once(server, 'exit')

/** Waits until the server answers and has rated its shelf. */
async function answers() {
  for (const end = Date.now() + 180_000; Date.now() < end; await new Promise((r) => setTimeout(r, 250))) {
    const ok = await fetch(`${origin}/api/discs`).then(
      async (r) => (await r.json()).rows.some((row) => row.rating !== null),
      () => false,
    )
    if (ok) return
    if (server.exitCode !== null) break
  }
  throw new Error('The server did not start; its reason is above.')
}

const FAIRWAYS = 'Which fairway for the lake wind'
const PLASTICS = 'Tarnwick in four plastics'
const DESK = { viewport: { width: 1280, height: 800 } }
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }
/** The afternoon of the half-done trial, so that the pictures do not age. */
const NOW = new Date('2026-11-15T13:36:00Z')

const settled = (page) =>
  page
    .getByText(/Weighing|weighing it/)
    .first()
    .waitFor({ state: 'detached' })
async function toTrial(page, trial, link) {
  await page.goto('/')
  await page.getByRole('region', { name: trial }).getByRole('link', { name: link }).click()
}
async function toField(page) {
  await toTrial(page, FAIRWAYS, 'Throw on')
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await settled(page)
}
async function toDisc(page, code) {
  await page.goto('/shelf')
  await page
    .getByRole('row', { name: new RegExp(code) })
    .getByRole('img')
    .waitFor()
  await page.getByRole('link', { name: new RegExp(code) }).click()
  await page.getByRole('img', { name: /Rims to scale/ }).waitFor()
}
async function theme(page, name) {
  await page.goto('/settings')
  await page.getByRole('radio', { name }).click()
}
/** Taps a landing a little wide of the forecast. */
async function land(page) {
  const box = await page.getByRole('application').boundingBox()
  await page.mouse.click(box.x + 0.56 * box.width, box.y + 0.3 * box.height)
  await page.getByText('drag the bend').waitFor()
}

/** Waits until a readout has its answer. */
const answered = (page) => page.getByTestId('answer').filter({ hasNotText: 'Working out' }).waitFor()

/** A view of the readout of the plastics, once there is something in it. */
async function toView(page, view) {
  await toTrial(page, PLASTICS, 'Read it')
  await answered(page)
  await page.getByRole('link', { name: view, exact: true }).click()
  await page.getByRole('region', { name: view, exact: true }).locator('table, svg').first().waitFor()
  if (view === 'Pairs') await page.getByRole('region', { name: 'Throws matched' }).waitFor()
}

/** Pictures by name: the window and what a person does until the picture is taken. */
const PICTURES = {
  bench: [
    DESK,
    async (page) => {
      await page.goto('/')
      await page.getByRole('region', { name: PLASTICS }).getByRole('list').waitFor()
      await settled(page)
    },
  ],
  shelf: [
    DESK,
    async (page) => {
      await page.goto('/shelf')
      await page
        .getByRole('row', { name: /HS-021/ })
        .getByRole('img')
        .waitFor()
      for (const code of ['HS-030', 'HS-021']) await page.getByLabel(`Choose ${code}`).check()
      await page.getByRole('banner').scrollIntoViewIfNeeded()
    },
  ],
  disc: [
    DESK,
    async (page) => {
      await toDisc(page, 'HS-021')
      await page.getByRole('region', { name: 'Flies most like' }).getByRole('listitem').first().waitFor()
    },
  ],
  plan: [
    DESK,
    async (page) => {
      await toTrial(page, FAIRWAYS, 'Plan it')
      await page.getByRole('table', { name: /settles each pair/ }).waitFor()
    },
  ],
  field: [DESK, async (page) => (await toField(page), await land(page))],
  'field-phone': [
    PHONE,
    async (page) => {
      await theme(page, 'Sun')
      await toField(page)
      await land(page)
    },
  ],
  'offline-phone': [
    PHONE,
    async (page) => {
      await theme(page, 'Sun')
      await toField(page)
      await page.route('**/api/throws/**', (route) => route.abort())
      await land(page)
      await page.getByRole('button', { name: 'Keep throw' }).click()
      await page.getByRole('button', { name: /waiting/ }).waitFor()
    },
  ],
  readout: [
    DESK,
    async (page) => {
      await toTrial(page, PLASTICS, 'Read it')
      await answered(page)
      // no disc is pointed at
      await page.mouse.move(640, 60)
    },
  ],
  'answer-molds': [
    DESK,
    async (page) => {
      await toTrial(page, FAIRWAYS, 'Read it')
      await answered(page)
    },
  ],
  'answer-phone': [
    PHONE,
    async (page) => {
      await toTrial(page, PLASTICS, 'Read it')
      await answered(page)
    },
  ],
  pairs: [DESK, (page) => toView(page, 'Pairs')],
  wind: [DESK, (page) => toView(page, 'Wind')],
  arms: [DESK, (page) => toView(page, 'Arms')],
  'readout-thrown-dusk': [
    DESK,
    async (page) => {
      await theme(page, 'Dusk')
      await toView(page, 'Flights')
      await page.getByRole('radio', { name: 'As thrown' }).click()
    },
  ],
  // last, for they add to what is stored
  review: [DESK, (page) => toReview(page)],
  'review-claim': [
    DESK,
    async (page) => {
      await toReview(page)
      await page.getByRole('textbox', { name: 'Verdict', exact: true }).click()
      await page.keyboard.press('Control+Home')
      await page.keyboard.type(
        'Tallow is more stable than Slate, and Amber is true to its numbers. Slate is the most stable of them all.',
      )
      await page.getByText('99 % against it').waitFor()
    },
  ],
  'review-page': [DESK, async (page) => await toPage(page)],
  'review-page-phone': [PHONE, async (page) => await toPage(page)],
}

/** A review of the plastics that is written. */
async function toReview(page) {
  await toTrial(page, PLASTICS, 'Read it')
  await answered(page)
  await page.getByRole('link', { name: 'Review', exact: true }).click()
  await page.getByRole('button', { name: 'Start the review' }).click()
  await page.getByText('carried by the throws').first().waitFor()
  await page
    .getByRole('img', { name: /^Corrected flights/ })
    .first()
    .waitFor()
}

/** Whatever is handed out by a button of the review, as bytes. */
async function handedOut(page, button) {
  const download = page.waitForEvent('download')
  await page.getByRole('region', { name: 'Hand it out' }).getByRole('button', { name: button }).click()
  return fs.readFileSync(await (await download).path())
}

let page_
/** The page that a review is handed out as, opened as a reader has it; the square picture comes with it. */
async function toPage(page) {
  if (!page_) {
    const writer = await (
      await browser.newContext({ ...DESK, baseURL: origin, timezoneId: 'UTC', locale: 'en-GB' })
    ).newPage()
    await toReview(writer)
    page_ = await handedOut(writer, 'One page (HTML)')
    fs.writeFileSync(path.join(folder, 'review-square.png'), await handedOut(writer, 'Square picture'))
    say('docs/screenshots/review-square.png')
    await writer.context().close()
  }
  await page.setContent(page_.toString('utf8'))
  await page.getByRole('region', { name: 'For your arm' }).getByRole('table').waitFor()
}

let failed = false
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: CHROMIUM_ARGS,
})
try {
  await answers()
  for (const [name, [window, act]] of Object.entries(PICTURES)) {
    if (only && only !== name) continue
    const context = await browser.newContext({
      ...window,
      baseURL: origin,
      timezoneId: 'UTC',
      locale: 'en-GB',
    })
    const page = await context.newPage()
    await page.clock.setFixedTime(NOW)
    await act(page)
    await page.evaluate(() => document.fonts.ready)
    await page.screenshot({ path: path.join(folder, `${name}.png`), animations: 'disabled' })
    say(`docs/screenshots/${name}.png`)
    await context.close()
  }
} catch (e) {
  failed = true
  say(e.stack ?? String(e))
} finally {
  await browser.close()
  server.kill('SIGTERM')
  await exited
}
process.exit(failed ? 1 : 0)
