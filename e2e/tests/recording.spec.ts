import type { Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, type Program, test } from '../envex.ts'
import { tone } from '../tone.ts'

/** What the program renders of a sound stands in for a recording of it. */
async function recordingOf(page: Page, demo: Program, sound: string): Promise<Buffer> {
  let clip = ''
  await expect(async () => {
    const work = await (
      await page.request.get(`${demo.url}/api/listen?rig=long&sound=${sound}&wait_ms=2000`)
    ).json()
    clip = work.result.clips[0].id
  }).toPass()
  return (await page.request.get(`${demo.url}/api/clips/${clip}`)).body()
}

test('a sound is made of a recording, and its targets are those that were found', async ({ page, demo }) => {
  const [lead, home] = [await recordingOf(page, demo, 'lead'), await recordingOf(page, demo, 'home')]
  await page.goto(`${demo.url}/hear/sounds`)
  await page.getByRole('button', { name: 'A sound from a recording' }).click()
  const panel = page.getByRole('region', { name: 'A sound from a recording' })
  const bring = async (button: string, name: string, buffer: Buffer) => {
    const chooser = page.waitForEvent('filechooser')
    await panel.getByRole('button', { name: button, exact: true }).click()
    await (await chooser).setFiles({ name, mimeType: 'audio/wav', buffer })
  }
  await bring('Bring a recording', 'silent.wav', tone(0))
  await expect(panel.getByRole('alert')).toContainText('shorter than two seconds')
  await expect(panel.getByRole('button', { name: 'Make it a sound' })).toHaveCount(0)

  await bring('Another recording', 'Quay solo.wav', lead)
  await expect(panel.getByText('Repeats every 380 ms')).toBeVisible()
  await bring('Bring home as well', 'home.wav', home)
  await expect(panel.getByText('Over home', { exact: true })).toBeVisible()
  await panel.getByRole('textbox', { name: 'Name' }).fill('Quay solo')
  await panel.getByRole('textbox', { name: 'Played at, bpm' }).fill('118')
  await panel.getByRole('textbox', { name: 'Played at, bpm' }).press('Enter')
  expect(await axe(page)).toEqual([])
  await panel.getByRole('button', { name: 'Make it a sound' }).click()

  const made = page.getByRole('region', { name: 'Quay solo', exact: true })
  await expect(made.getByText('delay 1/8., 3 repeats')).toBeVisible()
  await made.getByRole('button', { name: 'Figures' }).click()
  await expect(made.getByText('Its spectrum is that of a recording')).toBeVisible()
  await made.getByRole('button', { name: 'Forget the spectrum of Quay solo' }).click()
  await expect(made.getByText('Its spectrum is that of a recording')).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('button', { name: /^Undo: Spectrum of Quay solo/ })).toBeEnabled()
})
