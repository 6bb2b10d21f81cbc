import { chromium } from 'playwright-core'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] })
const page = await b.newPage({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' })
await page.goto('http://127.0.0.1:4600/')
const href = await page.getByRole('region', { name: 'Which fairway for the lake wind' }).getByRole('link').first().getAttribute('href')
const id = href.match(/trials\/([^/?]+)/)[1]
await page.goto(`http://127.0.0.1:4600/trials/${id}/plan`)
for (const k of ['arms','wind']) {
await page.getByRole('combobox', { name: 'Question' }).selectOption(k)
await page.waitForTimeout(2500)
await page.screenshot({ path: `/tmp/s-plan-${k}.png`, clip: { x: 920, y: 60, width: 360, height: 740 } })
}
await b.close()
