import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'
import { ferry, pierRig, pileOfTwelve } from '../pile.ts'

test.describe.configure({ timeout: 240_000 })

test('what an amp has to have is a page to send, and an amp without a loop has a plan', async ({
  page,
  blank,
}) => {
  const rig = {
    ...pierRig,
    path: ['brine/fx', 'amp/preamp', 'throb/fx', 'shore/fx', 'amp/reverb', 'amp/power'].map((stop) => ({
      stop,
    })),
    recipes: [...pierRig.recipes, { id: 'r4', sound: 'far', values: { 'shore/fx/on': true } }],
  }
  await pileOfTwelve(blank, page, { rigs: [rig], shows: [ferry], amp: 'combo-loop' })
  await page.goto(`${blank.url}/order`)
  await page.getByRole('button', { name: /^Destinations/ }).click()
  await page.getByRole('button', { name: 'What to ask for where an amp is hired' }).click()
  const asked = page.getByRole('table', { name: 'What to ask for' })
  await expect(asked).toContainText('a series effects loop', { timeout: 60_000 })
  await expect(asked).toContainText('Throb and Shore in it')
  await expect(page.getByText(/A valve amp always needs its speaker/).first()).toBeVisible()

  // The answer is that it has none: what moves, what is set otherwise, what is lost, and a destination for it.
  await page.getByRole('button', { name: 'The answer came: plan for another amp' }).click()
  await page.getByRole('switch', { name: 'It has no loop' }).press('Space')
  await page.getByRole('button', { name: 'Plan for it' }).click()
  const plan = page.getByRole('region', { name: 'Plan for Hired amp, no loop' })
  await expect(plan).toContainText('Throb and Shore move in front of the amp.', { timeout: 120_000 })
  await expect(plan.getByRole('columnheader')).toHaveText(['As it stands', 'Hired amp, no loop'])
  expect(await axe(page)).toEqual([])
  await plan.getByRole('button', { name: 'Take it as a destination' }).click()
  await expect(page.getByRole('banner').getByRole('button', { name: /Plugs into$/ })).toContainText(
    'Hired amp, no loop',
  )
  await expect(page.getByRole('region', { name: 'Front of amp' })).toContainText('Shore')

  // Destinations stand side by side, and one step takes it all back.
  await page.getByRole('button', { name: 'Side by side' }).click()
  const beside = page.getByRole('table', { name: 'Side by side' })
  await expect(beside.getByRole('columnheader')).toHaveText(['Hired amp, no loop', 'As it stands'], {
    timeout: 60_000,
  })
  await page.goto(`${blank.url}/step`)
  await page.getByRole('button', { name: 'The set faster and slower' }).click()
  await expect(
    page.getByRole('table', { name: 'The set faster and slower' }).getByRole('columnheader'),
  ).toHaveText(['Hired amp, no loop', '8 % slower', '4 % slower', '4 % faster', '8 % faster'], {
    timeout: 60_000,
  })
  await page.goto(`${blank.url}/order`)
  await page.getByRole('button', { name: /^Undo: Hired amp, no loop/ }).click()
  await page.getByRole('button', { name: /^Destinations/ }).click()
  await expect(page.getByRole('button', { name: 'Destinations (0)' })).toBeVisible()

  await page.goto(`${blank.url}/pack/sheets?sheet=ask&show=ferry`)
  await expect(page.frameLocator('iframe[title^="To ask for"]').getByRole('table').first()).toContainText(
    'a series effects loop',
    { timeout: 60_000 },
  )
})

test('a relay is plugged into the hired amp, and works the own one wherever that stands', async ({
  page,
  blank,
}) => {
  const rig = {
    ...pierRig,
    path: ['brine/fx', 'throb/fx', 'amp/preamp', 'amp/power'].map((stop) => ({ stop })),
    relays: [{ controller: 'box', relay: 'relay-1', target: 'amp/preamp/channel' }],
    destinations: [{ id: 'quay', name: 'Quay', kind: 'hired-amp', amp: 'other' }],
  }
  await pileOfTwelve(blank, page, {
    rigs: [rig],
    amp: 'two-channel-head',
    more: [
      ['box', 'relay-controller'],
      ['other', 'two-channel-head'],
    ],
  })
  await page.goto(`${blank.url}/step`)
  await page.getByRole('button', { name: 'Controllers’ switches' }).click()
  const relay = page.getByRole('button', { name: /Box relay 1, plugged into$/ })
  await expect(relay).toContainText('Amp preamp channel')
  await page.getByRole('button', { name: /Plugs into$/ }).click()
  await page.getByRole('option', { name: 'Quay' }).click()
  await relay.click()
  await page.getByRole('option', { name: 'Other preamp channel' }).click()
  await expect(relay).toContainText('Other preamp channel')
  expect(await axe(page)).toEqual([])
  const saved = await (await page.request.get(`${blank.url}/api/export`)).json()
  expect(saved.rigs[0].destinations[0].relays).toEqual([
    { controller: 'box', relay: 'relay-1', target: 'other/preamp/channel' },
  ])
  expect(saved.rigs[0].relays).toEqual(rig.relays)
})
