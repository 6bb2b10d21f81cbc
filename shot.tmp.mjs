import { chromium } from 'playwright-core'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] })
const c = await b.newContext({ viewport: { width: 1280, height: 800 } })
const p = await c.newPage()
const O='http://127.0.0.1:4600'
await p.goto(O); await p.getByRole('heading',{name:'Bench'}).waitFor(); await p.waitForTimeout(6000)
await p.screenshot({path:'/tmp/s-bench.png'})
await p.getByRole('region',{name:'Tarnwick in four plastics'}).getByRole('link',{name:/Readout|Read/}).first().click().catch(async()=>{})
await p.getByRole('heading',{name:'What you can say'}).waitFor({timeout:60000}); await p.waitForTimeout(3000)
await p.screenshot({path:'/tmp/s-readout.png', fullPage:true})
await p.goto(O+'/settings'); await p.getByRole('button',{name:'Add a thrower'}).click(); await p.getByLabel('goes').fill('75'); await p.waitForTimeout(400)
await p.screenshot({path:'/tmp/s-arm.png'})
await b.close()
