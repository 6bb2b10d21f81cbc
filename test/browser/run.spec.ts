import { randomUUID } from 'node:crypto'
import type { Page } from '@playwright/test'
import type { Throw, Trial, TrialFile, TrialSummary } from '../../contract/trials.ts'
import { complaints, expect, test } from './bench.ts'

const get = async <T>(page: Page, path: string): Promise<T> =>
  (await (await page.request.get(path)).json()) as T

/** A trial of its own with the discs and throws of the half-done one, open in the field. */
async function ownTrial(page: Page, change: Partial<Trial> = {}): Promise<{ id: string; throws: Throw[] }> {
  const all = await get<TrialSummary[]>(page, '/api/trials')
  const from = all.find((t) => t.trial.name === 'Which fairway for the lake wind')!.trial
  const file = await get<TrialFile>(page, `/api/trials/${from.id}`)
  const id = randomUUID()
  const trial = { ...from, plan: null, plannedThrows: 48, ...change, id, name: `Run ${id.slice(0, 8)}` }
  expect((await page.request.put(`/api/trials/${id}`, { data: trial })).ok()).toBe(true)
  const counted = file.throws.filter((t) => t.counts && t.takenBackAt === null).slice(0, 19)
  const throws: Throw[] = []
  for (const t of counted) {
    const row = { ...t, id: randomUUID(), trialId: id, label: null, version: 0 }
    const put = await page.request.put(`/api/throws/${row.id}`, { data: row })
    throws.push((await put.json()) as Throw)
  }
  return { id, throws }
}
async function openField(page: Page, id: string) {
  await page.goto(`/trials/${id}/field`)
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await expect(page.getByRole('region', { name: 'What the throws say now' })).not.toContainText('Weighing')
}
const keep = async (page: Page): Promise<Throw> => {
  const answer = page.waitForResponse(
    (r) => r.url().includes('/api/throws/') && r.request().method() === 'PUT' && r.ok(),
  )
  await page.keyboard.press('Enter')
  return (await (await answer).json()) as Throw
}
const land = async (page: Page, down: string) => {
  await page.getByLabel('Landed, down').fill(down)
  await page.getByRole('application').focus()
}

test('the run is paused, put off and taken by turns, with keys and after a reload', async ({ page }) => {
  const said = complaints(page)
  const { id } = await ownTrial(page)
  await openField(page, id)
  const card = page.getByRole('region', { name: 'Next throw' })

  // paused: it outlives a reload, and a throw that is kept ends it
  await page.keyboard.press('p')
  await expect(page.getByRole('status').filter({ hasText: 'Paused since' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('status').filter({ hasText: 'Paused since' })).toBeVisible()
  await page.getByRole('button', { name: 'Go on' }).first().click()
  await expect(page.getByText('Paused since')).toBeHidden()
  await page.keyboard.press('p')

  // put off: the one after it comes now, and once that is thrown the first again
  const title = card.getByRole('heading')
  const angle = card.getByLabel('Release angle')
  const what = async () => `${await title.textContent()} ${await angle.textContent()}`
  const first = await what()
  await page.keyboard.press('n')
  await expect.poll(what).not.toBe(first)
  const second = await what()
  await land(page, '70')
  await keep(page)
  await expect(page.getByText('Paused since')).toBeHidden()
  await expect.poll(what).toBe(first)
  await page.keyboard.press('a')
  await expect.poll(what).toBe(second)

  // by turns: each throw is the other's, and a key changes who
  // what was just thrown is changed where it is explained
  await page.getByRole('link', { name: 'Change it' }).click()
  await expect(page.getByText(/Changing throw \d+/)).toBeVisible()
  await land(page, '69')
  expect((await keep(page)).carryM).toBe(69)
  await expect(page.getByText('Changing throw')).toBeHidden()

  await page.getByRole('button', { name: 'Throw by turns' }).click()
  const dialog = page.getByRole('dialog', { name: 'Who throws by turns?' })
  await dialog.getByRole('button', { name: 'Wren Ashdown' }).click()
  await dialog.getByRole('button', { name: 'Odile Fenn' }).click()
  await dialog.getByRole('button', { name: 'The 2 of them take turns' }).click()
  await expect(card.getByRole('button', { name: 'Wren and Odile, by turns' })).toBeVisible()
  const who = () => card.getByLabel('Thrower').textContent()
  await land(page, '71')
  const one = await keep(page)
  await land(page, '72')
  const two = await keep(page)
  await land(page, '73')
  const three = await keep(page)
  expect(two.throwerId).not.toBe(one.throwerId)
  expect(three.throwerId).toBe(one.throwerId)
  const now = await who()
  await page.keyboard.press('t')
  await expect.poll(who).not.toBe(now)
  // both arms are counted
  await expect(page.getByRole('region', { name: 'The run' })).toContainText(
    /Wren: \d+ today.*Odile: \d+ today/s,
  )
  expect(said).toEqual([])
})

test('the field is looked at closer and stretched, and a landing put down there is where it was meant', async ({
  page,
}) => {
  const { id } = await ownTrial(page)
  await openField(page, id)
  const field = page.getByRole('application')
  await land(page, '82')
  const marks = () => field.locator('g.figure text').allTextContents()
  const whole = await marks()
  await page.keyboard.press('z')
  await expect(page.getByRole('button', { name: 'Closer' })).toHaveAttribute('aria-pressed', 'true')
  expect((await marks())[0]).not.toBe(whole[0])
  // the landing stands in the middle, and one pixel is now less of a metre
  const box = (await field.boundingBox())!
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2)
  await expect
    .poll(async () => Number(await page.getByLabel('Landed, down').inputValue()))
    .toBeCloseTo(82, -1)
  // the range finder measures what was tapped; the dial is turned by its rim, or with keys
  const tapped = Number(await page.getByLabel('Landed, down').inputValue())
  await page.keyboard.press('r')
  await expect(
    page.getByText(/m at [\d.]+° (left|right) of the line\. Simulated range finder/).first(),
  ).toBeVisible()
  expect(Math.abs(Number(await page.getByLabel('Landed, down').inputValue()) - tapped)).toBeLessThan(3)
  const dial = page.getByRole('slider', { name: 'Angle out of the hand' })
  const rim = (await dial.boundingBox())!
  await page.mouse.click(rim.x + 0.1 * rim.width, rim.y + 0.8 * rim.height)
  await expect(dial).toHaveAttribute('aria-valuetext', /\d+° hyzer/)
  const turned = Number(await dial.getAttribute('aria-valuenow'))
  await dial.focus()
  await page.keyboard.press('ArrowRight')
  await expect(dial).toHaveAttribute('aria-valuenow', String(turned + 1))
  await field.focus()
  // calls have keys of their own, which go round
  const nose = page.getByRole('group', { name: 'Nose' })
  await page.keyboard.press('e')
  await expect(nose.getByRole('button', { name: 'down' })).toHaveAttribute('aria-pressed', 'true')
  for (let i = 0; i < 4; i++) await page.keyboard.press('e')
  await expect(nose.getByRole('button', { pressed: true })).toHaveCount(0)
  await page.keyboard.press('h')
  await page.keyboard.press('2')
  await expect(page.getByRole('group', { name: 'Height' }).getByRole('button', { pressed: true })).toHaveText(
    'low',
  )
  await expect(
    page.getByRole('group', { name: 'In the air' }).getByRole('button', { pressed: true }),
  ).toHaveText('turned')
  await page.keyboard.press('x')
  await expect(page.getByRole('button', { name: 'Side × 2' })).toHaveAttribute('aria-pressed', 'true')
  const side = Number(await page.getByLabel('off the line').inputValue())
  const now = (await field.boundingBox())!
  await page.mouse.click(now.x + now.width / 2, now.y + now.height / 2)
  await expect
    .poll(async () => Math.abs(Number(await page.getByLabel('off the line').inputValue()) - side))
    .toBeLessThan(3)
})

test('a recorded path is taken from a file, its end is the landing, and what is wrong is said', async ({
  page,
}) => {
  const { id } = await ownTrial(page)
  await openField(page, id)
  const rows = [0, 15, 32, 50, 66, 78].map(
    (d, i) => `${0.8 * i},${d},${-0.002 * d * d},${1.2 + 0.1 * d - 0.0014 * d * d}`,
  )
  const input = page.getByLabel('File of a recorded path')
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await input.setInputFiles(file('bad.csv', 't_s,down_m,right_m\n0,1,x\n1,2,0\n'))
  const wrong = page.getByRole('dialog', { name: 'The path was not taken' })
  await expect(wrong).toContainText('right_m is “x”')
  await wrong.getByRole('button', { name: 'Close' }).click()

  await input.setInputFiles(file('flight.csv', ['t_s,down_m,right_m,up_m', ...rows].join('\n')))
  await expect(page.getByRole('button', { name: 'Recorded path, 6 points' })).toBeVisible()
  await expect(page.getByLabel('Landed, down')).toHaveValue('78')
  await page.getByRole('application').focus()
  const row = await keep(page)
  expect(row.carryM).toBe(78)
  expect(row.rightM).toBeCloseTo(-12.2, 1)
  expect(row.path!.downM).toEqual([0, 15, 32, 50, 66, 78])

  // a long track is read beside the page, which goes on answering
  await page.evaluate(() => {
    let last = performance.now()
    const meter = { longest: 0 }
    Object.assign(window, { meter })
    setInterval(() => {
      const now = performance.now()
      meter.longest = Math.max(meter.longest, now - last)
      last = now
    }, 20)
  })
  const points = Array.from(
    { length: 9_000 },
    (_, i) => `<trkpt lat="${54.2 - (70 * i) / 9_000 / 111_200}" lon="-2.9"><ele>3</ele></trkpt>`,
  )
  const begun = Date.now()
  await input.setInputFiles(
    file('long.gpx', `<gpx version="1.1"><trk><trkseg>${points.join('')}</trkseg></trk></gpx>`),
  )
  await expect(page.getByRole('button', { name: /^Recorded path, \d{3,} points/ })).toBeVisible()
  const took = Date.now() - begun
  const longest = await page.evaluate(
    () => (window as unknown as { meter: { longest: number } }).meter.longest,
  )
  expect(longest).toBeLessThan(0.6 * took)
  await page.getByRole('button', { name: 'Take the recorded path away' }).click()

  // a track on the earth is laid along the aim line of the place
  const track = {
    type: 'LineString',
    coordinates: [0, 20, 45, 70].map((m) => [-2.9, 54.2 - m / 111_200, 3]),
  }
  await input.setInputFiles(file('flight.geojson', JSON.stringify(track)))
  await expect(page.getByRole('button', { name: 'Recorded path, 4 points' })).toBeVisible()
  await page.getByRole('application').focus()
  const tracked = await keep(page)
  expect(tracked.path!.timeS).toEqual([])
  expect(Math.hypot(tracked.carryM, tracked.rightM)).toBeCloseTo(70, 0)
})

test('a same-line trial asks for the angle that brings a disc back, and reads out the angle it took', async ({
  page,
}) => {
  const said = complaints(page)
  const { id } = await ownTrial(page)
  await page.goto(`/trials/${id}/plan`)
  // the plan as it was proposed is kept first
  const put = page.waitForResponse(
    (r) =>
      r.url().includes(`/api/trials/${id}`) &&
      r.request().method() === 'PUT' &&
      r.request().postData()!.includes('"protocol":"same-line"'),
  )
  await page.getByRole('radio', { name: 'same line' }).click()
  await put
  await expect(page.getByRole('region', { name: 'Throws of each disc' })).toContainText('back to the line')
  const { trial } = await get<TrialFile>(page, `/api/trials/${id}`)
  expect(trial.hyzerDegs).toEqual([0])
  expect(trial.plan!.protocol).toBe('same-line')
  const cold = { ...trial, plan: { ...trial.plan, warmUps: [] } }
  const answer = await page.request.put(`/api/trials/${id}`, { data: cold })
  expect(await answer.json()).toMatchObject({ plan: { warmUps: [] } })

  await openField(page, id)
  const left = page.getByRole('region', { name: 'The run' })
  const planned = Number((await left.textContent())!.match(/(\d+) left/)![1])
  const line = page.getByTestId('to-the-line')
  await expect(line).toContainText(/To finish on the line: (flat|\d+° (an)?hyzer), give or take \d+°/)
  const asked = (await line.textContent())!.match(/line: (flat|\d+° (an)?hyzer)/)![1]!
  await expect(page.getByRole('region', { name: 'Next throw' }).getByLabel('Release angle')).toHaveText(asked)
  await land(page, '75')
  const row = await keep(page)
  const [degrees] = asked === 'flat' ? ['0'] : asked.split('°')
  expect(Math.abs(row.hyzerDeg)).toBe(Number(degrees))
  expect(row.hyzerDeg > 0).toBe(asked.endsWith('° hyzer'))
  // it takes one off the plan, whatever its angle
  await expect(left).toContainText(`${planned - 1} left`)
  await page.goto(`/trials/${id}/readout`)
  const card = page.getByRole('region', { name: 'The angle it took' })
  await expect(card).toContainText(/needs (\d+°|hardly) more hyzer than/)
  await expect(card).toContainText(/\d of \d+ throws finished on the line/)
  expect(said).toEqual([])
})

test('an arm that has thrown its budget is told so once', async ({ page }) => {
  const { id, throws } = await ownTrial(page)
  const throwers = await get<{ id: string; name: string; budget: unknown }[]>(page, '/api/throwers')
  const last = throwers.find((t) => t.id === throws.at(-1)!.throwerId)!
  const budget = { throwsADay: 1, fullPowerADay: 1, throwsAWeek: 1, fullPowerAWeek: 1 }
  await page.request.put(`/api/throwers/${last.id}`, { data: { ...last, budget } })
  try {
    await openField(page, id)
    await land(page, '80')
    await keep(page)
    const caution = page.getByRole('region', { name: 'The arm’s budget' })
    await expect(caution).toContainText(`${last.name} has thrown what this arm’s budget allows`)
    await caution.getByRole('button', { name: 'Understood' }).click()
    await expect(caution).toBeHidden()
    await page.reload()
    await expect(page.getByRole('region', { name: 'The run' })).toContainText('budget used up')
    await expect(caution).toBeHidden()
  } finally {
    await page.request.put(`/api/throwers/${last.id}`, { data: last })
  }
})

test.describe('far east of Greenwich', () => {
  test.use({ timezoneId: 'Pacific/Auckland' })

  test('a throw counts for the arm on the day it is where it was thrown', async ({ page }) => {
    // half past nine in the morning of the 26th there, the evening of the 25th in Greenwich
    const now = '2026-11-25T20:30:00Z'
    await page.clock.setFixedTime(new Date(now))
    // its clock is right: the server's is then, too
    await page.route('**/api/now', (route) => route.fulfill({ json: { now } }))
    const all = await get<TrialSummary[]>(page, '/api/trials')
    const from = all.find((t) => t.trial.name === 'Which fairway for the lake wind')!.trial
    const id = randomUUID()
    const trial: Trial = { ...from, id, name: 'Morning in Auckland', plan: null, version: 0 }
    expect((await page.request.put(`/api/trials/${id}`, { data: trial })).ok()).toBe(true)
    await page.goto(`/trials/${id}/field`)
    await page.getByRole('button', { name: 'The range is clear' }).click()
    const run = page.getByRole('region', { name: 'The run' })
    await expect(run).toContainText('0 today')
    await land(page, '70')
    const row = await keep(page)
    await expect(run).toContainText('1 today')
    const { sessions } = await get<TrialFile>(page, `/api/trials/${id}`)
    expect(sessions.find((s) => s.id === row.sessionId)).toMatchObject({
      day: '2026-11-26',
      timeZone: 'Pacific/Auckland',
    })
    await page.reload()
    await expect(run).toContainText('1 today')
  })
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

  test('everything a thumb must hit is at least 44 px, with all there is unfolded', async ({ page }) => {
    const { id } = await ownTrial(page)
    await openField(page, id)
    await page.getByRole('button', { name: 'Change the throw' }).click()
    await page.getByRole('button', { name: 'More', exact: true }).click()
    await page.getByRole('button', { name: 'type it' }).click()
    await page.getByRole('application').scrollIntoViewIfNeeded()
    const field = (await page.getByRole('application').boundingBox())!
    await page.touchscreen.tap(field.x + 0.6 * field.width, field.y + 0.4 * field.height)
    await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('button, a, select, input, [role=slider], [role=radio]')].flatMap((e) => {
        const { width, height } = e.getBoundingClientRect()
        const fits = width === 0 || height === 0 || (width >= 44 && height >= 44)
        return fits ? [] : [`${e.getAttribute('aria-label') ?? e.textContent}: ${width} × ${height}`]
      }),
    )
    expect(small).toEqual([])
  })
})
