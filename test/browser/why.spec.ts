import type { TrialFile } from '../../contract/trials.ts'
import { complaints, expect, openHalfDone, queueEmpty, test } from './bench.ts'

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

test('a wind that was logged the wrong way round is said, looked at turned, and turned', async ({ page }) => {
  await openHalfDone(page, 'Read it')
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const read = async () => (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  const throws = (await read()).throws.filter((t) => t.takenBackAt === null && t.windAlongMps !== null)
  const winds = page.getByRole('list', { name: 'Winds that read turned round' })
  await expect(page.getByRole('region', { name: 'What you can say' })).toBeVisible()
  await expect(winds).toHaveCount(0)
  for (const t of throws) {
    const other = { windAlongMps: -t.windAlongMps!, windAcrossMps: -t.windAcrossMps! }
    expect((await page.request.put(`/api/throws/${t.id}`, { data: { ...t, ...other } })).ok()).toBe(true)
  }
  await page.reload()
  await expect(winds).toContainText('the wind reads as if it was logged the wrong way round')
  await winds.getByRole('button', { name: 'See it turned round' }).click()
  await expect(page.getByTestId('gusty')).toContainText(/\d\.\d times as much as is usual/)
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/As it was logged.*Turned round.*%/)
  await dialog.getByRole('button', { name: 'Turn it round' }).click()
  await expect(winds).toHaveCount(0)
  await queueEmpty(page)
  const now = new Map((await read()).throws.map((t) => [t.id, t]))
  for (const t of throws) expect(now.get(t.id)!.windAlongMps).toBeCloseTo(t.windAlongMps!, 9)
})

test('one thing has one number: on the bench, in the readout and in the field', async ({ page }) => {
  await page.goto('/')
  const card = page.getByRole('region', { name: 'Which fairway for the lake wind' })
  const said = card.getByTestId('sentences')
  // what would settle it comes a moment after what is not settled
  await expect(said).toContainText('settle it with')
  const open = (await said.getByRole('listitem').first().innerText()).split('\n')
  expect(open).toEqual([
    expect.stringMatching(/^\d\d %$/),
    'Harrogill against Tarnwick is not settled',
    expect.stringMatching(/settle it with \d+ %, 24 with \d+ %, 48 with \d+ %/),
  ])
  for (const [station, region] of [
    ['Read it', 'What you can say'],
    ['Throw on', 'What the throws say now'],
  ] as const) {
    await openHalfDone(page, station)
    const here = page.getByRole('region', { name: region }).getByRole('listitem')
    await expect(here.filter({ hasText: open[1]! })).toContainText(open[2]!)
    await expect(here.filter({ hasText: open[1]! })).toContainText(open[0]!)
  }
})

test('a throw that was logged wrong is asked about, put right in one press, or stands and is not asked about again', async ({
  page,
}) => {
  const said = complaints(page)
  await openHalfDone(page, 'Read it')
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  const read = async () => (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  const { throws } = await read()
  const questions = page.getByRole('list', { name: 'Throws that read as logged wrong' })
  await expect(page.getByRole('region', { name: 'What you can say' })).toBeVisible()
  const last = throws.filter((t) => t.takenBackAt === null && t.counts).at(-1)!
  const inFeet = { carryM: last.carryM / 0.3048, rightM: last.rightM / 0.3048 }
  expect((await page.request.put(`/api/throws/${last.id}`, { data: { ...last, ...inFeet } })).ok()).toBe(true)
  await page.reload()
  const question = questions.getByRole('listitem').filter({ hasText: `${Math.round(last.carryM)} m` })
  await expect(question).toContainText(
    new RegExp(
      `Throw ${throws.length} reads like ${Math.round(last.carryM)} m, .*%; ${Math.round(inFeet.carryM)} m is in the log`,
    ),
  )
  await question.getByRole('button', { name: `It was ${Math.round(last.carryM)} m` }).click()
  await expect(question).toHaveCount(0)
  await queueEmpty(page)
  const of = async () => (await read()).throws.find((t) => t.id === last.id)!
  expect((await of()).carryM).toBeCloseTo(last.carryM, 6)
  // as it was, and it stands: nobody asks again, on no device
  await page.getByRole('button', { name: 'As it was' }).click()
  await question.getByRole('button', { name: `It was ${Math.round(inFeet.carryM)} m` }).click()
  await expect(question).toHaveCount(0)
  await queueEmpty(page)
  expect(await of()).toMatchObject({ checked: true, carryM: inFeet.carryM })
  await page.reload()
  await expect(page.getByRole('region', { name: 'What you can say' })).toBeVisible()
  // whatever else there is to say stands below it: it has been looked at by then
  await expect(questions).toHaveCount(0)
  expect(said).toEqual([])
})

test('in the field it is asked of the last throw whether it was logged wrong', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const asked = page.getByRole('status').filter({ hasText: 'is in the log.' })
  const down = page.getByLabel('Landed, down')
  await page.keyboard.press('ArrowRight')
  await expect(down).not.toHaveValue('')
  const metres = Number(await down.inputValue())
  await down.fill(String(Math.round(metres / 0.3048)))
  await page.getByRole('button', { name: /^Keep/ }).click()
  await expect(asked).toContainText(new RegExp(`reads like ${Math.round(metres)} m`))
  await asked.getByRole('button', { name: `It was ${Math.round(metres)} m` }).click()
  await expect(asked).toHaveCount(0)
  await queueEmpty(page)
})
