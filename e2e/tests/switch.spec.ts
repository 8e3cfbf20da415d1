import { drag, expect, goTo, reached, test } from '../envex.ts'

test('programs are solved, taken and taken back', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  await expect.poll(() => reached(page)).toBe(8)
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await expect(programs).toContainText('No programs yet')
  await programs.getByRole('button', { name: 'Solve' }).click()
  const found = programs.getByRole('group', { name: 'Found' })
  await expect(found).toContainText('no layout takes fewer, proven')
  await expect(found).toContainText('76/76')
  await found.getByRole('button', { name: 'Take these programs' }).click()
  await expect.poll(() => reached(page)).toBe(76)
  await expect(programs.getByRole('region', { name: 'Programs of Turntable' })).toContainText('Lead')
  await page.getByRole('button', { name: 'Undo: One page of programs' }).click()
  await expect.poll(() => reached(page)).toBe(8)
})

test('a bank per song is worked out, and can be left', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByText('A bank per song').click()
  await programs.getByRole('button', { name: 'Solve' }).click()
  const found = programs.getByRole('group', { name: 'Found' })
  await expect(found.getByRole('table', { name: 'Programs, old and new' })).toContainText('15/')
  await expect(found).toContainText('as it stands 8/76')
  await found.getByRole('button', { name: 'Leave it' }).click()
  await expect(programs).toContainText('No programs yet')
})

test('solving is cancelled and nothing is changed', async ({ page, demo }) => {
  await page.route('**/api/switch?*', (route) =>
    route.request().method() === 'DELETE'
      ? route.continue()
      : route.fulfill({ json: { state: 'running', progress: 0.4 } }),
  )
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  await expect(programs.getByRole('progressbar', { name: 'Working it out' })).toHaveAttribute(
    'aria-valuenow',
    '40',
  )
  await programs.getByRole('button', { name: 'Cancel' }).click()
  await expect(programs.getByRole('button', { name: 'Solve' })).toBeVisible()
  await expect(programs).toContainText('No programs yet')
})

test('two neighbours under one shoe are one press', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await expect.poll(() => reached(page)).toBe(71)
  await page.getByRole('button', { name: 'Double stomps (0)' }).click()
  await page.getByRole('button', { name: /One switch$/ }).click()
  await page.getByRole('option', { name: 'Nudge', exact: true }).click()
  await page.getByRole('button', { name: /With$/ }).click()
  await page.getByRole('option', { name: 'Amber', exact: true }).click()
  await page.getByRole('button', { name: 'Allow' }).click()
  await expect(page.getByText('Nudge and Amber', { exact: true })).toBeVisible()
  await expect.poll(() => reached(page)).toBeGreaterThan(71)
  await page.getByRole('button', { name: 'Never Nudge and Amber together' }).click()
  await expect.poll(() => reached(page)).toBe(71)
})

test('a sound is pinned to a slot, moved by keyboard with its cost shown, and moved back', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  await programs.getByRole('button', { name: 'Take these programs' }).click()
  const lead = programs.getByRole('button', { name: /^Move Lead from/ })
  await expect(lead).toBeVisible()
  const from = /from (\S+)/.exec((await lead.getAttribute('aria-label')) ?? '')?.[1] ?? ''
  await lead.focus()
  await page.keyboard.press('Enter')
  await expect(programs).toContainText('Where it stands: reach 76/76')
  await expect(programs.getByText(/reach, .*presses/).first()).toBeVisible()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(programs.getByRole('button', { name: `Move Lead from ${from}` })).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo: Move Lead to/ }).click()
  await expect(programs.getByRole('button', { name: `Move Lead from ${from}` })).toBeVisible()

  const held = programs.getByRole('button', { name: `Move Lead from ${from}` })
  await drag(page, held, programs.getByRole('cell', { name: /empty$/ }).first())
  await expect(held).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo: Move Lead to/ }).click()
  await expect(held).toBeVisible()

  await programs.getByRole('button', { name: `Lead on ${from}` }).click()
  await page.getByRole('menuitem', { name: 'Keep Lead on slot' }).click()
  await expect(programs.getByText('kept')).toBeVisible()
  await programs.getByRole('button', { name: 'Solve' }).click()
  await expect(programs.getByRole('group', { name: 'Found' })).toContainText('kept there')
})

test('some programs are taken and the others left', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  const found = programs.getByRole('group', { name: 'Found' })
  await found.getByRole('switch', { name: /Take Dust/ }).press(' ')
  await found.getByRole('button', { name: /^Take \d of 7/ }).click()
  await expect(programs.getByRole('region', { name: 'Programs of Turntable' })).toContainText('Lead')
})

test('schools are compared, each with its cost and its proof', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Compare schools' }).click()
  const table = programs.getByRole('table', { name: 'Schools compared' })
  await expect(table.getByRole('row', { name: /One page/ })).toContainText('proven the least')
  await expect(table.getByRole('row', { name: /A bank per song/ })).toContainText('76/76')
  await expect(table.getByRole('row', { name: /A switch for every loop/ })).toContainText('/76')
})

test('a repair is previewed, applied in one step and undone', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await goTo(page, /Tin Cabana, Solo/)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await expect(findings.getByText(/Then reach 7\d\/76, now 71/).first()).toBeVisible()
  await findings.getByRole('button', { name: /Other repairs/ }).click()
  const repair = findings.getByRole('button', { name: /^Put Turntable in/ })
  await repair.click()
  await expect.poll(() => reached(page)).toBe(75)
  await page.getByRole('button', { name: /^Undo: Put Turntable in/ }).click()
  await expect.poll(() => reached(page)).toBe(71)
  await goTo(page, /Night Dredger, Solo/)
  await expect(findings).toContainText('Needs a hand: no switch can do this')
})

test('the same set on another rig: what survives, and the smallest additions', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Compare with$/ }).click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  const compared = page.getByRole('region', { name: 'Compared with Carry-on board' })
  await expect(compared.getByRole('table', { name: 'Sounds there' })).toContainText('no Echo and Rotor')
  await compared.getByRole('button', { name: /^Add Echo and Rotor, for Shimmer/ }).click()
  await expect(compared).toContainText('76/76')
  await page.getByRole('button', { name: /^Undo: Add Echo and Rotor/ }).click()
  await expect(compared).toContainText('58/58')
})

test('a box more is tried, put in and taken out again', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await expect.poll(() => reached(page)).toBe(71)
  await page.getByRole('button', { name: 'Add a pedal' }).click()
  await page.getByRole('button', { name: /Pedal$/ }).click()
  await page.getByRole('option', { name: 'Turntable, owned' }).click()
  const answer = page.getByRole('region', { name: 'What it would gain' })
  await expect(answer).toContainText('75/76')
  await expect(answer).toContainText('Wrong voltage or polarity kills pedals')
  await answer.getByRole('button', { name: 'Put it in' }).click()
  await expect.poll(() => reached(page)).toBe(75)
  await page.getByRole('button', { name: 'Undo: Put Turntable in' }).click()
  await expect.poll(() => reached(page)).toBe(71)
})

test('the MIDI map says what is sent, the monitor what arrives, and a wrong channel is a finding', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  await programs.getByRole('button', { name: 'Take these programs' }).click()
  await page.getByRole('button', { name: /^MIDI map/ }).click()
  const map = page.getByRole('table', { name: 'MIDI map' })
  await expect(map.getByRole('row', { name: /Lead/ })).toContainText('C2 01')
  await map.getByRole('button', { name: /^Send .* Lead/ }).click()
  const monitor = page.getByRole('region', { name: 'Monitor' })
  await expect(monitor.getByRole('list', { name: 'Messages' })).toContainText('Echo preset B')
  await expect(monitor.getByRole('list', { name: 'Devices' })).toContainText('Echo preset: B')
  await page.getByRole('button', { name: /Turntable sends to it on$/ }).click()
  await page.getByRole('option', { name: '9', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('no message or relay reaches it')
})
