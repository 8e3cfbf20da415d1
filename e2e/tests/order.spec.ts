import { expect, test } from '../envex.ts'

test('the best order is taken, one move or all, and taken back', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const best = page.getByRole('region', { name: 'Best order' })
  await expect(best).toContainText('weight 15')
  await expect(best).toContainText('the best 4, proven')
  await best.getByRole('button', { name: 'Take: Move Rotor before Amber' }).click()
  await expect(best).toContainText('weight 6')
  await best.getByRole('button', { name: 'Take the best order' }).click()
  await expect(best).toContainText('none costs less, proven')
  await page.getByRole('button', { name: 'Undo: Best order' }).click()
  await page.getByRole('button', { name: 'Undo: Move Rotor before Amber' }).click()
  await expect(best).toContainText('weight 15')
})

test('an order is kept with a reason and never nagged about again', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await findings
    .locator('section', { hasText: 'Silt before Plumb' })
    .getByRole('button', { name: 'Keep' })
    .click()
  await page.getByRole('dialog').getByRole('textbox').fill('The tuner comes first, always')
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click()
  await expect(findings.getByText('Kept: The tuner comes first, always')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Best order' })).toContainText('weight 11')
})

test('a school chosen decides what is out of order', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: 'Rotor before Amber' })).toBeVisible()
  await page.getByRole('button', { name: 'Schools' }).click()
  await page.getByText('it moves the whole sound').click()
  await expect(findings.getByRole('heading', { name: 'Rotor before Amber' })).toHaveCount(0)
})

test('a pinned stop stays where it is', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: 'Actions for Rotor' }).click()
  await page.getByRole('menuitem', { name: 'Pin it here' }).click()
  const best = page.getByRole('region', { name: 'Best order' })
  await expect(best).toContainText('weight 15')
  await expect(best).toContainText('the best 13, proven')
  await expect(best).not.toContainText('Move Rotor')
})

test('the cables follow from the chain', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: /^Cables \(/ }).click()
  await expect(page.getByRole('row', { name: /Driftwood output Plumb input/ })).toBeVisible()
  await expect(page.getByRole('row', { name: /Pier combo send Flutter input/ })).toBeVisible()
})
