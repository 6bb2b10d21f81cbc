import type { Page } from '@playwright/test'
import { questionOf } from '../../core/plan/questions.ts'
import type { Throw, Trial, TrialFile } from '../../contract/trials.ts'
import { choose, complaints, expect, test, startFromShelf } from './bench.ts'

/** What the trial asks, as it stands on the plan. */
const question = (page: Page) => page.getByRole('button', { name: /^(Question|Read as)/ })
const TRIAL = 'Is the Ormsgarth true to its label'
const stored = (page: Page) =>
  page.waitForResponse((r) => r.url().includes('/api/trials/') && r.request().method() === 'PUT' && r.ok())

test('a trial is planned, printed and thrown in the order planned; the expectation is then locked', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  await page.getByRole('region', { name: TRIAL }).getByRole('link', { name: 'Plan it' }).click()
  const expectation = page.getByRole('region', { name: 'What do you expect?' })
  const order = () =>
    expectation
      .getByRole('button', { name: /^Move/ })
      .evaluateAll((list) =>
        list.map((b) => b.getAttribute('aria-label')!.replace(/^Move (.*), expected.*/, '$1')),
      )
  await expect.poll(async () => (await order()).length).toBe(3)
  const before = await order()

  // by keyboard: lift, down, drop; what is done is said to those who cannot see it
  const told = page.locator('[id^=DndLiveRegion]').first()
  let put = stored(page)
  await expectation.getByRole('button', { name: `Move ${before[0]}` }).focus()
  await page.keyboard.press('Space')
  await expect(told).toContainText(`${before[0]} is at place 1`)
  await page.keyboard.press('ArrowDown')
  await expect(told).toContainText(`${before[0]} is at place 2`)
  await page.keyboard.press('Space')
  await put
  await expect.poll(order).toEqual([before[1], before[0], before[2]])

  // by mouse: back again
  put = stored(page)
  const grip = (await expectation.getByRole('button', { name: `Move ${before[0]}` }).boundingBox())!
  await page.mouse.move(grip.x + 8, grip.y + 16)
  await page.mouse.down()
  await page.mouse.move(grip.x + 8, grip.y - 30, { steps: 8 })
  await page.mouse.up()
  await put
  await expect.poll(order).toEqual(before)

  put = stored(page)
  await expectation.getByLabel('A claim').fill('holds its line in the wind')
  await page.keyboard.press('Enter')
  await put
  await expect(expectation).toContainText('“holds its line in the wind”')

  const takes = page.getByRole('region', { name: 'What it takes' })
  const throws = Number(await takes.locator('p').first().locator('span').first().textContent())
  put = stored(page)
  await page
    .getByRole('button', { name: /One throw more/ })
    .first()
    .click()
  await put
  await expect(takes.locator('p').first()).toContainText(String(throws + 1))

  // it asks whether labels are true: every figure on them has its chance
  await expect(page.getByRole('table', { name: /tells each figure/ })).toContainText(/stability.*\d/s)
  const first = page.getByRole('region', { name: 'Run order' }).locator('li[title^="Throw 1:"]')
  const wanted = (await first.getAttribute('title'))!.replace('Throw 1: ', '')

  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('region', { name: 'Plan sheet' }).getByRole('row')).toHaveCount(
    throws + 1 + (throws + 1 > 36 ? 2 : 1),
  )
  await expect(page.getByRole('banner')).toBeHidden()
  const pdf = (await page.pdf({ format: 'A4', preferCSSPageSize: true })).toString('latin1')
  expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1)
  await page.emulateMedia({ media: 'screen' })

  // the throws that warm the arm are left out here
  const warm = page.getByRole('list', { name: 'Warm-up throws' })
  await expect(warm.getByRole('listitem')).toHaveCount(4)
  for (let i = 4; i > 0; i--) {
    put = stored(page)
    await warm.getByRole('button', { name: `Leave out warm-up ${i}` }).click()
    await put
  }

  await page.getByRole('link', { name: 'Throw the first' }).click()
  await expect(page.getByRole('region', { name: 'Next throw' })).toContainText(wanted.split(', ')[0]!)
  await expect(page.getByText('In the order planned')).toBeVisible()
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  const kept = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.keyboard.press('Enter')
  await kept
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  await expect(page.getByText('Locked since the first throw')).toBeVisible()
  await expect(expectation.getByRole('button', { name: /^Move/ }).first()).toBeDisabled()

  expect(said).toEqual([])
})

test('a plan that was only looked at is the one the field throws', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('region', { name: TRIAL }).getByRole('link', { name: 'Plan it' }).click()
  const first = page.getByRole('region', { name: 'Run order' }).locator('li[title^="Throw 1:"]')
  const wanted = (await first.getAttribute('title'))!
  const put = stored(page)
  await page.getByRole('link', { name: 'Bench', exact: true }).click()
  const { plan, discIds } = (await (await put).json()) as Trial
  await page.getByRole('region', { name: TRIAL }).getByRole('link').first().click()
  await page.getByRole('link', { name: 'Field', exact: true }).click()
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await expect(page.getByText(`Warm-up, ${plan!.warmUps.length} to go`).first()).toBeVisible()
  const code = (id: string) => plan!.throws[0]!.discId === id
  expect(discIds.some(code)).toBe(true)
  // and it is the same order when it is looked at again
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  expect(await first.getAttribute('title')).toBe(wanted)
})

test('throws are spent where they tell most, and spread evenly again', async ({ page }) => {
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Which fairway for the lake wind' })
    .getByRole('link', { name: 'Plan it' })
    .click()
  const telling = page.getByRole('region', { name: 'Spend the throws where they tell most' })
  await expect(telling.getByRole('status')).toContainText(/more for .*fewer for/)
  let put = stored(page)
  await telling.getByRole('button', { name: 'Rearrange' }).click()
  await put
  await expect(telling.getByRole('status')).toContainText('No other set')
  put = stored(page)
  await telling.getByRole('button', { name: 'Spread evenly' }).click()
  await put
  await expect(telling.getByRole('status')).toContainText('more for')

  // asked about two of its discs, throws go to those
  await expect(telling).toContainText('of the pairs expected to be settled')
  put = stored(page)
  await choose(page.getByLabel('It is about'), 'which of two is more stable')
  const [one, other] = ((await (await put).json()) as Trial).plan!.pair!
  expect(one).not.toBe(other)
  await expect(telling).toContainText(/chance to tell which of .* and .* is more stable/)
  put = stored(page)
  await choose(page.getByLabel('or that one'), 2)
  const about = ((await (await put).json()) as Trial).plan!.pair!
  expect([about[0], about[1] === other]).toEqual([one, false])
  // the question of its label is asked of every figure on it
  put = stored(page)
  await choose(page.getByLabel('It is about'), 0)
  await put
  put = stored(page)
  await choose(question(page), questionOf('label').words)
  await put
  const settles = page.getByRole('region', { name: 'What this plan can settle' })
  for (const figure of ['stability', 'glide', 'turn', 'fade'])
    await expect(settles.getByRole('columnheader', { name: figure })).toBeVisible()
  await expect(telling).toContainText('of all that is on the labels')
  // other arms and the wind are told in metres of flights
  put = stored(page)
  await choose(question(page), questionOf('arms').words)
  await put
  for (const arm of ['18 m/s', '24 m/s', '31 m/s'])
    await expect(settles.getByRole('columnheader', { name: arm })).toBeVisible()
  await expect(
    settles.getByRole('cell', { name: /24 m\/s: \d+ per cent; known within ±\d+\.\d/ }).first(),
  ).toBeVisible()
  put = stored(page)
  await choose(question(page), questionOf('wind').words)
  await put
  await expect(settles).toContainText('which of two a headwind moves less')

  // other tests want this trial without a plan
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const { trial } = (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  await page.request.put(`/api/trials/${id}`, { data: { ...trial, plan: null } })
})

test('discs chosen on the shelf become a plan, and the plan a printed sheet, by keyboard alone', async ({
  page,
}) => {
  const said = complaints(page)
  await startFromShelf(page, 'arms', 'Three for another arm', ['HS-011', 'HS-012', 'HS-044'])
  const takes = page.getByRole('region', { name: 'What it takes' })
  // three discs, two angles, six throws of each, half of them eased
  await expect(takes).toContainText('36throws')
  await expect(takes).toContainText('18at full power')
  await expect(takes).toContainText(/of \d+ full-power throws left this (day|week)/)

  const order = page.getByRole('region', { name: 'Run order' })
  const tile = (n: number) => order.getByRole('button', { name: new RegExp(`^Throw ${n}:`) })
  const label = async (n: number) => (await tile(n).getAttribute('aria-label'))!.replace(/^Throw \d+: /, '')
  const [first, other] = [await label(1), await label(2)]
  const put = stored(page)
  await tile(1).focus()
  await page.keyboard.press('Enter')
  await expect(order.getByText('Throw 1 is lifted')).toBeVisible()
  await tile(2).focus()
  await page.keyboard.press('Enter')
  await put
  await expect.poll(() => label(1)).toBe(other)
  expect(await label(2)).toBe(first)
  await expect(order).toContainText('then moved by hand')

  await page.evaluate(() => {
    window.print = () => document.body.setAttribute('data-printed', 'yes')
  })
  await order.getByRole('button', { name: 'Print sheet' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('body')).toHaveAttribute('data-printed', 'yes')
  await page.emulateMedia({ media: 'print' })
  const sheet = page.getByRole('region', { name: 'Plan sheet' })
  await expect(sheet.getByRole('row').nth(1)).toContainText(other.split(',')[0]!)
  await page.emulateMedia({ media: 'screen' })
  expect(said).toEqual([])
})

test('a throw is dragged onto another with the mouse; a round never throws one disc twice', async ({
  page,
}) => {
  await startFromShelf(page, 'arms', 'Dragged', ['HS-011', 'HS-012'])
  const order = page.getByRole('region', { name: 'Run order' })
  const tile = (n: number) => order.getByRole('button', { name: new RegExp(`^Throw ${n}:`) })
  const label = async (n: number) => (await tile(n).getAttribute('aria-label'))!.replace(/^Throw \d+: /, '')
  const [first, second, third, fourth] = [await label(1), await label(2), await label(3), await label(4)]
  /** Where a tile is once nothing above it moves any more. */
  const placed = async (n: number) => {
    for (let before = ''; ;) {
      const box = (await tile(n).boundingBox())!
      if (JSON.stringify(box) === before) return box
      before = JSON.stringify(box)
      await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))))
    }
  }
  const drag = async (a: number, b: number) => {
    const [from, to] = [await placed(a), await placed(b)]
    await page.mouse.move(from.x + 15, from.y + 15)
    await page.mouse.down()
    await page.mouse.move(to.x + 15, to.y + 15, { steps: 8 })
    await page.mouse.up()
  }
  const disc = (text: string) => text.split(',')[0]
  const put = stored(page)
  await drag(1, 2)
  await put
  await expect.poll(() => label(1)).toBe(second)
  expect(await label(2)).toBe(first)
  // in the next round, the throw of the other disc than the one it would take the place of
  const clash = disc(third) === disc(second) ? 4 : 3
  await drag(1, clash)
  await expect(page.getByText('would need the same disc twice').first()).toBeVisible()
  expect([await label(3), await label(4)]).toEqual([third, fourth])
})

test('a plan takes a place, a window of the wind and goes to the calendar; a short field is warned of', async ({
  page,
}) => {
  await startFromShelf(page, 'arms', 'Windy', ['HS-011', 'HS-033'])
  const where = page.getByRole('region', { name: 'Where and when' })
  let put = stored(page)
  await choose(where.getByLabel('Place'), 'Millpond meadow')
  await put
  await expect(where).toContainText('135 m long')
  await expect(where.getByRole('alert')).toHaveCount(0)
  await choose(where.getByLabel('Place'), 'a new place …')
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Orchard')
  await dialog.getByLabel('Field length').fill('60')
  put = stored(page)
  await dialog.getByRole('button', { name: 'Keep the place' }).click()
  await put
  await expect(where.getByRole('alert')).toContainText('Orchard is 60 m long')

  await where.getByRole('radio').nth(1).click()
  const calm = (await where.getByRole('status').textContent())!
  await where.getByRole('radio', { name: 'steady along the line' }).click()
  await expect(where.getByRole('status')).toContainText('m/s, gusts')
  put = stored(page)
  await where.getByRole('button', { name: 'Plan it for then' }).click()
  await put
  await expect(where.getByRole('button', { name: 'Planned for then' })).toBeVisible()
  expect(calm).toMatch(/\d+:00 to \d+:00/)
  const waiting = page.waitForEvent('download')
  await where.getByRole('link', { name: 'To the calendar' }).click()
  expect((await waiting).suggestedFilename()).toBe('windy.ics')
})

test('an arm’s budget is set, and a plan that exceeds it says so', async ({ page }) => {
  await page.goto('/settings')
  await page.getByRole('button', { name: 'Edit Odile Fenn' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByLabel('Full power a day')).toHaveValue('80')
  await dialog.getByLabel('Full power a day').fill('10')
  const put = page.waitForResponse((r) => r.url().includes('/api/throwers/') && r.ok())
  await dialog.getByRole('button', { name: 'Keep' }).click()
  await put
  await startFromShelf(page, 'arms', 'Too many', ['HS-011', 'HS-033'])
  const takes = page.getByRole('region', { name: 'What it takes' })
  await expect(takes.getByRole('alert')).toContainText(/\d+ too many/)
  await expect(page.getByRole('link', { name: /Throw the first, \d+ beyond the arm’s budget/ })).toBeVisible()
  // given to an arm that has thrown nothing today it fits
  await page.getByRole('region', { name: 'How it is thrown' }).getByRole('button', { name: 'Tobit' }).click()
  await expect(takes.getByRole('alert')).toHaveCount(0)
  await expect(takes).toContainText('Tobit:')
})

test('warm-up throws come first in the field and do not count', async ({ page }) => {
  await startFromShelf(page, 'arms', 'Warmed', ['HS-002', 'HS-011'])
  const put = stored(page)
  await page.getByRole('region', { name: 'Run order' }).getByRole('button', { name: 'Shuffle again' }).click()
  await put
  await page.getByRole('link', { name: 'Throw the first' }).click()
  const next = page.getByRole('region', { name: 'Next throw' })
  await expect(next).toContainText('Warm-up, 4 to go; it does not count')
  const caution = page.getByRole('button', { name: 'The range is clear' })
  if (await caution.isVisible()) await caution.click()
  for (let left = 3; left >= 0; left--) {
    await page.getByLabel('Landed, down').fill('60')
    const kept = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
    await page.getByRole('button', { name: /Keep throw/ }).click()
    const row = (await (await kept).json()) as Throw
    expect(row).toMatchObject({ counts: false, whyNot: 'warm-up' })
    await expect(next).toContainText(left > 0 ? `Warm-up, ${left} to go` : 'Throw 5')
  }
})

test('a pencilled sheet is typed in, row by row, in the order of the plan', async ({ page }) => {
  await startFromShelf(page, 'arms', 'Pencilled', ['HS-040', 'HS-041'])
  // the plan is kept as it is shown, before anybody goes on from it
  const id = page.url().match(/trials\/([^/?]+)/)![1]!
  const planOf = async () =>
    ((await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile).trial.plan
  await expect.poll(planOf).not.toBeNull()
  const plan = await planOf()
  await page.getByRole('link', { name: 'Type it in' }).click()
  await page.getByLabel('Headwind, out').fill('2')
  const cell = (n: number, what: string) => page.getByLabel(new RegExp(`^Throw ${n},.*${what}`))
  await cell(1, 'down').fill('58,5')
  await page.keyboard.press('Tab')
  await page.keyboard.type('4')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('Throw 1: Side is “4”; write the side too')
  await expect(cell(2, 'down')).toBeFocused()
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Tab')
  await page.keyboard.type('4 L')
  await page.keyboard.press('Enter')
  await expect(page.getByText('1 of 24 throws kept')).toBeVisible()
  await page.keyboard.type('61')
  await page.keyboard.press('Tab')
  await page.keyboard.type('2r')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.type('2.9')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.type('hit a branch')
  await page.keyboard.press('Enter')
  await expect(page.getByText('2 of 24 throws kept')).toBeVisible()
  const thrown = async () =>
    ((await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile).throws.sort((a, b) =>
      a.thrownAt < b.thrownAt ? -1 : 1,
    )
  await expect.poll(async () => (await thrown()).length).toBe(2)
  const [a, b] = (await thrown()) as [Throw, Throw]
  expect(a).toMatchObject({
    discId: plan!.throws[0]!.discId,
    carryM: 58.5,
    rightM: -4,
    windAlongMps: -2,
    counts: true,
  })
  expect(b).toMatchObject({
    discId: plan!.throws[1]!.discId,
    carryM: 61,
    rightM: 2,
    hangS: 2.9,
    counts: false,
    whyNot: 'hit a branch',
  })
})
