import { defineConfig } from '@playwright/test'
import { CHROMIUM, CHROMIUM_ARGS } from './scripts/chromium.mjs'
import { CONTROL_PORT, PORT } from './test/browser/ports.ts'

const origin = `http://127.0.0.1:${PORT}`

export default defineConfig({
  testDir: 'test/browser',
  // nothing here is a measure of speed: a busy machine is given time
  timeout: 240_000,
  expect: { timeout: 60_000 },
  workers: 1,
  reporter: [['list']],
  use: {
    actionTimeout: 60_000,
    baseURL: origin,
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    // tests of what happens without a server let them in
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: CHROMIUM,
      args: CHROMIUM_ARGS,
    },
  },
  webServer: {
    command: 'node --import tsx test/browser/serve.ts',
    url: `http://127.0.0.1:${CONTROL_PORT}`,
    timeout: 120_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
  },
})
