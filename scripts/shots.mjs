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
  env: {
    ...process.env,
    ...{ PORT: port, HOST: '127.0.0.1' },
    ...{ SHARE_HOST: '127.0.0.2', SHARE_PORT: '4443', SHARE_HTTP_PORT: '4480' },
  },
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
/** A disc of the shelf in the lab, with a gap to throw through and a zone to land in. */
async function toLab(page) {
  await page.goto('/lab')
  await page.getByLabel('Find a disc of the shelf').fill('HS-017')
  await page.getByRole('list', { name: 'Found' }).getByRole('button').click()
  const put = page.getByRole('group', { name: 'Put on the field' })
  for (const name of ['Landing zone', 'Gap']) await put.getByRole('button', { name }).click()
  await page.getByText(/^Two throws in three within/).waitFor()
  await settled(page)
}
/** Begins a session of the drill that asks one thing, the same flights each time. */
async function toDrill(page, kind) {
  await page.goto('/drill')
  await page.getByRole('button', { name: 'Begin' }).waitFor()
  for (const chip of await page.getByRole('group', { name: 'What is asked' }).getByRole('button').all())
    if ((await chip.textContent()) !== kind) await chip.click()
  await page.evaluate('{ let n = 0; Math.random = () => (n += 0.618034) % 1 }')
  await page.getByRole('button', { name: 'Begin' }).click()
}
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
      await page.getByText('Weighing re-tests').waitFor({ state: 'hidden' })
    },
  ],
  rotation: [
    DESK,
    async (page) => {
      await page.goto('/rotation')
      await page
        .getByRole('region', { name: 'Late turn driver' })
        .getByText(/^Does it, \d+ %; leaves/)
        .first()
        .waitFor()
      await page.getByText('Weighing re-tests; this').waitFor({ state: 'hidden' })
    },
  ],
  bag: [
    DESK,
    async (page) => {
      await page.goto('/rotation/bag')
      await page.getByRole('img', { name: /^The field from above/ }).waitFor()
      await page.getByText('Weighing re-tests').waitFor({ state: 'hidden' })
    },
  ],
  lab: [
    DESK,
    async (page) => {
      await toLab(page)
      await page.getByLabel('Find a disc of the shelf').fill('HS-021')
      await page.getByRole('list', { name: 'Found' }).getByRole('button').click()
      await page.getByText(/^Most likely with/).waitFor()
      await page.getByRole('button', { name: 'Find the throw' }).scrollIntoViewIfNeeded()
      await page.evaluate('document.activeElement.blur(); scrollTo(0, 0)')
    },
  ],
  'lab-compared': [
    DESK,
    async (page) => {
      await toLab(page)
      await page.getByRole('button', { name: 'Keep this throw to compare' }).click()
      await page.getByRole('textbox', { name: 'Tailwind', exact: true }).fill('-3')
      await page.getByRole('textbox', { name: 'Release angle', exact: true }).fill('5')
      await page.getByRole('textbox', { name: 'Spin', exact: true }).fill('90')
      const changed = page.getByRole('region', { name: 'What changed' })
      await changed.getByText(/^It is mostly/).waitFor()
      await page.getByRole('row', { name: /^Kept: .*%$/ }).waitFor()
      await page.evaluate('document.activeElement.blur(); scrollTo(0, document.body.scrollHeight)')
    },
  ],
  drill: [
    PHONE,
    async (page) => {
      await toDrill(page, 'landing')
      await page.waitForTimeout(9000)
    },
  ],
  'drill-report': [
    DESK,
    async (page) => {
      await toDrill(page, 'release angle')
      for (let i = 0; i < 16; i++) {
        await page.getByLabel('Angle, hyzer positive').focus()
        for (let k = 0; k < 3 + (i % 4); k++) await page.keyboard.press('ArrowRight')
        await page.keyboard.press('Enter')
        await page.getByRole('region', { name: 'The question' }).getByRole('status').waitFor()
        await page.keyboard.press('Enter')
      }
      await page.getByRole('button', { name: 'End the session' }).click()
      await page.getByRole('region', { name: 'Your eye' }).waitFor()
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
  readout: [
    DESK,
    async (page) => {
      await toTrial(page, PLASTICS, 'Read it')
      await answered(page)
      // no disc is pointed at
      await page.mouse.move(640, 60)
    },
  ],
  'answer-phone': [
    PHONE,
    async (page) => {
      await toTrial(page, PLASTICS, 'Read it')
      await answered(page)
    },
  ],
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
  'review-page': [DESK, async (page) => await toPage(page)],
  // of today: a code lasts minutes
  crew: [
    DESK,
    async (page) => {
      await page.goto('/settings/crew')
      await page.request.put('/api/sharing', { data: { on: true } })
      await page.reload()
      await page.getByRole('heading', { name: 'Phones on this network can come in' }).waitFor()
      await cameIn(page, 'Ida’s phone')
      await joined(page, 'scribe', 'Orla')
      await joined(page, 'reader', 'Bryn')
      await page.reload()
      await page.getByRole('button', { name: 'Show a code' }).click()
      await page.getByText(/left$/).waitFor()
      await page.getByRole('listitem').filter({ hasText: 'Bryn’s tablet' }).waitFor()
    },
    'now',
  ],
  data: [
    DESK,
    async (page) => {
      await page.goto('/settings/data')
      await page.getByRole('button', { name: 'Make a copy now' }).click()
      await page.getByText('A copy was made').waitFor()
      await page.getByRole('listitem').filter({ hasText: 'by hand' }).waitFor()
      // where the pictures were made is nobody's business
      await page.getByText(/^\/.*veer-line-\w+$/).evaluate((el) => (el.textContent = '~/veer-line/.data'))
    },
    'now',
  ],
}

/** Asks the server as a phone does that knows nobody yet. */
async function asPhone(path, data) {
  const context = await browser.newContext({ ignoreHTTPSErrors: true })
  await context.request.post(`https://127.0.0.2:4443${path}`, { data })
  await context.close()
}
/** Pairs a device of the owner. */
async function cameIn(page, device) {
  const pass = await (await page.request.post('/api/pairings', { data: {} })).json()
  await asPhone('/api/pair', { code: pass.secret, device })
}
/** Makes somebody by an invitation. */
async function joined(page, role, name) {
  const pass = await (await page.request.post('/api/invitations', { data: { role } })).json()
  const passphrase = 'nine herons at the weir'
  await asPhone('/api/join', { secret: pass.secret, name, passphrase, device: `${name}’s tablet` })
}

/** A review of the plastics that is written. */
async function toReview(page) {
  await toTrial(page, PLASTICS, 'Read it')
  await answered(page)
  await page.getByRole('link', { name: 'Review', exact: true }).click()
  await page.getByRole('button', { name: 'Start the review' }).click()
  await page.getByText('carried by the throws').filter({ visible: true }).first().waitFor()
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
      await browser.newContext({
        ...DESK,
        storageState: await page.context().storageState(),
        baseURL: origin,
        timezoneId: 'UTC',
        locale: 'en-GB',
      })
    ).newPage()
    await toReview(writer)
    page_ = await handedOut(writer, 'One page (HTML)')
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
  // once others are let in, a browser at the machine shows who it is: all of these do from the start
  const first = await browser.newContext({ baseURL: origin })
  const pass = await (await first.request.post('/api/pairings', { data: {} })).json()
  await first.request.delete(`/api/passes/${pass.id}`)
  const storageState = await first.storageState()
  await first.close()
  for (const [name, [window, act, when]] of Object.entries(PICTURES)) {
    if (only && only !== name) continue
    const context = await browser.newContext({
      storageState,
      ...window,
      baseURL: origin,
      timezoneId: 'UTC',
      locale: 'en-GB',
      ignoreHTTPSErrors: true,
    })
    const page = await context.newPage()
    if (when !== 'now') {
      await page.clock.setFixedTime(NOW)
      await page.route('**/api/now', (route) => route.fulfill({ json: { now: NOW.toISOString() } }))
    }
    await act(page)
    await page.getByRole('button', { name: /^\d+ waiting$/ }).waitFor({ state: 'hidden' })
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
