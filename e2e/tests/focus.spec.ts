import type { Page } from '@playwright/test'
import { expect, test } from '../envex.ts'

// Who works by keys is never sent back to the top of the page: what has the focus goes away, and it goes to what is beside it.

const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement
    return at === document.body || !at
      ? 'the page'
      : (at.getAttribute('aria-label') ?? at.textContent ?? '').trim()
  })

test('a rehearsal is begun, ended and walked with the focus on one button, and says where it is', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/play`)
  const says = page.getByRole('status', { name: 'Now and next' })
  await page.getByRole('button', { name: 'Start Ferry Lights' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeFocused()
  await expect(says).toContainText('Now Intro, Home. Next Verse, Home.')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Start Ferry Lights' })).toBeFocused()
  await expect(says).toBeEmpty()
  await page.getByRole('button', { name: 'Walk it by hand' }).press('Enter')
  await expect(page.getByRole('button', { name: 'On to Verse' })).toBeFocused()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await expect(says).toContainText('Now Chorus, Crunch.')
  await expect(says).toContainText('Press now:')
  for (const to of ['Verse 2', 'Solo', 'Out', 'End of the song']) {
    await expect(page.getByRole('button', { name: to })).toBeFocused()
    await page.keyboard.press('Enter')
  }
  await expect(page.getByRole('button', { name: 'Start Ferry Lights' })).toBeFocused()
  await page.getByRole('button', { name: 'On to Low Tide Cumbia' }).press('Enter')
  await expect(page.getByRole('button', { name: 'Start Low Tide Cumbia' })).toBeFocused()
})

test('what is taken, kept and removed hands the focus on', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await findings.getByRole('button', { name: 'Keep: Move Silt before Plumb' }).press('Enter')
  await page.getByRole('dialog').getByRole('textbox').fill('It sounds right there')
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).press('Enter')
  await expect(findings.getByText('Kept: It sounds right there')).toBeVisible()
  await expect.poll(() => focused(page)).not.toBe('the page')
  await page.getByRole('button', { name: 'Take the best order' }).press('Enter')
  await expect(page.getByRole('button', { name: 'Take the best order' })).toHaveCount(0)
  await expect.poll(() => focused(page)).not.toBe('the page')
  await page.goto(`${demo.url}/hear/sounds`)
  await page.getByRole('button', { name: 'Add a sound' }).press('Enter')
  const remove = page.getByRole('button', { name: /^Remove Sound \d/ })
  await remove.press('Enter')
  await expect(remove).toHaveCount(0)
  await expect.poll(() => focused(page)).not.toBe('the page')
})
