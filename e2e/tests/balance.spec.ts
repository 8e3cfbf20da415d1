import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { axe } from '../axe.ts'
import { expect, goTo, test } from '../envex.ts'

test.describe.configure({ timeout: 480_000 })
const patient = { timeout: 240_000 }

test('the sound nothing reaches is found, the boost moved, the sound reached, and both heard', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/balance`)
  await goTo(page, /Tin Cabana, Solo/)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByRole('heading', { name: 'Nothing reaches Lead' })).toBeVisible(patient)
  await expect(findings).toContainText('0.7 LU short, dirty enough')
  const map = page.getByRole('group', { name: 'Combinations by dirt and loudness' })
  await expect(map).toContainText('Lead (nothing gets here)')

  const move = findings.getByRole('button', { name: 'Try Nudge after Amber' })
  await expect(move).toBeVisible(patient)
  await findings.getByRole('button', { name: 'Listen to Nudge after Amber' }).click()
  const dock = page.getByRole('region', { name: 'Listen' })
  await expect(dock).toContainText('loudness harms hearing')
  await dock.getByRole('button', { name: 'It is turned down' }).click()
  await dock.getByRole('button', { name: 'B: the other order' }).click(patient)
  await expect(dock.getByRole('button', { name: 'B: the other order' })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await expect(dock).toContainText('LUFS at the speaker')
  await dock.getByText('Match loudness').click()
  await expect(dock.getByRole('button', { name: 'A: Lead as it stands' })).toBeEnabled(patient)
  await dock.getByRole('button', { name: 'Stop listening' }).click()
  await expect(dock).toHaveCount(0)

  await move.click()
  await expect(page.getByRole('button', { name: 'Undo: Move Nudge after Amber' })).toBeEnabled()
  await expect(findings.getByRole('heading', { name: 'Nothing reaches Lead' })).toHaveCount(0, patient)
  await expect(map).not.toContainText('nothing gets here', patient)
  await page.getByRole('button', { name: 'Undo: Move Nudge after Amber' }).click()
  await expect(findings.getByRole('heading', { name: 'Nothing reaches Lead' })).toBeVisible(patient)
})

test('the map is walked by keyboard, read as a table, and a combination made a sound', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/balance`)
  await goTo(page, /Tin Cabana, Verse/)
  const map = page.getByRole('region', { name: 'Gain map' })
  const points = map.getByRole('group', { name: 'Combinations by dirt and loudness' }).getByRole('button')
  await expect(points.first()).toBeVisible(patient)
  await points.first().focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(map.getByRole('button', { name: /Make it the recipe of$/ })).toBeVisible()
  await map.getByText('As a table').click()
  const table = map.getByRole('table', { name: 'Combinations' })
  const driven = table.getByRole('row', { name: /^Amber [+−]?\d/ })
  const crunch = driven.getByRole('cell', { name: 'Crunch', exact: true })
  await expect(crunch).toHaveCount(2) // it is its recipe, and it is in its targets
  await table.getByRole('button', { name: 'Nudge + Amber', exact: true }).click()
  await map.getByRole('button', { name: /Make it the recipe of$/ }).click()
  await page.getByRole('option', { name: 'Crunch' }).click()
  await expect(page.getByRole('button', { name: /^Undo: Crunch is/ })).toBeEnabled()
  await expect(table.getByRole('row', { name: /^Nudge \+ Amber [+−]?\d/ })).toContainText('Crunch', patient)
  await expect(crunch).toHaveCount(1, patient)
})

test('a knob is turned as offered, and the sound comes in', async ({ page, blank }) => {
  const taken = await page.request.post(`${blank.url}/api/import`, {
    data: readFileSync(resolve(import.meta.dirname, '../../demo/testdata/small.envex.json'), 'utf8'),
    headers: { 'Content-Type': 'application/json' },
  })
  expect(taken.ok(), await taken.text()).toBe(true)
  await page.goto(`${blank.url}/balance`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  const turn = findings.getByRole('button', { name: /^Turn Amber level/ })
  await expect(turn).toBeVisible(patient)
  await turn.click()
  await expect(findings.getByRole('heading', { name: 'Nothing reaches Lead' })).toHaveCount(0, patient)
  await page.getByRole('button', { name: /^Undo: Amber level/ }).click()
  await expect(findings.getByRole('heading', { name: 'Nothing reaches Lead' })).toBeVisible(patient)
})

test('metering is cancelled, and goes on when the view is left', async ({ page, demo }) => {
  await page.route('**/api/gainmap?*', (route) =>
    route.request().method() === 'DELETE'
      ? route.continue()
      : route.fulfill({ json: { state: 'running', progress: 0.3 } }),
  )
  await page.goto(`${demo.url}/balance`)
  const main = page.getByRole('main')
  await expect(main.getByRole('progressbar', { name: 'Metering every combination' })).toHaveAttribute(
    'aria-valuenow',
    '30',
  )
  await main.getByRole('button', { name: 'Cancel' }).first().click()
  await expect(main).toContainText('Cancelled')
  await page.unroute('**/api/gainmap?*')
  await page.reload()
  await page.waitForTimeout(300)
  await page.getByRole('link', { name: /Pack/ }).click()
  await page.getByRole('link', { name: /Balance/ }).click()
  await expect(page.getByRole('group', { name: 'Combinations by dirt and loudness' })).toBeVisible(patient)
})

test('a level the player measured goes before the model, and a bad file is refused', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/balance`)
  await page.getByRole('button', { name: 'Measured levels (0)' }).click(patient)
  await page.getByRole('button', { name: /Block$/ }).click()
  await page.getByRole('option', { name: 'Amber', exact: true }).click()
  await page.getByRole('textbox', { name: 'On over off, dB' }).fill('6')
  await page.getByRole('textbox', { name: 'On over off, dB' }).press('Tab')
  await expect(page.getByText('Amber: on is +6.0 dB over off')).toBeVisible()
  await expect(page.getByText('1 measured by you')).toBeVisible()
  await page.getByRole('button', { name: 'Forget the level of Amber' }).click()
  await page.getByRole('button', { name: 'Play a recording of your own' }).click()
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Choose a dry WAV' }).click()
  await (await chooser).setFiles({
    name: 'no.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from('this is no sound at all, only words that are long enough'),
  })
  await expect(page.getByText('this is not a WAV file', { exact: false })).toBeVisible()
})

test('two orders are metered and heard in Order', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByText(/On this rig, modelled:/).first()).toBeVisible(patient)
  await findings.getByRole('button', { name: 'Listen to both orders' }).first().click()
  await page
    .getByRole('region', { name: 'Listen' })
    .getByRole('button', { name: 'It is turned down' })
    .click()
  await expect(page.getByRole('button', { name: 'B: the other order' })).toBeEnabled(patient)
})

test('Balance has nothing axe finds, in both themes', async ({ page, still }) => {
  await page.goto(`${still.url}/balance`)
  await expect(page.getByRole('group', { name: 'Combinations by dirt and loudness' })).toBeVisible(patient)
  await expect(page.getByRole('table', { name: 'Sounds metered' })).toBeVisible(patient)
  for (const theme of ['Bench theme', 'Stage theme']) {
    expect(await axe(page)).toEqual([])
    await page.getByRole('button', { name: theme }).click()
  }
})

test('an empty plan says what Balance is for', async ({ page, blank }) => {
  await page.goto(`${blank.url}/balance`)
  await expect(page.getByRole('main')).toContainText('It needs a rig with a chain and a recipe')
})
