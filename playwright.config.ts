import { defineConfig } from '@playwright/test'
import { CHROMIUM, CHROMIUM_ARGS } from './scripts/chromium.mjs'

const port = Number(process.env['VEER_TEST_PORT'] ?? 4469)
const origin = `http://127.0.0.1:${port}`

export default defineConfig({
  testDir: 'test/browser',
  timeout: 60_000,
  expect: { timeout: 15_000 },
  workers: 1,
  reporter: [['list']],
  use: {
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
    command: 'node scripts/throwaway.mjs',
    url: `${origin}/api/health`,
    env: { PORT: String(port), HOST: '127.0.0.1' },
    timeout: 120_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
  },
})
