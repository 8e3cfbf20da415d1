import { axe } from '../axe.ts'
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
  expect(await axe(page)).toEqual([])
  await page.getByRole('button', { name: /^Strong volume at .* with Strong$/ }).click()
  const own = page.getByRole('list', { name: 'Settings for a guitar' })
  await expect(own).toContainText('Strong volume')
  await own.getByRole('button', { name: 'No setting of its own for Strong' }).click()
  await expect(page.getByText('No guitar of Pier rig has a setting of its own')).toBeVisible()
})

test('a set is put in an order with fewer guitar changes, with a song pinned', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/sets`)
  const set = page.getByRole('region', { name: 'Quay set' })
  await set.getByRole('button', { name: 'Actions for Barnacle Bop' }).click()
  await page.getByRole('menuitem', { name: 'Pin at its place' }).click()
  await expect(set.getByRole('row', { name: /Barnacle Bop/ })).toContainText('pinned')
  await set.getByRole('button', { name: 'Actions for Ferry Lights' }).click()
  await page.getByRole('menuitem', { name: 'Wished places' }).click()
  const places = page.getByRole('dialog', { name: 'Places of Ferry Lights' })
  await places.getByRole('textbox', { name: 'Not after place' }).fill('1')
  await places.getByRole('textbox', { name: 'Not after place' }).press('Enter')
  await page.keyboard.press('Escape')
  await expect(set.getByRole('row', { name: /Ferry Lights/ })).toContainText('up to place 1')

  await set.getByRole('button', { name: 'Guitar, tuning and capo between songs' }).click()
  const now = set.getByRole('region', { name: 'As it is' })
  await expect(now).toContainText('3 changes')
  await expect(now.getByRole('row', { name: /Winch Song/ })).toContainText('tune 1 string to standard')
  const order = set.getByRole('list', { name: 'Offered order' }).getByRole('listitem')
  await expect(order).toHaveCount(14)
  await expect(order.first()).toHaveText('Ferry Lights')
  await expect(order.nth(5)).toHaveText('Barnacle Bop')
  await set.getByRole('button', { name: 'Take this order' }).click()
  await expect(set.getByText('No order has fewer changes, proven.')).toBeVisible()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(now).toContainText('3 changes')
})
