import type { Page } from '@playwright/test'
import type { Throw, TrialFile } from '../../contract/trials.ts'
import { expect, openHalfDone, queueEmpty, test, throwNumber, readView } from './bench.ts'

const log = async (page: Page): Promise<void> => {
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
}
const throwsOf = async (page: Page): Promise<Throw[]> => {
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  return ((await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile).throws
}
const landed = (page: Page) => page.getByLabel('Landed, down')

test('the key that takes back takes back this device’s last throw, not another device’s', async ({
  page,
  browser,
  baseURL,
}) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await log(page)
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await queueEmpty(page)
  const elsewhere = await browser.newContext({ baseURL: baseURL!, viewport: { width: 1280, height: 800 } })
  const other = await elsewhere.newPage()
  await openHalfDone(other, 'Throw on')
  // it has kept nothing yet
  await other.keyboard.press('u')
  await expect(other.getByText('No throw of this trial was kept on this device').first()).toBeVisible()
  await log(other)
  await expect(other.getByText(`Throw ${before + 2} of 48`)).toBeVisible()
  await queueEmpty(other)
  await elsewhere.close()

  await page.reload()
  await expect(page.getByText(`Throw ${before + 2} of 48`)).toBeVisible()
  await page.keyboard.press('u')
  await expect(page.getByText(`Throw ${before} was taken back.`).first()).toBeVisible()
  await queueEmpty(page)
  const [mine, theirs] = (await throwsOf(page)).slice(-2)
  expect(mine!.takenBackAt).not.toBeNull()
  expect(theirs!.takenBackAt).toBeNull()
})

test('what a page kept and was closed on is shown and sent by another page of the same device', async ({
  page,
  context,
}) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  const had = (await throwsOf(page)).length
  const other = await context.newPage()
  await openHalfDone(other, 'Throw on')
  await context.setOffline(true)
  await log(other)
  await expect(other.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await other.close()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden()
  await expect.poll(async () => (await throwsOf(page)).length).toBe(had + 1)
})

test('two pages of one device change one throw after the other: nobody is asked which counts', async ({
  page,
  context,
}) => {
  await openHalfDone(page, 'Read it')
  const other = await context.newPage()
  await openHalfDone(other, 'Read it')
  for (const [at, carry] of [
    [page, '61.5'],
    [other, '62.5'],
  ] as const) {
    await at.bringToFront()
    await readView(at, 'Throws')
    const row = at.getByRole('region', { name: 'List of throws' }).getByRole('row').nth(1)
    await row.getByRole('link', { name: 'Edit' }).click()
    await landed(at).fill(carry)
    await at.getByRole('button', { name: 'Keep changes' }).click()
    await expect(at.getByText('The throw was changed.', { exact: true }).first()).toBeVisible()
    await queueEmpty(at)
  }
  for (const at of [page, other])
    await expect(at.getByRole('button', { name: /not taken|waiting/ })).toBeHidden()
  expect((await throwsOf(page)).map((t) => t.carryM)).toContain(62.5)
  await other.close()
})

for (const [what, spoil, sentence] of [
  [
    'is full',
    () => {
      IDBObjectStore.prototype.add = () => {
        throw new DOMException('no room', 'QuotaExceededError')
      }
    },
    /^This device is full: it could not keep that/,
  ],
  [
    'lets nothing be stored',
    () => {
      IDBFactory.prototype.open = () => {
        throw new DOMException('denied', 'SecurityError')
      }
    },
    /^This browser lets the app store nothing/,
  ],
] as const)
  test(`a throw that a device cannot keep because it ${what} is said so, and stays on the screen`, async ({
    page,
  }) => {
    await page.addInitScript(spoil)
    await openHalfDone(page, 'Throw on')
    const before = await throwNumber(page)
    await log(page)
    await expect(page.getByText(sentence).first()).toBeVisible()
    await expect(landed(page)).not.toHaveValue('')
    expect(await throwNumber(page)).toBe(before)
  })

test('a page of an older day that holds what is kept is named; once it is closed the throw is kept', async ({
  page,
  context,
}) => {
  const old = await context.newPage()
  await old.goto('/icon.svg')
  await old.evaluate(
    () =>
      new Promise<void>((done, fail) => {
        const open = indexedDB.open('veer-line', 1)
        open.onupgradeneeded = () => open.result.createObjectStore('waiting', { autoIncrement: true })
        open.onsuccess = () => done()
        open.onerror = () => fail(open.error as Error)
      }),
  )
  await page.bringToFront()
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await log(page)
  await expect(page.getByText(/^Another page of the app, of an older day, is open/).first()).toBeVisible()
  await expect(landed(page)).not.toHaveValue('')
  await old.close()
  await page.bringToFront()
  await page.getByRole('button', { name: 'Keep throw' }).click()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await queueEmpty(page)
})
