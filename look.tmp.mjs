import { chromium } from 'playwright-core'
const [,, path, out, w='1280', h='800', full='no'] = process.argv
const b = await chromium.launch({ executablePath: '/usr/bin/chromium-headless-shell', args: ['--no-sandbox','--disable-gpu'] })
const c = await b.newContext({ viewport: { width: +w, height: +h }, serviceWorkers: 'block' })
const p = await c.newPage()
await p.goto('http://127.0.0.1:4600' + path)
await p.waitForTimeout(6000)
await p.screenshot({ path: out, fullPage: full === 'full' })
await b.close()
