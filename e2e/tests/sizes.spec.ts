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

/** By how many px the page, the work in it and the edge of the work are wider than their places. */
const over = () => {
  const main = document.querySelector('main')
  return [
    document.documentElement.scrollWidth - innerWidth,
    (main?.scrollWidth ?? 0) - (main?.clientWidth ?? 0),
    (main?.getBoundingClientRect().right ?? 0) - innerWidth,
  ]
}

test('nothing scrolls sideways on any screen', async ({ page, still }) => {
  const wide: string[] = []
  for (const view of views) {
    await page.goto(still.url + view)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height })
      let px: number[] = []
      const fits = async () => {
        px = await page.evaluate(over)
        return px.every((each) => each <= 1)
      }
      await expect
        .poll(fits, { timeout: 5000 })
        .toBe(true)
        .catch(() => wide.push(`${view} at ${width}: ${px}`))
    }
  }
  expect(wide).toEqual([])
})
