import { existsSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { defineConfig } from '@playwright/test'
import type { Slow } from './envex.ts'

/** Debian's Chromium: the one without a window where there is one, which is a third quicker. */
const chromium =
  process.env.CHROMIUM ??
  ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)) ??
  '/usr/bin/chromium'

export const browser = {
  executablePath: chromium,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}

// What a program works out the others of this run find; nothing of an earlier run, and nothing of the user's.
process.env.ENVEX_E2E_CACHE ??= mkdtempSync(join(tmpdir(), 'envex-e2e-cache-'))

/** What edits nothing. It takes long, so it begins first. */
const looks = /axe finds nothing|fits? every screen/

export default defineConfig<{ slow: Slow | undefined }>({
  globalTeardown: './teardown.ts',
  timeout: 240_000,
  expect: { timeout: 45_000 },
  workers: 3, // one waits for an answer while two have a core each
  fullyParallel: true,
  forbidOnly: Boolean(process.env.CI),
  retries: 0,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: browser,
    locale: 'en-GB',
    colorScheme: 'dark',
    trace: 'off',
    actionTimeout: 60_000,
  },
  projects: [
    // Where everything runs, each test runs once: those that edit with slow hands.
    { name: 'usual', testDir: 'tests', grep: process.env.CI ? looks : /./ },
    { name: 'speed', testDir: 'speed' },
    {
      name: 'slow hands',
      testMatch: ['tests/*.spec.ts', 'slow/*.spec.ts'],
      grepInvert: looks,
      use: {
        slow: {
          // Long enough that the next edit comes first; SLOW_MS and SLOW_CPU make both as slow as one likes.
          writesMs: Number(process.env.SLOW_MS ?? (process.env.CI ? 300 : 1000)),
          cpu: Number(process.env.SLOW_CPU ?? (process.env.CI ? 1 : 1.5)),
        },
      },
    },
  ],
})
