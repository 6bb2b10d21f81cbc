import type { Page } from '@playwright/test'
import type { Throw, TrialFile } from '../../contract/trials.ts'
import { expect, openHalfDone, test, throwNumber } from './bench.ts'

test.use({ serviceWorkers: 'allow' })

/** Opens the app and waits until it would open without its server. */
async function settledIn(page: Page): Promise<void> {
  await page.goto('/')
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready
    if (!navigator.serviceWorker.controller)
      await new Promise((r) =>
        navigator.serviceWorker.addEventListener('controllerchange', r, { once: true }),
      )
  })
  // once more, so that what the stations read is remembered
  await openHalfDone(page, 'Throw on')
}

const file = async (page: Page, id: string) =>
  (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
const idOf = (page: Page) => page.url().match(/trials\/([^/]+)/)![1]!
const stored = (page: Page) =>
  page.waitForResponse((r) => r.url().includes('/api/throws/') && r.request().method() === 'PUT' && r.ok())

test('with the network gone the field opens, logs, edits and undoes; on return everything is sent once, in order', async ({
  page,
  context,
}) => {
  await settledIn(page)
  const before = await throwNumber(page)
  const id = idOf(page)
  const had = (await file(page, id)).throws

  await context.setOffline(true)
  await page.reload()
  await expect(page.getByText(`Throw ${before} of 48`)).toBeVisible()
  for (const n of [1, 2]) {
    await page.keyboard.press('ArrowRight')
    await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
    await page.keyboard.press('Enter')
    await expect(page.getByText(`Throw ${before + n} of 48`)).toBeVisible()
  }
  await page.keyboard.press('u')
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  // two throws and what was taken back; the outing too where it is the first of the day
  await expect(page.getByRole('button', { name: /[34] waiting/ })).toBeVisible()
  // the numbers go on moving without a server
  await expect(page.getByTestId('last-throw')).toContainText(`Throw ${before},`)

  // the page dies and opens again at another station
  await page.goto('/')
  await expect(page.getByRole('button', { name: /[34] waiting/ })).toBeVisible()
  await openHalfDone(page, 'Throw on')
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()

  await context.setOffline(false)
  await expect.poll(async () => (await file(page, id)).throws.length).toBe(had.length + 2)
  await expect
    .poll(async () => (await file(page, id)).throws.filter((t) => t.takenBackAt !== null).length)
    .toBe(had.filter((t) => t.takenBackAt !== null).length + 1)
  await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden()
  await page.reload()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  const undone = stored(page)
  await page.keyboard.press('u')
  await undone
})

test('what was acknowledged is there when the server goes away right after', async ({ page, context }) => {
  await settledIn(page)
  const before = await throwNumber(page)
  const kept = stored(page)
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await kept
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await context.setOffline(true)
  await page.reload()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await context.setOffline(false)
  const undone = stored(page)
  await page.keyboard.press('u')
  await undone
})

test('a throw changed on two devices keeps both versions and asks', async ({ page, context }) => {
  await settledIn(page)
  const id = idOf(page)
  const kept = stored(page)
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  const row = (await (await kept).json()) as Throw
  // the other device
  await page.request.put(`/api/throws/${row.id}`, { data: { ...row, carryM: 66.5 } })
  // this one has not heard of it
  await context.setOffline(true)
  await page.keyboard.press('u')
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  await context.setOffline(false)
  await page.getByRole('button', { name: /not taken/ }).click()
  const conflict = page.getByRole('region', { name: 'Changed on two devices' })
  await expect(conflict).toContainText('taken back')
  await expect(conflict).toContainText('66.5 m down')
  await page.reload()
  await page.getByRole('button', { name: /not taken/ }).click()
  const mine = stored(page)
  await conflict.getByRole('button', { name: 'Keep this one' }).click()
  await mine
  await expect(page.getByRole('button', { name: /not taken|waiting/ })).toBeHidden()
  const now = (await file(page, id)).throws.find((t) => t.id === row.id)!
  expect(now.takenBackAt).not.toBeNull()
  expect(now.carryM).toBe(row.carryM)
  expect(now.version).toBe(3)
})

test('the app can be installed', async ({ page }) => {
  await page.goto('/')
  const href = await page.locator('link[rel="manifest"]').getAttribute('href')
  const manifest = (await (await page.request.get(href!)).json()) as {
    display: string
    icons: { src: string }[]
  }
  expect(manifest.display).toBe('standalone')
  for (const icon of manifest.icons) expect((await page.request.get(icon.src)).ok()).toBe(true)
})
