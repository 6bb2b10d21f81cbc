import { defineConfig } from '@playwright/test'
import { CHROMIUM, CHROMIUM_ARGS } from './scripts/chromium.mjs'
import { controlPortOf, WORKERS } from './test/browser/ports.ts'

export default defineConfig({
  testDir: 'test/browser',
  // nothing here is a measure of speed: a busy machine is given time
  timeout: 240_000,
  expect: { timeout: 60_000 },
  workers: WORKERS,
  fullyParallel: true,
  // a test that passes only the second time is printed as flaky, with what failed the first time
  retries: 1,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    // tests of what happens without a server let them in
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: CHROMIUM,
      args: CHROMIUM_ARGS,
    },
  },
  webServer: Array.from({ length: WORKERS }, (_, worker) => ({
    command: `node --import tsx test/browser/serve.ts ${worker}`,
    url: `http://127.0.0.1:${controlPortOf(worker)}`,
    timeout: 180_000,
    gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 10_000 },
  })),
})
