import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '../envex.ts'
import { pierRig, pileOfTwelve } from '../pile.ts'

test.describe.configure({ timeout: 180_000 })

test('a stronger guitar is levelled with the other, as a setting of its own', async ({ page, blank }) => {
  const rig = {
    ...pierRig,
    guitars: ['guitar', 'strong'],
    path: [{ stop: 'lift/fx' }, ...pierRig.path],
  }
  await pileOfTwelve(blank, page, {
    rigs: [rig],
    more: [
      ['strong', 'two-humbucker'],
      ['lift', 'boost'],
    ],
  })
  await page.goto(`${blank.url}/order`)
  await page.getByRole('button', { name: 'Level guitars' }).click()
  await page.getByRole('button', { name: 'Level guitars' }).last().click()
  const sounds = page.getByRole('table', { name: 'Sounds on Strong' })
  await expect(sounds.getByRole('row', { name: /^Home/ })).toContainText('on Guitar', { timeout: 90_000 })
  expect((await new AxeBuilder({ page }).analyze()).violations.map((v) => v.id)).toEqual([])
  await page.getByRole('button', { name: /^Strong volume at .* with Strong$/ }).click()
  const own = page.getByRole('list', { name: 'Settings for a guitar' })
  await expect(own).toContainText('Strong volume')
  await own.getByRole('button', { name: 'No setting of its own for Strong' }).click()
  await expect(page.getByText('No guitar of Pier rig has a setting of its own')).toBeVisible()
})
