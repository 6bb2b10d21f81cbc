import { chromium } from 'playwright-core'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] })
const phone = process.argv[2] === 'phone'
const page = await b.newPage({ viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 }, serviceWorkers: 'block' })
page.on('console', m => m.type()==='error' && console.log(m.text()))
await page.goto('http://127.0.0.1:4600/')
const href = await page.getByRole('region', { name: process.argv[3] ?? 'Tarnwick in four plastics' }).getByRole('link', { name: /Read it|Go on|Plan/ }).first().getAttribute('href')
const id = href.match(/trials\/([^/?]+)/)[1]
for (const v of process.argv.slice(4)) {
  await page.goto(`http://127.0.0.1:4600/trials/${id}/${v}`)
  await page.waitForTimeout(3500)
  await page.screenshot({ path: `/tmp/s-${phone?'p-':''}${v.replace(/\W/g,'_')}.png` })
}
await b.close()
