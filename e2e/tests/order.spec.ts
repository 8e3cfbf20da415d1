import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Page } from '@playwright/test'
import { expect, type Program, reached, test } from '../envex.ts'

/** Order, with one of the chains of real rigs taken into an empty plan. */
async function openChain(program: Program, page: Page, chain: string) {
  const file = resolve(import.meta.dirname, `../../core/path/testdata/chains/${chain}.envex.json`)
  await page.request.post(`${program.url}/api/import`, { data: JSON.parse(readFileSync(file, 'utf8')) })
  await page.goto(`${program.url}/order`)
}

test('the best order is taken, one move or all, and taken back', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const best = page.getByRole('region', { name: 'Best order' })
  await expect(best).toContainText('(15 points). Best possible: 4 points, proven.')
  await best.getByRole('button', { name: 'Take: Move Rotor before Amber' }).click()
  await expect(best).toContainText('(6 points)')
  await best.getByRole('button', { name: 'Take the best order' }).click()
  await expect(best).toContainText('4 points stand against this order, and no order has fewer: proven.')
  await page.getByRole('button', { name: 'Undo: Best order' }).click()
  await page.getByRole('button', { name: 'Undo: Move Rotor before Amber' }).click()
  await expect(best).toContainText('(15 points)')
})

test('an order is kept with a reason and never nagged about again', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await findings
    .locator('section', { hasText: 'Move Silt before Plumb' })
    .getByRole('button', { name: 'Keep' })
    .click()
  await page.getByRole('dialog').getByRole('textbox').fill('The tuner comes first, always')
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click()
  await expect(findings.getByText('Kept: The tuner comes first, always')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Best order' })).toContainText('(11 points)')
})

test('a school chosen decides what is out of order', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: 'Move Rotor before Amber' })).toBeVisible()
  await page.getByRole('button', { name: 'Schools' }).click()
  await page.getByText('after the drive: it moves the whole sound', { exact: true }).click()
  await expect(findings.getByRole('heading', { name: 'Move Rotor before Amber' })).toHaveCount(0)
})

test('a pinned stop stays where it is', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: 'Actions for Rotor' }).click()
  await page.getByRole('menuitem', { name: 'Pin it here' }).click()
  const best = page.getByRole('region', { name: 'Best order' })
  await expect(best).toContainText('(15 points)')
  await expect(best).toContainText('Best possible: 13 points, proven')
  await expect(best).not.toContainText('Move Rotor')
})

test('the cables follow from the chain', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await expect(page.getByRole('region', { name: 'Best order' })).toContainText('Best possible') // it stands above
  await page.getByRole('button', { name: /^Cables \(/ }).click()
  await expect(page.getByRole('row', { name: /Driftwood output Plumb input/ })).toBeVisible()
  await expect(page.getByRole('row', { name: /Pier combo send Flutter input/ })).toBeVisible()
})

test('a move is looked at before it is taken', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const front = page.getByRole('grid', { name: 'Front of amp' }).getByRole('row')
  const names = async () => Promise.all((await front.all()).map((r) => r.getAttribute('aria-label')))
  await expect.poll(names).toContain('Rotor, off')
  const before = await names()
  await page.getByRole('button', { name: 'Look at: Move Rotor before Amber' }).click()
  await expect(page.getByText('Looking at:')).toBeVisible()
  await expect.poll(names).not.toEqual(before)
  await page.getByRole('button', { name: 'Back to the order as it stands' }).click()
  await expect.poll(names).toEqual(before)
})

test('two orders of one rig are kept and set side by side', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: 'Kept orders (1)' }).click()
  await page.getByRole('button', { name: 'Keep this order' }).click()
  await page.getByRole('dialog').getByRole('textbox').fill('As we always had it')
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Save|Keep|OK|Done/ })
    .first()
    .click()
  await expect(page.getByRole('columnheader', { name: 'As we always had it' })).toBeVisible()
  await expect(page.getByRole('row', { name: /^Points against it/ })).toHaveText(
    /Points against it\s*15\s*6\s*15/,
  )
  await page.getByRole('button', { name: 'Take Vibe before the drives' }).click()
  await expect(page.getByRole('row', { name: /^Points against it/ })).toHaveText(/Points against it\s*6/)
  await expect(page.getByRole('columnheader', { name: 'As it was' })).toBeVisible()
})

test('plugged in elsewhere, everything is worked out for there', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await expect.poll(() => reached(page)).toBe(71)
  await page.getByRole('button', { name: 'Plugs into' }).click()
  await page.getByRole('option', { name: 'Hired head' }).click()
  await expect.poll(() => reached(page)).toBe(67)
  await expect(page.getByRole('row', { name: /^Hired head preamp/ })).toBeVisible()
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await findings.getByRole('button', { name: 'Plug in the left side alone' }).click()
  await expect(findings.getByText('takes one side of Room')).toHaveCount(0)
  await page.getByRole('button', { name: 'Destinations (4)' }).click()
  const hired = page.getByRole('region', { name: 'Hired head' })
  await expect(hired).toContainText('It has a chain of its own')
  await hired.getByRole('button', { name: "Follow the rig's chain" }).click()
  await expect(findings.getByText('takes one side of Room')).toBeVisible()
  await hired.getByRole('button', { name: 'Back to the rig as it stands' }).click()
  await expect(page.getByRole('row', { name: /^Pier combo preamp/ })).toBeVisible()
  await expect.poll(() => reached(page)).toBe(71)
})

test('a show picks where its rig plugs in', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: /Show$/ }).click()
  await page.getByRole('option', { name: /^Quay stage, morning/ }).click()
  await expect(page.getByRole('row', { name: /^Bollard/ })).toBeVisible()
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: /One mono line/ })).toBeVisible()
  await expect(findings).toContainText('−3 dB')
})

test('loops of a switcher are filled and put right', async ({ page, blank }) => {
  await openChain(blank, page, '06-loops-out-of-number-order')
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: /Loop 1 before loop 2/ })).toBeVisible()
  await findings.getByRole('button', { name: 'Put the loops in number order' }).click()
  await expect(findings.getByText('Nothing to say against the order.')).toBeVisible()
  await page.getByRole('button', { name: 'Loops', exact: true }).click()
  await page.getByRole('button', { name: 'Stops in loop 2' }).click()
  await page.getByRole('menuitem', { name: 'Take out Amber' }).click()
  await expect(page.getByRole('button', { name: 'Stops in loop 2' })).toHaveText('spare')
  await page.getByRole('switch', { name: 'Loop 1 held on' }).press('Space')
  await expect(page.getByText('loop 1, held')).toBeVisible()
})

test('a valve head without a speaker is a danger that cannot be kept', async ({ page, blank }) => {
  await openChain(blank, page, '15-preamp-out-to-a-recording-chain-power-muted')
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: /Danger Hired head has no speaker/ })).toBeVisible()
  await expect(findings).toContainText('A valve amp always needs its speaker')
  await expect(findings.getByRole('button', { name: 'Keep' })).toHaveCount(0)
})

test('presets are copied into the order of the set in one step', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('row', { name: /^Echo,/ }).click()
  await page.getByRole('button', { name: 'Presets in the order of the set' }).click()
  const moves = page.getByRole('table', { name: 'Presets of Echo that change places' })
  await expect(moves.getByRole('row').nth(1)).toContainText('Ferry Lights')
  await page.getByRole('button', { name: 'Copy them into this order' }).click()
  await expect(page.getByText('The presets of Echo stand in the order of the set.')).toBeVisible()
  await expect(
    page.getByRole('button', { name: 'Undo: Presets of Echo in the order of the set' }),
  ).toBeEnabled()
})
