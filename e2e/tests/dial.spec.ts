import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'
import { pierRig, pileOfTwelve } from '../pile.ts'
import { tone } from '../tone.ts'

test.describe.configure({ timeout: 180_000 })

test('a sound is dialled in by steps, kept as found good, and found again', async ({ page, blank }) => {
  await pileOfTwelve(blank, page, { rigs: [pierRig] })
  await page.goto(`${blank.url}/balance/dial?at=1`)
  const knobs = page.getByRole('list', { name: /^Knobs of Crunch/ })
  await expect(knobs.getByRole('img', { name: /^Brine drive from 0 to 10/ })).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Dial Crunch in' }).click()
  const steps = page.getByRole('list', { name: 'Steps for Crunch' })
  await expect(steps.getByRole('listitem').first()).toContainText('With every pedal off', { timeout: 60_000 })
  await expect(steps).toContainText('Turn Brine on')
  const recorded = async (step: number, buffer: Buffer) => {
    const chooser = page.waitForEvent('filechooser')
    await steps.getByRole('button', { name: `Check step ${step} by a recording` }).click()
    await (await chooser).setFiles({ name: `step ${step}.wav`, mimeType: 'audio/wav', buffer })
  }
  await recorded(1, tone(2000, 220, 3))
  await expect(steps.getByRole('listitem').first()).toContainText(/Recorded: \d+ % dirt/)
  await recorded(2, tone(8000, 220, 3))
  await expect(steps.getByRole('listitem').nth(1)).toContainText('; +12.0 LU, modelled: ')
  expect(await axe(page)).toEqual([])

  await page.getByRole('textbox', { name: 'Keep it as' }).fill('Net loft')
  await page.getByRole('textbox', { name: 'Room' }).fill('Door shut')
  await page.getByRole('button', { name: 'Keep where the knobs stand' }).click()
  const kept = page.getByRole('region', { name: 'Net loft' })
  await expect(kept).toContainText('Every knob stands where it stood')
  await expect(kept).toContainText('Door shut')

  await page.getByRole('button', { name: 'Look for start points' }).click()
  await page.getByRole('button', { name: 'Start pushed' }).click({ timeout: 60_000 })
  const moved = kept.getByRole('table', { name: 'Knobs that stand elsewhere than in Net loft' })
  await expect(moved.getByRole('row', { name: /gain/ })).toBeVisible()
  await expect(
    page.getByRole('img', { name: /^What the tone knobs do along frequency. bass at / }),
  ).toBeVisible()
  await kept.getByRole('button', { name: 'Bring Net loft back' }).click()
  await expect(kept).toContainText('Every knob stands where it stood')
})
