import { expect, test } from '../envex.ts'

// What is too wide for its screen is found by going through every view at every size.

const views = [
  '/hear/songs',
  '/hear/sounds',
  '/hear/sets',
  '/own/amber',
  '/own/driftwood',
  '/own/turntable',
  '/order',
  '/balance',
  '/step',
  '/build/board',
  '/build/power',
  '/build/boards',
  '/pack/shows',
  '/pack/log',
  '/pack/sheets',
  '/begin',
  '/learn',
  '/about',
]

/** A phone, a page at twice its size, a tablet, a laptop. */
const sizes = [
  [390, 844],
  [640, 400],
  [1024, 768],
  [1280, 800],
] as const

/** Whether the page, or the work in it, is wider than its place. */
const over = () => {
  const main = document.querySelector('main')
  return [
    document.documentElement.scrollWidth - innerWidth,
    (main?.scrollWidth ?? 0) - (main?.clientWidth ?? 0),
    (main?.getBoundingClientRect().right ?? 0) - innerWidth,
  ].some((px) => px > 1)
}

test('nothing scrolls sideways on any screen', async ({ page, still }) => {
  const wide: string[] = []
  for (const view of views) {
    await page.goto(still.url + view)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height })
      const fits = expect.poll(() => page.evaluate(over), { timeout: 5000 }).toBe(false)
      await fits.catch(() => wide.push(`${view} at ${width}`))
    }
  }
  expect(wide).toEqual([])
})
