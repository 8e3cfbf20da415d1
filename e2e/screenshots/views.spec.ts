import { resolve } from 'node:path'
import { expect, goTo, test } from '../envex.ts'

const folder = resolve(import.meta.dirname, '../../docs/screenshots')

const views = [
  { name: 'step', path: '/step', at: /Tin Cabana, Solo/ },
  { name: 'order', path: '/order', at: /Tin Cabana, Solo/, row: /^Echo,/ },
  { name: 'order-lanes', path: '/order', at: /Tin Cabana, Solo/, destination: 'Dance hall, two combos' },
  { name: 'programs', path: '/step', at: /Tin Cabana, Solo/, rig: 'Long board, switched' },
  { name: 'hear', path: '/hear/songs', at: /Tin Cabana, Solo/ },
  { name: 'sounds', path: '/hear/sounds', at: /Tin Cabana, Solo/ },
  { name: 'sets', path: '/hear/sets', at: /Tin Cabana, Solo/ },
  { name: 'own', path: '/own/echo', at: /Tin Cabana, Solo/ },
  { name: 'pack', path: '/pack', at: /Tin Cabana, Solo/ },
  { name: 'step-bench', path: '/step', at: /Night Dredger, Solo/, bench: true },
]

for (const v of views) {
  test(v.name, async ({ page, demo }) => {
    await page.goto(demo.url + v.path)
    if (v.bench) await page.getByRole('button', { name: 'Bench theme' }).click()
    if (v.destination) {
      await page.getByRole('button', { name: 'Plugs into' }).click()
      await page.getByRole('option', { name: v.destination }).click()
    }
    if (v.rig) {
      await page.getByRole('button', { name: /Rig$/ }).click()
      await page.getByRole('option', { name: v.rig }).click()
      const programs = page.getByRole('region', { name: 'Programs', exact: true })
      await programs.getByRole('button', { name: 'Solve' }).click()
      await programs.getByRole('button', { name: 'Take these programs' }).click()
      await expect(programs.getByRole('table')).toBeVisible()
    }
    await goTo(page, v.at)
    if (v.rig) await page.getByRole('region', { name: 'Programs', exact: true }).scrollIntoViewIfNeeded()
    if (v.row) await page.getByRole('row', { name: v.row }).click()
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.mouse.move(700, 790)
    await page.evaluate(() => document.fonts.ready)
    await page.waitForTimeout(400)
    await page.screenshot({ path: `${folder}/${v.name}.png` })
  })
}
