import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { defineConfig } from '@playwright/test'
import { LAUNCH } from './e2e/launch'

// The port lies below those that a system gives to outgoing connections.
// The configuration is read again in every worker: folder and port are shared through the environment.
process.env['E2E_FOLDER'] ??= mkdtempSync(join(tmpdir(), 'hypomet-e2e-'))
const port = Number((process.env['E2E_PORT'] ??= String(20_000 + (process.pid % 12_000))))

export default defineConfig({
  testDir: './e2e',
  // A machine that is busy with other work is up to three times as slow.
  timeout: 240_000,
  expect: { timeout: 25_000 },
  workers: 1,
  forbidOnly: !!process.env['CI'],
  reporter: [['list']],
  outputDir: 'test-results',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 30_000,
    screenshot: 'only-on-failure',
    launchOptions: LAUNCH,
  },
  webServer: {
    command: 'node .output/server/workers/front.mjs',
    url: `http://127.0.0.1:${port}/api/health`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
    stdout: 'ignore',
    stderr: 'pipe',
    env: { HOST: '127.0.0.1', PORT: String(port), HYPOMET_DB: `file:${join(process.env['E2E_FOLDER'], 'e2e.db')}` },
  },
  globalTeardown: './e2e/teardown.ts',
})
