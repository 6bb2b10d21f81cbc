import type { Page } from '@playwright/test'
import type { Shelf } from '../../contract/shelf.ts'
import type { Throw, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { expect, openHalfDone, queueEmpty, test, throwNumber } from './bench.ts'

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
  // the other device, while this one cannot hear of it
  await context.setOffline(true)
  await page.request.put(`/api/throws/${row.id}`, { data: { ...row, carryM: 66.5 } })
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

test('a disc edited on two devices keeps what both changed, and asks about what both changed otherwise', async ({
  page,
  context,
}) => {
  const { discs } = (await (await page.request.get('/api/shelf')).json()) as Shelf
  const disc = discs.find((d) => d.code === 'HS-011')!
  await page.goto(`/shelf/${disc.id}`)
  await page.getByRole('button', { name: 'Edit HS-011' }).click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Note').fill('rim nicked at the weir')
  await form.getByLabel('From whom').fill('found in the reeds')
  // the other device, while the form is open
  const other = { ...disc, note: 'flashing taken off', weighedG: 174.2 }
  expect((await page.request.put(`/api/discs/${disc.id}`, { data: other })).ok()).toBe(true)
  await context.setOffline(true)
  await form.getByRole('button', { name: 'Keep the changes' }).click()
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  await context.setOffline(false)
  await page.getByRole('button', { name: /not taken/ }).click()
  const conflict = page.getByRole('region', { name: 'Changed on two devices' })
  await expect(conflict).toContainText('note: rim nicked at the weir')
  await expect(conflict).toContainText('note: flashing taken off')
  // nothing is asked of what only one of them changed
  await expect(conflict).not.toContainText(/weight|reeds/)
  await conflict.getByRole('button', { name: 'Keep this one' }).click()
  await expect(page.getByRole('button', { name: /not taken|waiting/ })).toBeHidden()
  const now = ((await (await page.request.get('/api/shelf')).json()) as Shelf).discs
  expect(now.find((d) => d.id === disc.id)).toMatchObject({
    note: 'rim nicked at the weir',
    weighedG: 174.2,
    provenance: 'found in the reeds',
  })
})

test('a throw the server says something against is put right where it stands, and sent', async ({ page }) => {
  await settledIn(page)
  const id = idOf(page)
  // what a page of another day might have let through
  await page.route(
    '**/api/throws/*',
    (route) =>
      route.continue({
        postData: JSON.stringify({ ...(route.request().postDataJSON() as Throw), carryM: 2000 }),
      }),
    { times: 1 },
  )
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /not taken/ }).click()
  const refused = page.getByRole('region', { name: 'Not taken' })
  await expect(refused).toContainText('it must lie between 0.5 and 300 m')
  await refused.getByLabel('Landing down the line').fill('71.5')
  const kept = stored(page)
  await refused.getByRole('button', { name: 'Send it again' }).click()
  const row = (await (await kept).json()) as Throw
  await expect(page.getByRole('button', { name: /not taken|waiting/ })).toBeHidden()
  expect((await file(page, id)).throws.find((t) => t.id === row.id)).toMatchObject({ carryM: 71.5 })
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

test('without the server a disc is added, edited and worn, a trial of it made, planned and thrown; then all is sent', async ({
  page,
  context,
}) => {
  await settledIn(page)
  await page.getByRole('link', { name: 'Shelf', exact: true }).click()
  await expect(page.getByRole('row', { name: /HS-021/ })).toBeVisible()
  const trials = async () => (await (await page.request.get('/api/trials')).json()) as TrialSummary[]
  const had = (await trials()).length

  await context.setOffline(true)
  await page.getByRole('button', { name: 'Add a disc' }).click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Code').fill('HS-021')
  await form.getByLabel('Maker').fill('Aldermere Works')
  await form.getByLabel('Mold').fill('Thistlewick')
  await form.getByLabel('Plastic').fill('Loam')
  const numbers = form.getByRole('group', { name: 'Published for Thistlewick' })
  for (const [name, value] of [
    ['speed', '9'],
    ['glide', '5'],
    ['turn', '-1'],
    ['fade', '2'],
  ] as const)
    await numbers.getByLabel(name).fill(value)
  await form.getByRole('button', { name: /^(Keep|Add|Put)/ }).click()
  // a code that is taken is said at once, not when it is sent
  await expect(form.getByText(/is on the shelf already/)).toBeVisible()
  await form.getByLabel('Code').fill('HS-900')
  await form.getByRole('button', { name: /^(Keep|Add|Put)/ }).click()

  // its page, as far as this device knows it
  await expect(page.getByRole('heading', { name: 'Thistlewick, Loam' })).toBeVisible()
  await expect(page.getByText(/are on the server, which does not answer now/)).toBeVisible()
  const wear = page.getByRole('region', { name: 'Wear log' })
  await wear.getByLabel('Throws').fill('30')
  await wear.getByRole('button', { name: 'Note it' }).click()
  await expect(wear).toContainText('+30')
  await page.getByRole('link', { name: 'Shelf', exact: true }).click()
  await page.getByLabel('Find a disc').fill('thistlewick')
  await expect(page.getByRole('row', { name: /HS-900/ })).toBeVisible()
  await expect(page.getByText('1 disc found')).toBeVisible()

  // a trial of it
  await page.getByRole('link', { name: 'Bench', exact: true }).click()
  await page.getByRole('button', { name: 'Start a trial' }).click()
  await page.getByLabel('Find discs to add').fill('HS-900')
  await page.getByRole('checkbox', { name: /HS-900/ }).check()
  await page.getByRole('button', { name: 'Start and plan' }).click()
  await expect(page.getByRole('heading', { name: 'Run order' })).toBeVisible()
  await page.getByRole('link', { name: 'Throw the first' }).click()
  await expect(page.getByRole('region', { name: 'Next throw' })).toContainText('Thistlewick')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^(Throw 2|Warm-up, 3)/)).toBeVisible()

  // what waits is said, kind by kind
  await page.getByRole('button', { name: /waiting/ }).click()
  const list = page.getByRole('dialog', { name: 'Waiting to be sent' })
  for (const what of ['1 disc', '1 note of wear', '1 throw', /changes? of (a trial|trials)/])
    await expect(list).toContainText(what)
  await page.keyboard.press('Escape')

  await context.setOffline(false)
  await queueEmpty(page)
  const now = await trials()
  expect(now.length).toBe(had + 1)
  const own = now.find((t) => t.trial.name.includes('Thistlewick'))!
  expect((await file(page, own.trial.id)).throws.length).toBe(1)
  await page.reload()
  await page.getByRole('link', { name: 'Shelf', exact: true }).click()
  await page.getByRole('link', { name: /HS-900/ }).click()
  await expect(page.getByRole('region', { name: 'Wear log' })).toContainText('+30')
})
