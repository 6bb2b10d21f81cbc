import type { Page } from '@playwright/test'
import type { TrialFile, ThrowHistory, TrialSummary } from '../../contract/trials.ts'
import { expect, openHalfDone, test, throwNumber } from './bench.ts'
import { Phone } from './phone.ts'
import { rollingOut } from './rollingOut.ts'

/** Lets phones in at the machine itself, and opens a code. */
async function letIn(page: Page): Promise<{ trustUrl: string; pairUrl: string; code: string }> {
  await page.goto('/settings')
  await page.getByRole('link', { name: 'Phones and people' }).click()
  await page.getByRole('button', { name: 'Let phones in' }).click()
  await expect(page.getByRole('heading', { name: 'Phones on this network can come in' })).toBeVisible()
  await page.getByRole('button', { name: 'Show a code' }).click()
  const pair = page.getByRole('region', { name: 'Pair', exact: true })
  await expect(pair.getByText(/left$/)).toBeVisible()
  return {
    trustUrl: (await page
      .getByRole('region', { name: 'Trust' })
      .getByText(/^http:/)
      .textContent())!,
    pairUrl: (await pair.getByText(/^https:/).textContent())!,
    code: (await pair.getByText(/^[A-Z0-9]{4}-[A-Z0-9]{4}$/).textContent())!,
  }
}
/** Waits until the page would open without its server, whatever page it turns into meanwhile. */
const installed = (page: Page) =>
  page.waitForFunction(async () => {
    await navigator.serviceWorker.ready
    return navigator.serviceWorker.controller !== null
  })

test('a phone that trusts the machine alone is paired, installs the page, logs without a network, and comes home', async ({
  page,
}) => {
  const phone = new Phone()
  try {
    const { trustUrl, pairUrl, code } = await letIn(page)

    const at = new URL(pairUrl).origin
    // a phone that was not told does not trust the machine, and is shown how to
    let context = await phone.on(at)
    let screen = await context.newPage()
    await screen.goto(trustUrl)
    await expect(screen.getByRole('status')).toContainText('Not trusted yet')
    await expect(screen.getByRole('link', { name: 'Go on and pair' })).toBeHidden()
    await expect(screen.goto(pairUrl)).rejects.toThrow('ERR_CERT_AUTHORITY_INVALID')
    const certificate = await context.request.get(`${trustUrl}/veer-line.crt`)
    expect(certificate.headers()['content-type']).toBe('application/x-x509-ca-cert')
    const authority = await certificate.body()
    await phone.off()
    phone.trust(authority)

    // told, it goes on by itself
    context = await phone.on(at)
    screen = await context.newPage()
    await screen.goto(trustUrl)
    await expect(screen.getByRole('status')).toContainText('This phone trusts the machine')
    await screen.getByRole('link', { name: 'Go on and pair' }).click()
    await screen.getByLabel('Code').fill(code)
    await screen.getByLabel('What to call this device').fill('Ida’s phone')
    await screen.getByRole('button', { name: 'Pair this device' }).click()
    await expect(screen.getByRole('navigation', { name: 'Stations' })).toBeVisible()
    await expect(page.getByText('The device is in')).toBeVisible()
    await expect(page.getByRole('region', { name: 'Devices' })).toContainText('Ida’s phone')

    await installed(screen)
    await openHalfDone(screen, 'Throw on')
    const before = await throwNumber(screen)
    const id = screen.url().match(/trials\/([^/]+)/)![1]!
    const file = async () => (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
    const had = await file()

    // no network, and the phone is switched off and on again
    await context.setOffline(true)
    await screen.reload()
    await expect(screen.getByText(`Throw ${before} of 48`)).toBeAttached()
    const log = async (n: number) => {
      const box = (await screen.getByRole('application').boundingBox())!
      await screen.touchscreen.tap(box.x + 0.55 * box.width, box.y + 0.3 * box.height)
      await screen.getByRole('button', { name: 'Keep throw' }).tap()
      await expect(screen.getByText(`Throw ${before + n} of 48`)).toBeAttached()
    }
    await log(1)
    await expect(screen.getByRole('button', { name: /waiting/ })).toBeVisible()
    const address = screen.url()
    await phone.off()
    context = await phone.on(at)
    await context.setOffline(true)
    screen = await context.newPage()
    await screen.goto(address)
    await expect(screen.getByText(`Throw ${before + 1} of 48`)).toBeAttached()
    await log(2)
    expect((await file()).throws.length).toBe(had.throws.length)

    // home: everything is sent once, and it is known from which device
    await context.setOffline(false)
    await expect(screen.getByRole('button', { name: /waiting/ })).toBeHidden()
    await expect.poll(async () => (await file()).throws.length).toBe(had.throws.length + 2)
    const made = (await file()).throws.find((t) => !had.throws.some((h) => h.id === t.id))!
    const history = (await (await page.request.get(`/api/throws/${made.id}/history`)).json()) as ThrowHistory
    expect(history.map((h) => h.device)).toEqual(['Ida’s phone'])

    // its key is taken away: what it logs from then on stays on it until it comes in again
    await page.getByRole('button', { name: 'Sign Ida’s phone' }).click()
    await screen.reload()
    await expect(screen.getByRole('heading', { name: 'Come in' })).toBeVisible()
  } finally {
    await phone.throwAway()
    await page.request.put('/api/sharing', { data: { on: false } })
  }
})

test('a trial nobody opened on the phone is there without a network', async ({ page, browser, baseURL }) => {
  const context = await browser.newContext({ baseURL: baseURL!, serviceWorkers: 'allow' })
  const screen = await context.newPage()
  await screen.goto('/')
  await installed(screen)
  const list = (await (await page.request.get('/api/trials')).json()) as TrialSummary[]
  const open = list.filter((t) => t.trial.finishedAt === null)
  expect(open.length).toBeGreaterThan(1)
  // it is taken along by and by, behind whatever is looked at
  await expect
    .poll(() =>
      screen.evaluate(
        async (ids) => {
          const all = await Promise.all(ids.map((id) => caches.match(`/api/trials/${id}/known`)))
          return all.every((answer) => answer !== undefined)
        },
        open.map((t) => t.trial.id),
      ),
    )
    .toBe(true)
  await context.setOffline(true)
  for (const { trial } of open) {
    await screen.goto(`/trials/${trial.id}/field`)
    await expect(screen.getByRole('region', { name: 'Next throw' })).toBeVisible()
  }
  await context.close()
})

test('a page becomes the newer app that is here once nothing waits on it, and says so; until then all of it opens', async ({
  browser,
  baseURL,
}) => {
  const front = await rollingOut(baseURL!)
  const context = await browser.newContext({ baseURL: front.url, serviceWorkers: 'allow' })
  const build = () => screen.evaluate(() => document.documentElement.dataset['build'] ?? 'before')
  const screen = await context.newPage()
  try {
    await screen.goto('/')
    await installed(screen)
    expect(await build()).toBe('before')
    await openHalfDone(screen, 'Throw on')
    const before = await throwNumber(screen)
    front.away = true
    await screen.keyboard.press('ArrowRight')
    await expect(screen.getByLabel('Landed, down')).not.toHaveValue('')
    await screen.keyboard.press('Enter')
    await expect(screen.getByRole('button', { name: /waiting/ })).toBeVisible()
    front.build = 'next'
    await screen.evaluate(async () => (await navigator.serviceWorker.ready).update())
    await expect(screen.getByText(/This page becomes it once the \d waiting here/)).toBeVisible()
    // something waits: the page is still the one that it was, with the stations nobody has opened yet
    await screen.getByRole('link', { name: 'Lab' }).click()
    await expect(screen.getByRole('region', { name: 'The throw', exact: true })).toBeVisible()
    expect(await build()).toBe('before')

    front.away = false
    await expect(screen.getByText('This page becomes it when you go to another screen')).toBeVisible()
    await screen.getByRole('link', { name: 'Shelf' }).click()
    await expect(screen.getByText('The app was updated. Nothing you kept was lost.').first()).toBeVisible()
    expect(await build()).toBe('next')
    await openHalfDone(screen, 'Throw on')
    expect(await throwNumber(screen)).toBe(before + 1)
    // the newer one, too, opens without a server
    front.close()
    await screen.reload()
    await expect(screen.getByRole('region', { name: 'Next throw' })).toBeVisible()
    expect(await build()).toBe('next')
  } finally {
    await context.close()
    front.close()
  }
})
