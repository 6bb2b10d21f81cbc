import type { Page } from '@playwright/test'
import { choose, complaints, expect, test } from './bench.ts'

const lands = (page: Page) => page.getByTestId('lands')
const strip = (page: Page) => page.getByRole('application', { name: /^The field from above/ })
const found = (page: Page) => page.getByRole('region', { name: 'Find the throw' }).getByRole('status')
const onField = (page: Page) => page.getByRole('region', { name: 'On the field' })
const put = (page: Page, what: string) =>
  page.getByRole('group', { name: 'Put on the field' }).getByRole('button', { name: what }).click()
const exactly = (page: Page, what: string) => page.getByRole('textbox', { name: what, exact: true })
const pictured = (page: Page, what: RegExp) => page.getByRole('application', { name: what })

async function openLab(page: Page): Promise<void> {
  await page.goto('/')
  await page.getByRole('link', { name: 'Line lab', exact: true }).click()
  await expect(lands(page)).toContainText(/^Lands \d+\.\d m out, /)
}
/** How far out a throw lands, as it is said. */
const outM = async (page: Page) =>
  Number((await lands(page).textContent())!.match(/Lands (\d+\.\d) m out/)![1])

async function takeDisc(page: Page, code: string): Promise<void> {
  const card = page.getByRole('region', { name: 'What is flown' })
  await card.getByLabel('Find a disc of the shelf').fill(code)
  await card.getByRole('list', { name: 'Found' }).getByRole('button', { name: code }).click()
  await expect(card).toContainText(code)
}

test('a disc of the shelf is thrown before it is thrown: what is pulled moves the landing, and the landing finds its throw', async ({
  page,
}) => {
  const said = complaints(page)
  await openLab(page)
  await takeDisc(page, 'HS-017')
  const before = await lands(page).textContent()
  await exactly(page, 'Release angle').fill('14')
  await expect(lands(page)).not.toHaveText(before!)
  await expect(page.getByRole('region', { name: 'The throw', exact: true })).toContainText('14° hyzer')
  // the landing is dragged back: less power brings it there
  const far = await outM(page)
  const field = (await strip(page).boundingBox())!
  const [x, y] = [field.x + 0.5 * field.width, field.y + 0.45 * field.height]
  await page.mouse.move(x + 30, y)
  await page.mouse.down()
  await page.mouse.move(x, y, { steps: 5 })
  await page.mouse.up()
  await expect.poll(() => outM(page)).toBeLessThan(far - 8)
  expect(Number(await exactly(page, 'Power').inputValue())).toBeLessThan(95)
  expect(await exactly(page, 'Release angle').inputValue()).toBe('14')
  // the nose on the disc seen from the side, by mouse and by keys
  const nose = page.getByRole('slider', { name: 'Nose', exact: true })
  const disc = (await nose.boundingBox())!
  await page.mouse.move(disc.x + 0.85 * disc.width, disc.y + disc.height / 2)
  await page.mouse.down()
  await page.mouse.move(disc.x + 0.85 * disc.width, disc.y + 0.35 * disc.height, { steps: 4 })
  await page.mouse.up()
  await expect(nose).toHaveAttribute('aria-valuetext', /^nose \d+(\.5)?° up$/)
  const up = Number(await exactly(page, 'Nose up').inputValue())
  expect(up).toBeGreaterThan(1)
  await nose.press('ArrowDown')
  await expect(exactly(page, 'Nose up')).toHaveValue(String(up - 0.5))
  // wind by the vane
  const still = await lands(page).textContent()
  const vane = (await pictured(page, /^Wind over the ground/).boundingBox())!
  await page.mouse.click(vane.x + vane.width / 2, vane.y + 0.85 * vane.height)
  await expect(page.getByRole('region', { name: 'The throw', exact: true })).toContainText(/m\/s head/)
  await expect(lands(page)).not.toHaveText(still!)
  // the launch by the line seen from the side
  const side = page.getByRole('region', { name: 'From the side' })
  const launched = await exactly(page, 'Launch').inputValue()
  await side.scrollIntoViewIfNeeded()
  const handle = (await side.locator('circle').first().boundingBox())!
  await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2)
  await page.mouse.down()
  await page.mouse.move(handle.x + handle.width / 2, handle.y - 12, { steps: 4 })
  await page.mouse.up()
  await expect.poll(() => exactly(page, 'Launch').inputValue()).not.toBe(launched)
  // the address holds all of it
  const address = () => decodeURIComponent(page.url().replaceAll('+', ' '))
  const launch = Number(await exactly(page, 'Launch').inputValue())
  await expect.poll(address).toContain(`"launchDeg":${launch}`)
  expect(address()).toContain('"hyzerDeg":14')
  const shown = await lands(page).textContent()
  await page.reload()
  await expect(lands(page)).toHaveText(shown!)
  expect(said).toEqual([])
})

test('a throw is found through a gap into a zone, its chance said, and taken; where nothing gets there that is said', async ({
  page,
}) => {
  await openLab(page)
  await takeDisc(page, 'HS-021')
  const field = onField(page)
  await put(page, 'Landing zone')
  await put(page, 'Gap')
  await expect(field.getByRole('listitem')).toHaveCount(3)
  await expect(lands(page)).toContainText(/Comes down where it should \d+ % of the time: gets through \d+ %/)
  const chance = async () => Number((await lands(page).textContent())!.match(/should (\d+) %/)![1])
  // as it is thrown wrong first
  await exactly(page, 'Aim to fade side').fill('12')
  await expect.poll(chance).toBeLessThan(10)
  await page.getByRole('button', { name: 'Find the throw' }).click()
  await expect(found(page).getByRole('listitem')).toHaveCount(1)
  const promised = Number((await found(page).textContent())!.match(/(\d+) %/)![1])
  expect(promised).toBeGreaterThan(15)
  await found(page)
    .getByRole('button', { name: /^Take this throw/ })
    .click()
  await expect.poll(async () => Math.abs((await chance()) - promised)).toBeLessThanOrEqual(1)
  // any disc of the shelf, the best three
  await page.getByRole('button', { name: 'Any disc of the shelf' }).click()
  await expect(found(page)).toContainText('look again')
  await page.getByRole('button', { name: 'Find the throw' }).click()
  await expect(found(page).getByRole('listitem')).toHaveCount(3)
  // a wall of trees lets nothing through
  await put(page, 'Branches')
  const low = field.getByRole('listitem', { name: /^Branches/ })
  await low.getByRole('textbox', { name: 'from', exact: true }).fill('1')
  await low.getByRole('textbox', { name: 'to', exact: true }).fill('60')
  await low.getByRole('textbox', { name: 'height', exact: true }).fill('1')
  await page.getByRole('button', { name: 'Find the throw' }).click()
  await expect(found(page)).toContainText('No angle does it')
  // what comes nearest is told, with what takes it, and looked at
  await expect(found(page)).toContainText(
    /The nearest is HS-\d+.*% of the time; .* (takes|is missed by) \d+ %/,
  )
  await found(page).getByRole('button', { name: 'Look at it' }).click()
  await expect.poll(chance).toBeLessThan(10)
})

test('the angle at which it stands up, or finishes on the line, is said and taken', async ({ page }) => {
  await openLab(page)
  await takeDisc(page, 'HS-017')
  const field = page.getByRole('region', { name: 'The field', exact: true })
  await field.getByRole('button', { name: /^Throw it .*: finishes on the line$/ }).click()
  // of the throw as it is meant, to the degree that is shown
  await expect(lands(page)).toContainText(/ [012]\.\d m (left|right)\.|on the line/)
  await field.getByRole('button', { name: /^Throw it \d+° hyzer: stands up to flat$/ }).click()
  const angle = Number(await exactly(page, 'Release angle').inputValue())
  expect(angle).toBeGreaterThan(2)
  await expect(page.getByRole('region', { name: 'The throw', exact: true })).toContainText(`${angle}° hyzer`)
})

test('whoever throws is in where it lands and how likely, and in the link', async ({ page }) => {
  const said = complaints(page)
  await openLab(page)
  await takeDisc(page, 'HS-017')
  await put(page, 'Landing zone')
  await expect(lands(page)).toContainText('%')
  const by = page.getByLabel('Thrown by')
  const meant = await lands(page).textContent()
  await choose(by, /^Odile Fenn, backhand/)
  await expect(page.getByText(/^By \d+ throws Odile Fenn’s backhand comes out .* than meant/)).toBeVisible()
  await expect(lands(page)).not.toHaveText(meant!)
  await expect(page).toHaveURL(/Odile/)
  const hers = await lands(page).textContent()
  await page.reload()
  await expect(lands(page)).toHaveText(hers!)
  // the search is hers too, and what it finds is set without her in it twice
  await page.getByRole('region', { name: 'Find the throw' }).getByRole('button', { name: /^Find/ }).click()
  await expect(found(page)).toContainText('%')
  await choose(by, 0)
  await expect(page.getByText(/Odile Fenn’s backhand comes out/)).toHaveCount(0)
  expect(said).toEqual([])
})

test('two throws are compared: it is the wind, not the plastic', async ({ page }) => {
  await openLab(page)
  await takeDisc(page, 'HS-017')
  const compared = page.getByRole('region', { name: 'What changed' })
  await compared.getByRole('button', { name: 'Keep this throw to compare' }).click()
  await expect(compared).toContainText('Nothing has changed yet')
  await exactly(page, 'Wind to the right').fill('6')
  await expect(compared).toContainText(/The wind moves it: finishes \d+\.\d m right/)
  await exactly(page, 'Nose up').fill('1')
  await expect(compared).toContainText(/It is mostly the wind, not the nose/)
  const figures = (await compared.getByRole('row').allTextContents()).slice(1)
  const asideOf = (row: string) => {
    const shown = row.match(/(\d+\.\d) m (left|right)/)
    return shown ? (shown[2] === 'left' ? 1 : -1) * Number(shown[1]) : 0
  }
  const parts = figures.slice(0, -1).map(asideOf)
  expect(parts).toHaveLength(2)
  // all of them together are the whole
  expect(Math.abs(parts.reduce((a, b) => a + b, 0) - asideOf(figures.at(-1)!))).toBeLessThanOrEqual(0.2)
  await compared.getByRole('button', { name: 'Compare no more' }).click()
  await expect(compared.getByRole('button', { name: 'Keep this throw to compare' })).toBeVisible()
})

test('arm, aim, spin and air are pulled on their pictures, by mouse and by keys', async ({ page }) => {
  await openLab(page)
  const far = await outM(page)
  // the arrow is pulled back: less power, aimed right of the line, which is the turn side of what fades left
  const arm = pictured(page, /^Power and aim/)
  const box = (await arm.boundingBox())!
  // in its own units: 108 wide, 84 high, the tee 38 below its middle
  const at = (right: number, up: number): [number, number] => [
    box.x + box.width * (0.5 + right / 108),
    box.y + box.height * (0.5 - up / 84),
  ]
  const full = 1.75 * Number(await exactly(page, 'Arm, full speed').inputValue())
  await page.mouse.move(...at(0, full - 38))
  await page.mouse.down()
  await page.mouse.move(...at(8, 0.6 * full - 38), { steps: 4 })
  await page.mouse.up()
  await expect.poll(async () => Number(await exactly(page, 'Power').inputValue())).toBeLessThan(75)
  expect(Number(await exactly(page, 'Power').inputValue())).toBeGreaterThan(50)
  expect(Number(await exactly(page, 'Aim to fade side').inputValue())).toBeLessThan(-5)
  await expect.poll(() => outM(page)).toBeLessThan(far - 20)
  await arm.press('ArrowUp')
  await arm.press('ArrowLeft')
  // its end is the arm
  const grip = (56 * Math.PI) / 180
  const end = (r: number) => at(r * Math.sin(grip), r * Math.cos(grip) - 38)
  await page.mouse.move(...end(full))
  await page.mouse.down()
  await page.mouse.move(...end(full * 1.15), { steps: 4 })
  await page.mouse.up()
  const faster = Number(await exactly(page, 'Arm, full speed').inputValue())
  expect(faster).toBeGreaterThan((1.08 * full) / 1.75)
  await arm.press('PageDown')
  await expect
    .poll(async () => Number(await exactly(page, 'Arm, full speed').inputValue()))
    .toBeLessThan(faster)
  // a quarter of a turn is half the spin that goes with the speed: no less is asked
  const spin = page.getByRole('slider', { name: 'Spin', exact: true })
  const disc = (await spin.boundingBox())!
  await page.mouse.click(disc.x + 0.9 * disc.width, disc.y + 0.5 * disc.height)
  await expect(spin).toHaveAttribute('aria-valuetext', '50 % spin')
  await spin.press('ArrowUp')
  await expect(exactly(page, 'Spin')).toHaveValue('51')
  // warm and high is thin
  const air = pictured(page, /^Air: usual air/)
  const pad = (await air.boundingBox())!
  const before = await lands(page).textContent()
  await page.mouse.click(pad.x + 0.8 * pad.width, pad.y + 0.3 * pad.height)
  await expect(pictured(page, /^Air: \d\d % thinner/)).toBeVisible()
  expect(Number(await exactly(page, 'Above the sea').inputValue())).toBeGreaterThan(1500)
  await expect(lands(page)).not.toHaveText(before!)
  const warm = Number(await exactly(page, 'Air').inputValue())
  await pictured(page, /^Air/).press('ArrowLeft')
  await expect(exactly(page, 'Air')).toHaveValue(String(warm - 1))
})

test('discs beside each other scatter each on its own, the likelier is named, and any of them is thrown', async ({
  page,
}) => {
  await openLab(page)
  await takeDisc(page, 'HS-017')
  await put(page, 'Landing zone')
  await expect(onField(page).getByRole('listitem')).toHaveCount(1)
  await expect(lands(page)).toContainText(/should \d\d % of the time/)
  const alone = Number((await lands(page).textContent())!.match(/should (\d+) %/)![1])
  await takeDisc(page, 'HS-021')
  const beside = page.getByRole('table', { name: 'Beside each other' })
  const row = (code: string) => beside.getByRole('row', { name: new RegExp(code) })
  await expect(row('HS-017')).toContainText(`${alone} %`)
  await expect(row('HS-021')).toContainText(/\d+ %/)
  const field = page.getByRole('region', { name: 'The field', exact: true })
  await expect(field).toContainText(/Most likely with HS-017 .*: \d+ %, before HS-021/)
  // the zone is where the first lands: the other does it less often, and says as much once it is thrown
  const other = Number((await row('HS-021').textContent())!.match(/(\d+) %/)![1])
  expect(other).toBeLessThan(alone)
  await beside.getByRole('button', { name: /^Throw HS-021/ }).click()
  await expect(lands(page)).toContainText(/^HS-021 .* lands /)
  await expect
    .poll(async () => Number((await lands(page).textContent())!.match(/should (\d+) %/)?.[1]))
    .toBe(other)
  // what is kept stands beside, with its own chance
  await page.getByRole('button', { name: 'Keep this throw to compare' }).click()
  await exactly(page, 'Tailwind').fill('-4')
  const kept = beside.getByRole('row', { name: /^Kept: HS-021/ })
  await expect(kept).toContainText(`${other} %`)
  const changed = page.getByRole('region', { name: 'What changed' })
  await expect(changed.getByRole('row', { name: /^The wind no wind 4.0 m\/s head/ })).toBeVisible()
  const now = await lands(page).textContent()
  await changed.getByRole('button', { name: 'Change places' }).click()
  await expect(lands(page)).not.toHaveText(now!)
  await expect(changed.getByRole('row', { name: /^The wind 4.0 m\/s head no wind/ })).toBeVisible()
})

test('a target is hit by fewer throws than a zone about it, and the throw that hits it most often is found', async ({
  page,
}) => {
  await openLab(page)
  await takeDisc(page, 'HS-017')
  const chance = async () => Number((await lands(page).textContent())!.match(/should (\d+) %/)?.[1])
  await put(page, 'Target')
  await expect.poll(chance).toBeGreaterThan(0)
  const [narrow, target] = [await chance(), onField(page).getByRole('listitem', { name: /^Target at/ })]
  await page.getByRole('button', { name: 'Find the throw' }).click()
  await expect(found(page).getByRole('listitem')).toHaveCount(1)
  expect(Number((await found(page).textContent())!.match(/(\d+) %/)![1])).toBeGreaterThanOrEqual(narrow - 1)
  await target.getByRole('textbox', { name: 'radius', exact: true }).fill('9')
  await expect(onField(page).getByRole('listitem', { name: /^Landing zone at/ })).toBeVisible()
  await expect.poll(chance).toBeGreaterThan(narrow + 5)
})

test('what is written beyond the field is brought back onto it, and its link is read again', async ({
  page,
}) => {
  await openLab(page)
  await put(page, 'Tree')
  const tree = onField(page).getByRole('listitem', { name: /^Tree/ })
  await tree.getByRole('textbox', { name: 'out', exact: true }).fill('900')
  await expect(onField(page).getByRole('listitem', { name: 'Tree at 200 m' })).toBeVisible()
  await expect.poll(() => decodeURIComponent(page.url())).toContain('"downM":200')
  await page.reload()
  await expect(onField(page).getByRole('listitem', { name: 'Tree at 200 m' })).toBeVisible()
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('a throw goes to the field as the next one of a trial that has its disc', async ({ page }) => {
  await openLab(page)
  await takeDisc(page, 'HS-011')
  await exactly(page, 'Release angle').fill('17')
  await exactly(page, 'Power').fill('85')
  await exactly(page, 'Aim to fade side').fill('-4.3')
  await page.getByRole('button', { name: 'Throw it in the field' }).click()
  await page.getByRole('menuitem', { name: 'Next throw of Which fairway for the lake wind' }).click()
  const next = page.getByRole('region', { name: 'Next throw' })
  await expect(next).toContainText('17° hyzer')
  await expect(next).toContainText('85 %')
  // a right-hander’s backhand fades left: away from the fade side is right
  await expect(next).toContainText('aimed 4.3° right')
  await expect(page).not.toHaveURL(/meant/)
  // kept, the throw has its aim; the next one has none
  await page.getByRole('button', { name: 'The range is clear' }).click()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  const put = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.request().method() === 'PUT')
  await page.keyboard.press('Enter')
  expect(await (await put).json()).toMatchObject({ aimDeg: 4.3, hyzerDeg: 17, power: 0.85 })
  await expect(
    page.getByRole('region', { name: 'Thrown so far' }).getByRole('listitem').first(),
  ).toContainText('17° hyzer, aimed 4.3° right')
  await expect(next).not.toContainText('aimed')
})

test('by keys alone and without a network a throw is turned, moved, played, and found', async ({
  page,
  context,
}) => {
  await openLab(page)
  await put(page, 'Landing zone')
  await page.getByRole('button', { name: 'Find the throw' }).click()
  await expect(found(page).getByRole('listitem')).toHaveCount(1)
  await context.setOffline(true)
  await page.getByRole('slider', { name: 'Release angle', exact: true }).first().focus()
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('region', { name: 'The throw', exact: true })).toContainText('6° hyzer')
  await strip(page).focus()
  const far = await outM(page)
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft')
  await expect.poll(() => outM(page)).toBeLessThan(far - 4)
  await expect.poll(() => outM(page)).toBeGreaterThan(far - 6)
  await page.keyboard.press('f')
  await expect(found(page)).not.toContainText('look again')
  // played, stopped, stepped
  const at = page.getByLabel('Seconds since the release')
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await page.keyboard.press('Space')
  const stopped = Number(await at.inputValue())
  await page.keyboard.press('.')
  await expect.poll(async () => Number(await at.inputValue())).toBeCloseTo(stopped + 0.1, 1)
  await page.keyboard.press(',')
  await expect.poll(async () => Number(await at.inputValue())).toBeCloseTo(stopped, 1)
  // a button that has the focus is pressed by its key
  await page.getByRole('button', { name: 'Tree', exact: true }).press('Space')
  await expect(onField(page).getByRole('listitem')).toHaveCount(2)
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()
})

test('a link that holds no setup says so, and a disc that rolls is said to roll', async ({ page }) => {
  await page.goto('/lab?setup=cut')
  await expect(page.getByRole('alert')).toContainText('holds no setup')
  await expect(lands(page)).toContainText('Lands')
  await exactly(page, 'Release angle').fill('-45')
  await exactly(page, 'Launch').fill('25')
  await expect(page.getByRole('region', { name: 'The field', exact: true })).toContainText(
    /It lands at \d\d° and .*rolls/,
  )
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  test('the lab is no wider than the phone, and a throw is turned and landed by touch', async ({ page }) => {
    await page.goto('/lab')
    await expect(lands(page)).toContainText('Lands')
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
    const before = await lands(page).textContent()
    const edge = page.getByRole('slider', { name: 'Release angle', exact: true }).first()
    await edge.scrollIntoViewIfNeeded()
    const dial = (await page
      .getByRole('slider', { name: 'Release angle', exact: true })
      .first()
      .boundingBox())!
    await page.touchscreen.tap(dial.x + 0.1 * dial.width, dial.y + 0.95 * dial.height)
    await expect(lands(page)).not.toHaveText(before!)
    await strip(page).scrollIntoViewIfNeeded()
    const field = (await strip(page).boundingBox())!
    await page.touchscreen.tap(field.x + 0.4 * field.width, field.y + 0.5 * field.height)
    await expect.poll(() => outM(page)).toBeLessThan(60)

    // a finger that swipes over the field scrolls and throws nothing elsewhere; the landing itself is dragged
    const touch = await page.context().newCDPSession(page)
    const drag = async (x: number, y: number, byX: number) => {
      await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] })
      for (let i = 1; i <= 6; i++)
        await touch.send('Input.dispatchTouchEvent', {
          type: 'touchMove',
          touchPoints: [{ x: x + (i / 6) * byX, y }],
        })
      await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
    }
    const landed = await outM(page)
    await drag(field.x + 0.9 * field.width, field.y + 0.9 * field.height, -60)
    expect(await outM(page)).toBe(landed)
    const end = await strip(page).evaluate((svg) => {
      const flown = [...svg.querySelectorAll('path')].find((p) => p.getAttribute('stroke-width') === '3.5')!
      const { x, y } = flown.getPointAtLength(flown.getTotalLength()).matrixTransform(flown.getScreenCTM()!)
      return { x, y }
    })
    await drag(end.x, end.y, 60)
    await expect.poll(() => outM(page)).toBeGreaterThan(landed + 8)
  })
})
