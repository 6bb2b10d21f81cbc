import { expect, test } from '@playwright/test'
import type { Page } from '@playwright/test'
import type { TrialFile } from '../../contract/trials.ts'
import { complaints } from './bench.ts'

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

  // by keyboard: lift, down, drop
  let put = stored(page)
  await expectation.getByRole('button', { name: `Move ${before[0]}` }).focus()
  await page.keyboard.press('Space')
  await page.waitForTimeout(150)
  await page.keyboard.press('ArrowDown')
  await page.waitForTimeout(350)
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

  await expect(page.getByRole('table', { name: /settles each pair/ })).toContainText(/\d\d/)
  const first = page.getByRole('region', { name: 'Run order' }).locator('li[title^="Throw 1:"]')
  const wanted = (await first.getAttribute('title'))!.replace('Throw 1: ', '')

  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('region', { name: 'Plan sheet' }).getByRole('row')).toHaveCount(
    throws + 1 + (throws + 1 > 36 ? 2 : 1),
  )
  await expect(page.getByRole('banner')).toBeHidden()
  const height = await page.evaluate(() => document.documentElement.scrollHeight)
  // an A4 page is 1.41 times as high as wide
  expect(height / 1280).toBeLessThan(1.41)
  await page.emulateMedia({ media: 'screen' })

  await page.getByRole('link', { name: 'Throw the first' }).click()
  await expect(page.getByRole('region', { name: 'Next throw' })).toContainText(wanted.split(', ')[0]!)
  await expect(page.getByText('In the order planned')).toBeVisible()
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await page.keyboard.press('ArrowRight')
  const kept = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.keyboard.press('Enter')
  await kept
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  await expect(page.getByText('Locked since the first throw')).toBeVisible()
  await expect(expectation.getByRole('button', { name: /^Move/ }).first()).toBeDisabled()

  // other tests want this trial without throws
  await page.getByRole('link', { name: 'Field', exact: true }).click()
  const taken = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.getByRole('button', { name: 'Undo' }).click()
  await taken
  expect(said).toEqual([])
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

  // other tests want this trial without a plan
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const { trial } = (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  await page.request.put(`/api/trials/${id}`, { data: { ...trial, plan: null } })
})
