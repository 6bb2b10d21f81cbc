import type { Page } from '@playwright/test'
import type { Member, Pass } from '../../contract/crew.ts'
import type { Throw, Thrower, TrialFile } from '../../contract/trials.ts'
import { v7 as newId } from 'uuid'
import { expect, openHalfDone, startFromShelf, test, throwNumber } from './bench.ts'
import { controlPortOf, sharedHostOf, sharedPortsOf } from './ports.ts'

/** Lets phones in at the machine itself. */
const letIn = async (page: Page, worker: number): Promise<string> => {
  expect((await page.request.put('/api/sharing', { data: { on: true } })).ok()).toBe(true)
  return `https://${sharedHostOf(worker)}:${sharedPortsOf(worker).httpsPort}`
}
const landAndKeep = async (page: Page) => {
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
}

test('two devices on one outing see each other’s throws and are not told to make the same one', async ({
  page,
  browser,
  baseURL,
}) => {
  const tablet = await (
    await browser.newContext({ baseURL: baseURL!, viewport: { width: 1280, height: 800 } })
  ).newPage()
  await openHalfDone(page, 'Throw on')
  await openHalfDone(tablet, 'Throw on')
  const before = await throwNumber(page)
  // without how many there were, of all and of this disc
  const next = async (p: Page) =>
    (await p.getByRole('region', { name: 'Next throw' }).textContent())!
      .replace(/Throw \d+ of \d+/, '')
      .replace(/\d+ of \d+, (out|back)/, '')
  expect(await next(tablet)).toBe(await next(page))

  // a throw of one is on the other without anybody reading it again
  await landAndKeep(page)
  await expect(page.getByText(`Throw ${before + 1} of 48`)).toBeVisible()
  await expect(tablet.getByText(`Throw ${before + 1} of 48`)).toBeVisible()

  // what one holds the other is not given
  await expect.poll(async () => (await next(tablet)) === (await next(page))).toBe(false)
  const held = await next(page)
  await landAndKeep(tablet)
  await expect(page.getByText(`Throw ${before + 2} of 48`)).toBeVisible()
  expect(await next(page)).toBe(held)
  await tablet.context().close()
})

test('what two devices threw twice is shown to both, and one is left out', async ({
  page,
  browser,
}, info) => {
  const at = await letIn(page, info.parallelIndex)
  try {
    await startFromShelf(page, 'arms', 'Twice', ['HS-011', 'HS-012'])
    await page.getByRole('link', { name: 'Field' }).click()
    await page.getByRole('button', { name: 'The range is clear' }).click()
    const stored = page.waitForResponse((r) => r.url().includes('/api/throws/') && r.ok())
    await landAndKeep(page)
    const kept = (await (await stored).json()) as Throw

    // a phone that knew of nothing of it made the same throw, once too often for the plan
    const phone = await browser.newContext({
      baseURL: at,
      ignoreHTTPSErrors: true,
      viewport: { width: 1280, height: 800 },
    })
    const pass = (await (await page.request.post('/api/pairings', { data: {} })).json()) as Pass
    await phone.request.post('/api/pair', { data: { code: pass.secret, device: 'Ida’s phone' } })
    const { trial } = (await (await phone.request.get(`/api/trials/${kept.trialId}`)).json()) as TrialFile
    const alike = trial.plan!.throws.filter(
      (t) =>
        t.discId === kept.discId &&
        t.hyzerDeg === kept.hyzerDeg &&
        t.stroke === kept.stroke &&
        (t.power ?? trial.plan!.power) === kept.power,
    )
    expect(alike.length).toBeGreaterThan(0)
    for (const _ of alike) {
      const id = newId()
      const row = { ...kept, id, version: 0, thrownAt: new Date().toISOString() }
      expect((await phone.request.put(`/api/throws/${id}`, { data: row })).ok()).toBe(true)
    }
    const theirs = await phone.newPage()
    await theirs.goto(new URL(page.url()).pathname)
    for (const screen of [page, theirs]) {
      const notice = screen.getByRole('status').filter({ hasText: 'was thrown twice' })
      await expect(notice).toContainText(/by Owner and by Owner, Ida’s phone/)
    }
    await page.getByRole('button', { name: 'Leave the second out' }).click()
    for (const screen of [page, theirs]) await expect(screen.getByText('was thrown twice')).toBeHidden()
    await phone.close()
  } finally {
    await page.request.put('/api/sharing', { data: { on: false } })
  }
})

test('a helper is invited, logs, and is told what is not theirs to do', async ({ page, browser }, info) => {
  const at = await letIn(page, info.parallelIndex)
  try {
    await page.goto('/settings/crew')
    await page.getByRole('button', { name: 'Invite somebody' }).click()
    await page.getByRole('radio', { name: 'scribe' }).click()
    await page.getByRole('button', { name: 'Make a link' }).click()
    const link = (await page
      .getByRole('dialog')
      .getByText(/\/join#/)
      .textContent())!
    expect(link.startsWith(at)).toBe(true)

    // certificates are another test’s matter
    const context = await browser.newContext({
      baseURL: at,
      ignoreHTTPSErrors: true,
      viewport: { width: 1280, height: 800 },
    })
    const theirs = await context.newPage()
    await theirs.goto(link)
    await theirs.getByLabel('Your name').fill('Orla')
    await theirs.getByLabel('Passphrase').fill('nine herons at the weir')
    await theirs.getByLabel('What to call this device').fill('Orla’s tablet')
    await theirs.getByRole('button', { name: 'Join' }).click()
    await expect(theirs.getByRole('navigation', { name: 'Shed' })).toBeVisible()
    await openHalfDone(theirs, 'Throw on')
    const before = await throwNumber(theirs)
    await landAndKeep(theirs)
    await expect(theirs.getByText(`Throw ${before + 1} of 48`)).toBeVisible()

    // a disc is not a scribe's to change: it is said, and nothing of it waits
    await theirs.goto('/shelf')
    await theirs.getByRole('link', { name: /HS-0/ }).first().click()
    await theirs.getByRole('button', { name: 'Edit' }).first().click()
    await theirs.getByRole('button', { name: /^Keep/ }).click()
    await expect(theirs.getByText(/You are a scribe here/).first()).toBeVisible()

    // nor is a thrower somebody else put down: the change waits where the thrower is, and an owner takes it over
    const throwers = (await (await page.request.get('/api/throwers')).json()) as Thrower[]
    const thrower = throwers.find((t) => t.backhandMps !== null)!
    const offered = { ...thrower, backhandMps: 30.5 }
    expect((await theirs.request.put(`/api/throwers/${thrower.id}`, { data: offered })).status()).toBe(409)
    await page.goto('/settings')
    const beside = page
      .getByRole('region', { name: 'Throwers' })
      .getByRole('region', { name: 'Changes to take over' })
    await expect(beside).toContainText(/full backhand speed: .* m\/s 30.5 m\/s/)
    await expect(beside).toContainText(`The thrower ${thrower.name}`)
    await beside.getByRole('button', { name: /^Take over/ }).click()
    await expect(beside).toHaveCount(0)
    const taken = (await (await page.request.get('/api/throwers')).json()) as Thrower[]
    expect(taken.find((t) => t.id === thrower.id)!.backhandMps).toBe(30.5)

    // who logged it is shown where the throw is
    await page.keyboard.press('Escape')
    await openHalfDone(page, 'Read it')
    await page.getByRole('link', { name: 'Throws', exact: true }).click()
    await page.getByRole('button', { name: `History of throw ${before}`, exact: true }).click()
    await expect(page.getByRole('dialog')).toContainText('Orla, Orla’s tablet')

    // removed, she comes in no more
    const people = (await (await page.request.get('/api/people')).json()) as Member[]
    expect(people.find((p) => p.name === 'Orla')!.role).toBe('scribe')
    await page.goto('/settings/crew')
    await page.getByRole('button', { name: 'Remove Orla' }).click()
    await theirs.goto('/')
    await expect(theirs.getByRole('heading', { name: 'Come in' })).toBeVisible()
    // and a passphrase does not help her
    await theirs.getByRole('radio', { name: 'With a passphrase' }).click()
    await theirs.getByLabel('Your name').fill('Orla')
    await theirs.getByLabel('Passphrase').fill('nine herons at the weir')
    await theirs.getByRole('button', { name: 'Sign in' }).click()
    await expect(theirs.getByRole('alert')).toContainText('Nobody here has that name and passphrase')
    await context.close()
  } finally {
    await page.request.put('/api/sharing', { data: { on: false } })
  }
})

test('once others were let in, a browser at the machine itself opens the address that start printed', async ({
  page,
  browser,
  baseURL,
  request,
}, info) => {
  await letIn(page, info.parallelIndex)
  try {
    // the one that let them in goes on
    await page.goto('/')
    await expect(page.getByRole('link', { name: 'Bench' })).toBeVisible()
    const other = await (await browser.newContext({ baseURL: baseURL! })).newPage()
    await other.goto('/shelf')
    await expect(other.getByRole('heading', { name: 'Open the address that start printed' })).toBeVisible()
    const printed = await (await request.get(`http://127.0.0.1:${controlPortOf(info.parallelIndex)}`)).text()
    await other.goto('/at-machine#guessed')
    await expect(other.getByText('That is not the address of this machine')).toBeVisible()
    await other.goto('/')
    await other.goto(printed)
    await expect(other.getByRole('link', { name: 'Bench' })).toBeVisible()
    expect(new URL(other.url()).hash).toBe('')
    await other.reload()
    await expect(other.getByRole('link', { name: 'Bench' })).toBeVisible()
    await other.context().close()
  } finally {
    await page.request.put('/api/sharing', { data: { on: false } })
  }
})

test('a passphrase lets its owner in on another device', async ({ page, browser }, info) => {
  const at = await letIn(page, info.parallelIndex)
  try {
    await page.goto('/settings/crew')
    await page.getByLabel('Your name').fill('Ida')
    await page.getByLabel(/^A passphrase/).fill('reeds by the old weir')
    await page.getByRole('region', { name: 'You' }).getByRole('button', { name: 'Keep' }).click()
    await expect(page.getByRole('region', { name: 'People' })).toContainText('Ida (you)')
    const context = await browser.newContext({ baseURL: at, ignoreHTTPSErrors: true })
    const theirs = await context.newPage()
    await theirs.goto('/')
    await theirs.getByRole('radio', { name: 'With a passphrase' }).click()
    await theirs.getByLabel('Your name').fill('ida')
    await theirs.getByLabel('Passphrase').fill('reeds by the old weir')
    await theirs.getByRole('button', { name: 'Sign in' }).click()
    await expect(theirs.getByRole('region', { name: 'Tarnwick in four plastics' })).toBeVisible()
    await theirs.goto('/settings/crew')
    await theirs.getByRole('button', { name: 'Sign this device out' }).click()
    await expect(theirs.getByRole('heading', { name: 'Come in' })).toBeVisible()
    const pass = (await (await page.request.post('/api/pairings', { data: {} })).json()) as Pass
    expect(pass.secret).toMatch(/^[A-Z0-9]{4}-[A-Z0-9]{4}$/)
    await context.close()
  } finally {
    await page.request.put('/api/sharing', { data: { on: false } })
  }
})
