import { median, randomLcg, randomNormal } from 'd3'
import type { Locator, Page } from '@playwright/test'
import type { TrialFile, TrialSummary } from '../../contract/trials.ts'
import { choose, expect, openHalfDone, test, throwNumber } from './bench.ts'

/** A hand that counts. What is typed where the focus is already, or one Tab farther, is no tap. */
class Hand {
  #taps = 0
  async tap(on: Locator, position?: { x: number; y: number }): Promise<void> {
    this.#taps++
    await on.click({ ...(position && { position }) })
  }
  async type(into: Locator, words: string): Promise<void> {
    await into.fill(words)
  }
  /** Chooses from a list: the list, and what is in it. */
  async choose(from: Locator, option: string | RegExp): Promise<void> {
    this.#taps += 2
    await choose(from, option)
  }
  /** Ends a walk: says what it took, and that it took no more than so many. */
  took(what: string, most: number): void {
    console.log(`  ${what}: ${this.#taps} of ${most} at most`)
    expect.soft(this.#taps, what).toBeLessThanOrEqual(most)
    this.#taps = 0
  }
}

const stored = (page: Page) =>
  page.waitForResponse((r) => r.url().includes('/api/throws/') && r.request().method() === 'PUT' && r.ok())
async function throwsOf(page: Page) {
  const all = (await (await page.request.get('/api/trials')).json()) as TrialSummary[]
  const { id } = all.find((t) => t.trial.name === 'Which fairway for the lake wind')!.trial
  const file = (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  return file.throws.filter((t) => t.takenBackAt === null)
}

/** Pixels a millimetre of a phone that is 390 px wide. */
const PX_PER_MM = 390 / 64.5
/** A thumb comes down so far from where it aims, drags to so near, and rolls so far as it is lifted: root mean square, mm. */
const THUMB_MM = { lands: 6, drags: 1, rolls: 2 }

/** A thumb whose every touch misses, each time the same from the same seed. */
function thumbOf(page: Page, seed: number) {
  const gauss = randomNormal.source(randomLcg(seed))(0, 1)
  const off = (mm: number) => (gauss() * mm * PX_PER_MM) / Math.SQRT2
  return {
    async taps(x: number, y: number) {
      await page.touchscreen.tap(x + off(THUMB_MM.lands), y + off(THUMB_MM.lands))
    },
    /** Takes hold near a spot and drags by so much. */
    async drags(x: number, y: number, by: { x: number; y: number }) {
      const finger = await page.context().newCDPSession(page)
      const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', at?: { x: number; y: number }) =>
        finger.send('Input.dispatchTouchEvent', { type, touchPoints: at ? [at] : [] })
      const from = { x: x + off(THUMB_MM.lands), y: y + off(THUMB_MM.lands) }
      const to = { x: from.x + by.x + off(THUMB_MM.drags), y: from.y + by.y + off(THUMB_MM.drags) }
      await touch('touchStart', from)
      for (let i = 1; i <= 6; i++)
        await touch('touchMove', {
          x: from.x + ((to.x - from.x) * i) / 6,
          y: from.y + ((to.y - from.y) * i) / 6,
        })
      // it rests, looks, and lets go
      await page.waitForTimeout(150)
      await touch('touchMove', { x: to.x + off(THUMB_MM.rolls), y: to.y + off(THUMB_MM.rolls) })
      await touch('touchEnd')
      await finger.detach()
    },
  }
}

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

  test('a field is walked in few taps', async ({ page }) => {
    await openHalfDone(page, 'Throw on')
    const hand = new Hand()
    const map = page.getByRole('application')
    const keep = page.getByRole('button', { name: 'Keep throw' })
    const next = page.getByRole('region', { name: 'Next throw' })
    const list = page.getByRole('region', { name: 'Thrown so far' })
    const before = await throwNumber(page)

    let put = stored(page)
    await hand.tap(map, { x: 250, y: 100 })
    await hand.tap(keep)
    expect((await (await put).json()).carryM).toBeGreaterThan(50)
    hand.took('a throw with its landing', 2)

    put = stored(page)
    await hand.tap(map, { x: 240, y: 150 })
    await hand.tap(page.getByRole('button', { name: 'More hyzer' }))
    await hand.tap(page.getByRole('button', { name: 'hit a branch' }))
    await hand.tap(keep)
    expect(await (await put).json()).toMatchObject({ counts: false, whyNot: 'hit a branch' })
    hand.took('a throw with its angle and a branch', 4)

    const name = await next.getByRole('heading', { level: 1 }).textContent()
    await hand.choose(
      next.getByLabel('Disc in the hand'),
      name!.startsWith('Harrogill') ? /HS-017/ : /HS-026/,
    )
    await expect(next.getByRole('heading', { level: 1 })).not.toHaveText(name!)
    hand.took('another disc in the hand', 2)

    const last = list.getByRole('listitem').first()
    const was = (await throwsOf(page)).at(-1)!
    put = stored(page)
    const said = await last.textContent()
    await hand.choose(last.getByLabel(/^Disc of throw/), said!.includes('Harrogill') ? /HS-017/ : /HS-026/)
    expect((await (await put).json()).discId).not.toBe(was.discId)
    hand.took('a disc that was the wrong one, put right', 2)

    await hand.tap(list.getByRole('button', { name: `Take back throw ${before + 1}` }))
    await hand.tap(list.getByRole('button', { name: `Take back throw ${before}` }))
    await expect.poll(async () => (await throwsOf(page)).length).toBe(before - 1)
    hand.took('two throws back', 3)

    await hand.tap(page.getByRole('button', { name: 'Change the throw' }))
    await hand.choose(next.getByLabel('Thrower', { exact: true }), 'Add a thrower …')
    const dialog = page.getByRole('dialog')
    await expect(dialog.getByLabel('Name')).toBeFocused()
    await page.keyboard.type('Isa Merle')
    await page.keyboard.press('Enter')
    await expect(next.getByLabel('Thrower', { exact: true })).toContainText('Isa Merle')
    hand.took('a thrower who is new', 3)
  })

  test('a landing is put down to a metre with a thumb that misses by six millimetres', async ({ page }) => {
    await openHalfDone(page, 'Throw on')
    const map = (await page.getByRole('application').boundingBox())!
    const landed = page.getByTestId('landed')
    // down and to the right of the aim line, m
    const figures = async () => {
      const said = (await landed.textContent())!
      const [, down, side = '0', way] = said.match(/([\d.]+) m down(?:, ([\d.]+) m (left|right))?/)!
      return { x: Number(down), y: (way === 'left' ? -1 : 1) * Number(side) }
    }
    const clear = async () => {
      await page.reload()
      await page.getByRole('button', { name: 'Clear it' }).click()
      await expect(landed).toHaveText('Tap where it landed')
    }
    // the scale, from two taps that do not miss
    const put = async (px: number, py: number) => {
      await page.touchscreen.tap(map.x + px, map.y + py)
      await expect(landed).toHaveText(/m down/)
      return await figures()
    }
    const one = await put(120, 60)
    await clear()
    const two = await put(280, 220)
    await clear()
    const [perX, perY] = [(two.x - one.x) / 160, (two.y - one.y) / 160]
    const pixel = (at: { x: number; y: number }) => ({
      x: map.x + 120 + (at.x - one.x) / perX,
      y: map.y + 60 + (at.y - one.y) / perY,
    })
    const thumb = thumbOf(page, 0.39)
    const where = randomLcg(0.27)
    const off: { tap: number[]; drag: number[]; nudged: number[]; taps: number[] } = {
      ...{ tap: [], drag: [], nudged: [], taps: [] },
    }
    for (let i = 0; i < 40; i++) {
      const target = { x: 76 + 8 * where(), y: -9 + 18 * where() }
      const error = async () => {
        const at = await figures()
        return { x: target.x - at.x, y: target.y - at.y }
      }
      const far = async () => {
        const e = await error()
        return Math.hypot(e.x, e.y)
      }
      const aim = pixel(target)
      await thumb.taps(aim.x, aim.y)
      await expect(landed).toHaveText(/m down/)
      off.tap.push(await far())
      // held, the landing follows at three tenths of the way
      const from = pixel(await figures())
      const e = await error()
      await thumb.drags(from.x, from.y, { x: e.x / perX / 0.3, y: e.y / perY / 0.3 })
      off.drag.push(await far())
      const group = page.getByRole('group', { name: 'A little' })
      let taps = 0
      for (; taps < 20; taps++) {
        const { x, y } = await error()
        if (Math.max(Math.abs(x), Math.abs(y)) <= 0.5) break
        const word = Math.abs(x) > Math.abs(y) ? (x > 0 ? 'farther' : 'shorter') : y > 0 ? 'right' : 'left'
        const before = await landed.textContent()
        await group.getByRole('button', { name: `A little ${word}` }).tap()
        await expect(landed).not.toHaveText(before!)
      }
      off.nudged.push(await far())
      off.taps.push(taps)
      await clear()
    }
    const said = (list: readonly number[]) =>
      `${median(list)!.toFixed(1)} m (at most ${Math.max(...list).toFixed(1)})`
    console.log(`  40 landings at 76 to 84 m, the thumb off by ${THUMB_MM.lands} mm: median error
    one tap, nothing else         ${said(off.tap)}
    and dragged once              ${said(off.drag)}
    and moved by taps, ${median(off.taps)} of them  ${said(off.nudged)}`)
    expect.soft(median(off.drag)!).toBeLessThan(1)
    expect.soft(median(off.nudged)!).toBeLessThan(0.6)
  })
})

test('a shelf is begun and a trial started in few clicks', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('note').getByRole('button', { name: 'Start my own shelf' }).click()
  const hand = new Hand()
  const dialog = page.getByRole('dialog', { name: 'Add a disc' })
  await hand.tap(page.getByRole('link', { name: 'Add the first disc' }))
  const discs = [
    ['T-1', 'Tansel', 'Sorrel', 'Chalk', [9, 5, -1, 2]],
    ['T-2', 'Tansel', 'Sorrel', 'Basalt', null],
    ['T-3', 'Quenby', 'Wimble', 'Chalk', [9, 4, 0, 2.5]],
  ] as const
  for (const [code, maker, mold, plastic, numbers] of discs) {
    if (code !== 'T-1') {
      await hand.tap(page.getByRole('link', { name: 'Shelf', exact: true }))
      await hand.tap(page.getByRole('button', { name: 'Add a disc' }))
    }
    await expect(dialog.getByLabel('Code')).toBeFocused()
    await page.keyboard.type(code)
    for (const words of [maker, mold, plastic]) {
      await page.keyboard.press('Tab')
      await page.keyboard.type(words)
    }
    const published = dialog.getByRole('group', { name: `Published for ${mold}` })
    if (numbers) {
      // the run, the class
      for (let i = 0; i < 3; i++) await page.keyboard.press('Tab')
      await expect(published.getByLabel('speed')).toBeFocused()
      for (const n of numbers) {
        await page.keyboard.type(String(n))
        await page.keyboard.press('Tab')
      }
    } else await expect(published.getByLabel('turn')).toHaveValue('-1')
    await page.keyboard.press('Enter')
    await expect(dialog).toBeHidden()
  }
  await hand.tap(page.getByRole('link', { name: 'Bench', exact: true }))
  await hand.tap(page.getByRole('button', { name: 'Start a trial' }))
  const start = page.getByRole('dialog', { name: 'Start a trial' })
  for (const [code] of discs) {
    const box = start.getByRole('checkbox', { name: new RegExp(code) })
    if (!(await box.isChecked())) await hand.tap(box)
  }
  await hand.tap(start.getByRole('button', { name: 'Start and plan' }))
  await expect(page).toHaveURL(/\/plan/)
  hand.took('three discs and a trial', 25)
})
