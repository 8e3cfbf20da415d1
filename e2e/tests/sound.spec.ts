import { axe } from '../axe.ts'
import { expect, goTo, test } from '../envex.ts'

test('a selector joins pickups in series and out of phase', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own/bulkhead`)
  const sheet = page.getByRole('region', { name: 'Pickups and wiring' })
  await sheet.getByRole('button', { name: 'What each position of the selector has on' }).click()
  const both = sheet.getByRole('group', { name: 'Position both' })
  const choose = async (label: string | RegExp, option: string) => {
    await both.getByRole('button', { name: label }).click()
    await page.getByRole('option', { name: option, exact: true }).click()
  }
  await choose(/neck$/, 'on')
  await choose(/bridge$/, 'on, out of phase')
  await choose(/Wired$/, 'in series')
  await expect(both.getByRole('button', { name: /in series/ })).toBeVisible()
  expect(await axe(page)).toEqual([])
  await page.reload()
  await sheet.getByRole('button', { name: 'What each position of the selector has on' }).click()
  await expect(both.getByRole('button', { name: /on, out of phase/ })).toBeVisible()
  // A pickup that goes takes what was said of it along.
  await sheet.getByRole('button', { name: 'Remove the bridge pickup' }).click()
  await expect(both.getByRole('button', { name: /in series/ })).toHaveCount(0)
  await expect(page.getByRole('button', { name: /^Undo: Pickup of Bulkhead/ })).toBeEnabled()
})

test('a circuit is chosen in the sheet of its block', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own/amber`)
  const block = page.getByRole('region', { name: /^Block / }).first()
  await block.getByRole('button', { name: /Circuit$/ }).click()
  await page.getByRole('option', { name: 'transparent' }).click()
  await expect(block.getByRole('button', { name: /transparent/ })).toBeVisible()
  await page.goto(`${demo.url}/own/hired`)
  const channels = page.getByRole('group', { name: 'Circuits by channel' })
  await channels.getByRole('button', { name: /At channel drive/ }).click()
  await page.getByRole('option', { name: 'edge of breakup' }).click()
  await expect(page.getByRole('button', { name: /^Undo: Circuit of Hired/ })).toBeEnabled()
})

test('a sound asks two delays, and each answers for its own', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/sounds`)
  const lead = page.getByRole('region', { name: 'Lead', exact: true })
  await lead.getByRole('button', { name: 'Must be heard' }).click()
  await page.getByRole('menuitem', { name: 'delay', exact: true }).click()
  await lead
    .getByRole('button', { name: /Repeats at$/ })
    .last()
    .click()
  await page.getByRole('option', { name: '1/4', exact: true }).click()
  const percent = lead.getByLabel('or % of the note').last()
  await percent.fill('50')
  await percent.press('Enter')
  await expect(lead.getByLabel('First repeat, dB').last()).toHaveValue(/[-−]6/)
  await expect(lead.getByRole('button', { name: 'delay 1/4', exact: true })).toBeVisible()
  await page.goto(`${demo.url}/order`)
  await goTo(page, /Tin Cabana, Solo/)
  await page.getByRole('row', { name: /^Echo,/ }).click()
  const sheet = page.getByRole('region', { name: 'Settings of Echo' })
  await sheet.getByRole('button', { name: /Answers for$/ }).click()
  await page.getByRole('option', { name: '1/4', exact: true }).click()
  await expect(page.getByRole('button', { name: /^Undo: Note of Echo in Lead/ })).toBeEnabled()
})

test('a box follows a clock, and a rate is measured', async ({ page, demo }) => {
  await page.goto(demo.url)
  await page.getByRole('button', { name: 'Who sends the tempo' }).click()
  await page.getByRole('button', { name: /Slap follows/ }).click()
  await page.getByRole('option', { name: 'the clock of Echo' }).click()
  await expect(page.getByRole('button', { name: /^Undo: Clock of Slap/ })).toBeEnabled()
  await page.goto(`${demo.url}/own/flutter`)
  await page.getByRole('button', { name: 'Measure how fast speed is' }).click()
  const rates = page.getByRole('group', { name: 'How fast speed is' })
  await rates.getByLabel('Hz at position 2').fill('3')
  await rates.getByLabel('Hz at position 2').press('Enter')
  await expect(rates.getByLabel('Hz at position 2')).toHaveValue('3')
  expect(await axe(page)).toEqual([])
})

test('the presets of a delay are made by meaning, and named', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('row', { name: /^Echo,/ }).click()
  const sheet = page.getByRole('region', { name: 'Settings of Echo' })
  await sheet.getByRole('button', { name: 'Presets by meaning' }).click()
  await expect(sheet.getByRole('alert')).toContainText('Echo has 3 presets, and the grid needs 6')
  await sheet.getByText('eighth', { exact: true }).click()
  const grid = sheet.getByRole('table', { name: 'Presets of Echo by meaning' })
  await expect(grid.getByRole('row', { name: /^medium/ })).toContainText('Lead')
  await expect(sheet).toContainText('At most 2 presses from any to any other.')
  await expect(sheet.getByRole('table', { name: 'Ways to use the presets of Echo' })).toContainText(
    'By meaning',
  )
  await expect(sheet).toContainText('Echo hears no tempo.')
  await sheet.getByRole('button', { name: 'Make and name these presets' }).click()
  await expect(page.getByRole('button', { name: 'Undo: Presets of Echo by meaning' })).toBeEnabled()
  await expect
    .poll(async () => {
      const plan = await (await page.request.get(`${demo.url}/api/plan`)).json()
      const long = plan.rigs.find((r: { value: { id: string } }) => r.value.id === 'long').value
      return long.preset_names?.echo?.B
    })
    .toBe('medium dotted 1/8')
})
