import { complaints, expect, openHalfDone, test } from './bench.ts'

test('the last throw is explained, and an open pair says what would settle it', async ({ page }) => {
  const said = complaints(page)
  await openHalfDone(page, 'Throw on')
  const standings = page.getByRole('region', { name: 'What the throws say now' })
  await expect(standings.getByRole('figure')).toContainText('of what its label promised in still air')
  await expect(standings.getByRole('figure').getByRole('listitem').first()).toContainText(
    /(release|wind|air|disc|unexplained).*\d\.\d m (left|right)/,
  )
  await expect(standings).toContainText(/\d+ more throws of the two, .* settle it with \d+ %/)
  const before = await standings.getByRole('figure').textContent()
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await stored
  await expect(standings.getByRole('figure')).not.toHaveText(before!)
  expect(said).toEqual([])
})

test('the most telling throw is named next, for the pair that is open', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const toggle = page.getByRole('button', { name: 'Thrown least first' })
  await expect(toggle).toBeVisible()
  await page.keyboard.press('m')
  await expect(page).toHaveURL(/next=telling/)
  const on = page.getByRole('button', { name: 'Most telling first' })
  await expect(on).toHaveAttribute('aria-pressed', 'true')
  // which disc tells most hangs on what was thrown before, the wind, and who throws; that is tested in the core
  const next = page.getByRole('region', { name: 'Next throw' }).getByRole('heading')
  await expect(next).toHaveText(/Harrogill|Tarnwick|Pennrath|Skelmire/)
  const before = await page
    .getByRole('region', { name: 'Next throw' })
    .getByText(/^Throw \d+/)
    .textContent()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('application', { name: /^Landed/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Next throw' }).getByText(/^Throw \d+/)).not.toHaveText(
    before!,
  )
  await expect(page).toHaveURL(/next=telling/)
  await on.click()
  await expect(toggle).toBeVisible()
})
