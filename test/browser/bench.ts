import { expect, test as base } from '@playwright/test'
import { questionOf } from '../../core/plan/questions.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import { controlPortOf, portOf } from './ports.ts'
import type { Locator, Page } from '@playwright/test'

/** A test that begins with the demo just as it is loaded, whatever other tests did. */
export const test = base.extend<{ demo: void }>({
  // each worker talks to a server of its own
  baseURL: async ({ browserName: _ }, use, { parallelIndex }) =>
    await use(`http://127.0.0.1:${portOf(parallelIndex)}`),
  demo: [
    async ({ request }, use, { parallelIndex }) => {
      const said = await request.post(`http://127.0.0.1:${controlPortOf(parallelIndex)}`)
      expect(said.ok(), await said.text()).toBe(true)
      await use()
    },
    { auto: true },
  ],
})
export { expect }

/** Fails a test on anything the page complains about. */
export function complaints(page: Page): string[] {
  const list: string[] = []
  page.on('pageerror', (e) => list.push(e.message))
  page.on('console', (m) => {
    // an answer the test provokes is not a complaint of the page
    if (m.type() === 'error' && !m.text().includes('Failed to load resource')) list.push(m.text())
  })
  return list
}

/** Something that is long in coming: it waits until it is let go. */
export function longInComing(): { readonly wait: Promise<void>; readonly letGo: () => void } {
  let letGo = () => {}
  const wait = new Promise<void>((done) => (letGo = done))
  return { wait, letGo: () => letGo() }
}

const FAIRWAYS = 'Which fairway for the lake wind'

/** Opens the half-done trial of the demo at a station, from the bench, as a person does. */
export async function openHalfDone(page: Page, station: 'Throw on' | 'Read it'): Promise<void> {
  await page.goto('/')
  const card = page.getByRole('region', { name: FAIRWAYS })
  // what it says so far has come; nothing moves any more
  await expect(card.getByTestId('sentences')).toBeVisible()
  await card.getByRole('link', { name: station }).click()
  if (station === 'Throw on') {
    await expect(page.getByRole('region', { name: 'What the throws say now' })).toContainText(
      /Harrogill .* Tarnwick/,
    )
    const caution = page.getByRole('button', { name: 'The range is clear' })
    if (await caution.isVisible()) await caution.click()
  }
}

/** Opens a view of the readout that is open. */
export const readView = (page: Page, view: string): Promise<void> =>
  page
    .getByRole('navigation', { name: 'Views of the readout' })
    .getByRole('link', { name: view, exact: true })
    .click()

/** The number of the throw about to be made. */
export async function throwNumber(page: Page): Promise<number> {
  const heading = await page
    .getByRole('region', { name: 'Next throw' })
    .getByText(/^Throw \d+/)
    .textContent()
  return Number(heading!.match(/\d+/)![0])
}

/** Waits until nothing waits on the device any more: what was acknowledged has been taken off and shown. */
export async function queueEmpty(page: Page): Promise<void> {
  const waiting = () =>
    page.evaluate(
      () =>
        new Promise<number>((done, fail) => {
          const open = indexedDB.open('veer-line')
          open.onerror = () => fail(open.error as Error)
          open.onsuccess = () => {
            const count = open.result.transaction('waiting').objectStore('waiting').count()
            count.onerror = () => fail(count.error as Error)
            count.onsuccess = () => {
              open.result.close()
              done(count.result)
            }
          }
        }),
    )
  await expect.poll(waiting).toBe(0)
}

/** Chooses one of many, by what it says in full, by part of it, or by its place in the list. */
export async function choose(select: Locator, option: string | RegExp | number): Promise<void> {
  await select.click()
  const page = select.page()
  await (
    typeof option === 'number'
      ? page.getByRole('option').nth(option)
      : page.getByRole('option', { name: option, exact: true })
  ).click()
  await expect(page.getByRole('listbox')).toHaveCount(0)
}

/** A trial of its own, started from the shelf with the keyboard; it has reached the server. */
export async function startFromShelf(
  page: Page,
  kind: QuestionKind,
  name: string,
  codes: readonly string[],
): Promise<void> {
  await page.goto('/shelf?sort=code')
  for (const code of codes) {
    await page.getByLabel(`Choose ${code}`).focus()
    await page.keyboard.press('Space')
  }
  await page
    .getByRole('region', { name: 'Chosen discs' })
    .getByRole('button', { name: 'Start a trial' })
    .focus()
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('list', { name: 'Chosen' }).getByRole('listitem')).toHaveCount(codes.length)
  await choose(dialog.getByLabel('What do you want to know?'), questionOf(kind).words)
  await dialog.getByLabel('Name').fill(name)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: questionOf(kind).words })).toBeVisible()
  // what is sent from here on is what the test does next
  await queueEmpty(page)
}
