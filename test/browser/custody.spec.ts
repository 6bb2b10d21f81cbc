import fs from 'node:fs'
import type { Member } from '../../contract/crew.ts'
import type { TrialSummary } from '../../contract/trials.ts'
import { expect, openHalfDone, readView, test } from './bench.ts'

test('everything is copied, downloaded, lost and restored from the file; what was there before can be had back', async ({
  page,
}) => {
  const trials = async () =>
    ((await (await page.request.get('/api/trials')).json()) as TrialSummary[]).sort((a, b) =>
      a.trial.id.localeCompare(b.trial.id),
    )
  const had = await trials()
  await page.goto('/settings')
  await page.getByRole('link', { name: 'Data', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Where the data are' })).toContainText('116 throws')
  await page.getByRole('button', { name: 'Make a copy now' }).click()
  await expect(page.getByText('A copy was made and read back: 116 throws.')).toBeVisible()
  const made = page.getByRole('listitem').filter({ hasText: 'by hand' }).first()
  const download = page.waitForEvent('download')
  await made.getByRole('link', { name: /^Download/ }).click()
  const file = await (await download).path()

  // a file that is none changes nothing, and it is said why
  await page.getByLabel('Package to restore').setInputFiles({
    name: 'photo.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('nothing of the kind'),
  })
  await expect(page.getByRole('dialog')).toContainText('no zip file')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click()
  expect(await trials()).toEqual(had)

  // everything is gone, and comes back
  expect((await page.request.post('/api/demo/away')).ok()).toBe(true)
  expect(await trials()).toEqual([])
  await page.reload()
  await expect(page.getByRole('region', { name: 'Where the data are' })).toContainText('0 throws')
  await page
    .getByLabel('Package to restore')
    .setInputFiles({ name: 'all.zip', mimeType: 'application/zip', buffer: fs.readFileSync(file) })
  await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click()
  await expect(page.getByText(/^Restored: 116 throws/)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Where the data are' })).toContainText('116 throws')
  expect(await trials()).toEqual(had)
  // nothing of what was read before stands in the way
  await page.getByRole('link', { name: 'Bench' }).click()
  await expect(page.getByRole('region', { name: 'Tarnwick in four plastics' })).toBeVisible()

  await page.goto('/settings/data')
  const before = page.getByRole('listitem').filter({ hasText: 'before a restore' }).first()
  await expect(before).toContainText('0 throws')
  await before.getByRole('button', { name: /^Restore/ }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click()
  await expect(page.getByText(/^Restored: 0 throws/)).toBeVisible()
  expect(await trials()).toEqual([])
})

test('who may do what stays as it is over a restore, and is taken as it was where that is ticked', async ({
  page,
}) => {
  const members = async () => (await (await page.request.get('/api/people')).json()) as Member[]
  await page.goto('/settings/crew')
  await page.getByRole('button', { name: 'Invite somebody' }).click()
  await page.getByRole('button', { name: 'Make a link' }).click()
  const link = (await page
    .getByRole('dialog')
    .getByText(/\/join#/)
    .textContent())!
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  // it is listed, and taken back
  const open = page.getByRole('region', { name: 'Open links and codes' })
  await expect(open).toContainText('A link that makes a scribe')
  await open.getByRole('button', { name: /^Withdraw/ }).click()
  await expect(open).toBeHidden()
  expect(link).toContain('/join#')

  await page.goto('/settings/data')
  await page.getByRole('button', { name: 'Make a copy now' }).click()
  await expect(page.getByText('A copy was made and read back: 116 throws.')).toBeVisible()
  const made = page.getByRole('listitem').filter({ hasText: 'by hand' }).first()
  await made.getByRole('button', { name: /^Restore/ }).click()
  // nothing is otherwise there: nothing is asked
  await expect(page.getByRole('dialog')).toContainText('stay as they are here')
  await expect(page.getByRole('dialog').getByRole('checkbox')).toHaveCount(0)
  await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click()
  await expect(page.getByText(/^Restored: 116 throws/)).toBeVisible()
  expect((await members()).map((m) => m.role)).toEqual(['owner'])
})

test('a trial is handed on as a package, and comes in beside what another shed has', async ({ page }) => {
  await openHalfDone(page, 'Read it')
  await readView(page, 'Throws')
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Package' }).click()
  const file = {
    name: 'theirs.zip',
    mimeType: 'application/zip',
    buffer: fs.readFileSync(await (await download).path()),
  }
  // another shed, with nothing of it
  expect((await page.request.post('/api/demo/away')).ok()).toBe(true)

  await page.goto('/settings/data')
  await page.getByLabel('Package to bring in').setInputFiles(file)
  await expect(page.getByText(/^Would bring in 20 throws, 1 trial, 4 discs/)).toBeVisible()
  expect(await (await page.request.get('/api/trials')).json()).toEqual([])
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByText(/^Brought in 20 throws, 1 trial, 4 discs/)).toBeVisible()
  await page.getByRole('link', { name: 'Bench' }).click()
  await expect(page.getByRole('region', { name: 'Which fairway for the lake wind' })).toBeVisible()

  // a second time there is nothing new in it
  await page.goto('/settings/data')
  await page.getByLabel('Package to bring in').setInputFiles(file)
  await expect(page.getByText(/^Nothing of it is new here/)).toBeVisible()
})
