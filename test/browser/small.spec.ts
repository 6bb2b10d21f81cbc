import type { Page } from '@playwright/test'
import { expect, test } from './bench.ts'
import { TOURS } from './tours.ts'

/** A phone upright and on its side, and the desk the tour goes on with, px. */
const PHONES = [
  { width: 390, height: 844 },
  { width: 844, height: 390 },
] as const
const DESK = { width: 1280, height: 800 }

/** What of a screen does not fit a phone: a page wider than it, what a thumb must hit and is small, writing over writing. */
const misfits = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const THUMB = 44
    const HIT =
      'button, a, select, summary, input:not([type=hidden]), textarea, [role=slider], [role=radio], [role=switch], [role=option]'
    const found: string[] = []
    const { scrollWidth } = document.documentElement
    if (scrollWidth > innerWidth) found.push(`the page is ${scrollWidth} px wide`)
    const named = (e: Element) =>
      (e.getAttribute('aria-label') ?? e.textContent?.trim() ?? '').slice(0, 40) ||
      `${e.tagName.toLowerCase()} ${e.getAttribute('type') ?? ''}`
    const isSeen = (e: Element) =>
      e.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true }) && !e.closest('[aria-hidden=true]')
    const boxOf = (e: Element) => {
      // a box is ticked by its words, too
      const own = e.getBoundingClientRect()
      const label = e instanceof HTMLInputElement ? e.closest('label')?.getBoundingClientRect() : undefined
      return label && label.height > own.height ? label : own
    }
    for (const e of document.querySelectorAll(HIT)) {
      if (!isSeen(e)) continue
      const { width, height } = boxOf(e)
      // what only readers of screens meet is not hit
      if (width <= 1 || height <= 1) continue
      if (width < THUMB - 0.5 || height < THUMB - 0.5)
        found.push(`“${named(e)}” is ${Math.round(width)} × ${Math.round(height)}`)
    }
    for (const svg of document.querySelectorAll('svg')) {
      if (!isSeen(svg)) continue
      const texts = [...svg.querySelectorAll('text')].filter((t) => t.textContent?.trim() && isSeen(t))
      const boxes = texts.map((t) => t.getBoundingClientRect())
      texts.forEach((t, i) =>
        texts.slice(i + 1).forEach((other, k) => {
          const [a, b] = [boxes[i]!, boxes[i + 1 + k]!]
          const [x, y] = [
            Math.min(a.right, b.right) - Math.max(a.left, b.left),
            Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top),
          ]
          if (x > 3 && y > 4) found.push(`“${t.textContent}” lies on “${other.textContent}”`)
        }),
      )
    }
    return found
  })

/** Until what is as wide as its box has been drawn anew: the page has kept its size for some frames. */
const settled = (page: Page) =>
  page.evaluate(async () => {
    const size = () => {
      const { scrollWidth, scrollHeight } = document.documentElement
      return `${scrollWidth} ${scrollHeight}`
    }
    for (let last = '', alike = 0; alike < 10;) {
      await new Promise(requestAnimationFrame)
      const now = size()
      alike = now === last ? alike + 1 : 0
      last = now
    }
  })

for (const [tour, walk] of Object.entries(TOURS))
  test(`every station of the ${tour} fits a phone, upright and on its side`, async ({ page }) => {
    const wrong: string[] = []
    await page.goto('/settings')
    await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible()
    await walk(page, async (what) => {
      for (const size of PHONES) {
        await page.setViewportSize(size)
        await settled(page)
        for (const said of await misfits(page)) wrong.push(`${what}, ${size.width} × ${size.height}: ${said}`)
      }
      await page.setViewportSize(DESK)
    })
    expect(wrong).toEqual([])
  })
