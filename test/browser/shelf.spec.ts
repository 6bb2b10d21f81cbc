import type { Page } from '@playwright/test'
import { choose, complaints, expect, queueEmpty, test } from './bench.ts'

const row = (page: Page, code: string) => page.getByRole('row', { name: new RegExp(code) })
const toDisc = async (page: Page, code: string) => {
  await page.goto('/shelf')
  await page.getByRole('link', { name: new RegExp(code) }).click()
  await expect(page.getByRole('region', { name: 'Numbers in force' })).toBeVisible()
}

test('a disc is added to the shelf, found, edited and taken off again', async ({ page }) => {
  await page.goto('/shelf')
  await page.getByRole('button', { name: 'Add a disc' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Code').fill('HS-017')
  await dialog.getByLabel('Maker').fill('Eskwright')
  await dialog.getByLabel('Mold').fill('Tarnwick')
  await dialog.getByLabel('Plastic', { exact: true }).fill('Slate')
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(dialog).toContainText('is on the shelf already')
  await dialog.getByLabel('Code').fill('HS-077')
  const stamped = dialog.getByRole('group', { name: 'Stamped on this disc' })
  await stamped.getByLabel('speed').fill('9')
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click()
  await expect(stamped).toContainText('must be a number between 0 and 7.5')
  await stamped.getByLabel('speed').fill('')
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click()
  const numbers = page.getByRole('region', { name: 'Numbers in force' })
  await expect(numbers.getByRole('row', { name: /Slate.*in force/ })).toContainText('9 / 5 / −0.5 / 2.5')
  await expect(page.getByRole('region', { name: 'Claim and evidence' })).toContainText('Not thrown')

  await page.getByRole('button', { name: 'Edit HS-077' }).click()
  await dialog.getByLabel('On the scale').fill('174,3')
  await dialog.getByLabel('From whom').fill('Odile, as a loan')
  await dialog.getByRole('button', { name: 'Keep the changes' }).click()
  await expect(page.getByText('weighs 174.3 g')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Where it came from' })).toContainText('Odile, as a loan')
  await page.getByRole('button', { name: 'Take off the shelf' }).click()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Take off the shelf' })).toBeVisible()

  await page.getByRole('link', { name: 'Back to the shelf' }).click()
  await page.getByLabel('Find a disc').fill('hs-077')
  await expect(page.getByText('1 disc found')).toBeVisible()
  await page.getByLabel('Choose HS-077').check()
  await page.getByRole('button', { name: 'Take off', exact: true }).click()
  await expect(page.getByText('No disc like that')).toBeVisible()
})

test('the shelf is filtered and sorted, and the address keeps it', async ({ page }) => {
  const said = complaints(page)
  await page.goto('/shelf')
  await choose(page.getByLabel('Class', { exact: true }), 'putter')
  await expect(page.getByText('2 discs found')).toBeVisible()
  await page.reload()
  await expect(page.getByText('2 discs found')).toBeVisible()
  await page.getByRole('button', { name: 'Show all' }).click()
  await choose(page.getByLabel('Tested'), 'tested')
  await expect(row(page, 'HS-009').getByRole('img', { name: /Stability of HS-009/ })).toBeVisible()
  await expect(row(page, 'HS-034')).toHaveCount(0)
  await page.getByRole('button', { name: 'Claim and evidence; flies to the fade side' }).click()
  await expect(page.getByRole('row').nth(1)).toContainText(/HS-009|HS-026/)
  await expect(page.getByRole('columnheader', { name: /flies to the fade side/ })).toHaveAttribute(
    'aria-sort',
    'ascending',
  )
  await choose(page.getByLabel('How it flies'), 'very overstable')
  await expect(row(page, 'HS-033')).toBeVisible()
  expect(said).toEqual([])
})

test('discs are edited where they stand and in bulk, and everything can be undone', async ({ page }) => {
  await page.goto('/shelf?sort=code')
  await page.getByRole('button', { name: /Weigh HS-005/ }).click()
  await page.getByLabel('Weight of HS-005').fill('1770')
  await page.keyboard.press('Enter')
  await expect(page.getByText('HS-005 keeps what it had').first()).toBeVisible()
  await page.getByRole('button', { name: /Weigh HS-005/ }).click()
  await page.getByLabel('Weight of HS-005').fill('177.2')
  await page.keyboard.press('Enter')
  await expect(row(page, 'HS-005')).toContainText('177.2 g')
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(row(page, 'HS-005')).toContainText('marked')

  await page.getByLabel('Choose HS-040').check()
  await page.getByLabel('Choose HS-041').check()
  const bar = page.getByRole('region', { name: 'Chosen discs' })
  await expect(bar).toContainText('2 discs chosen')
  await expect(bar).toBeInViewport()
  await choose(bar.getByLabel('Wear of all chosen'), 'worn')
  await expect(page.getByLabel('Wear of HS-040')).toHaveText('worn')
  await expect(page.getByLabel('Wear of HS-041')).toHaveText('worn')
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click()
  await expect(page.getByLabel('Wear of HS-040')).toHaveText('new')
  await expect(page.getByLabel('Wear of HS-041')).toHaveText('seasoned')
})

test('a file of discs with errors shows them all; mended, it is previewed and stored', async ({ page }) => {
  await page.goto('/shelf')
  await page.getByRole('button', { name: 'Import' }).click()
  const dialog = page.getByRole('dialog')
  const give = (text: string) =>
    dialog
      .getByLabel('File')
      .setInputFiles({ name: 'box.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await give('code,maker,mold,plastic,wear\nHS-095,Eskwright,Tarnwick,Slate,shiny\nHS-096,,Tarnwick,Slate,\n')
  await expect(dialog.getByRole('alert')).toContainText('2 cells or rows are not right')
  await expect(dialog.getByRole('row', { name: /maker is empty/ })).toBeVisible()
  await give(
    'code,maker,mold,plastic,wear\nHS-095,Eskwright,Tarnwick,Slate,worn\nHS-021,Eskwright,Tarnwick,Slate,new\n',
  )
  await expect(dialog).toContainText('1 to be added: HS-095')
  await expect(dialog).toContainText('1 are on the shelf just so')
  await dialog.getByRole('button', { name: 'Import 1 discs' }).click()
  await page.getByLabel('Find a disc').fill('HS-095')
  await expect(row(page, 'HS-095')).toBeVisible()
  await page.getByLabel('Choose HS-095').check()
  await page.getByRole('button', { name: 'Take off', exact: true }).click()
})

test('a disc is inspected, its rim drawn, and laid over others', async ({ page }) => {
  const said = complaints(page)
  await toDisc(page, 'HS-034')
  const rim = page.getByRole('region', { name: 'Rim and profile' })
  await expect(rim).toContainText('Nobody has measured this disc yet')
  await rim.getByRole('button', { name: 'Inspect it' }).click()
  const dialog = page.getByRole('dialog')
  for (const [label, value] of [
    ['Diameter', '211'],
    ['Height', '16'],
    ['Rim depth', '12'],
    ['Rim width', '18.5'],
  ] as const)
    await dialog.getByLabel(label, { exact: true }).fill(value)
  await expect(dialog.getByRole('status')).toContainText('parting line')
  await dialog.getByLabel(/Parting line/).fill('18')
  await expect(dialog.getByRole('status')).toContainText('lies above the shoulder')
  await dialog.getByLabel(/Parting line/).fill('7.4')
  await expect(dialog.getByRole('img', { name: /Rims to scale/ })).toBeVisible()
  await dialog
    .getByRole('radiogroup', { name: 'Stiffness by feel' })
    .getByRole('radio', { name: 'firm' })
    .click()
  await dialog.getByRole('button', { name: 'Keep the inspection' }).click()
  await expect(rim.getByRole('img', { name: /parting lines at 7.4 mm and 8 mm/ })).toBeVisible()
  await expect(rim).toContainText('Not measured, drawn as is usual: dome, nose angle, edge')
  await rim.getByRole('radio', { name: 'align base' }).click()
  await choose(rim.getByLabel('And over'), 'HS-017, Tarnwick Loam')
  await expect(
    rim.getByRole('img', { name: /aligned at the base: parting lines at 7.4 mm and 8 mm and 6.4/ }),
  ).toBeVisible()
  await expect(page).toHaveURL(/over=/)
  await expect(page.getByRole('region', { name: /What the hand said/ })).toContainText('not thrown')
  expect(said).toEqual([])
})

test('what the hand said is marked by what the throws said', async ({ page }) => {
  await toDisc(page, 'HS-021')
  const said = page.getByRole('region', { name: /What the hand said/ })
  await expect(said).toContainText('beside HS-017, Tarnwick Loam')
  await expect(said.getByRole('row', { name: /Parting line higher/ })).toContainText(
    /usually more stable.*borne out, \d\d %.*\d+ of \d+/,
  )
  await expect(said.getByRole('row', { name: /Stiffer blend/ })).toContainText('no agreement')
  await expect(page.getByRole('region', { name: 'Flies most like' }).getByRole('listitem')).toHaveCount(5)
  await expect(page.getByRole('region', { name: 'Tests' }).getByRole('img').first()).toHaveAttribute(
    'aria-label',
    /2026-10-04: .* throws/,
  )
})

test('a disc is put on the scale, its wear noted, a photo and a claim kept', async ({ page }) => {
  await toDisc(page, 'HS-012')
  await page.getByRole('button', { name: 'Weigh' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('At rest.')
  const shown = (await dialog.getByRole('status').textContent())!
  expect(Number(shown.replace(' g', ''))).toBeGreaterThan(168)
  await dialog.getByRole('button', { name: 'Keep this weight' }).click()
  await expect(page.getByText(/weighs 1[67]\d(\.\d)? g/).first()).toBeVisible()

  const wear = page.getByRole('region', { name: 'Wear log' })
  await expect(wear).toContainText('510 throws')
  await wear.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByText('Say how many throws or hard hits').first()).toBeVisible()
  await wear.getByLabel('Throws').fill('25')
  await wear.getByLabel('Hard hits').fill('3')
  await wear.getByRole('button', { name: 'Note it' }).click()
  await expect(wear).toContainText('535 throws and 15 hard hits')
  await wear
    .getByRole('button', { name: /Remove the note/ })
    .last()
    .click()
  await expect(wear).toContainText('510 throws')

  const from = page.getByRole('region', { name: 'Where it came from' })
  await from.getByLabel('A claim').fill('floats over the last tree')
  await page.keyboard.press('Enter')
  await expect(from).toContainText('“floats over the last tree”')
  await queueEmpty(page)
  await from.getByRole('button', { name: 'Remove “floats over the last tree”' }).click()
  await expect(from).not.toContainText('“floats over the last tree”')
  // under the pointer the offer stays, however long the sending takes
  const restore = page.getByRole('button', { name: 'Restore' }).last()
  await restore.hover()
  await queueEmpty(page)
  await restore.click()
  await expect(from).toContainText('“floats over the last tree”')
  await queueEmpty(page)
  await expect(from).toContainText('“floats over the last tree”')
  const pixel =
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
  await from.getByLabel('Photo').setInputFiles({
    name: 'disc.png',
    mimeType: 'image/png',
    buffer: Buffer.from(pixel, 'base64'),
  })
  await expect(from.getByRole('img', { name: 'HS-012, photographed' })).toBeVisible()
  await from.getByRole('button', { name: 'Take the photo off' }).click()
  await expect(from.getByLabel('Photo')).toBeVisible()
})
