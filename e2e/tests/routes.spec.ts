import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, goTo, type Program, reached, test } from '../envex.ts'

/** Order, with the rig of an invented player taken into an empty plan. */
async function openRig(program: Program, page: Page, rig: string) {
  const file = resolve(import.meta.dirname, `../../testdata/rigs/${rig}/rig.envex.json`)
  await page.request.post(`${program.url}/api/import`, { data: JSON.parse(readFileSync(file, 'utf8')) })
  await page.goto(`${program.url}/order`)
}

test('a piezo has a path of its own, which a switch of the guitar chooses', async ({ page, blank }) => {
  await openRig(blank, page, 'singer')
  const front = page.getByRole('region', { name: 'Front of amp' })
  // The verse is played on the piezo: the drive is not in its signal.
  await expect(page.getByRole('region', { name: 'Out', exact: true })).toContainText('not in the signal')
  await front.getByText('tap', { exact: true }).first().click()
  const sheet = page.getByRole('region', { name: /Settings of the piezo out of Gull/ })
  const lane = sheet.getByRole('group', { name: 'piezo out sounds at' })
  await expect(lane.getByRole('switch', { name: 'piezo' })).toBeChecked()
  await expect(lane.getByRole('switch', { name: 'magnetic' })).not.toBeChecked()
  expect(await axe(page)).toEqual([])
  // With the amp in every position the verse is played over both.
  const main = sheet.getByRole('group', { name: 'The main path sounds at' })
  await main.getByText('piezo', { exact: true }).click()
  await expect(main.getByRole('switch', { name: 'piezo' })).toBeChecked()
  await expect(page.getByRole('region', { name: 'Out', exact: true })).not.toContainText('not in the signal')
  await page.getByRole('button', { name: /^Undo: When the main path sounds/ }).click()
  await expect(page.getByRole('region', { name: 'Out', exact: true })).toContainText('not in the signal')
})

test('every lead is on the list, those without sound too', async ({ page, blank }) => {
  await openRig(blank, page, 'singer')
  await page.getByRole('button', { name: /^Cables/ }).click()
  await expect(page.getByRole('table').filter({ hasText: 'Carries' })).toContainText('piezo out')
  await expect(page.getByRole('table').filter({ hasText: 'Kind' })).toContainText('MIDI')
})

test('a box of the pile is placed where it stands best', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  await page.getByRole('button', { name: 'Place a box of the pile' }).click()
  await page.getByRole('button', { name: /^Box|Box$/ }).click()
  await page.getByRole('option', { name: 'Rust' }).click()
  const put = page.getByRole('button', { name: /^Put Rust before/ }).first()
  await put.click()
  await expect(page.getByRole('button', { name: /^Undo: Put Rust before/ })).toBeEnabled()
  await expect(page.getByRole('button', { name: 'Move Rust' })).toBeVisible()
})

test('a section without a recipe is not set yet, and counted apart', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  await expect.poll(() => reached(page)).toBe(58)
  await expect(page.getByRole('status', { name: 'Reach' })).toContainText('18 not set yet')
  await goTo(page, /Low Tide Cumbia, Chorus/)
  await expect(page.getByRole('complementary', { name: 'Findings' })).toContainText('Shimmer is not set yet')
})
