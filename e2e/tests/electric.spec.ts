import type { Page } from '@playwright/test'
import { drag, expect, goTo, test } from '../envex.ts'

async function pickRig(page: Page, name: string) {
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name, exact: true }).click()
}

test('the jump of treble is found, a buffer tried, put in, and the jump is gone', async ({ page, demo }) => {
  await page.goto(`${demo.url}/balance`)
  await pickRig(page, 'Bare board')
  const lost = page.getByRole('region', { name: 'Lost treble' })
  await expect(lost).toContainText(
    'Biggest jump: Dust to Home, −5.5 dB of treble at 5 kHz, most at 4.2 kHz: −5.7 dB',
  )
  await lost.getByRole('button', { name: 'Show' }).click()
  await expect(lost).toContainText('Home loses 14.4 dB of treble at 5 kHz')
  await expect(lost).toContainText('before Pier combo preamp')
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: /Home is 5\.5 dB duller than Dust/ })).toBeVisible()

  await lost.getByRole('button', { name: 'Try a buffer before Pier combo' }).click()
  await expect(lost).toContainText('the worst sound loses 9.0 dB instead of 14.4')
  await lost.getByRole('button', { name: 'Try a buffer before Nudge' }).click()
  await expect(lost).toContainText('the biggest jump is 2.7 dB instead of 5.5')
  await expect(lost).toContainText('Home loses 6.2 dB of treble at 5 kHz')
  await lost.getByRole('button', { name: 'Put a buffer before Nudge' }).click()
  await expect(page.getByRole('button', { name: 'Undo: Put a buffer before Nudge' })).toBeEnabled()
  await expect(lost).toContainText('before Buffer')
  await expect(lost).toContainText(/Biggest jump: .*2\.7 dB of treble/)
  await expect(findings.getByRole('heading', { name: /duller than Dust/ })).toHaveCount(0)
  await expect(lost).toContainText('No buffer would gain half a decibel anywhere')
})

test('the curves are read by keyboard, slid by volume, and shown as a table', async ({ page, demo }) => {
  await page.goto(`${demo.url}/balance`)
  await pickRig(page, 'Bare board')
  await goTo(page, /Night Dredger, Verse/)
  const lost = page.getByRole('region', { name: 'Lost treble' })
  const chart = lost.getByRole('slider', { name: /Treble over frequency/ })
  await expect(chart).toHaveAttribute('aria-valuetext', /5\.02.kHz: .*Home −13\.4 dB/)
  await chart.focus()
  await page.keyboard.press('PageDown')
  await expect(chart).toHaveAttribute('aria-valuetext', /2\.83.kHz/)
  await page.keyboard.press('ArrowRight')
  await expect(chart).toHaveAttribute('aria-valuetext', /2\.99.kHz/)

  const volume = lost.getByRole('slider', { name: 'Guitar volume' })
  await volume.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(lost).toContainText('7.5')
  for (let n = 0; n < 5; n += 1) await page.keyboard.press('ArrowLeft')
  await expect(lost).toContainText('Its level is −17')
  await lost.getByRole('button', { name: 'As the recipe says' }).click()
  await expect(lost).toContainText('Its level is −4.3')

  await lost.getByText('As a table').click()
  const rows = lost.getByRole('table', { name: 'Treble of each sound' })
  await expect(rows.getByRole('row', { name: /^Home/ })).toContainText('Pier combo preamp')
  await expect(rows.getByRole('row', { name: /^Home/ })).toContainText('1794 pF')
  await expect(rows.getByRole('row', { name: /^Crunch/ })).toContainText('Amber')
})

test('power is assigned, a danger is refused, provoked and cleared', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/power`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  const power = page.getByRole('region', { name: 'Power' })
  await expect(
    findings.getByRole('heading', { name: 'Lantern 10 has less than 20 % in reserve' }),
  ).toBeVisible()
  await power.getByRole('button', { name: 'Assign all' }).click()
  await expect(findings).toContainText('Every box is fed as it wants.')
  const twelve = power.getByRole('group', { name: 'Lantern 12' })
  await expect(twelve).toContainText('Echo')
  await expect(twelve.getByRole('img', { name: 'Lantern 12: 250 mA drawn, 50 % left' })).toBeVisible()

  // An output that is switched too high is refused, and nothing is changed.
  await twelve.getByRole('button', { name: /Voltage of Lantern 12/ }).click()
  await page.getByRole('option', { name: '18 V' }).click()
  await expect(page.getByText(/18 V into Echo, which takes 9 V/)).toBeVisible()
  await expect(twelve.getByRole('button', { name: /Voltage of Lantern 12/ })).toContainText('9 V')

  // A box that turns out to be centre-positive is a danger where it hangs.
  await page.goto(`${demo.url}/own/rust`)
  await page.getByRole('button', { name: /Polarity/ }).click()
  await page.getByRole('option', { name: 'centre-positive' }).click()
  await page.getByRole('link', { name: /Build/ }).click()
  await page.getByRole('navigation', { name: 'Build' }).getByRole('link', { name: 'Power' }).click()
  await page.getByRole('navigation', { name: 'Build' }).getByRole('link', { name: 'Power' }).click()
  const danger = findings.getByRole('heading', { name: /Rust would be harmed/ })
  await expect(danger).toBeVisible()
  await expect(findings).toContainText('Wrong voltage or polarity kills pedals.')
  await expect(power.getByText(/Wrong polarity: Rust is centre-positive/)).toBeVisible()
  await findings.getByRole('button', { name: 'Unplug Rust' }).click()
  await expect(danger).toHaveCount(0)
  await expect(power.getByRole('group', { name: 'Not fed' })).toContainText('Rust')

  // Plugged again it is refused with the reason; a reversing lead makes it fit.
  await power.getByRole('button', { name: 'What feeds Rust' }).click()
  await page.getByRole('menuitem', { name: /^Lantern 9: wrong polarity/ }).click()
  await expect(page.getByRole('alert')).toContainText('Not plugged: wrong polarity')
  await expect(page.getByRole('alert')).toContainText('check the label of the box itself')
  await expect(power.getByRole('list', { name: 'What is missing' })).toContainText(
    'a polarity-reversing lead',
  )
  await power.getByText('Polarity-reversing leads').click()
  await expect(power.getByRole('list', { name: 'What is missing' })).toHaveCount(0)
  await power.getByRole('button', { name: 'Assign all' }).click()
  await expect(findings).toContainText('Every box is fed as it wants.')
  await expect(power).toContainText('reversing lead')
})

test('boxes are dragged to outputs by mouse and by keyboard', async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 1300 })
  await page.goto(`${demo.url}/build/power`)
  const power = page.getByRole('region', { name: 'Power' })
  const eleven = power.getByRole('group', { name: 'Lantern 11' })
  await drag(page, power.getByRole('button', { name: 'Move Rotor' }), eleven)
  await expect(eleven).toContainText('Rotor')
  await expect(power.getByRole('group', { name: 'Lantern 7' })).toContainText('free')

  const rust = power.getByRole('button', { name: 'Move Rust' })
  await rust.focus()
  await page.keyboard.press('Enter')
  for (let n = 0; n < 20; n += 1) {
    const at = await page.evaluate(() =>
      document.activeElement?.closest('[aria-label]')?.getAttribute('aria-label'),
    )
    if (at?.includes('On battery')) break
    await page.keyboard.press('Tab')
  }
  await page.keyboard.press('Enter')
  await expect(power.getByRole('group', { name: 'On battery' })).toContainText('Rust')
  await power.getByRole('textbox', { name: 'Hours run by the battery of Rust' }).fill('24')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Findings' })).toContainText(
    'The battery of Rust is low',
  )
})

test('a supply is entered output by output, and cable by length', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own/buoy`)
  const outputs = page.getByRole('region', { name: 'Outputs' })
  await outputs.getByRole('button', { name: 'Add an output' }).click()
  const volts = outputs.getByRole('textbox', { name: 'Volts of output 2' })
  await volts.fill('9, 18')
  await volts.press('Enter')
  await expect(volts).toHaveValue('9, 18')
  await volts.fill('nine')
  await volts.press('Enter')
  await expect(page.getByText('“nine” is not a voltage').first()).toBeVisible()
  await expect(volts).toHaveValue('nine')
  await volts.press('Escape')
  await expect(volts).toHaveValue('9, 18')
  await page.goto(`${demo.url}/build/power`)
  await expect(page.getByRole('group', { name: 'Buoy 2' })).toContainText('free')

  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: /^Cables/ }).click()
  const length = page.getByRole('textbox', { name: /^Length of Driftwood output to Plumb/ })
  await length.fill('3')
  await length.press('Enter')
  await expect(page.getByRole('button', { name: 'Undo: Cable from Driftwood to Plumb' })).toBeEnabled()
  await page.goto(`${demo.url}/balance`)
  await expect(page.getByRole('region', { name: 'Lost treble' })).toContainText('300 pF')
})
