import { complaints, expect, openHalfDone, queueEmpty, readView, test, throwNumber } from './bench.ts'

test('a throw is logged with the mouse in two gestures, and its sentence moves', async ({ page }) => {
  const said = complaints(page)
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  const sentences = page.getByRole('region', { name: 'What the throws say now' })
  const open = sentences.getByRole('listitem').filter({ hasText: 'not settled' }).first()
  const first = await open.textContent()

  const field = page.getByRole('application')
  const box = (await field.boundingBox())!
  await page.mouse.move(box.x + 0.5 * box.width, box.y + 0.35 * box.height)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.52 * box.width, box.y + 0.4 * box.height, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.getByRole('button', { name: 'Keep throw' }).click()

  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await stored
  await expect(page.getByTestId('last-throw')).toContainText(`Throw ${before},`)
  await expect(page.getByTestId('last-throw')).toContainText('of its forecast')
  await expect(sentences).not.toContainText(first!)
  expect(said).toEqual([])
})

test('a throw is logged with keys alone, taken back and restored', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  const start = Number(await page.getByLabel('Landed, down').inputValue())
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByLabel('Landed, down')).toHaveValue(String(start + 5))
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press(']')
  await page.keyboard.press(']')
  await expect(page.getByRole('region', { name: 'Call the throw' })).toContainText('hyzer')
  const answered = () => page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  const kept = answered()
  await page.keyboard.press('Enter')
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await kept
  const taken = answered()
  await page.keyboard.press('u')
  await expect(page.getByText(`Throw ${before} of 48`)).toBeVisible()
  await taken
  const restored = answered()
  await page.getByRole('button', { name: 'Restore' }).click()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await restored
})

test('the bend is dragged and stored; a reload keeps what was kept', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  const box = (await page.getByRole('application').boundingBox())!
  await page.mouse.click(box.x + 0.6 * box.width, box.y + 0.62 * box.height)
  const bend = page.getByText('drag the bend')
  // the forecast comes meanwhile and the field is drawn anew around it: what was grasped there is grasped again
  await expect(async () => {
    const words = (await bend.boundingBox())!
    const [x, y] = [words.x + words.width / 2, words.y - 12]
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.mouse.move(x + 5, y + 22, { steps: 4 })
    await page.mouse.up()
    await expect(bend).toBeHidden({ timeout: 1500 })
  }).toPass({ timeout: 60_000 })
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.getByRole('button', { name: 'Keep throw' }).click()
  const sent = (await stored).request().postDataJSON() as { midDownM: number | null; carryM: number }
  expect(sent.midDownM).toBeGreaterThan(5)
  expect(sent.midDownM).toBeLessThan(sent.carryM)
  await page.reload()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
})

test('a throw that does not count keeps its reason and moves no number', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const sentences = page.getByTestId('sentences')
  await expect(sentences).toContainText(/more throws of the two, .* settle it with/)
  const before = await sentences.textContent()
  await page.keyboard.press('ArrowRight')
  await page.getByRole('button', { name: 'hit a branch' }).click()
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.getByRole('button', { name: 'Keep throw' }).click()
  await stored
  await expect(page.getByTestId('last-throw')).toContainText('left out (hit a branch)')
  await expect.poll(async () => await sentences.textContent()).toBe(before)
})

test('Enter keeps the throw wherever the focus is, and nothing else, unless a button has it by key', async ({
  page,
}) => {
  await openHalfDone(page, 'Throw on')
  let at = await throwNumber(page)
  const keptNext = () => expect(page.getByText(`Throw ${++at} of 48`)).toBeVisible()
  const [down, off] = [page.getByLabel('Landed, down'), page.getByLabel('off the line')]

  // the side is typed before the distance, and kept from its field
  await off.fill('4')
  await down.fill('71')
  await expect(off).toHaveValue('4')
  await off.press('Enter')
  await keptNext()
  await expect(down).toHaveValue('')
  // whoever types landings types the next one
  await expect(down).toBeFocused()
  await down.blur()

  // after a press on what was called
  await page.keyboard.press('ArrowRight')
  await expect(down).not.toHaveValue('')
  await page.getByRole('button', { name: 'hit a branch' }).click()
  await page.keyboard.press('Enter')
  await keptNext()
  await expect(page.getByTestId('last-throw')).toContainText('left out (hit a branch)')

  // after a press on the volunteer; what it threw is not thrown over without a word
  await page.getByRole('button', { name: 'Volunteer' }).click()
  await expect(down).not.toHaveValue('')
  await expect(page.getByText('The simulated volunteer threw this one.')).toBeVisible()
  const landed = await down.inputValue()
  await page.keyboard.press('v')
  await expect(page.getByText(/This throw has landed and is not kept yet/).first()).toBeVisible()
  await expect(down).toHaveValue(landed)
  await page.keyboard.press('Enter')
  await keptNext()
  await expect(page.getByTestId('last-throw')).toContainText(', simulated:')

  // a station opened by the command list has the keys
  await page.getByRole('link', { name: 'Readout', exact: true }).click()
  await page.keyboard.press('Control+k')
  await page.getByPlaceholder(/Go to/).fill('Field: Which fairway')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Next throw' })).toBeVisible()
  await expect(page.getByRole('main')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Tap where it landed first.', { exact: true }).first()).toBeVisible()
  await expect(page.getByRole('region', { name: 'Next throw' })).toBeVisible()
})

test('a landing that was put down and not kept is there again after a reload, or is cleared', async ({
  page,
}) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await page.getByLabel('Landed, down').fill('66')
  await page.getByRole('button', { name: 'slipped' }).click()
  await page.reload()
  await expect(page.getByText(/This landing was put down at .* and not kept/)).toBeVisible()
  await expect(page.getByLabel('Landed, down')).toHaveValue('66')
  await expect(page.getByRole('button', { name: 'slipped' })).toHaveAttribute('aria-pressed', 'true')
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await page.keyboard.press('Enter')
  expect((await stored).request().postDataJSON()).toMatchObject({ carryM: 66, whyNot: 'slipped' })
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Landed, down')).toHaveValue('')

  await page.getByLabel('Landed, down').fill('50')
  await page.reload()
  await page.getByRole('button', { name: 'Clear it' }).click()
  await expect(page.getByLabel('Landed, down')).toHaveValue('')
})

test('a throw is changed from the readout', async ({ page }) => {
  await openHalfDone(page, 'Read it')
  await readView(page, 'Throws')
  const row = page.getByRole('region', { name: 'List of throws' }).getByRole('row').nth(1)
  await row.getByRole('link', { name: 'Edit' }).click()
  await expect(page.getByText('Changing throw 1')).toBeVisible()
  await page.getByLabel('Landed, down').fill('61.5')
  await page.getByRole('button', { name: 'Keep changes' }).click()
  await expect(page.getByText('The throw was changed.', { exact: true }).first()).toBeVisible()
  await page.getByRole('link', { name: 'Readout', exact: true }).click()
  await readView(page, 'Throws')
  await expect(row).toContainText('61.5 m')
})

test('what is out of range is refused with a sentence, and stays on the screen', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  await page.getByRole('button', { name: 'Keep throw' }).click()
  await expect(page.getByText('Tap where it landed first.', { exact: true }).first()).toBeVisible()
  await page.keyboard.press('ArrowRight')
  // it is put down where it is forecast: no forecast can be made in the wind that comes next
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.getByLabel('Wind along', { exact: true }).fill('90')
  await page.getByRole('button', { name: 'Keep throw' }).click()
  await expect(
    page.getByText(/The wind along the line is −90; it must lie between −25 and 25 m\/s/).first(),
  ).toBeVisible()
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

  test('a swipe over the field scrolls and lands nothing; a landing is tapped, dragged under a loupe and nudged', async ({
    page,
  }) => {
    await openHalfDone(page, 'Throw on')
    const landed = page.getByTestId('landed')
    await expect(landed).toHaveText('Tap where it landed')
    const box = (await page.getByRole('application').boundingBox())!
    const finger = await page.context().newCDPSession(page)
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x = 0, y = 0) =>
      finger.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] })
    const [x, y] = [box.x + 0.7 * box.width, box.y + 0.6 * box.height]
    const drag = async (dx: number, dy: number) => {
      await touch('touchStart', x, y)
      for (let i = 1; i <= 8; i++) await touch('touchMove', x + (dx * i) / 8, y + (dy * i) / 8)
    }
    const top = () => page.evaluate(() => scrollY)
    await drag(0, -120)
    await touch('touchEnd')
    await expect.poll(top).toBeGreaterThan(40)
    await expect(landed).toHaveText('Tap where it landed')
    // what is thrown next stays in sight
    await expect(page.getByRole('region', { name: 'Next throw' })).toBeInViewport()
    // it goes on for a while by itself
    await expect
      .poll(async () => {
        await page.evaluate(() => scrollTo(0, 0))
        return await top()
      })
      .toBe(0)

    await page.touchscreen.tap(x, y)
    await expect(landed).toHaveText(/m down/)
    const downM = async () => Number((await landed.textContent())!.match(/^[\d.]+/)![0])
    const before = await downM()
    await drag(40, 0)
    await expect(page.getByTestId('loupe')).toBeVisible()
    await touch('touchEnd')
    await expect(page.getByTestId('loupe')).toHaveCount(0)
    expect(await top()).toBe(0)
    const dragged = await downM()
    expect(dragged).toBeGreaterThan(before + 1)
    await page.getByRole('button', { name: 'A little shorter' }).tap()
    await expect.poll(downM).toBeCloseTo(dragged - 1, 1)
  })

  test('the wind is said above the map, repeated and turned by a tap; what was thrown is taken back from a list', async ({
    page,
  }) => {
    await openHalfDone(page, 'Throw on')
    const wind = page.getByRole('group', { name: 'Wind now' })
    await expect(wind).toContainText('not noted')
    await wind.getByRole('button', { name: 'As before' }).tap()
    await expect(wind).toContainText(/m\/s (head|tail).*since now/)
    const blows = (await wind.textContent())!.includes('head') ? 'tail' : 'head'
    await wind.getByRole('button', { name: 'Turn' }).tap()
    await expect(wind).toContainText(blows)
    await expect(page.getByText(/The wind has moved by/)).toHaveCount(0)

    const field = (await page.getByRole('application').boundingBox())!
    const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
    await page.touchscreen.tap(field.x + 0.6 * field.width, field.y + 0.6 * field.height)
    await page.getByRole('button', { name: 'Keep throw' }).tap()
    const { windAlongMps } = (await stored).request().postDataJSON() as { windAlongMps: number }
    expect(Math.sign(windAlongMps)).toBe(blows === 'head' ? -1 : 1)
    const list = page.getByRole('region', { name: 'Thrown so far' }).getByRole('listitem')
    await expect(list.first()).toContainText('21')
    const taken = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
    await list.first().getByRole('button', { name: 'Take back throw 21' }).tap()
    await taken
    await expect(list.first()).toContainText('20')
    await list.first().getByRole('link', { name: 'Edit throw 20' }).tap()
    await expect(page.getByRole('region', { name: 'Next throw' })).toContainText('throw 20, edited')
  })

  test('a tap and a thumb log a throw; the button stays in reach', async ({ page }) => {
    await page.goto('/')
    await page
      .getByRole('region', { name: 'Which fairway for the lake wind' })
      .getByRole('link', { name: 'Throw on' })
      .tap()
    await page.getByRole('button', { name: 'The range is clear' }).tap()
    const field = page.getByRole('application')
    const box = (await field.boundingBox())!
    await page.touchscreen.tap(box.x + 0.55 * box.width, box.y + 0.3 * box.height)
    await expect(page.getByTestId('landed')).toContainText(/m down, .* m left/)
    const keep = page.getByRole('button', { name: 'Keep throw' })
    const reach = (await keep.boundingBox())!
    expect(reach.height).toBeGreaterThanOrEqual(44)
    expect(reach.y + reach.height).toBeLessThanOrEqual(844)
    const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
    await keep.tap()
    await stored
    await expect(page.getByTestId('landed')).toHaveText('Tap where it landed')
    // nothing may be wider than the phone
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  })
})

test('a throw kept while the server is away is sent when it is back, once', async ({ page, context }) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await context.setOffline(true)
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
  await context.setOffline(false)
  await stored
  await expect(page.getByRole('button', { name: /waiting/ })).toBeHidden()
  await page.reload()
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
})

test('a throw sent while its trial is still being read leaves the trial readable', async ({ page }) => {
  await openHalfDone(page, 'Throw on')
  const before = await throwNumber(page)
  await page.route('**/api/throws/**', (route) => route.abort())
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  let sent: () => void
  const stored = new Promise<void>((r) => (sent = r))
  page.on('response', (r) => r.url().includes('/api/throws/') && r.ok() && sent())
  // the first reading of the trial answers only after the throw was acknowledged
  let wasLate: () => void
  const late = new Promise<void>((r) => (wasLate = r))
  await page.route(
    '**/api/trials/*',
    async (route) => {
      const answer = await route.fetch()
      await stored
      await queueEmpty(page)
      await route.fulfill({ response: answer })
      wasLate()
    },
    { times: 1 },
  )
  await page.reload({ waitUntil: 'commit' })
  // sent before, the page of before would ask for the trial
  await page.unroute('**/api/throws/**')
  await late
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
})
