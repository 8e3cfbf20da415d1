import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'

import { pierRig, pileOfTwelve } from '../pile.ts'
import { tone } from '../tone.ts'

test.describe.configure({ timeout: 240_000 })

const root = resolve(import.meta.dirname, '../..')

const addPart = async (page: Page, kind: string) => {
  await page.getByRole('button', { name: /Add a part/ }).click()
  await page.getByRole('option', { name: kind, exact: true }).click()
  await expect(page.getByRole('textbox', { name: `Name of ${kind}` })).toBeVisible()
}

test('a band is written down, a clash is found, and a move makes room', async ({ page, blank }) => {
  await pileOfTwelve(blank, page, { rigs: [pierRig] })
  await page.goto(`${blank.url}/balance/room`)
  await page.getByRole('link', { name: 'Say who plays' }).click()
  await page.getByRole('button', { name: 'Add a band' }).click()
  await addPart(page, 'Lead voice')
  await addPart(page, 'Organ')
  const level = page.getByRole('textbox', { name: 'Level of Organ, dB over usual' })
  await level.fill('24')
  await level.press('Enter')
  expect(await axe(page)).toEqual([])

  await page.getByRole('link', { name: /^Balance/ }).click()
  await page.getByRole('link', { name: 'Room' }).click()
  const sounds = page.getByRole('table', { name: 'Sounds among the band' })
  await expect(sounds.getByRole('row', { name: /^Home/ })).toContainText('Organ', { timeout: 60_000 })
  await expect(page.getByRole('img', { name: /Loudness of Home along frequency/ })).toBeVisible()
  const finding = page.getByRole('group', { name: /Home is buried/ })
  await expect(finding).toContainText('is the least')
  expect(await axe(page)).toEqual([])

  await finding.getByRole('button', { name: /What makes room/ }).click()
  const moves = finding.getByRole('list', { name: /^Moves for/ })
  await moves.getByRole('button', { name: /Organ .* there/ }).click({ timeout: 90_000 })
  await expect(finding).toBeHidden({ timeout: 60_000 })

  // It is said of the sections it was about, and can be said otherwise there.
  await page.getByRole('link', { name: /^Hear/ }).click()
  await page.getByRole('link', { name: 'Band', exact: true }).click()
  await page.getByRole('button', { name: /^Where the parts of/ }).click()
  const who = page.getByRole('table', { name: 'Who plays in Tide table' })
  await expect(who.getByRole('switch', { name: 'Organ plays in home' })).not.toBeChecked()
  await who.getByRole('switch', { name: 'Organ plays in crunch' }).click({ force: true })
  await expect(who.getByRole('switch', { name: 'Organ plays in crunch' })).not.toBeChecked()

  // A recording of the part alone stands in place of what is usual.
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Measure Organ from a recording' }).click(),
  ])
  await chooser.setFiles({ name: 'organ.wav', mimeType: 'audio/wav', buffer: tone(9000, 440) })
  await page.getByRole('button', { name: 'Use the usual spectrum for Organ' }).click()
  await expect(page.getByRole('button', { name: 'Use the usual spectrum for Organ' })).toBeHidden()
})

test('a lane that is not where it is wished is found, in every song and in one', async ({ page, blank }) => {
  const two = JSON.parse(readFileSync(`${root}/examples/two-amps.envex.json`, 'utf8'))
  two.bands = [{ id: 'quay', name: 'Quay hands', parts: [{ id: 'voice', name: 'Voice', kind: 'voice' }] }]
  two.set_lists[0].entries = two.set_lists[0].entries.slice(0, 2)
  const taken = await page.request.post(`${blank.url}/api/import`, { data: two })
  expect(taken.ok(), await taken.text()).toBe(true)
  await page.goto(`${blank.url}/balance/room?at=2`)
  const lanes = page.getByRole('table', { name: 'Lanes here' })
  const wished = lanes.getByRole('textbox', { name: /wished in Crunch, LU over home$/ }).first()
  await wished.fill('9', { timeout: 90_000 })
  await wished.press('Enter')
  const finding = page.getByRole('group', { name: /is too quiet in Crunch/ })
  await expect(finding).toContainText(/\d+\.\d LU from where it is wished/, { timeout: 60_000 })
  expect(await axe(page)).toEqual([])
  const alone = lanes
    .getByRole('textbox', { name: /wished in Crunch in Ferry Lights, LU over home$/ })
    .first()
  await alone.fill('0')
  await alone.press('Enter')
  await page.reload()
  await expect(alone).toHaveValue('0')
  await expect(finding).toContainText(/\d+\.\d LU from where it is wished/, { timeout: 60_000 })
  await wished.fill('')
  await wished.press('Enter')
  await expect(finding).toBeHidden({ timeout: 60_000 })
})
