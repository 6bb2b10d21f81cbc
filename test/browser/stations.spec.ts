import { questionOf } from '../../core/plan/questions.ts'
import AxeBuilder from '@axe-core/playwright'
import { THEMES } from '../../contract/preferences.ts'
import { TOURS } from './tours.ts'
import {
  choose,
  complaints,
  expect,
  longInComing,
  openHalfDone,
  queueEmpty,
  test,
  readView,
} from './bench.ts'

test('the bench shows every trial with its state and what to do next', async ({ page }) => {
  const said = complaints(page)
  await page.goto('/')
  await expect(page.getByText(/\d+ trials open, 2 finished/)).toBeVisible()
  const finished = page.getByRole('region', { name: 'Tarnwick in four plastics' })
  await expect(finished).toContainText('68 of 72 throws, 4 left out')
  await expect(finished.getByRole('list')).toContainText('%')
  await expect(
    page
      .getByRole('region', { name: 'Is the Ormsgarth true to its label' })
      .getByRole('link', { name: 'Throw the first' }),
  ).toBeVisible()
  expect(said).toEqual([])
})

test('a trial is started from the bench, planned and goes to the field', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Start a trial' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByRole('button', { name: 'Start and plan' }).click()
  await expect(dialog).toContainText('must not be empty')
  await expect(dialog).toContainText('must name at least one disc')
  await choose(dialog.getByLabel('What do you want to know?'), questionOf('plastics').words)
  await dialog.getByRole('checkbox', { name: /HS-005/ }).check()
  const chosen = dialog.getByRole('list', { name: 'Chosen' })
  await expect(chosen).toContainText(/HS-005.*HS-002.*control/)
  await expect(dialog.getByLabel('Name')).toHaveValue('Pennrath in its plastics')
  await dialog.getByLabel('Name').fill('Two Pennraths')
  await dialog.getByRole('button', { name: 'Start and plan' }).click()
  await expect(page.getByRole('heading', { name: 'What does the plastic change?' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'What it takes' })).toContainText('36')
  await page.getByRole('link', { name: 'Throw the first' }).click()
  await expect(page.getByText('Warm-up, 4 to go').first()).toBeVisible()
})

test('the readout shows corrected and thrown flights, claim and evidence, ladder and sentences', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Tarnwick in four plastics' })
    .getByRole('link', { name: 'Read it' })
    .click()
  // the answer comes first: the question, one sentence, how sure it is, and how it was thrown
  await expect(page.getByTestId('answer')).toContainText('Slate flies more stable than Tallow: it finishes')
  await expect(page.getByTestId('answer-probability')).toHaveText('99 %')
  await expect(page.getByText(/Odile Fenn, Tobit Marl · .*68 throws counted, 4 left out/)).toBeVisible()
  const picture = page.getByRole('region', { name: 'Picture of the answer' })
  await expect(picture.getByRole('rowheader')).toHaveText(['Amber', 'Loam', 'Tallow'])
  await expect(page.getByRole('region', { name: 'What you can say' })).toContainText(
    'Slate is more stable than Amber',
  )
  await readView(page, 'Claim and evidence')
  await expect(page.getByText('68 counted throws, angle, power and wind taken out')).toBeVisible()
  await expect(
    page.getByRole('img', { name: /Slate, turn: published −0\.5, seen .*90 % interval/ }),
  ).toBeVisible()
  await readView(page, 'Flights')
  await page.getByRole('radio', { name: 'As thrown' }).click()
  await expect(page).toHaveURL(/show=thrown/)
  await expect(page.getByText('72 throws, the way they most likely flew')).toBeVisible()
  await readView(page, 'Throws')
  await expect(page).toHaveURL(/readout\/throws/)
  await page.getByRole('radio', { name: 'Left out 4' }).click()
  const list = page.getByRole('region', { name: 'List of throws' })
  await expect(list.getByRole('row')).toHaveCount(5)
  await expect(list).toContainText('left out: hit a branch')
  expect(said).toEqual([])
})

test('a trial is read from its own throws or from all that is known, and says what would tell most', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Which fairway for the lake wind' })
    .getByRole('link', { name: 'Read it' })
    .click()
  const card = page.getByRole('region', { name: 'What you can say' })
  await expect(card.getByText('92 throws of other trials know these discs too.')).toBeVisible()
  await expect(card.getByTestId('limit')).toContainText(/worth .* more throws each/)
  const own = await card.getByTestId('sentences').textContent()
  await card.getByRole('radio', { name: 'All that is known' }).click()
  await expect(page).toHaveURL(/from=all/)
  await expect(card.getByText(/^With 92 throws of other trials/)).toBeVisible()
  await expect.poll(() => card.getByTestId('sentences').textContent()).not.toBe(own)
  await page.reload()
  await expect(card.getByText(/^With 92 throws of other trials/)).toBeVisible()
  // discs of other trials are not read out with it
  await expect(card).not.toContainText('Slate')
  await card.getByRole('radio', { name: 'This trial' }).click()
  await expect.poll(() => card.getByTestId('sentences').textContent()).toBe(own)
  expect(said).toEqual([])
})

test('an arm nobody measured is found from how far a usual disc goes', async ({ page }) => {
  await page.goto('/settings')
  await page.getByRole('button', { name: 'Add a thrower' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Isolde Farrow')
  await dialog.getByLabel('goes').fill('75')
  await expect(dialog.getByText(/22\.9 m\/s with a disc of speed 9/)).toBeVisible()
  await dialog.getByLabel('goes').fill('900')
  await expect(dialog.getByText('No arm throws it so; check the figure.')).toBeVisible()
  await dialog.getByLabel('or leaves the hand at').fill('20')
  await expect(dialog.getByText(/20\.7 m\/s with a disc of speed 9/)).toBeVisible()
  await expect(dialog.getByLabel('Full power with a disc of speed 9, backhand')).toHaveValue('20.7')
  await dialog.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('region', { name: 'Throwers' })).toContainText(/Isolde Farrow.*20\.7 m\/s/)
})

test('a trial is put away and brought back, with everything in it', async ({ page }) => {
  await page.goto('/')
  const name = 'Which fairway for the lake wind'
  const card = page.getByRole('region', { name })
  await card.getByRole('button', { name: `Put away ${name}` }).click()
  await expect(card).toHaveCount(0)
  await page.reload()
  await page.getByText('1 trial put away').click()
  await page.getByRole('button', { name: `Bring back ${name}` }).click()
  await expect(card.getByRole('link', { name: 'Throw on' })).toBeVisible()
  await expect(page.getByText('1 trial put away')).toHaveCount(0)
})

test('a file with errors shows them all, mended it is previewed and then stored', async ({ page }) => {
  await openHalfDone(page, 'Read it')
  await readView(page, 'Throws')
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export CSV' }).click()
  const stream = await (await download).createReadStream()
  let csv = ''
  for await (const chunk of stream) csv += String(chunk)

  await page.goto('/')
  await page
    .getByRole('region', { name: 'Is the Ormsgarth true to its label' })
    .getByRole('link', { name: 'Is the Ormsgarth' })
    .click()
  await page.getByRole('link', { name: 'Import a file' }).click()
  const file = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
  const lines = csv.trim().split('\r\n')
  const spoiled = lines.map((l, i) =>
    i === 2 ? l.replace(',backhand,', ',sidearm,') : i === 4 ? l.replace(/,right,|,left,/, ',both,') : l,
  )
  await page.getByLabel('File', { exact: true }).setInputFiles(file('spoiled.csv', spoiled.join('\r\n')))
  await expect(page.getByRole('alert')).toContainText(
    '2 cells or rows are not right. Nothing of the file was stored.',
  )
  await expect(page.getByRole('row', { name: /3 stroke/ })).toContainText('write backhand or forehand')
  await expect(page.getByRole('row', { name: /5 hand/ })).toContainText('write right or left')

  await page.getByLabel('File', { exact: true }).setInputFiles(file('mended.csv', csv))
  const count = lines.length - 1
  await expect(page.getByRole('heading', { name: new RegExp(`mended.csv: ${count} throws`) })).toBeVisible()
  await page.getByRole('button', { name: `Import ${count} throws` }).click()
  await expect(page).toHaveURL(/readout/)
  await expect(page.getByTestId('answer')).toContainText(/true to (its|their) numbers|than its label says/)
  await readView(page, 'Throws')
  await expect(page.getByRole('radio', { name: `All ${count}` })).toBeVisible()
})

test('last year’s sheet becomes a trial with an answer: discs, thrower and question in one preview', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  await page.getByRole('link', { name: 'Start from a file' }).click()
  const rows = [10, 0, -8, 10, 0, -8].flatMap((deg, i) => [
    `Isolde Farrow,right,backhand,Grey Flint,9,5,-1,2,${deg},${86 + i},${-14 - deg}`,
    `Isolde Farrow,right,backhand,Green Flint,9,5,-1,2,${deg},${93 - i},${9 - deg}`,
  ])
  const header = 'thrower,hand,stroke,disc,speed,glide,turn,fade,hyzer_deg,carry_m,right_m'
  await page.getByLabel('File', { exact: true }).setInputFiles({
    name: 'flints-of-last_year.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from([header, ...rows].join('\n')),
  })
  await expect(page.getByText('flints-of-last_year.csv: 12 throws')).toBeVisible()
  await expect(page.getByRole('region', { name: 'What the file holds' })).toContainText(
    'Grey Flint, Green Flint',
  )
  await expect(page.getByLabel('Name of the trial')).toHaveValue('Flints of last year')
  await expect(page.getByLabel('What do you want to know?')).toHaveText(questionOf('molds').words)
  await page.getByRole('button', { name: 'Import 12 throws' }).click()
  await expect(page.getByTestId('answer')).toContainText(
    'Grey Flint is more stable than Green Flint: it finishes',
  )
  await expect(page.getByText(/Isolde Farrow · .*12 throws counted, 0 left out/)).toBeVisible()
  expect(said).toEqual([])
})

test('a page that meets a newer server says so, and how to go on', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  // the parts of yesterday’s app are not there any more
  await page.route('**/assets/Shelf-*.js', (route) => route.fulfill({ status: 404, body: 'Not found' }))
  await page.getByRole('link', { name: 'Shelf' }).click()
  await expect(page.getByRole('heading', { name: 'The app has been updated' })).toBeVisible()
  await page.unrouteAll()
  await page.getByRole('button', { name: 'Reload the page' }).click()
  await expect(page.getByRole('row', { name: /HS-021/ })).toBeVisible()

  // its answers speak another version of the wire
  await page.route(/\/api\/(discs|shelf)/, async (route) => {
    const answer = await route.fetch()
    await route.fulfill({ response: answer, headers: { ...answer.headers(), 'x-veer-wire': '999' } })
  })
  await page.reload()
  await expect(page.getByText('The app has been updated. Reload this page')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Reload the page' })).toBeVisible()
  // what is still asked for at the end is nobody's matter
  await page.unrouteAll({ behavior: 'ignoreErrors' })
})

test('a throw that no arithmetic holds is left out and named, and everything else is read', async ({
  page,
}) => {
  // as a server may have stored it before recordings had ranges
  await page.route('**/api/trials/*', async (route) => {
    const answer = await route.fetch()
    const file = (await answer.json()) as { throws?: { path: unknown }[] }
    if (file.throws?.[2])
      file.throws[2].path = { timeS: [], downM: [1, 20, 40, 60], rightM: [0, 1e308, -1e308, 2], upM: [] }
    await route.fulfill({ response: answer, json: file })
  })
  await openHalfDone(page, 'Read it')
  const out = page.getByRole('region', { name: 'Not weighed' })
  await expect(out).toContainText('its recorded path has a value as large as 1e+308')
  await expect(page.getByRole('region', { name: 'What you can say' })).toContainText('%')
  await out.getByRole('link', { name: 'Put it right' }).click()
  await expect(page.getByText(/Changing throw \d+/)).toBeVisible()
  // the page may be asking once more when the test ends
  await page.unrouteAll({ behavior: 'ignoreErrors' })
})

test('units and theme are the user’s and outlive a reload', async ({ page }) => {
  await page.goto('/settings')
  await page.getByRole('radio', { name: 'ft, mph, °F' }).click()
  await page.getByRole('radio', { name: 'Dusk' }).click()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk')
  await expect(page.getByRole('region', { name: 'Throwers' }).getByText('58.6 mph')).toBeVisible()
  await page.reload()
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk')
  await openHalfDone(page, 'Read it')
  await expect(page.getByTestId('answer')).toContainText(/Skelmire/)
  await readView(page, 'Throws')
  await expect(page.getByRole('region', { name: 'List of throws' })).toContainText(/\d ft\d/)
})

test('the command list and the list of keys open by keyboard', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.keyboard.press('Control+k')
  await expect(page.getByPlaceholder('Go to a station')).toBeFocused()
  await page.keyboard.type('HS-021')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Tarnwick, Slate' })).toBeVisible()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('take back the last throw')
})

test('the demo says what it is, gives way to a shelf of one’s own, comes back, and says what of it would be lost', async ({
  page,
}) => {
  const said = complaints(page)
  await page.goto('/')
  const note = page.getByRole('note')
  await expect(note).toContainText('This is the demo')
  await note.getByRole('button', { name: 'Start my own shelf' }).click()
  await expect(page.getByRole('heading', { name: 'Nothing on the bench yet' })).toBeVisible()
  await page.getByRole('link', { name: 'Add the first disc' }).click()
  await expect(page.getByRole('dialog', { name: 'Add a disc' }).getByLabel('Code')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'The shelf is empty' })).toBeVisible()
  await page.getByRole('link', { name: 'Bench', exact: true }).click()
  await note.getByRole('button', { name: 'Bring the demo back' }).click()
  await expect(page.getByRole('region', { name: 'Tarnwick in four plastics' })).toBeVisible()
  await expect(note).toContainText('This is the demo')
  await openHalfDone(page, 'Throw on')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByLabel('Landed, down')).not.toHaveValue('')
  await page.keyboard.press('Enter')
  await queueEmpty(page)
  // the bench shows what it remembers: what it reads anew of the demo is long in coming
  const coming = longInComing()
  await page.route('**/api/demo', async (route) => {
    await coming.wait
    await route.continue()
  })
  await page.getByRole('link', { name: 'Bench', exact: true }).click()
  await expect(page.getByText(/trials open, 2 finished/)).toBeVisible()
  // what was tried meanwhile goes only when that is wanted
  const dialog = page.getByRole('dialog', { name: 'Start my own shelf' })
  await note.getByRole('button', { name: 'Start my own shelf' }).click()
  coming.letGo()
  await expect(dialog).toContainText('The throw you tried')
  await dialog.getByRole('button', { name: 'Cancel' }).click()
  await expect(dialog).toBeHidden()
  await note.getByRole('button', { name: 'Start my own shelf' }).click()
  await dialog.getByRole('button', { name: 'Put the demo away' }).click()
  await expect(page.getByRole('heading', { name: 'Nothing on the bench yet' })).toBeVisible()
  await expect(note).toContainText('Your own shelf')
  expect(said).toEqual([])
})

test('a question that the rating refuses is said to be refused, and can be asked again', async ({ page }) => {
  await page.route('**/rating.worker*', (route) => route.abort())
  await page.goto('/')
  await page.getByRole('region', { name: 'Tarnwick in four plastics' }).getByRole('link').first().click()
  await expect(page.getByText(/The rating stopped working/)).toBeVisible()
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  const settles = page.getByRole('region', { name: 'What this plan can settle' })
  await expect(settles).toContainText('The rating stopped working')
  await page.unroute('**/rating.worker*')
  await settles.getByRole('button', { name: 'Ask again' }).click()
  await expect(settles.getByRole('listitem').or(settles.getByRole('row')).first()).toBeVisible()
  await page.getByRole('link', { name: 'Readout', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'What you can say' })).toBeVisible()
})

test('one bar holds every station, the shed’s and the open trial’s, and says which is which', async ({
  page,
}) => {
  await page.goto('/shelf')
  await expect(page.getByRole('navigation', { name: 'Shed' }).getByRole('link')).toHaveText([
    'Bench',
    'Shelf',
    'Rotation',
    'Line lab',
    'Eye drill',
  ])
  await openHalfDone(page, 'Read it')
  const trial = page.getByRole('navigation', { name: 'Trial: Which fairway for the lake wind' })
  await expect(trial.getByRole('link')).toHaveText(['Plan', 'Field', 'Readout', 'Review'])
  await expect(trial.getByRole('link', { name: 'Readout' })).toHaveAttribute('aria-current', 'page')
  // the trial stays open where one walks back to the shed
  await page.getByRole('link', { name: 'Shelf', exact: true }).click()
  await expect(trial).toBeVisible()
  await page.goto('/plan')
  await expect(page).toHaveURL(/trials\/.*\/plan$/)
  await page.goto('/nowhere')
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible()
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

  test('bench, shelf and readout are no wider than the phone', async ({ page }) => {
    const width = () => page.evaluate(() => document.documentElement.scrollWidth)
    await page.goto('/')
    await expect(page.getByText('not settled').first()).toBeVisible()
    expect(await width()).toBe(390)
    await page.getByRole('region', { name: 'Tarnwick in four plastics' }).getByRole('link').first().tap()
    await expect(page.getByRole('heading', { name: 'What you can say' })).toBeVisible()
    await expect(page.getByTestId('answer')).toContainText('Slate')
    expect(await width()).toBe(390)
    for (const view of ['Flights', 'Pairs', 'Wind', 'Arms', 'Likeness', 'Throws', 'Throwers']) {
      await readView(page, view)
      await expect(page.getByRole('region', { name: view, exact: true })).toBeVisible()
      expect(await width(), view).toBe(390)
    }
    await readView(page, 'Claim and evidence')
    const fade = page.getByRole('img', { name: /Slate, fade/ })
    await fade.scrollIntoViewIfNeeded()
    await expect(fade).toBeInViewport({ ratio: 0.99 })
    await page.getByRole('link', { name: 'Plan' }).tap()
    await expect(page.getByRole('heading', { name: 'Run order' })).toBeVisible()
    expect(await width()).toBe(390)
    // the stations of the shed are one tap further
    await page.getByRole('button', { name: 'Shed and settings' }).tap()
    await page.getByRole('menuitem', { name: 'Shelf' }).tap()
    await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
    const bar = page.getByRole('navigation', { name: 'Stations' })
    await expect(bar.getByRole('link', { name: 'Shelf' })).toHaveAttribute('aria-current', 'page')
    expect(await width()).toBe(390)
    await page.getByRole('link', { name: /HS-021/ }).tap()
    await expect(page.getByRole('img', { name: /Rims to scale/ })).toBeVisible()
    expect(await width()).toBe(390)
  })
})

/** Rules that a theme bears on: it changes colours and nothing else. */
const COLOURS = ['color-contrast', 'link-in-text-block']

for (const [tour, walk] of Object.entries(TOURS))
  test(`no station of the ${tour} has an accessibility violation in any theme`, async ({ page }) => {
    const ink = () =>
      page.evaluate(() => getComputedStyle(document.documentElement).getPropertyValue('--ink'))
    await page.goto('/settings')
    await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible()
    await walk(page, async (what) => {
      const inks = new Set<string>()
      for (const theme of THEMES) {
        await page.evaluate((to) => (document.documentElement.dataset['theme'] = to), theme)
        inks.add(await ink())
        // what holds is not described: to name each element that does costs more than to look at it
        const axe = new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode(true)
        const { violations } = await (theme === 'day' ? axe : axe.withRules(COLOURS)).analyze()
        expect(
          violations.map(
            (v) => `${what}, ${theme}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join('; ')}`,
          ),
        ).toEqual([])
      }
      expect(inks.size, what).toBe(THEMES.length)
      await page.evaluate(() => (document.documentElement.dataset['theme'] = 'day'))
    })
  })
