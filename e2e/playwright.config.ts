import { defineConfig } from '@playwright/test'

const chromium = process.env.CHROMIUM ?? '/usr/bin/chromium'

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

export default defineConfig({
  testDir: 'tests',
  timeout: 150_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: Boolean(process.env.CI),
  retries: process.env.CI ? 2 : 0,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: browser,
    locale: 'en-GB',
    colorScheme: 'dark',
    trace: 'off',
  },
})
