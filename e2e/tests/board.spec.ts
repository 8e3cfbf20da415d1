import type { Locator, Page } from '@playwright/test'
import { expect, type Program, test } from '../envex.ts'

const boxes = (page: Page) => page.getByRole('group', { name: 'The board', exact: true })
const findings = (page: Page) => page.getByRole('complementary', { name: 'Findings' })
const rig = async (page: Page, demo: Program, id: string) =>
  (await (await page.request.get(`${demo.url}/api/plan`)).json()).rigs.find(
    (r: { value: { id: string } }) => r.value.id === id,
  ).value

/** Tab is pressed until a control has the focus. */
async function tabTo(page: Page, control: Locator, way: 'on' | 'back' = 'on') {
  for (let i = 0; i < 150; i++) {
    if (await control.evaluate((e) => e === document.activeElement)) return
    await page.keyboard.press(way === 'on' ? 'Tab' : 'Shift+Tab')
  }
  throw new Error('Tab never comes to it')
}

async function chooseByKeys(page: Page, select: Locator, option: string | RegExp) {
  await tabTo(page, select)
  await page.keyboard.press('Enter')
  const wanted = page.getByRole('option', { name: option })
  await expect(page.getByRole('listbox').locator(':focus')).toHaveCount(1)
  await page.keyboard.press('Home')
  for (let i = 0; !(await wanted.evaluate((e) => e === document.activeElement)); i++) {
    if (i > 30) throw new Error('the arrows never come to it')
    await page.keyboard.press('ArrowDown')
  }
  await page.keyboard.press('Enter')
  await expect(page.getByRole('listbox')).toHaveCount(0)
}

test('what hangs over the edge is said, and one press mends it', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build`)
  const board = page.getByRole('group', { name: 'Board totals' })
  await expect(board).toContainText('in the hand, 13 boxes')
  await expect(board).toContainText('48.0 s')
  const over = findings(page).locator('section', {
    hasText: 'Sluice stands 20 mm over the edge of Long plank.',
  })
  await over.getByRole('button', { name: 'Move Sluice 20 mm away from you' }).click()
  await expect(over).toHaveCount(0)
  await expect.poll(async () => (await rig(page, demo, 'long')).floor.places.sluice.y_mm).toBe(140)
})

test('boxes are put on each other by keyboard, and a blocked plug is mended', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/board`)
  await boxes(page)
    .getByRole('button', { name: /^Amber, 470 mm/ })
    .focus()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  const sheet = page.getByRole('group', { name: 'Where Amber stands' })
  await expect(sheet.getByRole('textbox', { name: 'From left, mm' })).toHaveValue('500')
  await expect(findings(page)).toContainText('Nudge and Amber stand on each other by 10 mm.')
  await sheet.getByRole('textbox', { name: 'From left, mm' }).fill('482')
  await page.keyboard.press('Enter')
  const plug = findings(page).locator('section', { hasText: 'The plug at output of Nudge has no room' })
  await expect(plug).toContainText('it needs 15 mm, and Amber leaves 8.')
  await plug.getByRole('button').click()
  await expect(plug).toHaveCount(0)

  // Where it stands is also a matter of words.
  await sheet.getByText('Pinned').click()
  await sheet.getByRole('button', { name: /Stands/ }).click()
  await page.getByRole('option', { name: 'on the bare floor' }).click()
  await expect
    .poll(async () => (await rig(page, demo, 'long')).floor.places.amber)
    .toMatchObject({ on: 'ground', pinned: true })
  await expect(findings(page)).toContainText('Amber stands on the bare floor where Long plank is.')
})

test('the board is fitted, in part and whole, and undone', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/board`)
  await page.getByRole('button', { name: 'Fit', exact: true }).click()
  const fit = page.getByRole('region', { name: 'Fit' })
  await expect(fit.getByText('Everything fits.')).toBeVisible()
  await expect(fit.getByRole('img', { name: 'Now: the board' })).toBeVisible()
  await fit.getByRole('group', { name: 'Which boxes move' }).getByText('Sluice').click()
  await fit.getByRole('button', { name: /^Take 13 of 14/ }).click()
  await expect(fit).toHaveCount(0)
  await expect
    .poll(async () => (await rig(page, demo, 'long')).floor.places.lantern?.x_mm)
    .toBeGreaterThanOrEqual(0)
  expect((await rig(page, demo, 'long')).floor.places.sluice).toMatchObject({ x_mm: 690, y_mm: 160 })
  await page.getByRole('button', { name: /^Undo: Fit 13 boxes/ }).click()
  await page.getByRole('button', { name: 'Fit', exact: true }).click()
  await fit.getByRole('button', { name: 'Take it all' }).click()
  await expect(findings(page)).not.toContainText('Lantern has no place')
  await expect(page.getByRole('group', { name: 'Board totals' })).not.toContainText('48.0 s')
})

test('boards are compared, and a plain one is stood on and owned', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/boards`)
  await page.getByRole('button', { name: /Rig$/ }).first().click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  const compared = page.getByRole('region', { name: 'Boards compared' })
  await compared.getByRole('button', { name: 'Compare boards' }).click()
  await expect(compared.getByText(/^The smallest that holds every sound of the set:/)).toBeVisible()
  await expect(compared.getByRole('row')).toHaveCount(15)
  await compared.getByRole('button', { name: 'Stand on Plain board, 460 × 300 mm' }).click()
  await page
    .getByRole('navigation', { name: 'Build' })
    .getByRole('link', { name: 'Board', exact: true })
    .click()
  await expect(page.getByRole('button', { name: /^Plain board, 460 × 300 mm/ })).toBeVisible()
  await expect.poll(async () => (await rig(page, demo, 'carry')).floor.board).not.toBe('carryplank')
})

test('a board is built from nothing by mouse', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/board`)
  await page.getByRole('button', { name: /Rig$/ }).first().click()
  await page.getByRole('option', { name: 'Bare board' }).click()
  await page
    .getByRole('button', { name: /Board$/ })
    .last()
    .click()
  await page.getByRole('option', { name: /Carry-on plank/ }).click()
  const nudge = boxes(page).getByRole('button', { name: /^Nudge,/ })
  const from = await nudge.boundingBox()
  if (!from) throw new Error('Nudge is not drawn')
  await page.mouse.move(from.x + 10, from.y + 20)
  await page.mouse.down()
  await page.mouse.move(from.x + 60, from.y + 60, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => (await rig(page, demo, 'bare')).floor.places?.nudge?.x_mm).toBeGreaterThan(0)
  await page.getByRole('button', { name: 'Fit', exact: true }).click()
  await page.getByRole('region', { name: 'Fit' }).getByRole('button', { name: 'Take it all' }).click()
  await expect(findings(page)).toContainText('Everything is in place on Carry-on plank.')
})

test('a board is built from nothing by keyboard alone', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/board`)
  await expect(boxes(page)).toBeVisible()
  await chooseByKeys(page, page.getByRole('button', { name: /Rig$/ }).first(), 'Bare board')
  await chooseByKeys(page, page.getByRole('button', { name: /Board$/ }).last(), /^Carry-on plank/)
  await expect.poll(async () => (await rig(page, demo, 'bare')).floor.board).toBe('carryplank')
  const nudge = boxes(page).getByRole('button', { name: /^Nudge,/ })
  await tabTo(page, nudge)
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('ArrowDown')
  const sheet = page.getByRole('group', { name: 'Where Nudge stands' })
  const x = Number(await sheet.getByRole('textbox', { name: 'From left, mm' }).inputValue())
  await expect.poll(async () => (await rig(page, demo, 'bare')).floor.places?.nudge?.x_mm).toBe(x)
  await tabTo(page, sheet.getByRole('textbox', { name: 'From left, mm' }))
  await page.keyboard.press('Control+a')
  await page.keyboard.type('40')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await rig(page, demo, 'bare')).floor.places?.nudge?.x_mm).toBe(40)
  await tabTo(page, page.getByRole('button', { name: 'Fit', exact: true }), 'back')
  await page.keyboard.press('Enter')
  const take = page.getByRole('region', { name: 'Fit' }).getByRole('button', { name: 'Take it all' })
  await expect(take).toBeEnabled()
  await tabTo(page, take)
  await page.keyboard.press('Enter')
  await expect(findings(page)).toContainText('Everything is in place on Carry-on plank.')
})

test('a small board at the microphone takes a box, and what is carried is held against limits', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/build/board`)
  await page.getByRole('button', { name: 'Other boards and what you carry' }).click()
  await page.getByRole('button', { name: /Another board$/ }).click()
  await page.getByRole('option', { name: 'Carry-on plank' }).click()
  await page.getByRole('button', { name: 'Put it beside' }).click()
  await boxes(page)
    .getByRole('button', { name: /^Room,/ })
    .focus()
  await page
    .getByRole('group', { name: 'Where Room stands' })
    .getByRole('button', { name: /Stands/ })
    .click()
  await page.getByRole('option', { name: 'on Carry-on plank' }).click()
  await expect
    .poll(async () => (await rig(page, demo, 'long')).floor.places.room)
    .toMatchObject({ board: 'carryplank', x_mm: 0 })
  const heavy = page.getByRole('textbox', { name: 'Maximum weight, g' })
  await heavy.fill('9000')
  await heavy.press('Enter')
  await expect(findings(page)).toContainText('you carry 9.0 at the most.')
})

test('the board prints at 1:1 over sheets of paper', async ({ page, demo }) => {
  await page.goto(`${demo.url}/build/board`)
  await expect(page.getByRole('link', { name: 'Print on A4' })).toHaveAttribute('href', /rig=long.*paper=a4/)
  await page.goto(`${demo.url}/api/floor/drawing?rig=long&format=html&paper=a4`)
  await expect(page.getByRole('img', { name: 'Sheet A1' })).toBeVisible()
  const sheets = await page.getByRole('img').count()
  const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
  expect(pdf.match(/\/Type\s*\/Page\b(?!s)/g)?.length).toBe(sheets)
  // 100 mm on paper are 100 mm: 377.95 px at 96 to the inch.
  const width = await page
    .getByRole('img', { name: 'Sheet A1' })
    .evaluate((e) => e.getBoundingClientRect().width)
  expect(width / 96).toBeCloseTo(277 / 25.4, 1)
})

test('a lead that lies about is used for a run that was to be cut', async ({ page, demo }) => {
  const added = await page.request.post(`${demo.url}/api/operations`, {
    data: {
      label: 'Add a lead',
      edits: [
        {
          kind: 'gear',
          id: 'stub-lead',
          add: { id: 'stub-lead', name: 'Stub lead', kind: 'cable', cable: { length_m: 0.3, plugs: 'flat' } },
        },
      ],
    },
  })
  expect(added.ok(), await added.text()).toBe(true)
  await page.goto(`${demo.url}/build/board`)
  const owned = page.getByRole('group', { name: 'Leads you own' })
  await expect(owned).toContainText('Stub lead (0.30 m) would do for')
  await owned.getByRole('button', { name: 'Use it' }).click()
  await expect(owned).toHaveCount(0)
  await expect
    .poll(async () => (await rig(page, demo, 'long')).leads.map((l: { cable: string }) => l.cable))
    .toContain('stub-lead')
})
