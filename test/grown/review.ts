// npm run bench -- --review: how long a long review takes to be handed out, as a person meets it, and what its page weighs.
import fs from 'node:fs'
import { gzipSync } from 'node:zlib'
import { chromium } from 'playwright-core'
import { v7 as newId } from 'uuid'
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'
import { bundleReader } from '../../scripts/reader.mjs'
import { sheetOfSession } from '../simulate/sheet.ts'
import { origin, say, start, stopped } from './app.ts'

const THROWS = 2000
const PHOTOS = 12

const figures: Record<string, number> = {}
const child = await start('demo')
const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_ARGS })
try {
  const id = newId()
  const sent = await fetch(`${origin}/api/trials/${id}/import?name=Long&method=ranged&store=1`, {
    method: 'POST',
    headers: { 'content-type': 'text/csv' },
    body: sheetOfSession({ seed: 0.42, throws: THROWS, discs: 6, called: true }),
  })
  if (!sent.ok) throw new Error(await sent.text())
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  page.setDefaultTimeout(120_000)
  await page.goto(`${origin}/trials/${id}/review`)
  const begun = performance.now()
  await page.getByRole('button', { name: 'Start the review' }).click()
  await page.getByText('carried by the throws').filter({ visible: true }).first().waitFor()
  figures['review_filled_ms'] = Math.round(performance.now() - begun)

  await page.getByRole('textbox', { name: 'Verdict', exact: true }).click()
  const noise = await page.evaluate(async () => {
    const canvas = document.createElement('canvas')
    ;[canvas.width, canvas.height] = [1600, 1200]
    const on = canvas.getContext('2d')!
    for (let i = 0; i < 4000; i++) {
      on.fillStyle = `hsl(${(i * 47) % 360} 60% ${30 + ((i * 13) % 50)}%)`
      on.fillRect((i * 97) % 1600, (i * 61) % 1200, 90, 70)
    }
    return canvas.toDataURL('image/jpeg', 0.9).split(',')[1]!
  })
  for (let k = 0; k < PHOTOS; k++) {
    await page
      .getByLabel('Photo for the review')
      .setInputFiles({ name: `photo-${k}.jpg`, mimeType: 'image/jpeg', buffer: Buffer.from(noise, 'base64') })
    await page.getByRole('img', { name: `photo-${k}.jpg` }).waitFor()
  }
  await page.waitForTimeout(3000)
  const pressed = performance.now()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'One page (HTML)' }).click()
  const html = fs.readFileSync(await (await download).path())
  figures['page_of_2000_throws_12_photos_ms'] = Math.round(performance.now() - pressed)
  figures['page_mb'] = Math.round(html.length / 1e5) / 10
  figures['photos_inside'] = html.toString('utf8').split('data:image/jpeg').length - 1
  figures['reader_gzipped_kb'] = Math.round(gzipSync(await bundleReader()).length / 100) / 10
} finally {
  await browser.close()
  await stopped(child)
}
for (const [name, value] of Object.entries(figures)) say(`  ${name}: ${value}`)
process.stdout.write(`${JSON.stringify(figures)}\n`)
