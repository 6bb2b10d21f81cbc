import { execFile } from 'node:child_process'
import fs from 'node:fs'
import path from 'node:path'
import { promisify } from 'node:util'
import { AxeBuilder } from '@axe-core/playwright'
import type { Browser, Download, Locator, Page } from '@playwright/test'
import { unzipSync, strFromU8 } from 'fflate'
import { toReader } from '../../core/review/reader.ts'
import type { ReaderData } from '../../core/review/reader.ts'
import { FIRST_SETUP, linkOf } from '../../contract/lab.ts'
import { demoId } from '../../demo/shed.ts'
import { choose, complaints, expect, longInComing, queueEmpty, test } from './bench.ts'

const RATE = path.resolve(import.meta.dirname, '../../cli/rate.ts')
const PLASTICS = 'Tarnwick in four plastics'

/** Starts a review of the finished trial of the demo, as a person does. */
async function startReview(page: Page): Promise<void> {
  await page.goto('/')
  await page.getByRole('region', { name: PLASTICS }).getByRole('link', { name: 'Read it' }).click()
  await page.getByRole('link', { name: 'Review', exact: true }).click()
  await page.getByRole('button', { name: 'Start the review' }).click()
  await expect(page.getByRole('textbox', { name: 'What was found', exact: true })).toContainText(
    'Slate flies more stable than Tallow',
    // answers and sentences of every kind are worked out before it is there, beside another test
    { timeout: 120_000 },
  )
}
const section = (page: Page, name: string): Locator => page.getByRole('textbox', { name, exact: true })
const claims = (page: Page): Locator => page.getByRole('region', { name: 'Claims' })
/** Waits until the server has the review as it says something. */
async function stored(page: Page, words: string): Promise<void> {
  const id = page.url().match(/review\/([^/?]+)/)![1]!
  await expect
    .poll(async () => await (await page.request.get(`/api/reviews/${id}`)).text(), { timeout: 20_000 })
    .toContain(words)
}

async function write(page: Page, name: string, words: string): Promise<void> {
  await section(page, name).click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.type(words)
}

/** Starts a review and opens it on another device as well. */
async function onTwoDevices(page: Page, browser: Browser): Promise<Page> {
  await startReview(page)
  await stored(page, 'What is still open')
  await stored(page, '"disclosure"')
  const other = await (await browser.newContext()).newPage()
  await other.goto(page.url())
  await expect(section(other, 'Verdict')).toBeVisible()
  return other
}

async function handedOut(page: Page, button: string): Promise<Download> {
  const download = page.waitForEvent('download')
  await page.getByRole('region', { name: 'Hand it out' }).getByRole('button', { name: button }).click()
  return await download
}

/** Opens a file in a page that has no server, and tells what it asks for. */
async function opened(browser: Browser, file: string, javaScriptEnabled = true) {
  const context = await browser.newContext({ javaScriptEnabled, offline: true })
  const page = await context.newPage()
  const asked: string[] = []
  const said = complaints(page)
  page.on('request', (r) => {
    if (!r.url().startsWith('data:') && !r.url().startsWith('file:')) asked.push(r.url())
  })
  await page.goto(`file://${file}`)
  return { page, asked, said }
}

/** What has a unit of the metric in a text. */
const METRIC = /\d ?(m|m\/s|km|°C)(?![\w/])/

test('a review is said in feet where it says what it came filled with, on the page too; words of one’s own stay', async ({
  page,
  browser,
}) => {
  const said = complaints(page)
  const written: string[] = []
  page.on('request', (r) => {
    if (r.method() === 'PUT' && r.url().includes('/api/review-sections/')) written.push(r.url())
  })
  await startReview(page)
  await queueEmpty(page)
  // what is only opened is not written
  expect(new Set(written).size).toBe(written.length)
  const article = page.getByRole('article', { name: PLASTICS })
  await expect(article).toContainText(METRIC)
  await write(page, 'Verdict', 'I would give it 2 m of room. ')
  await stored(page, '2 m of room')

  await page.getByRole('radio', { name: 'feet' }).click()
  await expect(page.getByText('“Verdict” holds words of your own and stays as written').first()).toBeVisible()
  await expect(section(page, 'What was found')).toContainText(/finishes [\d.]+ ft /)
  const metricOf = async (on: Page) =>
    (await on.locator('h1, h2, h3, p, li, td, th, text, figcaption').allTextContents()).filter(
      (line) => METRIC.test(line) && !line.includes('2 m of room'),
    )
  await expect.poll(async () => await metricOf(page)).toEqual([])

  // what is handed out says it so too, and it goes back as it came
  const page_ = await handedOut(page, 'One page (HTML)')
  const reader = await opened(browser, (await page_.path())!)
  expect(await metricOf(reader.page)).toEqual([])
  await page.getByRole('radio', { name: 'Write' }).click()
  await page.getByRole('radio', { name: 'metres' }).click()
  await expect(section(page, 'What was found')).toContainText(/finishes [\d.]+ m /)
  expect(said).toEqual([])
})

test('on a narrow screen a claim is judged under the section it stands in', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await startReview(page)
  await expect(claims(page)).toBeHidden()
  const judged = page.getByRole('list', { name: 'Claims of this section' }).first()
  await expect(judged).toContainText(/carried by the throws\s*\d+ %/)
  // no farther from its sentence than a screen
  const [sentence, verdict] = await Promise.all([
    page.locator('.claim', { hasText: 'Amber has more glide than Slate' }).first().boundingBox(),
    judged.boundingBox(),
  ])
  expect(Math.abs(verdict!.y - sentence!.y)).toBeLessThan(844)
})

test('a review comes filled, its claims are held against the throws and worded as those allow, and what is typed is kept', async ({
  page,
}) => {
  const said = complaints(page)
  await startReview(page)
  await expect(section(page, 'What was tested')).toContainText('Slate: Tarnwick, Slate')
  await expect(section(page, 'How it was thrown')).toContainText(/\d+ throws counted, \d+ left out/)
  await expect(section(page, 'Disclosure')).toContainText('Amber was sent by its maker')
  await expect(page.getByRole('img', { name: /^Corrected flights/ }).first()).toBeVisible()

  await write(page, 'Verdict', 'Tallow is more stable than Slate. Slate is not more stable than Amber. ')
  const contradicted = claims(page)
    .getByRole('listitem')
    .filter({ hasText: 'Tallow is more stable than Slate' })
  await expect(contradicted).toContainText('contradicted')
  await expect(contradicted).toContainText('99 % against it')
  // what is denied is left alone
  await expect(claims(page)).not.toContainText('Slate is not more stable')
  await contradicted.getByRole('button', { name: /^Word it/ }).click()
  await expect(section(page, 'Verdict')).toContainText('Slate is more stable than Tallow (99 %).')
  await expect(contradicted).toHaveCount(0)

  await page.getByRole('radio', { name: 'Earns a slot' }).click()
  await page.getByLabel('Overlaps with').fill('the Amber')
  await stored(page, 'the Amber')
  await page.reload()
  await expect(section(page, 'Verdict')).toContainText('Slate is more stable than Tallow (99 %).')
  await page.getByRole('radio', { name: 'Read', exact: true }).click()
  await expect(page.getByText('It earns a slot in my bag. It overlaps with the Amber.')).toBeVisible()
  // every claim opens to what stands behind it
  const why = page.locator('details').filter({ hasText: 'Why: Slate is more stable than Tallow' }).first()
  await why.locator('summary').click()
  await expect(why.getByText(/From \d+ counted throws/)).toBeVisible()
  expect(said).toEqual([])
})

test('a review is written by keyboard: sections change places, are left out, taken out and brought back', async ({
  page,
}) => {
  await startReview(page)
  const outline = page.getByRole('navigation', { name: 'Sections' })
  const titles = () => outline.getByRole('link').allTextContents()
  const before = await titles()
  await outline.getByRole('button', { name: 'Move What was tested' }).focus()
  await page.keyboard.press('Space')
  await expect(page.getByText(/What was tested is at place 1 of/)).toBeAttached()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByText(/What was tested is at place 2 of/)).toBeAttached()
  await page.keyboard.press('Space')
  await expect.poll(titles).toEqual([before[1], before[0], ...before.slice(2)])
  await outline.getByRole('button', { name: 'Leave out In the hand' }).click()
  await page.getByRole('button', { name: 'Take out Wear and weight' }).click()
  await expect.poll(titles).not.toContain('Wear and weight')
  await page.getByRole('button', { name: 'Restore' }).click()
  await expect.poll(titles).toContain('Wear and weight')
  // where every disc came from is never taken out
  await expect(page.getByRole('button', { name: /^(Take|Leave) out Disclosure$/ })).toHaveCount(0)
  // and what is struck from its text is read all the same
  await section(page, 'Disclosure').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Slate is mine.')
  await stored(page, 'Slate is mine.')
  await outline.getByRole('button', { name: 'Add a section' }).click()
  await page.getByLabel('Heading of More').fill('In the rain')
  await page.keyboard.press('Tab')
  await expect.poll(titles).toContain('In the rain')
  await stored(page, 'In the rain')
  await page.reload()
  await expect.poll(titles).toContain('In the rain')
  await page.getByRole('radio', { name: 'Read', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'In the hand' })).toHaveCount(0)
  await expect(page.getByText('Slate is mine.')).toBeVisible()
  await expect(page.getByText('Amber was sent by its maker: Eskwright, with the second run.')).toBeVisible()
  await expect(page.getByText('Slate was bought by the reviewer.')).toHaveCount(0)
})

test('a figure in a sentence follows the data; a trial that is gone is said to be gone; a review is taken away and brought back', async ({
  page,
}) => {
  await startReview(page)
  await write(page, 'Verdict', 'It finishes ')
  const figures = page.getByLabel('Put in a figure')
  await figures.click()
  const offered = page.getByRole('option').filter({ hasText: 'Tallow' }).first()
  const [, words] = (await offered.textContent())!.split(': ')
  await offered.click()
  await expect(section(page, 'Verdict')).toContainText(`It finishes ${words}`)
  await choose(page.getByLabel('Put in a view'), 'Every pair')
  await expect(section(page, 'Verdict').getByRole('rowheader', { name: 'Slate' })).toBeVisible()
  await page.getByLabel('Caption of Every pair').last().fill('All of them.')
  await stored(page, 'All of them.')
  await page.getByRole('radio', { name: 'Read', exact: true }).click()
  await expect(page.getByText('All of them.')).toBeVisible()

  const [, trialId, reviewId] = page.url().match(/trials\/([^/]+)\/review\/([^/?]+)/)!
  const { review } = (await (await page.request.get(`/api/reviews/${reviewId}`)).json()) as {
    review: { trialIds: string[] }
  }
  const gone = '00000000-0000-4000-8000-000000000000'
  const put = await page.request.put(`/api/reviews/${reviewId}`, {
    data: { ...review, trialIds: [trialId, gone] },
  })
  expect(put.ok()).toBe(true)
  const { sections } = (await (await page.request.get(`/api/reviews/${reviewId}`)).json()) as {
    sections: { id: string; kind: string; version: number }[]
  }
  const arms = sections.find((s) => s.kind === 'arms')!
  const attrs = { trial: gone, view: 'arms', caption: '', size: 'full' }
  await page.request.put(`/api/review-sections/${arms.id}`, {
    data: { ...arms, body: { type: 'doc', content: [{ type: 'live', attrs }] } },
  })
  await page.reload()
  await expect(page.getByText('The trial this showed is not there any more.')).toBeVisible()

  await page.getByRole('link', { name: 'Review', exact: true }).click()
  const list = page.getByRole('region', { name: 'Reviews of this trial' })
  await list.getByRole('button', { name: /^Take .* away$/ }).click()
  await expect(list).toHaveCount(0)
  await page.getByRole('button', { name: 'Restore' }).click()
  await expect(list.getByRole('link', { name: PLASTICS })).toBeVisible()
})

test('what is pasted comes in clean, and a link leads somewhere a reader can follow', async ({ page }) => {
  let ran = 0
  page.on('dialog', (d) => {
    ran++
    void d.dismiss()
  })
  await startReview(page)
  await section(page, 'Verdict').click()
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData(
      'text/html',
      '<p onclick="alert(1)">Kept <b>bold</b><script>alert(1)</script><svg onload="alert(1)"></svg><img src="https://example.org/x.png"><a href="javascript:alert(1)">bad</a></p>',
    )
    const target = document.activeElement!
    target.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    )
  })
  const verdict = section(page, 'Verdict')
  await expect(verdict.locator('strong')).toHaveText('bold')
  expect(await verdict.innerHTML()).not.toMatch(/script|onclick|onload|example\.org|javascript:/)
  await page.keyboard.press('Control+a')
  await page.getByRole('toolbar', { name: 'Text' }).getByRole('button', { name: 'Link' }).click()
  const dialog = page.getByRole('dialog', { name: 'Link' })
  await dialog.getByLabel('Address').fill('javascript:alert(1)')
  await expect(dialog).toContainText('A link begins with https:')
  await expect(dialog.getByRole('button', { name: 'Set the link' })).toBeDisabled()
  await dialog.getByLabel('Address').fill('https://example.org/flint')
  await dialog.getByRole('button', { name: 'Set the link' }).click()
  await expect(verdict.locator('a').first()).toHaveAttribute('href', 'https://example.org/flint')
  expect(ran).toBe(0)
})

test('the page that is handed out stands alone: the arm changes the numbers to those of the core, nothing is fetched, it reads without scripts', async ({
  page,
  browser,
}, info) => {
  await startReview(page)
  const file = info.outputPath('review.html')
  await (await handedOut(page, 'One page (HTML)')).saveAs(file)
  const out = await opened(browser, file)
  const panel = out.page.getByRole('region', { name: 'For your arm' })
  await expect(panel).toBeVisible()
  const data = JSON.parse((await out.page.locator('#reader-data').textContent())!) as ReaderData
  const [trial] = data.trials
  const holds = async (armMps: number, wind: number) => {
    for (const disc of trial!.discs) {
      const told = toReader(disc, armMps, wind)
      const row = panel.locator(`tr[data-disc="${disc.name}"]`)
      await expect(row.locator('[data-carry]')).toHaveText(`${told.carryM.toFixed(1)} m`)
      await expect(row.locator('[data-seems]')).toContainText(told.turn.toFixed(1).replace('-', '−'))
    }
  }
  await holds(trial!.armMps, 0)
  await panel.getByRole('slider', { name: /^Your arm/ }).fill('19.5')
  await holds(19.5, 0)
  await panel.getByRole('slider', { name: /^Your wind/ }).fill('-5')
  await holds(19.5, -5)
  await expect(panel).toContainText('headwind')
  await panel.getByLabel(/How far you throw/).fill('900')
  await expect(panel.getByRole('alert')).toContainText('No arm this page knows')
  await panel.getByLabel('Landings as thrown').check()
  await expect(panel.locator('circle')).not.toHaveCount(trial!.discs.length)
  const side = panel.locator('[data-finish]').first()
  const left = await side.textContent()
  await panel.getByLabel('Your throw').selectOption('right')
  await expect(side).not.toHaveText(left!)

  for (const colorScheme of ['light', 'dark'] as const) {
    await out.page.emulateMedia({ colorScheme })
    const { violations } = await new AxeBuilder({ page: out.page }).analyze()
    expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`)).toEqual([])
  }
  await out.page.setViewportSize({ width: 390, height: 844 })
  expect(await out.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  expect(out.asked).toEqual([])
  expect(out.said).toEqual([])

  const still = await opened(browser, file, false)
  await expect(still.page.getByRole('heading', { name: PLASTICS })).toBeVisible()
  await expect(still.page.getByText(/^Slate flies more stable than Tallow/)).toBeVisible()
  await expect(still.page.getByRole('region', { name: 'For your arm' })).toBeHidden()
  await expect(still.page.getByText(/Amber was sent by its maker/)).toBeVisible()
  // opens without a script too
  const why = still.page.locator('details').filter({ hasText: 'Why: Slate is more stable than Amber' })
  await why.locator('summary').click()
  await expect(why.getByText(/From \d+ counted throws/)).toBeVisible()
  // nothing of the writing is left
  expect(await still.page.locator('input, [contenteditable], .ProseMirror, [draggable]').count()).toBe(0)
})

test('a throw of the line lab is put into a review by its link, follows its disc, and is handed out with it', async ({
  page,
  browser,
}, info) => {
  const slate = demoId('disc', 'HS-021')
  const setup = {
    ...FIRST_SETUP,
    discs: [{ id: slate }],
    throw: { ...FIRST_SETUP.throw, hyzerDeg: 12, power: 0.9 },
    weather: { ...FIRST_SETUP.weather, windAlongMps: -4 },
    obstacles: [{ kind: 'tree' as const, at: { downM: 60, sideM: 5 }, radiusM: 3, heightM: 12 }],
  }
  await startReview(page)
  await section(page, 'What was found').click()
  await page.getByRole('button', { name: 'A throw of the line lab' }).click()
  const dialog = page.getByRole('dialog', { name: 'A throw of the line lab' })
  await dialog.getByLabel('Link of the line lab').fill('https://example.org/lab?setup=cut')
  await expect(dialog).toContainText('holds no setup of the line lab')
  await expect(dialog.getByRole('button', { name: 'Put it in' })).toBeDisabled()
  await dialog.getByLabel('Link of the line lab').fill(`http://127.0.0.1/lab?${linkOf(setup)}`)
  await dialog.getByRole('button', { name: 'Put it in' }).click()
  const block = page.locator('figure[data-live="throw"]')
  await expect(block).toContainText(
    /Thrown 12° hyzer at 90 % power by an arm of \d+\.\d m\/s, 4\.0 m\/s head\./,
  )
  await expect(block).toContainText(/HS-021 Tarnwick Slate lands \d+\.\d m out, \d+\.\d m left\./)
  await expect(block).toContainText(/Gets through \d+ % of the time/)
  await expect(block.getByRole('img', { name: /^The field from above: flights/ })).toBeVisible()
  await page.getByLabel('Caption of A throw of the line lab').fill('Into the wind, past the oak')
  await stored(page, 'past the oak')
  await page.reload()
  await expect(block).toContainText('lands')
  const file = info.outputPath('lab.html')
  await (await handedOut(page, 'One page (HTML)')).saveAs(file)
  const read = await opened(browser, file)
  await expect(read.page.getByText('Into the wind, past the oak')).toBeVisible()
  await expect(read.page.getByText(/HS-021 Tarnwick Slate/).first()).toBeVisible()
  expect(read.asked).toEqual([])
  await read.page.context().close()
})

test('everything in one file: the page, Markdown with its drawings, the answers, and throws anyone can rate', async ({
  page,
}, info) => {
  await startReview(page)
  const file = info.outputPath('review.zip')
  await (await handedOut(page, 'Everything (ZIP)')).saveAs(file)
  const files = unzipSync(fs.readFileSync(file))
  const names = Object.keys(files)
  const text = (name: string) => strFromU8(files[name]!)
  expect(names).toEqual(
    expect.arrayContaining(['README.md', 'review.json', 'throws-1.csv', 'tarnwick-in-four-plastics.html']),
  )
  const markdown = text('tarnwick-in-four-plastics.md')
  expect(markdown).toContain('## What was found')
  const drawings = [...markdown.matchAll(/!\[[^\]]*\]\((drawing-\d+\.svg)\)/g)].map((m) => m[1]!)
  expect(drawings.length).toBeGreaterThan(3)
  for (const d of drawings) expect(text(d)).toMatch(/^<svg [\s\S]*viewBox/)
  for (const d of drawings) expect(text(d)).not.toMatch(/var\(--|<script|class=/)
  const json = JSON.parse(text('review.json')) as {
    trials: {
      answers: { question: string }[]
      ratings: { disc: string; observed: { turn: number; fade: number } }[]
    }[]
  }
  expect(json.trials[0]!.answers.map((a) => a.question)).toEqual(
    expect.arrayContaining(['plastics', 'numbers', 'arms', 'wind']),
  )
  // whoever rates the throws beside it comes to the same numbers
  const csv = info.outputPath('throws-1.csv')
  fs.writeFileSync(csv, files['throws-1.csv']!)
  const { stdout } = await promisify(execFile)(process.execPath, ['--import', 'tsx', RATE, '--json', csv])
  const rated = JSON.parse(stdout) as {
    discs: { disc: string; observed: { turn: number; fade: number } }[]
  }
  for (const { disc, observed } of json.trials[0]!.ratings) {
    const again = rated.discs.find((d) => d.disc === disc)!
    expect(Math.abs(again.observed.turn - observed.turn)).toBeLessThan(0.06)
    expect(Math.abs(again.observed.fade - observed.fade)).toBeLessThan(0.06)
  }
  for (const kind of ['Square picture', 'Wide picture']) {
    const at = info.outputPath(`${kind}.png`)
    await (await handedOut(page, kind)).saveAs(at)
    const png = fs.readFileSync(at)
    expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual(
      kind === 'Square picture' ? [1080, 1080] : [1200, 630],
    )
  }
})

test('a review of a trial without a throw says so; an export that is stopped half way makes nothing', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Is the Ormsgarth true to its label' })
    .getByRole('link', { name: 'Plan it' })
    .click()
  await page.getByRole('link', { name: 'Review', exact: true }).click()
  await page.getByRole('button', { name: 'Start the review' }).click()
  await expect(section(page, 'How it was thrown')).toContainText('0 throws counted, 0 left out')
  await expect(section(page, 'What was found')).toContainText('No throw of these discs counts yet')
  await expect(page.getByText('No throw has been logged yet.').first()).toBeVisible()

  await section(page, 'Verdict').click()
  const small = await page.evaluate(() => {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = 40
    return canvas.toDataURL('image/png').split(',')[1]!
  })
  await page
    .getByLabel('Photo for the review')
    .setInputFiles({ name: 'rim.png', mimeType: 'image/png', buffer: Buffer.from(small, 'base64') })
  await stored(page, 'review-photos')
  await expect(section(page, 'Verdict').getByRole('img', { name: 'rim.png' })).toHaveAttribute(
    'src',
    /^\/api/,
  )
  // a photo that is long in coming
  const coming = longInComing()
  await page.route('**/api/review-photos/*', async (route) => {
    await coming.wait
    await route.continue().catch(() => {})
  })
  let handed = 0
  page.on('download', () => handed++)
  const out = page.getByRole('region', { name: 'Hand it out' })
  await out.getByRole('button', { name: 'One page (HTML)' }).click()
  await expect(out.getByRole('status')).toContainText(/Making it, \d+ %/)
  await out.getByRole('button', { name: 'Stop' }).click()
  await expect(page.getByText('It was stopped; nothing was made.', { exact: true })).toBeVisible()
  coming.letGo()
  await expect(out.getByRole('button', { name: 'One page (HTML)' })).toBeEnabled()
  expect(handed).toBe(0)
  expect(said).toEqual([])
})

test('frozen stays frozen, whatever is thrown and renamed; published it is read alone, replaced, and taken back', async ({
  page,
}) => {
  await startReview(page)
  const out = page.getByRole('region', { name: 'Hand it out' })
  await out.getByRole('button', { name: 'Freeze revision 1' }).click()
  await expect(out.getByText('Revision 1', { exact: true })).toBeVisible()
  const pageAt = await out.getByRole('link', { name: 'Download' }).getAttribute('href')
  const bytes = async () => await (await page.request.get(pageAt!)).text()
  const first = await bytes()
  await out.getByRole('button', { name: 'Publish', exact: true }).click()
  const link = out.getByRole('link', { name: /published\// })
  const address = (await link.getAttribute('href'))!
  const reader = await page.context().newPage()
  await reader.goto(address)
  await expect(reader.getByRole('heading', { name: PLASTICS })).toBeVisible()
  await expect(reader.getByRole('region', { name: 'For your arm' })).toBeVisible()
  // the page is of no origin: it can read nothing of the server it came from
  expect(
    await reader.evaluate(() =>
      fetch('/api/trials').then(
        () => 'read',
        () => 'refused',
      ),
    ),
  ).toBe('refused')

  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const { trial } = (await (await page.request.get(`/api/trials/${id}`)).json()) as { trial: object }
  await page.request.put(`/api/trials/${id}`, { data: { ...trial, name: 'Renamed' } })
  await page.getByRole('radio', { name: 'Write', exact: true }).click()
  await write(page, 'Verdict', 'A second look. ')
  await stored(page, 'A second look.')
  const again = out.getByRole('button', { name: 'Freeze revision 2' })
  await expect(again).toBeDisabled()
  await out.getByLabel('What changed, and why').fill('A second look.')
  await again.click()
  await expect(out.getByText('Revision 2', { exact: true })).toBeVisible()
  expect(await bytes()).toBe(first)
  await out
    .getByRole('listitem')
    .filter({ hasText: 'Revision 2' })
    .getByRole('button', { name: 'Publish', exact: true })
    .click()
  await expect(out.getByRole('listitem').filter({ hasText: 'Revision 2' })).toContainText(address)
  await reader.reload()
  await expect(reader.getByText('A second look.')).toBeVisible()
  await out.getByRole('button', { name: 'Unpublish' }).click()
  await expect(link).toHaveCount(0)
  expect((await page.request.get(address)).status()).toBe(404)
})

test('without the server one goes on writing; two devices that write one section keep both', async ({
  page,
  browser,
}) => {
  const other = await onTwoDevices(page, browser)
  await page.context().setOffline(true)
  await write(page, 'Verdict', 'Written in the field. ')
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  await write(other, 'Verdict', 'Written at home. ')
  await stored(other, 'Written at home.')
  await page.context().setOffline(false)
  const outline = page.getByRole('navigation', { name: 'Sections' })
  await expect(outline.getByRole('link', { name: 'Verdict, from another device' })).toBeVisible({
    timeout: 30_000,
  })
  await expect(section(page, 'Verdict')).toContainText('Written at home.')
  await expect(section(page, 'Verdict, from another device')).toContainText('Written in the field.')
  await expect(
    page.getByText('“Verdict” was written on two devices at once', { exact: false }).first(),
  ).toBeVisible()
  await expect(section(other, 'Verdict')).toContainText('Written at home.')
  await expect(section(other, 'Verdict')).not.toContainText('in the field')
})

test('what is typed on while another device’s words arrive is kept beside them, and neither is written over', async ({
  page,
  browser,
}) => {
  const other = await onTwoDevices(page, browser)
  await section(page, 'Verdict').click()
  await page.keyboard.press('ControlOrMeta+Home')
  // typed by a clock of the page's own: on a busy machine keys from outside come with pauses, in which it would be kept
  const typing = page.evaluate(
    () =>
      new Promise<void>((done) => {
        const words = 'here one goes on typing without a pause that would have it kept and does so '
        let typed = 0
        const clock = setInterval(() => {
          const isOver = document.body.dataset['written'] !== undefined && typed % words.length === 0
          document.execCommand(
            'insertText',
            false,
            isOver ? 'for quite a while' : words[typed++ % words.length],
          )
          if (!isOver) return
          clearInterval(clock)
          done()
        }, 60)
      }),
  )
  await write(other, 'Verdict', 'Written at home. ')
  await stored(other, 'Written at home.')
  await page.evaluate(() => (document.body.dataset['written'] = ''))
  await typing
  const beside = section(page, 'Verdict, from another device')
  await expect(beside).toContainText('for quite a while')
  await expect(section(page, 'Verdict')).toContainText('Written at home.')
  await expect(section(page, 'Verdict')).not.toContainText('goes on typing')
  await queueEmpty(page)
  await page.reload()
  await expect(beside).toContainText(/here one goes on typing .* for quite a while/)
  await expect(section(page, 'Verdict')).toContainText('Written at home.')
  await expect(
    page.getByRole('navigation', { name: 'Sections' }).getByRole('link', { name: /from another device/ }),
  ).toHaveCount(1)
})

test('a file that is no photo, one that is too large, and a trial that is gone end in a sentence', async ({
  page,
}) => {
  await startReview(page)
  await section(page, 'Verdict').click()
  const photo = page.getByLabel('Photo for the review')
  await photo.setInputFiles({
    name: 'drawn.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" onload="alert(1)"></svg>'),
  })
  await expect(page.getByText(/^drawn.svg is not a picture this browser can read/)).toBeVisible()
  await photo.setInputFiles({ name: 'huge.jpg', mimeType: 'image/jpeg', buffer: Buffer.alloc(41_000_000) })
  await expect(
    page.getByText('huge.jpg holds 41 MB; photos of up to 40 MB are taken.', { exact: true }),
  ).toBeVisible()
  const small = await page.evaluate(async () => {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = 40
    canvas.getContext('2d')!.fillRect(0, 0, 40, 40)
    return canvas.toDataURL('image/png').split(',')[1]!
  })
  await photo.setInputFiles({ name: 'rim.png', mimeType: 'image/png', buffer: Buffer.from(small, 'base64') })
  const shown = section(page, 'Verdict').getByRole('img', { name: 'rim.png' })
  await expect(shown).toHaveAttribute('src', /\/api\/review-photos\//)
  await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(40)
})
