import type { APIRequestContext, Page } from '@playwright/test'
import type { VolunteerReport } from '../../contract/devices.ts'
import type { Trial, TrialFile } from '../../contract/trials.ts'
import { questionOf } from '../../core/plan/questions.ts'
import type { QuestionKind } from '../../core/plan/questions.ts'
import { NOTHING_OF_SHORT } from '../../core/throw/short.ts'
import { demoId, ODILE } from '../../demo/shed.ts'
import { NOTHING_OBSERVED } from '../../core/throw/observed.ts'
import { v7 as newId } from 'uuid'
import { sheetOfSession } from '../simulate/sheet.ts'
import { choose, complaints, expect, readView, startFromShelf, test } from './bench.ts'

const WIND_MPS = 2.5

async function put(request: APIRequestContext, address: string, data: object): Promise<void> {
  const said = await request.put(address, { data })
  expect(said.ok(), await said.text()).toBe(true)
}

/** Starts a trial of a question from the shelf, as a person does, and says which it is. */
async function start(page: Page, kind: QuestionKind, name: string, codes: readonly string[]): Promise<Trial> {
  await startFromShelf(page, kind, name, codes)
  const id = page.url().match(/trials\/([^/?]+)/)![1]!
  return ((await (await page.request.get(`/api/trials/${id}`)).json()) as { trial: Trial }).trial
}

const outing = async (request: APIRequestContext): Promise<string> => {
  const id = newId()
  await put(request, `/api/sessions/${id}`, {
    id,
    place: 'Millpond meadow',
    day: '2026-11-26',
    temperatureC: 12,
    altitudeM: 200,
    method: 'ranged',
  })
  return id
}

/** The simulated volunteer throws every disc at every angle, out and back, some rounds; its angles are called. */
async function thrown(
  request: APIRequestContext,
  trial: Trial,
  { rounds, winds = [-WIND_MPS, WIND_MPS] }: { rounds: number; winds?: readonly number[] },
): Promise<void> {
  const sessionId = await outing(request)
  const { thrower } = ODILE
  let at = Date.parse('2026-11-26T10:00:00Z')
  for (let round = 0; round < rounds; round++)
    for (const hyzerDeg of trial.hyzerDegs)
      for (const windAlongMps of winds)
        for (const discId of trial.discIds) {
          const asked = {
            discId,
            throwerId: thrower.id,
            stroke: 'backhand',
            hyzerDeg,
            power: 1,
            windAlongMps,
            windAcrossMps: 0,
            temperatureC: 12,
            altitudeM: 200,
          }
          const answer = await request.post('/api/devices/volunteer', { data: asked })
          const seen = (await answer.json()) as VolunteerReport
          const id = newId()
          await put(request, `/api/throws/${id}`, {
            id,
            trialId: trial.id,
            sessionId,
            discId,
            throwerId: thrower.id,
            label: null,
            thrownAt: new Date((at += 60_000)).toISOString(),
            ...NOTHING_OBSERVED,
            hand: thrower.hand,
            stroke: 'backhand',
            leg: windAlongMps < 0 ? 'out' : 'back',
            power: 1,
            hyzerDeg,
            hyzerCalledDeg: seen.hyzerCalledDeg,
            windAlongMps,
            windAcrossMps: 0,
            hangS: seen.hangS,
            carryM: seen.carryM,
            rightM: seen.rightM,
            counts: true,
            whyNot: null,
            notes: {},
            takenBackAt: null,
          })
        }
}

/** Opens the readout of a trial and hands back its answer. */
async function answerOf(page: Page, trial: Trial) {
  await page.goto(`/trials/${trial.id}/readout`)
  const answer = page.getByTestId('answer')
  await expect(answer).not.toContainText('Working out')
  return { answer, picture: page.getByRole('region', { name: 'Picture of the answer' }) }
}

test('true to its numbers? every figure of the label is held against the throws', async ({ page }) => {
  const said = complaints(page)
  const trial = await start(page, 'label', 'Numbers of the Harrogill', ['HS-011', 'HS-002'])
  await thrown(page.request, trial, { rounds: 2 })
  const { answer, picture } = await answerOf(page, trial)
  await expect(answer).toContainText(/Harrogill/)
  await expect(picture.getByRole('img', { name: /Harrogill, turn: published .*, seen / })).toBeVisible()
  await expect(picture).toContainText(/within \d+ %/)
  expect(said).toEqual([])
})

test('what does the plastic change? the stable one is named, and what one disc of each cannot prove', async ({
  page,
}) => {
  const trial = await start(page, 'plastics', 'Tarnwick, two plastics', ['HS-021', 'HS-026'])
  await thrown(page.request, trial, { rounds: 2 })
  const { answer } = await answerOf(page, trial)
  await expect(answer).toContainText(
    /Slate flies more stable than Tallow: it finishes .* farther left .*of the plastics themselves, by one disc each, \d+ %/,
  )
  await expect(page.getByTestId('answer-probability')).toHaveText(/9\d %/)
})

test('a claim built before the first throw is judged by the throws', async ({ page }) => {
  const trial = await start(page, 'plastics', 'Claimed', ['HS-021', 'HS-026'])
  const form = page.getByRole('form', { name: 'What throws can judge' })
  const add = async (disc: string, says: string, than: string, by: string) => {
    await choose(form.getByLabel('Disc'), disc)
    await choose(form.getByLabel('What of it'), says)
    await choose(form.getByLabel('Than'), than)
    await form.getByLabel('By at least').fill(by)
    const kept = page.waitForResponse(
      (r) => r.url().includes('/api/trials/') && r.request().method() === 'PUT',
    )
    await form.getByRole('button', { name: 'Add' }).click()
    return (await (await kept).json()) as Trial
  }
  await add('Slate', 'is more stable than', 'Tallow', '')
  const kept = await add('Slate', 'flies farther than', 'Tallow', '30')
  expect(kept.plan!.built.map(({ says, by }) => [says, by])).toEqual([
    ['is-more-stable-than', 0],
    ['flies-farther-than', 30],
  ])
  await thrown(page.request, trial, { rounds: 2 })
  await answerOf(page, trial)
  const card = page.getByRole('region', { name: 'What you expected' })
  await expect(card).toContainText(/9\d %\s*Slate is more stable than Tallow: held/)
  await expect(card).toContainText(/9\d %\s*Slate flies farther than Tallow, by 30\.0 m or more: not held/)
  // what was claimed is locked since the first throw
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  const expectation = page.getByRole('region', { name: 'What do you expect?' })
  await expect(expectation.getByText('Slate is more stable than Tallow')).toBeVisible()
  await expect(form).toHaveCount(0)
})

test('are the runs alike? two runs far apart are told apart', async ({ page }) => {
  const trial = await start(page, 'runs', 'Two runs', ['HS-021', 'HS-030'])
  await thrown(page.request, trial, { rounds: 3 })
  const { answer } = await answerOf(page, trial)
  await expect(answer).toContainText('first run, 2024 flies more stable than second run, 2025')
})

test('what has wear changed? a beaten copy has lost stability', async ({ page }) => {
  const trial = await start(page, 'wear', 'Loam, new and beaten', ['HS-017', 'HS-009'])
  await thrown(page.request, trial, { rounds: 3 })
  const { answer, picture } = await answerOf(page, trial)
  await expect(answer).toContainText(
    /Wear has made \w+ less stable|What wear has changed in \w+ is not settled: .*−/,
  )
  await expect(picture.getByRole('img', { name: 'Stability by wear' })).toContainText('throws been through')
  // the loan cards count what both went through
  await expect(
    page.getByText(
      /A hundred throws change it by .*: Loam, new had been through \d+, Loam, beaten through \d+/,
    ),
  ).toBeVisible()
})

test('what does the weight change? mass is reckoned apart from what is left over', async ({ page }) => {
  const trial = await start(page, 'weight', 'Light and heavy', ['HS-009', 'HS-017'])
  await thrown(page.request, trial, { rounds: 2 })
  const { answer, picture } = await answerOf(page, trial)
  await expect(answer).toContainText(
    /Mass alone takes the 172 g disc .* than the 174 g one; beside its mass Loam, new/,
  )
  await expect(picture).toContainText('left over')
})

test('which mold is more stable? the order is read, and an open one is planned in one press', async ({
  page,
}) => {
  const trial = await start(page, 'molds', 'Three molds', ['HS-033', 'HS-011', 'HS-017'])
  await thrown(page.request, trial, { rounds: 2 })
  const { answer } = await answerOf(page, trial)
  // the volunteer throws differently each time; whatever its throws settle is the truth: Skelmire first, Tarnwick last
  await expect(answer).toContainText(
    /^From most to least stable: Skelmire.*Tarnwick|^Skelmire is the most|^Tarnwick is the least|is not settled/,
  )
  const planned = page.getByRole('link', { name: 'Plan what settles it' })
  if ((await page.getByTestId('answer-probability').textContent())!.startsWith('9'))
    await expect(planned).toHaveCount(0)
  else {
    await planned.click()
    await expect(page.getByLabel('It is about')).toHaveText('which of two is more stable')
  }
})

test('for another arm? every arm has its flight, and those on file are among them', async ({ page }) => {
  const trial = await start(page, 'arms', 'For another arm', ['HS-026', 'HS-002'])
  await thrown(page.request, trial, { rounds: 2 })
  const { answer, picture } = await answerOf(page, trial)
  await expect(answer).toContainText(
    /^Tarnwick flies straight for an arm of|^At which arm Tarnwick flies straight/,
  )
  await expect(picture.getByRole('rowheader', { name: /Odile Fenn/ })).toBeVisible()
  await expect(picture.getByRole('rowheader', { name: '18 m/s' })).toBeVisible()
})

test('how does it take the wind? the wind is pulled and the flights follow', async ({ page }) => {
  const trial = await start(page, 'wind', 'Into the wind', ['HS-021', 'HS-026'])
  await thrown(page.request, trial, { rounds: 2, winds: [-4, 4] })
  const { answer, picture } = await answerOf(page, trial)
  await expect(answer).toContainText(/Slate/)
  const pull = picture.getByRole('slider', { name: /Wind along the line/ })
  await pull.focus()
  await page.keyboard.press('End')
  await expect(picture.getByText('8 m/s tailwind')).toBeVisible()
  await picture.getByText('Across it').click()
  const across = picture.getByRole('slider', { name: 'Wind across the line' })
  await across.focus()
  await page.keyboard.press('End')
  await expect(picture.getByRole('img', { name: /^Flights in 8 m\/s toward the fade side/ })).toBeVisible()
})

test('an answer is looked into: flown otherwise, without a throw, throw by throw, and since the last look', async ({
  page,
}) => {
  const said = complaints(page)
  const trial = await start(page, 'plastics', 'Looked into', ['HS-021', 'HS-026'])
  await thrown(page.request, trial, { rounds: 1 })
  const { answer } = await answerOf(page, trial)
  await expect(answer).toContainText('Slate flies more stable than Tallow')
  await expect(page.getByRole('region', { name: 'Against the eye' })).toContainText('best throw')

  // what stands behind it: which throws, what was taken out of them, what is assumed
  await page.getByRole('button', { name: /^Why: Slate flies more stable/ }).click()
  const why = page.getByRole('dialog')
  for (const disc of ['Slate', 'Tallow']) {
    const behind = why.getByRole('region', { name: disc, exact: true })
    await expect(behind).toContainText(/Throws, with their pull: \d+ \(\d\.\d\), .*\)/)
    await expect(behind).toContainText(
      /Taken out, on average a throw: .*(wind|angle out of the hand) [\d.]+ m/,
    )
  }
  await expect(why.getByRole('region', { name: 'What is assumed' })).toContainText('No control disc')
  await page.keyboard.press('Escape')

  // flown at another angle, by another arm, in wind: the figures follow
  await readView(page, 'Flights')
  const flights = page.getByRole('region', { name: 'Flights', exact: true })
  const slate = flights.getByRole('row', { name: /^Slate/ })
  const flat = await slate.textContent()
  await choose(flights.getByLabel('Angle'), '10° hyzer')
  await expect.poll(() => slate.textContent()).not.toBe(flat)
  const hyzer = await slate.textContent()
  await choose(flights.getByLabel('Wind'), '4 m/s of headwind')
  await expect.poll(() => slate.textContent()).not.toBe(hyzer)
  await expect(page).toHaveURL(/angle=10&wind=-4/)

  // throw by throw
  await readView(page, 'Pairs')
  await expect(page.getByRole('region', { name: 'Throws matched' }).getByRole('row')).toHaveCount(8)

  // what would be without one, before anybody decides
  await readView(page, 'Throws')
  const list = page.getByRole('region', { name: 'List of throws' })
  await list.getByRole('row').nth(1).getByRole('button', { name: 'Without it' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText(/%$/)).toHaveCount(2)
  await expect(dialog.getByText('Slate flies more stable than Tallow', { exact: true })).toBeVisible()
  await expect(dialog).toContainText(/Without it the answer (stays|would be): /)
  await choose(dialog.getByLabel('What happened'), 'gust')
  await dialog.getByRole('button', { name: 'Leave it out' }).click()
  await expect(list.getByRole('row').nth(1)).toContainText('left out: gust')

  // the figures of a view as a file
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save' }).click()
  await page.getByRole('menuitem', { name: /CSV/ }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Looked into, throws.csv')
  let csv = ''
  for await (const chunk of await file.createReadStream()) csv += String(chunk)
  // a heading, the names of the columns, and a line a throw
  expect(csv.trim().split('\r\n')).toHaveLength(2 + 12)
  expect(csv).toContain('left out: gust')
  const picture = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save' }).click()
  await page.getByRole('menuitem', { name: /PNG/ }).click()
  expect((await picture).suggestedFilename()).toBe('Looked into, throws.png')

  // somebody takes most throws back: the answer moves, and says so
  const { throws } = (await (await page.request.get(`/api/trials/${trial.id}`)).json()) as TrialFile
  for (const t of throws.slice(2))
    await put(page.request, `/api/throws/${t.id}`, { ...t, counts: false, whyNot: 'gust' })
  const later = await answerOf(page, trial)
  await expect(later.answer).not.toContainText('Slate flies more stable than Tallow')
  await expect(page.getByText('The answer has moved since you last looked.')).toBeVisible()
  await expect(page.getByText(/Then: “Slate flies more stable/)).toBeVisible()
  expect(said).toEqual([])
})

test('how far does it skip, does it stop where it should? what was logged beside the flights answers', async ({
  page,
}) => {
  const trial = await start(page, 'ground', 'Skips', ['HS-021', 'HS-026'])
  const sessionId = await outing(page.request)
  const play = async (game: string, discId: string, seen: object) => {
    const id = newId()
    await put(page.request, `/api/short-throws/${id}`, {
      id,
      trialId: trial.id,
      sessionId,
      discId,
      throwerId: ODILE.thrower.id,
      thrownAt: '2026-11-26T11:00:00Z',
      game,
      ...NOTHING_OF_SHORT,
      ...seen,
      takenBackAt: null,
    })
  }
  for (const m of [6, 6.5, 5.8, 6.4]) await play('ground', demoId('disc', 'HS-021'), { groundM: m })
  for (const m of [1, 1.6, 0.9, 1.2]) await play('ground', demoId('disc', 'HS-026'), { groundM: m })
  const { answer } = await answerOf(page, trial)
  await expect(answer).toContainText(/^Slate skips 5\.0 m \(.*\) farther than Tallow/)
  for (const m of [1, 1.5, 0.8]) await play('approach', demoId('disc', 'HS-021'), { pastM: m, distanceM: 40 })
  for (const m of [6, 7, 6.4]) await play('approach', demoId('disc', 'HS-026'), { pastM: m, distanceM: 40 })
  await put(page.request, `/api/trials/${trial.id}`, {
    ...trial,
    question: questionOf('short-game').words,
    plan: null,
  })
  const again = await answerOf(page, trial)
  await expect(again.answer).toContainText(/^Tallow runs 5\.4 m \(.*\) farther past the mark than Slate/)
})

test('of very many throws some are read at once, and said to be some, until all are weighed', async ({
  page,
}) => {
  const said = complaints(page)
  const id = newId()
  const sent = await page.request.post(`/api/trials/${id}/import?name=Long&method=ranged&store=1`, {
    headers: { 'content-type': 'text/csv' },
    data: sheetOfSession({ seed: 0.42, throws: 1500, discs: 6, called: true }),
  })
  expect(sent.ok(), await sent.text()).toBe(true)
  await page.goto(`/trials/${id}/readout`)
  const first = page.getByText('A first look at 90 of 1500 throws, evenly chosen.')
  await expect(first).toBeVisible()
  await expect(page.getByTestId('answer')).toContainText('Disc')
  await expect(first).toBeHidden({ timeout: 60_000 })
  await expect(page.getByTestId('answer')).toContainText('Disc')
  expect(said).toEqual([])
})
