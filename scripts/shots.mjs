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
  'rims-overlaid': [
    DESK,
    async (page) => {
      await toDisc(page, 'HS-033')
      const rim = page.getByRole('region', { name: 'Rim and profile' })
      await rim.getByLabel('Laid over').selectOption({ label: 'HS-026, Tarnwick Tallow' })
      await rim.getByLabel('And over').selectOption({ label: 'HS-002, Pennrath Loam' })
      await rim.getByRole('radio', { name: 'align base' }).click()
    },
  ],
  sheet: [
    DESK,
    async (page) => {
      await toTrial(page, 'Is the Ormsgarth true to its label', 'Plan it')
      await page.getByRole('link', { name: 'Type it in' }).click()
      await page.getByLabel(/^Throw 1,.*down/).fill('58.5')
      await page.keyboard.press('Tab')
      await page.keyboard.type('4 L')
      await page.keyboard.press('Enter')
      await page.getByText('1 of 36 throws kept').waitFor()
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
  'putting-phone': [
    PHONE,
    async (page) => {
      await theme(page, 'Sun')
      await toTrial(page, PLASTICS, 'Read it')
      await answered(page)
      await page.getByRole('link', { name: 'Field', exact: true }).click()
      await page.getByRole('button', { name: 'More', exact: true }).click()
      await page.getByRole('link', { name: 'Ground play and short game' }).click()
      await page.getByRole('radio', { name: 'Putting' }).click()
      const disc = page.getByRole('group', { name: 'Disc' })
      for (const [who, from, made] of [
        ['Slate', '7', 'MMMxMMM'],
        ['Slate', '10', 'MxMxxM'],
        ['Pennrath', '7', 'MMMMMMM'],
        ['Pennrath', '10', 'MMMxMM'],
      ]) {
        await disc.getByRole('button', { name: who }).click()
        await page.getByLabel('From', { exact: true }).fill(from)
        for (const putt of made)
          await page.getByRole('button', { name: putt === 'M' ? /^Made/ : /^Missed/ }).click()
      }
      await page
        .getByRole('region', { name: 'What it says' })
        .evaluate((e) => e.scrollIntoView({ block: 'end' }))
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
  'import-errors': [
    DESK,
    async (page) => {
      await toTrial(page, FAIRWAYS, 'Read it')
      await page.getByRole('link', { name: 'Throws', exact: true }).click()
      const url = await page.getByRole('link', { name: 'Export CSV' }).getAttribute('href')
      const csv = await (await page.request.get(url)).text()
      const spoiled = csv
        .split('\r\n')
        .map((line, i) =>
          i === 3
            ? line.replace('backhand', 'sidearm')
            : i === 6
              ? line.replace(/,-?(8|10|0),/, ',$1 deg,')
              : line,
        )
      await page.getByRole('link', { name: 'Import CSV' }).click()
      await page.getByLabel('File', { exact: true }).setInputFiles({
        name: 'lakeside-field.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from(spoiled.join('\r\n')),
      })
      await page.getByRole('alert').waitFor()
    },
  ],
  // last, for it changes how the trial is thrown
  'same-line': [
    DESK,
    async (page) => {
      await toTrial(page, FAIRWAYS, 'Plan it')
      await page.getByRole('radio', { name: 'same line' }).click()
      await page.getByRole('columnheader', { name: 'back to the line' }).waitFor()
      await page.getByRole('link', { name: 'Readout', exact: true }).click()
      const card = page.getByRole('region', { name: 'The angle it took' })
      await card
        .getByText(/more hyzer than/)
        .first()
        .waitFor()
      await card.evaluate((e) => e.scrollIntoView({ block: 'end' }))
    },
  ],
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
