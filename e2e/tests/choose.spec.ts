import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'
import { ferry, pierRig, pileOfTwelve } from '../pile.ts'

test.describe.configure({ timeout: 300_000 })

test('three boxes of twelve make the set, and become the rig of tonight', async ({ page, blank }) => {
  await pileOfTwelve(blank, page)
  await page.getByRole('navigation', { name: 'Own' }).getByRole('link', { name: 'Choose' }).click()
  await page.getByRole('button', { name: /At most$/ }).click()
  await page.getByRole('option', { name: 'three boxes' }).click()
  await page.getByRole('button', { name: 'Choose boxes' }).click()
  await expect(
    page.getByText('Three boxes make all 4 sounds, and no smaller choice makes as many.'),
  ).toBeVisible({
    timeout: 120_000,
  })
  const first = page.getByRole('region', { name: /^Choice 1:/ })
  for (const box of ['Brine', 'Throb', 'Shore'])
    await expect(first.getByText(box, { exact: true }).first()).toBeVisible()
  const earns = page.getByRole('table', { name: 'What each box earns' })
  await expect(earns.getByRole('row', { name: /^Brine/ })).toContainText('alone')
  await expect(earns.getByRole('row', { name: /^Spray/ })).not.toContainText('alone')
  expect(await axe(page)).toEqual([])

  await first.getByRole('button', { name: /^Take .* as a rig$/ }).click()
  await expect(page).toHaveURL(/\/order/)
  const front = page.getByRole('region', { name: 'Front of amp' })
  await expect(front.getByRole('row')).not.toHaveCount(0)
  for (const box of ['Brine', 'Throb', 'Shore']) await expect(front).toContainText(box)
  await page.goto(`${blank.url}/step`)
  await expect(page.getByRole('status', { name: /^Reach/ })).toContainText('3')
  // One step takes it back.
  await page.getByRole('button', { name: /^Undo: Take/ }).click()
  await expect(page.getByRole('button', { name: /Rig$/ })).not.toContainText('Brine')
})

test('what is left at home is not chosen, and a kind that is not owned may be', async ({ page, blank }) => {
  await pileOfTwelve(blank, page)
  await page.goto(`${blank.url}/own/choose`)
  await page.getByRole('button', { name: /Leave at home$/ }).click()
  await page.getByRole('option', { name: 'Throb' }).click()
  await page.getByRole('button', { name: /Also a kind you do not own$/ }).click()
  await page.getByRole('option', { name: 'Tap tremolo' }).click()
  await page.getByRole('button', { name: 'Choose boxes' }).click()
  const first = page.getByRole('region', { name: /^Choice 1:/ })
  await expect(first).toContainText('Tap tremolo', { timeout: 120_000 })
  await expect(first).toContainText('not owned')
  await expect(first).not.toContainText('Throb')
  // Everything but what stays at home was looked through: the drive and the echo are still there.
  for (const box of ['Brine', 'Shore']) await expect(first).toContainText(box)
  await first.getByRole('button', { name: /^Take .* as a rig$/ }).click()
  await page.goto(`${blank.url}/own`)
  await expect(page.getByRole('navigation', { name: 'Gear' }).getByText('Tap tremolo')).toBeVisible()
})

test('a dead box is replaced in three actions, for good or for one show', async ({ page, blank }) => {
  await pileOfTwelve(blank, page, { rigs: [pierRig], shows: [ferry] })
  await page.goto(`${blank.url}/order`)
  await page.getByRole('row', { name: /^Throb,/ }).click()
  await page.getByRole('button', { name: 'Stand in for Throb' }).click()
  const offers = page.getByRole('list', { name: 'What stands in for Throb' })
  await expect(offers.getByRole('listitem').first()).toBeVisible({ timeout: 120_000 })
  const tap = offers.getByRole('group', { name: 'Tap tremolo for Throb' })
  await expect(tap).toContainText('1/1 within its targets')
  await expect(tap).toContainText('a kind, not owned')
  expect(await axe(page)).toEqual([])
  await tap.getByRole('button', { name: 'Take Tap tremolo for Ferry deck alone' }).click()

  // The show has a rig of its own with it, and says so; the other rig is as it was.
  await expect(page.getByRole('button', { name: /Rig$/ })).toContainText('Tap tremolo for Throb')
  await expect(page.getByRole('region', { name: 'Front of amp' })).toContainText('Tap tremolo')
  await page.goto(`${blank.url}/pack/shows/ferry`)
  await expect(page.getByRole('group', { name: 'Change 1: Tap tremolo stood in for Throb' })).toBeVisible()
  await page.getByRole('button', { name: /^Undo: Tap tremolo stands in/ }).click()
  await page.goto(`${blank.url}/order`)
  await expect(page.getByRole('region', { name: 'Front of amp' })).toContainText('Throb')

  await page.getByRole('row', { name: /^Throb,/ }).click()
  await page.getByRole('button', { name: 'Stand in for Throb' }).click()
  await page.getByRole('button', { name: 'Take Tap tremolo for good' }).click()
  await expect(page.getByRole('region', { name: 'Front of amp' })).not.toContainText('Throb')
  await expect(page.getByRole('region', { name: 'Front of amp' })).toContainText('Tap tremolo')
})

test('what stands in for each pedal of a show is metered, goes on paper, and is taken from there', async ({
  page,
  blank,
}) => {
  await pileOfTwelve(blank, page, { rigs: [pierRig], shows: [ferry] })
  await page.goto(`${blank.url}/pack/sheets?show=ferry&sheet=failure`)
  await page.getByRole('link', { name: 'Stand-ins' }).click()
  const paper = page.frameLocator('iframe[title^="Stand-ins"]')
  await expect(paper.getByRole('heading', { name: /^Throb dies: plug in / })).toBeVisible({
    timeout: 120_000,
  })
  await expect(paper.getByRole('heading', { name: 'Nothing stands in' })).toBeVisible()
  await expect(paper.getByRole('table').last()).toContainText('Brine')
  expect(await axe(page)).toEqual([])
  const words = await paper.getByRole('heading', { name: /^Throb dies/ }).textContent()
  const other = words?.replace('Throb dies: plug in ', '') ?? ''

  await page.getByRole('button', { name: 'Stand in for Throb' }).click()
  await page.getByRole('button', { name: `Take ${other} for Ferry deck alone` }).click({ timeout: 120_000 })
  await expect(page.getByRole('button', { name: /Rig$/ })).toContainText(`${other} for Throb`)
  await expect(paper.getByRole('heading', { name: new RegExp(`^${other} dies: plug in`) })).toBeVisible({
    timeout: 120_000,
  })
})
