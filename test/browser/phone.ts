import { execFileSync } from 'node:child_process'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'
import type { BrowserContext } from '@playwright/test'
import { CERTUTIL, CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs'

/**
 * A phone of its own: a browser that keeps what it is given over a restart, and trusts nobody but whom its store of
 * certificates names. Nothing about certificates is switched off.
 */
export class Phone {
  readonly #home = fs.mkdtempSync(path.join(os.tmpdir(), 'veer-line-phone-'))
  #on: BrowserContext | undefined

  /** @param baseURL where addresses without a host are */
  async on(baseURL: string): Promise<BrowserContext> {
    this.#on = await chromium.launchPersistentContext(path.join(this.#home, 'profile'), {
      executablePath: CHROMIUM,
      args: CHROMIUM_ARGS,
      env: { ...process.env, HOME: this.#home } as Record<string, string>,
      baseURL,
      viewport: { width: 390, height: 844 },
      hasTouch: true,
      serviceWorkers: 'allow',
    })
    return this.#on
  }
  async off(): Promise<void> {
    await this.#on?.close()
    this.#on = undefined
  }
  /** Does what its owner does in its settings: has an authority trusted. */
  trust(der: Buffer): void {
    const store = path.join(this.#home, '.pki', 'nssdb')
    fs.mkdirSync(store, { recursive: true })
    const file = path.join(this.#home, 'authority.crt')
    fs.writeFileSync(file, der)
    const certutil = (...args: string[]) => execFileSync(CERTUTIL, ['-d', `sql:${store}`, ...args])
    certutil('-N', '--empty-password')
    certutil('-A', '-t', 'C,,', '-n', 'veer line', '-i', file)
  }
  async throwAway(): Promise<void> {
    await this.off()
    fs.rmSync(this.#home, { recursive: true, force: true })
  }
}
