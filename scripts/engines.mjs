// npm run engines: what a phone of another make runs, tried in WebKit: every station drawn, a throw logged, offline and back, a
// reload, a review published and its page read; pictures of the main screens beside Chromium's, in dist.engines/. Installs Debian's
// webkit2gtk-driver and xvfb where they are missing; not part of npm test. Loopback only.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import fs from 'node:fs'
import net from 'node:net'
import path from 'node:path'
import { CHROMIUM, CHROMIUM_ARGS } from './chromium.mjs'
import { ensureChromium, ensurePackages, ensureWebKit, orSay, ROOT, say, WEBKIT } from './install.mjs'

orSay(() => {
  ensurePackages()
  ensureChromium()
  ensureWebKit()
})
const { Builder, By, until } = await import('selenium-webdriver')
const { chromium } = await import('playwright-core')

const PATIENCE_MS = 60_000
const folder = path.join(ROOT, 'dist.engines')
fs.rmSync(folder, { recursive: true, force: true })
fs.mkdirSync(folder)

async function freePort() {
  const probe = net.createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address()
  probe.close()
  return port
}

/** The network between a browser and the server: it can be cut. */
class Line {
  #open = new Set()
  cut = false
  constructor(to) {
    this.server = net.createServer((socket) => {
      if (this.cut) return socket.destroy()
      const on = net.connect(to, '127.0.0.1')
      for (const end of [socket, on]) {
        this.#open.add(end)
        end.on('error', () => {})
        end.on('close', () => this.#open.delete(end))
      }
      socket.pipe(on).pipe(socket)
    })
  }
  async listen() {
    this.server.listen(0, '127.0.0.1')
    await once(this.server, 'listening')
    return this.server.address().port
  }
  break() {
    this.cut = true
    for (const end of this.#open) end.destroy()
  }
  mend() {
    this.cut = false
  }
}

const port = await freePort()
const server = spawn(process.execPath, [path.join(ROOT, 'scripts', 'throwaway.mjs')], {
  stdio: 'inherit',
  env: { ...process.env, PORT: String(port), HOST: '127.0.0.1' },
})
const direct = `http://127.0.0.1:${port}`
const line = new Line(port)
const origin = `http://127.0.0.1:${await line.listen()}`
const ask = async (where) => (await fetch(`${direct}${where}`)).json()

const display = `:${100 + (process.pid % 400)}`
const screen = spawn('/usr/bin/Xvfb', [display, '-screen', '0', '1400x1000x24', '-nolisten', 'tcp'], {
  stdio: 'ignore',
})
const driverPort = await freePort()
const driver = spawn('/usr/bin/WebKitWebDriver', [`--port=${driverPort}`], {
  stdio: 'ignore',
  env: {
    ...process.env,
    DISPLAY: display,
    ...(process.getuid() === 0 && { WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: '1' }),
  },
})

const STATIONS = [
  ['bench', () => '/', 'Bench'],
  ['shelf', () => '/shelf', 'Shelf'],
  ['rotation', () => '/rotation', 'Rotation'],
  ['lab', () => '/lab', 'Line lab'],
  ['drill', () => '/drill', 'Eye drill'],
  ['settings', () => '/settings', 'Settings'],
  ['plan', (id) => `/trials/${id}/plan`, 'Plan'],
  ['field', (id) => `/trials/${id}/field`, 'Field'],
  ['readout', (id) => `/trials/${id}/readout`, 'Readout'],
  ['review', (id) => `/trials/${id}/review`, 'Review'],
]
/** A station that says less has not come yet, characters. */
const FULL = 200
const BROKEN = /This screen stopped working|There is nothing at this address|does not understand/

const did = []
const wrong = []
async function step(what, act) {
  try {
    await act()
    did.push(what)
    say(`  ✔ ${what}`)
  } catch (e) {
    wrong.push(what)
    say(`  ✘ ${what}: ${e.message.split('\n')[0]}`)
  }
}

let web
try {
  for (const end = Date.now() + 240_000; ; await new Promise((r) => setTimeout(r, 500))) {
    const up = await ask('/api/health').then(
      (h) => h.ratings === 'up to date',
      () => false,
    )
    if (up) break
    if (Date.now() > end || server.exitCode !== null)
      throw new Error('The server did not start; its reason is above.')
  }
  const trials = (await ask('/api/trials')).map((t) => t.trial)
  const half = trials.find((t) => t.name === 'Which fairway for the lake wind')
  web = await new Builder()
    .usingServer(`http://127.0.0.1:${driverPort}`)
    .withCapabilities({
      browserName: 'MiniBrowser',
      'webkitgtk:browserOptions': { binary: WEBKIT, args: ['--automation'] },
    })
    .build()
  await web.manage().window().setRect({ width: 1280, height: 860, x: 0, y: 0 })
  const text = async () => await web.executeScript('return document.body.innerText')
  const inMain = async () => await web.executeScript(`return document.querySelector('main')?.innerText ?? ''`)
  const seen = async (css) => await web.wait(until.elementLocated(By.css(css)), PATIENCE_MS)
  const says = async (pattern, why) =>
    await web.wait(async () => pattern.test(await text()), PATIENCE_MS, `it never said ${why ?? pattern}`)
  const settled = async () =>
    await web.wait(async () => !/Weighing|weighing it/.test(await text()), PATIENCE_MS, 'it went on weighing')
  const press = async (name) => {
    const button = await web.wait(
      until.elementLocated(By.xpath(`//button[normalize-space()="${name}" or @aria-label="${name}"]`)),
      PATIENCE_MS,
    )
    await web.wait(until.elementIsEnabled(button), 2 * PATIENCE_MS, `${name} cannot be pressed`)
    await web.executeScript('arguments[0].scrollIntoView({ block: "center" })', button)
    await button.click()
  }

  const browser = await chromium.launch({ executablePath: CHROMIUM, args: CHROMIUM_ARGS })
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  say('\nStations')
  const only = process.argv[2]
  for (const [name, at] of STATIONS.filter(([n]) => only === undefined || n === only))
    await step(`${name} is drawn`, async () => {
      await web.get(origin + at(half.id))
      await seen('main *')
      await web.wait(async () => (await inMain()).length > FULL, PATIENCE_MS, 'it stays empty')
      await settled()
      const shown = await text()
      if (BROKEN.test(shown)) throw new Error(shown.slice(0, 200))
      fs.writeFileSync(path.join(folder, `${name}-webkit.png`), await web.takeScreenshot(), 'base64')
      await page.goto(direct + at(half.id))
      await page.locator('main *').first().waitFor()
      await page
        .getByText(/Weighing|weighing it/)
        .first()
        .waitFor({ state: 'detached' })
      await page.screenshot({ path: path.join(folder, `${name}-chromium.png`) })
    })
  await browser.close()

  const thrown = async () => (await ask(`/api/trials/${half.id}`)).throws.length
  /** Waits until the field is there to be thrown on. */
  const onField = async () => {
    await web.wait(
      async () => /The range is clear|Landed|landing/i.test(await inMain()),
      PATIENCE_MS,
      'the field did not come',
    )
    if (/The range is clear/.test(await text())) await press('The range is clear')
    await seen('[role="application"]')
  }
  /** Puts a landing down on the field, as a finger does, and keeps it. */
  const landAndKeep = async () => {
    const field = await seen('[role="application"]')
    await web.executeScript('arguments[0].scrollIntoView({ block: "center" })', field)
    await web.actions().move({ origin: field, x: 40, y: 10 }).click().perform()
    const keep = await web.wait(
      until.elementLocated(By.xpath('//button[starts-with(normalize-space(), "Keep")]')),
      PATIENCE_MS,
      'there is nothing to keep',
    )
    await web.wait(until.elementIsEnabled(keep), PATIENCE_MS, 'the disc did not land')
    await web.executeScript('arguments[0].scrollIntoView({ block: "center" })', keep)
    await keep.click()
  }
  say('\nA throw, the network cut, a reload')
  const before = await thrown()
  await step('a throw is logged', async () => {
    await web.get(`${origin}/trials/${half.id}/field`)
    await onField()
    await landAndKeep()
    await web.wait(async () => (await thrown()) === before + 1, PATIENCE_MS, 'it was not stored')
  })
  await step('the app is kept on the device', async () => {
    await web.wait(
      async () => await web.executeScript('return navigator.serviceWorker?.controller != null'),
      PATIENCE_MS,
      'no service worker took the page',
    )
    await web.navigate().refresh()
    await settled()
  })
  await step('with the network cut a throw is kept, and is still there after a reload', async () => {
    await onField()
    line.break()
    await landAndKeep()
    await web.wait(
      async () =>
        /\b1\b.*waiting|1 waits|waiting to be sent/i.test(await text()) ||
        (await web.findElements(By.css('[aria-label*="wait"]'))).length > 0,
      PATIENCE_MS,
      'nothing says that it waits',
    )
    await web.navigate().refresh()
    await seen('main *')
    await web.wait(
      async () => (await web.findElements(By.css('[aria-label*="wait"]'))).length > 0,
      PATIENCE_MS,
      'after the reload nothing waits',
    )
    if ((await thrown()) !== before + 1) throw new Error('it was stored over a line that is cut')
  })
  await step('back on the network it is sent once', async () => {
    line.mend()
    await web.wait(async () => (await thrown()) === before + 2, PATIENCE_MS, 'it was not sent')
  })

  say('\nA review')
  await step('a review is written, frozen, published, and its page read', async () => {
    const plastics = trials.find((t) => t.name === 'Tarnwick in four plastics')
    await web.get(`${origin}/trials/${plastics.id}/review`)
    await press('Start the review')
    await press('Freeze revision 1')
    await says(/Publish/)
    await press('Publish')
    await web.wait(
      async () => {
        const { revisions } = (await ask('/api/reviews'))[0]
        return revisions[0]?.token != null
      },
      PATIENCE_MS,
      'it was not published',
    )
    const { token } = (await ask('/api/reviews'))[0].revisions[0]
    await web.get(`${origin}/published/${token}`)
    await says(/For your arm/i)
    await says(/Tarnwick/)
    fs.writeFileSync(path.join(folder, 'published-webkit.png'), await web.takeScreenshot(), 'base64')
  })

  const row = (name) =>
    `<h2>${name}</h2><div><figure><img src="${name}-webkit.png"><figcaption>WebKit</figcaption></figure><figure><img src="${name}-chromium.png"><figcaption>Chromium</figcaption></figure></div>`
  fs.writeFileSync(
    path.join(folder, 'index.html'),
    `<!doctype html><meta charset="utf-8"><title>Two engines</title><style>div{display:flex;gap:1rem}figure{margin:0;flex:1}img{width:100%;border:1px solid #999}body{font:1rem system-ui;margin:1rem}</style>${STATIONS.map(([name]) => row(name)).join('')}`,
  )
  const version = (await web.getCapabilities()).get('browserVersion')
  say(
    `\nWebKit ${version}: ${did.length} done, ${wrong.length} not. Pictures side by side: ${path.relative(ROOT, folder)}/index.html\nFirefox is not tried: Debian has nothing that drives it.`,
  )
} catch (e) {
  wrong.push(e.message)
  say(e.stack)
} finally {
  await web?.quit().catch(() => {})
  line.break()
  line.server.close()
  for (const child of [driver, screen, server]) child.kill('SIGTERM')
  await once(server, 'exit').catch(() => {})
}
process.exit(wrong.length > 0 ? 1 : 0)
