import type { Page } from '@playwright/test'
import type { ShortThrow } from '../../contract/trials.ts'
import { choose, complaints, expect, queueEmpty, test, readView } from './bench.ts'

const open = async (page: Page) => {
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Tarnwick in four plastics' })
    .getByRole('link', { name: 'Read it' })
    .click()
  await expect(page.getByRole('heading', { name: 'What you can say' })).toBeVisible()
  await page.getByRole('link', { name: 'Field', exact: true }).click()
  await page.getByRole('link', { name: 'Ground play and short game' }).click()
  await expect(page.getByRole('heading', { name: 'Ground play' })).toBeVisible()
}
const kept = async (page: Page, act: () => Promise<void>): Promise<ShortThrow> => {
  const answer = page.waitForResponse((r) => r.url().includes('/api/short-throws/') && r.ok())
  await act()
  return (await (await answer).json()) as ShortThrow
}
const says = (page: Page) => page.getByRole('region', { name: 'What it says' })

test('skips are logged disc by disc with the keyboard, and their difference said with its probability', async ({
  page,
}) => {
  const said = complaints(page)
  await open(page)
  const box = page.getByLabel('From first contact to rest')
  const disc = page.getByRole('group', { name: 'Disc' })
  await disc.getByRole('button', { name: 'Slate' }).click()
  await page.getByRole('button', { name: /^Keep/ }).click()
  await expect(page.getByText('The ground play must be given for ground.').first()).toBeVisible()
  for (const [a, b] of [
    ['9', '3'],
    ['10.5', '2.5'],
    ['8', '4'],
  ] as const) {
    await disc.getByRole('button', { name: 'Slate' }).click()
    await box.fill(a)
    expect(await kept(page, () => page.keyboard.press('Enter'))).toMatchObject({
      game: 'ground',
      groundM: Number(a),
    })
    await disc.getByRole('button', { name: 'Tallow' }).click()
    await box.fill(b)
    await kept(page, () => page.keyboard.press('Enter'))
  }
  await expect(says(page)).toContainText(/9\d %.*Slate skips 6\.0 m farther than Tallow/)
  await page.getByRole('heading', { name: 'Ground play' }).click()
  expect(await kept(page, () => page.keyboard.press('u'))).toMatchObject({ groundM: 4 })
  await expect(says(page)).toContainText('5 throws')
  await page.getByRole('button', { name: 'Restore' }).click()
  await expect(says(page)).toContainText('6 throws')

  // and it has its part in the readout
  await page.getByRole('link', { name: 'Readout', exact: true }).click()
  await readView(page, 'Short game')
  await expect(page.getByRole('region', { name: 'On the ground' })).toContainText(
    'Slate skips 6.0 m farther than Tallow',
  )
  expect(said).toEqual([])
})

test('putts are counted with two keys, by distance', async ({ page }) => {
  await open(page)
  await page.getByRole('radio', { name: 'Putting' }).click()
  await page.getByLabel('From', { exact: true }).fill('9')
  await page.getByRole('heading', { name: 'Putting' }).click()
  for (const key of ['m', 'm', 'x', 'm']) await kept(page, () => page.keyboard.press(key))
  await page.getByRole('button', { name: 'short', exact: true }).click()
  expect(await kept(page, () => page.getByRole('button', { name: /^Missed/ }).click())).toMatchObject({
    made: false,
    miss: 'short',
    distanceM: 9,
  })
  await expect(says(page)).toContainText(/8–11 m/)
  await expect(says(page)).toContainText('3 of 5')
  await expect(says(page)).toContainText('1 short')
  await expect(says(page).getByRole('img')).toHaveAttribute(
    'aria-label',
    /^60 %, 90 % interval \d\d % to \d\d %/,
  )
  // and on a phone nothing runs off its edge
  await page.setViewportSize({ width: 390, height: 844 })
  const wide = () =>
    page.evaluate(() =>
      Math.max(...[...document.querySelectorAll('main *')].map((e) => e.getBoundingClientRect().right)),
    )
  await expect.poll(wide).toBeLessThanOrEqual(390)
})

test('approaches say who runs past the mark, holes are compared hole by hole', async ({ page }) => {
  await open(page)
  await page.getByRole('radio', { name: 'Approach' }).click()
  const disc = page.getByRole('group', { name: 'Disc' })
  await page.getByLabel('To the mark').fill('40')
  for (const past of ['4', '6']) {
    await disc.getByRole('button', { name: 'Amber' }).click()
    await page.getByLabel('It came to rest', { exact: true }).fill(past)
    await kept(page, () => page.keyboard.press('Enter'))
  }
  for (const short of ['3', '5']) {
    await disc.getByRole('button', { name: 'Pennrath' }).click()
    await page.getByLabel('It came to rest', { exact: true }).fill(short)
    await choose(page.getByLabel('It came to rest, which way'), 'short')
    expect((await kept(page, () => page.getByRole('button', { name: /^Keep/ }).click())).pastM).toBe(
      -Number(short),
    )
  }
  await expect(says(page)).toContainText('Amber finishes 9.0 m farther past the mark than Pennrath')

  await page.getByRole('radio', { name: 'Holes' }).click()
  for (const [hole, a, b] of [
    ['1', '3', '4'],
    ['2', '5', '6'],
    ['3', '3', '4'],
    ['4', '4', '5'],
  ] as const)
    for (const [who, strokes] of [
      ['Slate', a],
      ['Amber', b],
    ] as const) {
      await disc.getByRole('button', { name: who }).click()
      await page.getByLabel('Hole').fill(hole)
      await page.getByLabel('Strokes').fill(strokes)
      await kept(page, () => page.keyboard.press('Enter'))
    }
  await expect(says(page)).toContainText('Amber takes 1.0 strokes a hole more than Slate')
  await expect(says(page)).toContainText('4 holes played with both')
})

test('a short throw that waits for its server is no throw without a landing: the readout reads on', async ({
  page,
}) => {
  const said = complaints(page)
  await open(page)
  await page.route('**/api/short-throws/**', (route) => route.abort())
  await page.getByLabel('From first contact to rest').fill('6')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /1 waiting|2 waiting/ })).toBeVisible()
  await page.getByRole('link', { name: 'Readout', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'What you can say' })).toBeVisible()
  await readView(page, 'Short game')
  await expect(page.getByRole('region', { name: 'On the ground' })).toContainText('once: 6.0 m')
  await page.unroute('**/api/short-throws/**')
  await queueEmpty(page)
  await expect(page.getByRole('region', { name: 'On the ground' })).toContainText('once: 6.0 m')
  expect(said).toEqual([])
})
