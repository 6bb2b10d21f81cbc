import type { Page } from '@playwright/test'
import type { Throw, TrialFile, WindLog } from '../../contract/trials.ts'
import { choose, complaints, expect, openHalfDone, test, throwNumber } from './bench.ts'

const stored = async (page: Page, act: () => Promise<void>): Promise<Throw> => {
  // of two pages of one browser one sends for both, whichever holds the queue
  const answer = page
    .context()
    .waitForEvent(
      'response',
      (r) => r.url().includes('/api/throws/') && r.request().method() === 'PUT' && r.ok(),
    )
  await act()
  return (await (await answer).json()) as Throw
}
const keep = (page: Page) => stored(page, () => page.getByRole('button', { name: 'Keep throw' }).click())
const undo = (page: Page) => stored(page, () => page.keyboard.press('u'))

test('a volunteer throws in live wind: range finder, stopwatch and camera see it, and the log gives the wind', async ({
  page,
}) => {
  const said = complaints(page)
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await page.getByRole('button', { name: 'Live' }).click()
  const wind = page.getByTestId('live-wind')
  await expect(wind).toContainText(/\d\.\d m\/s (head|tail), \d\.\d m\/s from (left|right)/)
  const first = await wind.textContent()
  // it blows on
  await expect.poll(() => wind.textContent()).not.toBe(first)
  await page.getByRole('button', { name: 'Volunteer' }).click()
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await expect(page.getByLabel('Hang time')).not.toHaveValue('')
  const row = await keep(page)
  expect(row.notes).toMatchObject({ thrown_by: 'Simulated volunteer' })
  expect(row.path!.downM.length).toBeGreaterThan(30)
  expect(row.path!.downM.at(-1)!).toBeGreaterThan(0.8 * row.carryM)
  expect(row.windAlongMps).not.toBeNull()
  expect(row.windSdMps).toBeGreaterThan(0)
  await expect(page.getByTestId('last-throw')).toContainText(`Throw ${before},`)

  // when nobody listens any more, what was heard is with the session
  const logged = page.waitForResponse((r) => r.url().includes('/api/wind-logs/') && r.ok())
  await page.getByRole('button', { name: 'By hand' }).click()
  const log = (await (await logged).json()) as WindLog
  expect(log.sessionId).toBe(row.sessionId)
  expect(log.alongMps.length).toBeGreaterThan(1)
  const kept = (await (await page.request.get(`/api/sessions/${row.sessionId}/wind`)).json()) as WindLog[]
  expect(kept.map((l) => l.id)).toContain(log.id)
  await undo(page)
  expect(said).toEqual([])
})

test('a throw is timed with a key, and its landing measured from the disc before', async ({ page }) => {
  await page.clock.install()
  await openHalfDone(page, 'Throw on')
  await page.getByLabel('Landed, down').fill('80')
  await page.getByLabel('off the line').fill('4')
  const first = await keep(page)
  expect(first).toMatchObject({ carryM: 80, rightM: -4 })

  await page.locator('body').click({ position: { x: 5, y: 400 } })
  await page.keyboard.press('s')
  const watch = page.getByRole('button', { name: 'Stop at first contact' })
  await expect(watch).toHaveAttribute('aria-pressed', 'true')
  await page.clock.fastForward(1200)
  await watch.click()
  await expect(page.getByLabel('Hang time')).toHaveValue(/^1\.\d$|^2(\.\d)?$/)

  await page.getByRole('radio', { name: 'the last disc' }).click()
  await expect(page.getByText('it lies at 80.0 m, 4.0 m left')).toBeVisible()
  await page.getByLabel('From the last disc, along').fill('3')
  await choose(page.getByLabel('Which way aside'), 'right')
  await page.getByLabel('From the last disc, aside').fill('2')
  const second = await keep(page)
  expect(second).toMatchObject({ carryM: 77, rightM: -2 })
  expect(second.hangS).toBeGreaterThan(1)
  await undo(page)
  await undo(page)
})

test('the wind is typed; when it has moved since the last throw the field says so and offers the pair again', async ({
  page,
}) => {
  await openHalfDone(page, 'Throw on')
  await page.getByLabel('Wind along', { exact: true }).fill('2')
  await choose(page.getByLabel('Wind along, from'), 'head')
  await page.getByLabel('Landed, down').fill('80')
  const first = await keep(page)
  expect(first.windAlongMps).toBe(-2)
  const moved = page.getByText('The wind has moved by')
  await expect(moved).toHaveCount(0)
  await page.getByLabel('Wind along', { exact: true }).fill('5')
  await expect(moved).toContainText('3.0 m/s')
  await page.getByRole('button', { name: /^Throw .* again$/ }).click()
  await page.getByLabel('Landed, down').fill('82')
  const second = await keep(page)
  expect(second).toMatchObject({ discId: first.discId, hyzerDeg: first.hyzerDeg, windAlongMps: -5 })
  await undo(page)
  await undo(page)
})

test('two pages log one session: no throw is lost or doubled, and each sees the other’s', async ({
  page,
  context,
}) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  const other = await context.newPage()
  await openHalfDone(other, 'Throw on')
  const rows: Throw[] = []
  for (const [i, at] of [page, other, page, other].entries()) {
    await at.bringToFront()
    await at.getByLabel('Landed, down').fill(String(70 + i))
    rows.push(await keep(at))
  }
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const { throws } = (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  for (const r of rows) expect(throws.filter((t) => t.id === r.id)).toHaveLength(1)
  for (const at of [page, other]) {
    await at.bringToFront()
    await at.reload()
    await expect(at.getByText(`Throw ${before + 4} of 48`)).toBeVisible()
  }
  await other.close()
  for (let i = 0; i < 4; i++) await undo(page)
})

test('a plan turns the leg round, says what is left, and counts the arm', async ({ page }) => {
  await page.goto('/shelf?sort=code')
  for (const code of ['HS-011', 'HS-033']) await page.getByLabel(`Choose ${code}`).check()
  await page
    .getByRole('region', { name: 'Chosen discs' })
    .getByRole('button', { name: 'Start a trial' })
    .click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Out and back')
  await dialog.getByRole('button', { name: 'Start and plan' }).click()
  const warm = page.getByRole('list', { name: 'Warm-up throws' }).getByRole('button')
  for (let n = await warm.count(); n > 0; n--) {
    await warm.first().click()
    await expect(warm).toHaveCount(n - 1)
  }
  const put = page.waitForResponse(
    (r) => r.url().includes('/api/trials/') && r.request().method() === 'PUT' && r.ok(),
  )
  await page.getByRole('region', { name: 'Run order' }).getByRole('button', { name: 'Shuffle again' }).click()
  await put
  await page.getByRole('link', { name: /Throw the first/ }).click()
  const run = page.getByRole('region', { name: 'The run' })
  await expect(run).toContainText(/\d+ left, about \d+ min/)
  const left = Number((await run.textContent())!.match(/(\d+) left/)![1])
  const turn = page.getByRole('button', { name: 'Turned round' })
  await page.getByLabel('Wind along', { exact: true }).fill('2')
  await choose(page.getByLabel('Wind along, from'), 'head')
  for (let i = 0; i < 2; i++) {
    await expect(turn).toHaveCount(0)
    await page.getByLabel('Landed, down').fill('80')
    expect((await keep(page)).windAlongMps).toBe(-2)
  }
  await expect(run).toContainText(`${left - 2} left`)
  await turn.click()
  await expect(turn).toHaveCount(0)
  await page.getByLabel('Landed, down').fill('80')
  expect((await keep(page)).windAlongMps).toBe(2)
})
