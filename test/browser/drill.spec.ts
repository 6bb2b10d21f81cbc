import type { Page } from '@playwright/test'
import { v7 as newId } from 'uuid'
import type { TrialFile } from '../../contract/trials.ts'
import { demoId } from '../../demo/shed.ts'
import { choose, complaints, expect, queueEmpty, test } from './bench.ts'

const question = (page: Page) => page.getByRole('region', { name: 'The question' })
const soFar = (page: Page) => page.getByTestId('so-far')

async function openDrill(page: Page): Promise<void> {
  await page.goto('/')
  await page.getByRole('link', { name: 'Eye drill', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Begin' })).toBeVisible()
}
/** Leaves one kind of question. */
async function only(page: Page, kind: string): Promise<void> {
  await expect(page.getByRole('button', { name: 'Begin' })).toBeVisible()
  for (const chip of await page.getByRole('group', { name: 'What is asked' }).getByRole('button').all())
    if ((await chip.textContent()) !== kind) await chip.click()
}

test('by keys alone flights are called, scored and kept, and the report says what the eye does', async ({
  page,
}) => {
  const said = complaints(page)
  await openDrill(page)
  await only(page, 'release angle')
  await page.getByRole('button', { name: 'Begin' }).press('Enter')
  const points: number[] = []
  for (let i = 0; i < 7; i++) {
    await expect(question(page)).toContainText('At what angle was it released?')
    const call = page.getByLabel('Angle, hyzer positive')
    await call.focus()
    for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowRight')
    await expect(call).toHaveAttribute('aria-valuetext', '4°')
    await page.keyboard.press('Enter')
    await expect(question(page).getByRole('status')).toContainText(/It was released (flat|\d+° (an)?hyzer)/)
    const told = (await question(page).getByRole('status').textContent())!
    const truth = told.includes('flat')
      ? 0
      : Number(told.match(/(\d+)°/)![1]) * (told.includes('anhyzer') ? -1 : 1)
    const earned = Number(told.match(/: (−?\d+) of 100/)![1]!.replace('−', '-'))
    // said −4 to 12: its width, and ten times what it missed by, against the 50 of somebody who saw nothing
    const cost = 16 + 10 * Math.max(0, -4 - truth, truth - 12)
    expect(Math.abs(earned - 100 * (1 - cost / 50))).toBeLessThanOrEqual(1)
    points.push(earned)
    await expect(soFar(page)).toContainText(`${i + 1} answered`)
    await page.keyboard.press('Enter')
  }
  await page.getByRole('button', { name: 'End the session' }).click()
  const mean = points.reduce((a, b) => a + b, 0) / points.length
  const session = await page.getByRole('region', { name: 'The session' }).textContent()
  expect(session).toContain('7 answered')
  expect(Math.abs(Number(session!.match(/(−?\d+) points/)![1]!.replace('−', '-')) - mean)).toBeLessThan(1.5)
  const report = page.getByRole('region', { name: 'Your eye' })
  await expect(report).toContainText(/Calls of angle are off by \d+\.\d°/)
  await queueEmpty(page)
  await page.reload()
  await expect(report.getByRole('row').nth(1)).toContainText('7')
  // nobody else’s eye is said to be like that
  await choose(page.getByLabel('Whose eye'), 1)
  await expect(report).toHaveCount(0)
  expect(said).toEqual([])
})

test('every kind of question is asked, answered by keys alone, told with what was said, and counted', async ({
  page,
}) => {
  const KINDS: readonly [string, RegExp, RegExp][] = [
    ['turn', /How much turn does the disc have/, /Its turn is −?\d\.\d\..*You said −?\d\.\d to −?\d\.\d/],
    ['fade', /How much fade does the disc have/, /Its fade is −?\d\.\d\./],
    ['nose', /Was the nose up, level or down/, /The nose was (up|level|down), by \d+°/],
    ['disc, release or wind', /What did that/, /It was the (disc|release|wind)/],
    ['stood up', /Did it stand up to flat/, /It did( not)?\./],
    ['landing', /Where will it land/, /It landed \d+ m out/],
  ]
  await openDrill(page)
  for (const [kind, asks, tells] of KINDS) {
    const chips = page.getByRole('group', { name: 'What is asked' })
    await chips.getByRole('button', { name: kind, exact: true }).waitFor()
    // the wanted one first: the last that is on is not turned off
    for (const name of [kind, ...(await chips.getByRole('button', { pressed: true }).allTextContents())]) {
      const chip = chips.getByRole('button', { name, exact: true })
      if (((await chip.getAttribute('aria-pressed')) === 'true') !== (name === kind)) await chip.click()
    }
    await page.getByRole('button', { name: 'Begin' }).press('Enter')
    await expect(question(page)).toContainText(asks)
    // nothing is said beforehand: Enter answers once something was
    await expect(page.getByRole('button', { name: 'Answer' })).toBeDisabled()
    await page.keyboard.press('Enter')
    await expect(question(page).getByRole('status')).toHaveCount(0)
    const scale = question(page).getByRole('slider').or(question(page).getByRole('application'))
    if (await scale.count()) await scale.first().press('ArrowRight')
    else await page.keyboard.press('1')
    await page.keyboard.press('Enter')
    await expect(question(page).getByRole('status')).toContainText(tells)
    await page.getByRole('button', { name: 'End the session' }).click()
  }
  const rows = page.getByRole('table', { name: 'By question' }).getByRole('row')
  await expect(rows).toHaveCount(1 + KINDS.length)
})

test('a session says how long it goes on, and ends with the answer after five minutes', async ({ page }) => {
  await page.clock.install()
  await openDrill(page)
  await only(page, 'nose')
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(soFar(page)).toContainText('0 answered, 5 min left')
  await page.clock.fastForward('02:10')
  await expect(soFar(page)).toContainText('3 min left')
  await page.clock.fastForward('02:55')
  await expect(soFar(page)).toContainText('the last question')
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Answer' }).click()
  await page.getByRole('button', { name: 'Next' }).click()
  await expect(page.getByRole('region', { name: 'The session' })).toContainText(
    'The session is over: 1 answered',
  )
})

test('a range is pulled as a band, its ends apart, and what was true stands on it', async ({ page }) => {
  await openDrill(page)
  await only(page, 'release angle')
  await page.getByRole('button', { name: 'Begin' }).click()
  const middle = page.getByRole('slider', { name: 'Angle, hyzer positive' })
  const half = page.getByRole('slider', { name: 'Four times in five within' })
  await expect(middle).toHaveAttribute('aria-valuetext', 'not said yet')
  await expect(half).toHaveCount(0)
  await middle.click()
  await expect(half).toHaveAttribute('aria-valuetext', '± 8°')
  await middle.scrollIntoViewIfNeeded()
  const at = async (of: typeof middle) => (await of.boundingBox())!
  const grip = await at(middle)
  const [x, y] = [grip.x + grip.width / 2, grip.y + grip.height / 2]
  const band = await at(half)
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 80, y, { steps: 4 })
  await page.mouse.up()
  await expect(middle).not.toHaveAttribute('aria-valuetext', '0°')
  const called = Number((await middle.getAttribute('aria-valuenow'))!)
  expect(called).toBeGreaterThan(4)
  await expect(half).toHaveAttribute('aria-valuetext', '± 8°')
  // its end is pulled in by half
  await page.mouse.move(x + 80 + band.width / 2 - 4, y)
  await page.mouse.down()
  await page.mouse.move(x + 80 + band.width / 4, y, { steps: 4 })
  await page.mouse.up()
  await expect(half).toHaveAttribute('aria-valuetext', /^± [345]°$/)
  expect(Number(await middle.getAttribute('aria-valuenow'))).toBe(called)
  const halfDeg = Number(await half.getAttribute('aria-valuenow'))
  await page.getByRole('button', { name: 'Answer' }).click()
  await expect(question(page).getByRole('status')).toContainText(
    `You said ${called - halfDeg}° to ${called + halfDeg}°`.replace('-', '−'),
  )
  await expect(question(page).getByText(/^it was −?\d+°$/)).toBeVisible()
  // it is told: nothing is pulled any more
  await page.mouse.click(x - 60, y)
  await expect(middle).toHaveAttribute('aria-valuenow', String(called))
})

test('a likeliest answer is chosen and how sure; two flights are told apart', async ({ page }) => {
  await openDrill(page)
  await only(page, 'more stable of two')
  await page.getByRole('button', { name: 'Begin' }).click()
  await page.keyboard.press('2')
  await expect(page.getByRole('radio', { name: '2 · the second' })).toBeChecked()
  await page.getByLabel('How sure').fill('90')
  await page.getByRole('button', { name: 'See it again' }).click()
  await page.getByRole('button', { name: 'Answer' }).click()
  const told = question(page).getByRole('status')
  await expect(told).toContainText(/The (first|second) is more stable/)
  const right = (await told.textContent())!.includes('The second is')
  await expect(told).toContainText(right ? 'at 90 %: 96 of 100' : 'at 10 %: −224 of 100')
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  test('without a network a landing is called by touch, and sent once there is one', async ({
    page,
    context,
  }) => {
    await page.goto('/drill')
    await only(page, 'landing')
    await context.setOffline(true)
    await page.getByRole('button', { name: 'Begin' }).tap()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
    const field = page.getByRole('application', { name: /where will it land/ })
    await field.scrollIntoViewIfNeeded()
    const box = (await field.boundingBox())!
    await page.touchscreen.tap(box.x + 0.6 * box.width, box.y + 0.5 * box.height)
    await page.getByRole('button', { name: 'Answer' }).tap()
    await expect(question(page).getByRole('status')).toContainText(/It landed \d+ m out/)
    await page.getByRole('button', { name: 'End the session' }).tap()
    await expect(page.getByRole('region', { name: 'Your eye' })).toContainText('after 1 answer.')
    await context.setOffline(false)
    await queueEmpty(page)
    await page.reload()
    await expect(page.getByRole('region', { name: 'Your eye' })).toContainText('after 1 answer.')
  })
})

test.describe('for whoever wants no motion', () => {
  test.use({ contextOptions: { reducedMotion: 'reduce' } })
  test('the path is drawn by steps', async ({ page }) => {
    await openDrill(page)
    await only(page, 'nose')
    await page.getByRole('button', { name: 'Begin' }).click()
    const seen = page.getByRole('img', { name: /^As seen from behind the tee/ })
    // everything that is drawn until it has flown
    const lengths = await seen.evaluateHandle((picture) => {
      const drawn = new Set<number>()
      const look = () =>
        drawn.add([...picture.querySelectorAll('path')].at(-1)?.getAttribute('d')?.length ?? 0)
      new MutationObserver(look).observe(picture, { attributes: true, childList: true, subtree: true })
      look()
      return drawn
    })
    await expect(page.getByRole('button', { name: 'Start it over' })).toBeVisible()
    await expect(page.getByRole('button', { name: 'See it again' })).toBeVisible()
    const drawn = await lengths.evaluate((set) => set.size)
    // half a second of flight at a time, and no flight lasts ten
    expect(drawn).toBeGreaterThan(2)
    expect(drawn).toBeLessThan(20)
  })
})

test('how far off an eye is may count in ratings: shown first, switched on for an outing, said in the readout', async ({
  page,
}) => {
  const odile = demoId('thrower', 'Odile Fenn')
  const answer = async (i: number, off: number) => {
    const id = newId()
    const truth = (i % 5) * 4
    const said = await page.request.put(`/api/drill-answers/${id}`, {
      data: {
        id,
        throwerId: odile,
        answeredAt: new Date(Date.UTC(2026, 10, 26, 10, i)).toISOString(),
        kind: 'angle',
        level: 0.4,
        truth: { kind: 'range', value: truth },
        answer: { kind: 'range', low: truth + off - 2, high: truth + off + 2 },
        like: ['always'],
        right: true,
        points: 60,
      },
    })
    expect(said.ok(), await said.text()).toBe(true)
  }
  for (let i = 0; i < 12; i++) await answer(i, i % 2 === 0 ? 5 : -5)
  await openDrill(page)
  await choose(page.getByLabel('Whose eye'), 'Odile Fenn')
  const card = page.getByRole('region', { name: 'In ratings' })
  await expect(card).toContainText('after 20 answers about release angles; there are 12 so far')
  for (let i = 12; i < 40; i++) await answer(i, i % 2 === 0 ? 5 : -5)
  await page.reload()
  await choose(page.getByLabel('Whose eye'), 'Odile Fenn')
  // 40 answers off by 5° and what is believed of any eye
  await expect(card).toContainText(
    'Angles Odile Fenn calls are off by 5.2°, two in three, biases and all (40 answers).',
  )
  const outing = card.getByRole('checkbox', { name: /4 Oct 2026 Millpond meadow/ })
  await expect(outing).not.toBeChecked()
  await outing.click()
  await expect(outing).toBeChecked()
  await expect(card.getByText('weighed as off by 5.2°')).toBeVisible()
  await queueEmpty(page)
  await page.getByRole('link', { name: 'Bench', exact: true }).click()
  await page
    .getByRole('region', { name: 'Tarnwick in four plastics' })
    .getByRole('link', { name: 'Read it' })
    .click()
  const note = page.getByText('angles called by an eye that is off by 5.2° as the eye drill measured it')
  await expect(note).toBeVisible()
  await page.getByRole('link', { name: 'Eye drill', exact: true }).click()
  await choose(page.getByLabel('Whose eye'), 'Odile Fenn')
  await outing.click()
  await expect(outing).not.toBeChecked()
  await expect(card.getByText(/weighed as off by \d/)).toHaveCount(0)
})

test('a recorded throw of one’s own is shown again, its landing called and told', async ({ page }) => {
  await openDrill(page)
  await page.getByRole('radio', { name: 'recorded of yours (0)' }).click()
  await expect(page.getByText(/No throw of which the whole path was recorded/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Begin' })).toBeDisabled()
  const trial = demoId('trial', 'four')
  const file = (await (await page.request.get(`/api/trials/${trial}`)).json()) as TrialFile
  const row = file.throws.find((t) => t.counts && t.hand === 'right')!
  const at = Array.from({ length: 40 }, (_, i) => i / 39)
  const path = {
    timeS: at.map((s) => 4 * s),
    downM: at.map((s) => row.carryM * s),
    rightM: at.map((s) => row.rightM * s * s),
    upM: at.map((s) => 1.2 + 30 * s * (1 - s)),
  }
  const said = await page.request.put(`/api/throws/${row.id}`, { data: { ...row, path } })
  expect(said.ok(), await said.text()).toBe(true)
  await page.reload()
  await page.getByRole('radio', { name: 'recorded of yours (1)' }).click()
  await only(page, 'landing')
  await page.getByRole('button', { name: 'Begin' }).click()
  await expect(question(page)).toContainText('A throw of yours, as it was recorded')
  await question(page).getByRole('application').press('ArrowRight')
  await page.getByRole('button', { name: 'Answer' }).click()
  await expect(question(page).getByRole('status')).toContainText(`It landed ${Math.round(row.carryM)} m out`)
  await expect(question(page).getByRole('status')).toContainText(/It was HS-\d+, 2026-10-04, Millpond meadow/)
  // of a recorded throw nobody knows how its nose was
  await page.getByRole('button', { name: 'End the session' }).click()
  await page.getByRole('button', { name: 'nose', exact: true }).click()
  await page.getByRole('button', { name: 'landing', exact: true }).click()
  await expect(page.getByText(/only its landing, turn and fade may be asked/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Begin' })).toBeDisabled()
})
