// Installs what is missing: packages from the npm registry, PostgreSQL and Chromium from Debian's. No dependencies.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { CERTUTIL, CHROMIUM } from './chromium.mjs'

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..')
export const say = (line) => console.error(line)

/** Something a person has to mend; said as it is, without a stack. */
export class GiveUp extends Error {}
export function give(up) {
  throw new GiveUp(up)
}

/** Runs a script's steps; ends with a sentence when one gives up. */
export function orSay(steps) {
  try {
    return steps()
  } catch (e) {
    if (!(e instanceof GiveUp)) throw e
    say(e.message)
    return process.exit(1)
  }
}

/** npm install when node_modules is missing or older than the lock file says. */
export function ensurePackages() {
  const stamp = path.join(ROOT, 'node_modules', '.veer-line-installed')
  const wanted = createHash('sha256')
    .update(fs.readFileSync(path.join(ROOT, 'package.json')))
    .update(fs.readFileSync(path.join(ROOT, 'package-lock.json')))
    .digest('hex')
  if (fs.existsSync(stamp) && fs.readFileSync(stamp, 'utf8') === wanted) return
  say('Installing packages (a minute or two the first time) …')
  const done = spawnSync('npm', ['install', '--no-audit', '--no-fund'], {
    cwd: ROOT,
    stdio: ['ignore', 2, 2],
    env: { ...process.env, npm_config_loglevel: 'error' },
  })
  if (done.status !== 0) give('npm install failed; its own words are above. Nothing else was started.')
  fs.writeFileSync(stamp, wanted)
}

/** Installs a Debian package, or says what to type when not root. */
function ensureDebian(found, name, what) {
  if (found()) return
  if (process.getuid() !== 0)
    give(
      `${what} is missing and only root can install it. Type:\n\n  sudo apt-get update && sudo apt-get install -y ${name}\n\nthen try again.`,
    )
  say(`Installing ${name} from Debian's packages …`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  for (const args of [
    ['update', '-qq'],
    ['install', '-y', '-qq', name],
  ]) {
    const done = spawnSync('apt-get', args, { stdio: ['ignore', 2, 2], env })
    if (done.status !== 0) give(`apt-get ${args.join(' ')} failed; install ${name} by hand and try again.`)
  }
  if (!found()) give(`${name} was installed, but ${what} is still not found.`)
}

export function ensurePostgres(findBin) {
  const found = () => {
    try {
      return Boolean(findBin())
    } catch {
      return false
    }
  }
  ensureDebian(found, 'postgresql', 'The PostgreSQL server')
}

export const ensureChromium = () =>
  ensureDebian(() => fs.existsSync(CHROMIUM), 'chromium-headless-shell', 'Chromium (for the browser tests)')

/** Tells a browser of the tests which authorities it trusts. */
export const ensureCertutil = () =>
  ensureDebian(() => fs.existsSync(CERTUTIL), 'libnss3-tools', 'certutil (for the browser tests)')

/** Drives Debian's WebKit, and what it draws on. */
export const WEBKIT = '/usr/lib/x86_64-linux-gnu/webkit2gtk-4.1/MiniBrowser'
export const ensureWebKit = () => {
  ensureDebian(
    () => fs.existsSync('/usr/bin/WebKitWebDriver') && fs.existsSync(WEBKIT),
    'webkit2gtk-driver',
    'WebKit (for npm run engines)',
  )
  ensureDebian(() => fs.existsSync('/usr/bin/Xvfb'), 'xvfb', 'Xvfb (for npm run engines)')
}

/** Newest change below some files and folders, ms. */
function newest(...entries) {
  let last = 0
  for (const entry of entries) {
    if (!fs.existsSync(entry)) continue
    const stat = fs.statSync(entry)
    if (stat.isDirectory())
      last = Math.max(last, newest(...fs.readdirSync(entry).map((f) => path.join(entry, f))))
    else last = Math.max(last, stat.mtimeMs)
  }
  return last
}

/**
 * Builds the web app when its sources are newer than the last build: aside, and put in place when it is whole, so that a
 * build that was broken off is never served.
 */
export function ensureBuilt(root = ROOT) {
  const dist = path.join(root, 'dist')
  const mark = path.join(dist, 'sw.js') // what a build writes last
  const sources = newest(
    ...['web', 'core', 'contract', 'vite.config.ts', 'package-lock.json'].map((s) => path.join(root, s)),
  )
  if (fs.existsSync(mark) && fs.statSync(mark).mtimeMs > sources) return
  say('Building the web app …')
  const aside = (what) => path.join(root, `dist.${what}`)
  for (const left of ['making', 'before']) fs.rmSync(aside(left), { recursive: true, force: true })
  const vite = path.join(root, 'node_modules', 'vite', 'bin', 'vite.js')
  const done = spawnSync(
    process.execPath,
    [vite, 'build', '--logLevel', 'warn', '--outDir', aside('making'), '--emptyOutDir'],
    { cwd: root, stdio: ['ignore', 2, 2] },
  )
  if (done.status !== 0 || !fs.existsSync(path.join(aside('making'), 'sw.js')))
    give('The web app could not be built; the reason is above.')
  if (fs.existsSync(dist)) fs.renameSync(dist, aside('before'))
  fs.renameSync(aside('making'), dist)
  fs.rmSync(aside('before'), { recursive: true, force: true })
}
