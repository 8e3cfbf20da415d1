import base from './playwright.config.ts'

export default { ...base, testDir: 'screenshots', workers: 1, retries: 0 }
