import type { Page } from '@playwright/test'
import type { TrialFile } from '../../contract/trials.ts'
import { choose, complaints, expect, queueEmpty, test } from './bench.ts'

/** Opens the board once its re-tests are weighed. */
async function openBoard(page: Page): Promise<void> {
  await page.goto('/rotation')
  const lane = page.getByRole('region', { name: 'Late turn driver' })
  await expect(lane.getByText(/^Does it, \d+ %; leaves after about/).first()).toBeVisible()
  await expect(page.getByText('Weighing re-tests …')).toBeHidden()
}
const row = (page: Page, lane: string, code: string) =>
  page.getByRole('region', { name: lane }).getByRole('listitem').filter({ hasText: code })

test('the board says who does a job, who has left it, which backup is due and what to wear in', async ({
  page,
}) => {
  const wrong = complaints(page)
  await openBoard(page)
  await expect(row(page, 'Late turn driver', 'HS-017')).toContainText(
    /Does it, \d+ %; leaves after about \d+ throws/,
  )
  await expect(row(page, 'Late turn driver', 'HS-009')).toContainText(/Has left it: (under )?\d+ %/)
  const due = page.getByRole('region', { name: 'Backups that are due' })
  await expect(due).toContainText('HS-009, Tarnwick Loam has left it and is still carried for it.')
  await expect(due).toContainText('HS-021, Tarnwick Slate is kept away from water or trees.')
  await expect(due).toContainText(/Wear in HS-\d+, .* next: about \d+ throws until it does the job/)
  // who does it already is carried in one press
  await expect(due).toContainText(/HS-040, Ormsgarth Loam does it already, \d+ %, and has no job of its own/)
  await due.getByRole('button', { name: 'Carry it for Touch approach' }).click()
  await expect(
    page.getByText('HS-040 is carried for Touch approach from today.', { exact: true }),
  ).toBeVisible()
  await expect(due).not.toContainText('HS-040')
  // what was thrown and does nothing here is not passed over
  await expect(page.getByRole('region', { name: 'Thrown, and on no lane' })).toContainText(
    /HS-026, Tarnwick Tallow\s*It does none of the jobs and wears into none. Nearest is Late turn driver, \d+ %/,
  )
  // a disc leads to its page
  await row(page, 'Late turn driver', 'HS-017').getByRole('link').click()
  await expect(page).toHaveURL(/\/shelf\//)
  await expect(page.getByText('HS-017').first()).toBeVisible()
  expect(wrong).toEqual([])
})

test('a job is defined from a disc, drawn anew on the strip, changed, and taken off the board', async ({
  page,
}) => {
  await openBoard(page)
  await page.getByRole('button', { name: 'New job' }).click()
  const dialog = page.getByRole('dialog', { name: 'New job' })
  await choose(dialog.getByLabel('At whose arm'), 'Odile Fenn, 26 m/s')
  await choose(dialog.getByLabel('Flies as this disc does now'), 'HS-033, Skelmire Resin')
  const finish = dialog.getByLabel('Finishes, to the fade side')
  await expect(finish).not.toHaveValue('5')
  const flown = Number(await finish.inputValue())
  expect(flown).toBeGreaterThan(5)
  // into a wind it flies elsewhere
  await dialog.getByLabel('Into a wind of').fill('5')
  await expect(finish).not.toHaveValue(String(flown))
  await dialog.getByRole('button', { name: 'Put it on the board' }).click()
  await expect(dialog.getByText('must be given')).toBeVisible()
  await dialog.getByLabel('What the disc is for').fill('Over the mill race')
  await dialog.getByRole('button', { name: 'Put it on the board' }).click()
  await expect(row(page, 'Over the mill race', 'HS-033')).toContainText('Does it,')

  // drawn by hand: the end is dragged to the other side of the line
  await page.getByRole('button', { name: 'Change Over the mill race' }).click()
  const changed = page.getByRole('dialog', { name: 'Change Over the mill race' })
  const strip = changed.getByRole('application', { name: /^The wanted flight/ })
  const end = (await strip.locator('circle').last().boundingBox())!
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2)
  await page.mouse.down()
  await page.mouse.move(end.x + end.width / 2, end.y + 70, { steps: 6 })
  await page.mouse.up()
  const drawn = Number(await changed.getByLabel('Finishes, to the fade side').inputValue())
  expect(drawn).toBeLessThan(flown)
  await changed.getByRole('button', { name: 'Keep the change' }).click()
  await page.getByRole('button', { name: 'Change Over the mill race' }).click()
  await page.getByRole('button', { name: 'Take it off the board' }).click()
  await expect(page.getByRole('region', { name: 'Over the mill race' })).toBeHidden()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'Over the mill race' })).toBeVisible()
})

test('three weeks of lending are logged for several discs at once, and taken back', async ({ page }) => {
  await openBoard(page)
  const says = (code: string) => row(page, 'Late turn driver', code).textContent()
  const before = await says('HS-017')
  await page.getByRole('button', { name: 'Log wear of several discs' }).click()
  const dialog = page.getByRole('dialog', { name: 'Log wear of several discs' })
  await expect(dialog.getByRole('button', { name: 'Choose discs' })).toBeDisabled()
  await dialog.getByRole('button', { name: 'Lent for three weeks' }).click()
  await expect(dialog.getByLabel('Throws each')).toHaveValue('120')
  for (const code of ['HS-017', 'HS-021']) await dialog.getByRole('button', { name: code }).click()
  await dialog.getByLabel('To which discs').fill('HS-002')
  await dialog.getByRole('button', { name: 'HS-002' }).click()
  await dialog.getByRole('button', { name: 'Note it for 3 discs' }).click()
  await expect(page.getByText('Noted for 3 discs.', { exact: true })).toBeVisible()
  await expect.poll(() => says('HS-017')).not.toBe(before)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => says('HS-017')).toBe(before)
  // what wears nothing is kept as a note
  await page.getByRole('button', { name: 'Log wear of several discs' }).click()
  await dialog.getByRole('button', { name: 'In the water' }).click()
  await dialog.getByRole('button', { name: 'HS-017' }).click()
  await dialog.getByRole('button', { name: 'Note it for one disc' }).click()
  await expect(page.getByText('Noted for one disc.', { exact: true })).toBeVisible()
})

test('a disc is moved to another job by mouse and by keys; the favourite is lost, and found', async ({
  page,
}) => {
  await openBoard(page)
  // dragged from its lane to another
  const disc = page.getByRole('region', { name: 'Late turn driver' }).getByText('HS-030', { exact: true })
  const onto = page.getByRole('region', { name: 'Straight mid' })
  const [from, to] = [(await disc.boundingBox())!, (await onto.boundingBox())!]
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(from.x + 30, from.y - 40, { steps: 4 })
  await page.mouse.move(to.x + 200, to.y + 40, { steps: 8 })
  await page.mouse.up()
  await expect(
    page.getByText('HS-030 is carried for Straight mid from today.', { exact: true }),
  ).toBeVisible()
  await expect(row(page, 'Straight mid', 'HS-030')).toBeVisible()
  // it stays there while it is sent and worked out again: no focus and no menu of it is lost
  const there = (await row(page, 'Straight mid', 'HS-030').elementHandle())!
  await queueEmpty(page)
  await expect(page.getByText(/Weighing re-tests/)).toHaveCount(0)
  expect(await there.evaluate((li) => li.isConnected)).toBe(true)

  // by keys, to the same end
  await row(page, 'Straight mid', 'HS-030').getByRole('button', { name: 'What happens to HS-030' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('menuitem', { name: 'Straight mid, now' })).toBeVisible()
  await page.keyboard.type('no job')
  await page.keyboard.press('Enter')
  await expect(row(page, 'Straight mid', 'HS-030')).toBeHidden()

  await row(page, 'Late turn driver', 'HS-017')
    .getByRole('button', { name: 'What happens to HS-017' })
    .click()
  await page.getByRole('menuitem', { name: 'Lost', exact: true }).click()
  await expect(row(page, 'Late turn driver', 'HS-017')).toBeHidden()
  await page.getByText('HS-017: lost. Noted for today.', { exact: true }).waitFor()
  await page.getByRole('button', { name: 'Undo' }).last().click()
  await expect(row(page, 'Late turn driver', 'HS-017')).toBeVisible()
})

test('what a blend is made of is said, and whether it is still made', async ({ page }) => {
  await openBoard(page)
  const blends = page.getByRole('region', { name: 'How blends wear' })
  await expect(blends.getByLabel('What Eskwright Loam is made of')).toHaveText(/^base/)
  const before = await row(page, 'Late turn driver', 'HS-017').textContent()
  await choose(blends.getByLabel('What Eskwright Loam is made of'), /^premium/)
  await expect.poll(() => row(page, 'Late turn driver', 'HS-017').textContent()).not.toBe(before)
  await blends
    .getByRole('listitem')
    .filter({ hasText: 'Eskwright Slate' })
    .getByLabel('no longer made')
    .click()
  await expect(page.getByRole('region', { name: 'Backups that are due' })).toContainText(
    'The plastic of HS-021, Tarnwick Slate is no longer made.',
  )
})

test('the bag is seen from above: what overlaps, where nothing lands, what it does and what is lost with a disc', async ({
  page,
}) => {
  await openBoard(page)
  await page.getByRole('link', { name: 'The bag from above' }).click()
  await expect(page.getByText('Weighing re-tests …')).toBeHidden()
  const does = page.getByRole('region', { name: 'What the bag does' })
  await expect(does).toContainText(/Touch approach: \d+ % that one does it/)
  await expect(does).toContainText('Without HS-041: nobody does it.')
  await expect(
    page.getByRole('img', { name: /^The field from above: .*HS-041 lands \d+ m out/ }),
  ).toBeVisible()
  const said = page.getByRole('region', { name: 'Overlaps and gaps' })
  await expect(said).toContainText(/HS-014 and HS-017 land \d+ m apart; two throws of one of them differ by/)
  // what if it is lost
  await page.getByRole('group', { name: 'Discs in the bag' }).getByRole('button', { name: 'HS-041' }).click()
  await expect(does).toContainText(/Touch approach: nobody in it does it \(as carried: \d+ %\)/)
  await expect(page.getByRole('img', { name: /HS-041 lands/ })).toBeHidden()
  await page.getByLabel('A bag of').fill('3')
  await page.getByRole('button', { name: 'Pick those that do most jobs' }).click()
  await expect(
    page.getByRole('group', { name: 'Discs in the bag' }).getByRole('button', { pressed: true }),
  ).toHaveCount(3)
  await expect(does).toContainText(/Touch approach: \d+ % that one does it/)
})

test('what if a disc were lost, and what if another were put in: the address keeps it', async ({ page }) => {
  await openBoard(page)
  await page.getByRole('button', { name: 'What happens to HS-041' }).click()
  await page.getByRole('menuitem', { name: 'What if it were lost?' }).click()
  await expect(page).toHaveURL(/without=HS-041/)
  await expect(page.getByText('This is the bag as if HS-041 were lost.')).toBeVisible()
  const does = page.getByRole('region', { name: 'What the bag does' })
  await expect(does).toContainText(/Touch approach: nobody in it does it \(as carried: \d+ %\)/)
  await expect(does.getByRole('button', { name: /^With HS-040: \d+ %$/ })).toBeVisible()
  const find = page.getByLabel('Put in another disc of the shelf')
  await find.fill('no such mold')
  await expect(page.getByText('No other disc that is here is called so.')).toBeVisible()
  await find.fill('HS-040')
  await page.getByRole('button', { name: 'Put in HS-040' }).click()
  await expect(does).toContainText(/Touch approach: \d+ % that one does it/)
  const held = page.getByRole('group', { name: 'Discs in the bag' })
  await expect(held.getByRole('button', { name: 'HS-040', pressed: true })).toBeVisible()
  await page.reload()
  await expect(held.getByRole('button', { name: 'HS-040', pressed: true })).toBeVisible()
  await expect(held.getByRole('button', { name: 'HS-041', pressed: false })).toBeVisible()
})

test('a re-test is planned in one press: the disc and a control disc, as its job is thrown, as often as tells', async ({
  page,
}) => {
  await openBoard(page)
  const press = page
    .getByRole('region', { name: 'Late turn driver' })
    .getByRole('button', { name: /^\d+ throws tell: plan them$/ })
    .first()
  const disc = (await press.locator('xpath=ancestor::li').getByRole('link').textContent())!.slice(0, 6)
  const throws = Number((await press.textContent())!.match(/\d+/)![0])
  await press.click()
  await expect(page).toHaveURL(/\/trials\/.+\/plan/)
  await expect(page.getByRole('heading', { name: 'Run order' })).toBeVisible()
  const id = page.url().match(/trials\/([^/]+)/)![1]!
  await queueEmpty(page)
  const { trial } = (await (await page.request.get(`/api/trials/${id}`)).json()) as TrialFile
  expect(trial.name).toBe(`${disc} again: Late turn driver`)
  expect(trial.discIds).toHaveLength(2)
  expect(trial.discIds[1]).toBe(trial.controlDiscId)
  const each = (discId: string) => trial.plan!.throws.filter((t) => t.discId === discId).length
  // shared evenly between there and back
  for (const d of trial.discIds) expect(Math.abs(each(d) - throws)).toBeLessThanOrEqual(1)
  expect(trial.hyzerDegs).toEqual([0])
  expect(trial.plan!.power).toBe(1)

  // one of which nobody doubts is looked at all the same
  await openBoard(page)
  await row(page, 'Touch approach', 'HS-041').getByRole('button', { name: 'What happens to HS-041' }).click()
  await page.getByRole('menuitem', { name: /^Plan a re-test/ }).click()
  await expect(page.getByRole('heading', { name: 'Run order' })).toBeVisible()
  await expect(page.getByRole('main')).toContainText('60 %')
})

test('without the server wear moves a disc on the board at once', async ({ page, context }) => {
  await openBoard(page)
  const says = async () =>
    (await row(page, 'Late turn driver', 'HS-017').textContent())!.match(
      /Does it, \d+ %; leaves after about \d+ throws/,
    )?.[0]
  const before = await says()
  await context.setOffline(true)
  await page.getByRole('button', { name: 'Log wear of several discs' }).click()
  const dialog = page.getByRole('dialog', { name: 'Log wear of several discs' })
  await dialog.getByLabel('Throws each').fill('400')
  await dialog.getByRole('button', { name: 'HS-017' }).click()
  await dialog.getByRole('button', { name: 'Note it for one disc' }).click()
  await expect.poll(says).not.toBe(before)
  const after = await says()
  await expect(page.getByRole('button', { name: /waiting/ })).toBeVisible()
  // the server comes to the same
  await context.setOffline(false)
  await queueEmpty(page)
  await page.reload()
  await expect.poll(says).toBe(after)
})

test('a disc’s page says how surely it does each job, and holds its life', async ({ page }) => {
  await openBoard(page)
  await row(page, 'Headwind fairway', 'HS-021').getByRole('link').click()
  const card = page.getByRole('region', { name: 'Jobs and life' })
  await expect(card.getByLabel('Carried for', { exact: true })).not.toHaveText('no job')
  await expect(card.getByRole('listitem').filter({ hasText: 'Headwind fairway' }).first()).toContainText(
    /\d+ %/,
  )
  const life = card.getByRole('list', { name: 'Its life' })
  await expect(life).toContainText('kept away from water and trees: not over the mill race any more')
  await choose(card.getByLabel('Carried for', { exact: true }), 'Straight mid')
  await expect(life.getByRole('listitem').first()).toContainText('carried for Straight mid')
  await card.getByRole('button', { name: /^Remove: carried for Straight mid/ }).click()
  await expect(life).not.toContainText('carried for Straight mid')
  await page.getByRole('button', { name: 'Restore' }).click()
  await expect(life).toContainText('carried for Straight mid')
  await expect(card.getByLabel('Carried for', { exact: true })).toHaveText('Straight mid')
})

test('what happened to a disc is noted for the day it happened, and changed; the order of days counts', async ({
  page,
}) => {
  await openBoard(page)
  await row(page, 'Headwind fairway', 'HS-021').getByRole('link').click()
  const card = page.getByRole('region', { name: 'Jobs and life' })
  const life = card.getByRole('list', { name: 'Its life' })
  const note = async (what: string, day: string, words: string) => {
    await card.getByRole('button', { name: 'Note what happened to it' }).click()
    const dialog = page.getByRole('dialog', { name: 'What happened to HS-021' })
    await choose(dialog.getByLabel('What happened'), what)
    await dialog.getByLabel('Day').fill(day)
    await dialog.getByLabel('Note').fill(words)
    await dialog.getByRole('button', { name: 'Note it' }).click()
    await expect(dialog).toBeHidden()
  }
  await note('Lost', '2026-11-03', 'in the reeds')
  await expect(card).toContainText('It is lost and on no lane of the board.')
  await note('Found again', '2026-11-02', '')
  // found the day before it was lost, it is lost
  await expect(life.getByRole('listitem').first()).toContainText('3 Nov 2026lost: in the reeds')
  await expect(card).toContainText('It is lost')
  await card.getByRole('button', { name: /^Change: found again/ }).click()
  const changing = page.getByRole('dialog', { name: 'Change what happened to HS-021' })
  await changing.getByLabel('Day').fill('2126-11-20')
  await expect(changing.getByRole('alert')).toContainText('still to come')
  await expect(changing.getByRole('button', { name: 'Change it' })).toBeDisabled()
  await changing.getByLabel('Day').fill('2026-11-20')
  await changing.getByRole('button', { name: 'Change it' }).click()
  await expect(card).not.toContainText('It is lost')
  await queueEmpty(page)
  await page.reload()
  await expect(life.getByRole('listitem').first()).toContainText('20 Nov 2026found again')
  await expect(card).not.toContainText('It is lost')
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })
  test('the board is no wider than the phone, and a disc is moved by touch', async ({ page }) => {
    await openBoard(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
    await row(page, 'Late turn driver', 'HS-014')
      .getByRole('button', { name: 'What happens to HS-014' })
      .tap()
    await page.getByRole('menuitem', { name: 'Straight mid' }).tap()
    await expect(row(page, 'Straight mid', 'HS-014')).toBeVisible()
  })
})
