import type { Page } from '@playwright/test'
import { expect, goTo, type Program, test } from '../envex.ts'
import { tone } from '../tone.ts'

// What the hand sees at the moment of a press is what it changes: each of these makes the next edit
// while the one before is still on its way.

const patient = { timeout: 200_000 }
test.describe.configure({ timeout: 300_000 })

interface Cell<T> {
  value: T
}
interface Node {
  stop?: string
  pinned?: boolean
  split?: { id: string; join?: string; lanes: { name?: string; nodes?: Node[] }[] }
}
interface Rig {
  id: string
  path: Node[]
  floor: { places?: Record<string, { x_mm: number; y_mm: number }> }
  base?: Record<string, unknown>
  recipes?: { id: string; sound: string; values?: Record<string, unknown> }[]
  programs?: Record<string, Record<string, Record<string, { label?: string; sound?: string }>>>
  presets?: Record<string, Record<string, Record<string, unknown>>>
  levels?: { block: string; on_over_off_db: number }[]
  batteries?: { gear: string; used_h?: number }[]
}
interface Plan {
  rigs: Cell<Rig>[]
  songs: Cell<{
    id: string
    title: string
    notes?: string
    sections: { id: string; label: string; bars?: number }[]
  }>[]
  set_lists: Cell<{ id: string; entries: { song: string; segue?: boolean; gap_s?: number }[] }>[]
  gear: Cell<{
    id: string
    name: string
    footswitches?: { label: string; x_mm: number }[]
    controls?: { name: string }[]
    pickups?: { name: string }[]
    blocks?: { controls?: { name: string; max?: number }[] }[]
    supply?: { outputs: { id: string; voltages_v: number[] }[] }
  }>[]
  sounds: Cell<{ id: string; name: string; targets: { effects?: { effect: string }[] } }>[]
  shows: Cell<{ id: string; batteries?: string[]; notes?: string }>[]
  undo?: { label: string }
}

const read = async (page: Page, program: Program): Promise<Plan> =>
  (await page.request.get(`${program.url}/api/plan`)).json()

const of = <T extends { id: string }>(list: Cell<T>[], id: string): T => {
  const found = list.find((c) => c.value.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found.value
}

const rig = async (page: Page, program: Program, id = 'long') => of((await read(page, program)).rigs, id)
const stops = (r: Rig) => r.path.map((n) => n.stop ?? n.split?.id ?? '')

/** Waits until the server has been told all that was done: the undo button says what was done last. */
const told = (page: Page, program: Program, label: RegExp) =>
  expect.poll(async () => (await read(page, program)).undo?.label ?? '', patient).toMatch(label)

test('a pedal taken out stays out when a boost is moved among places that were shown before', async ({
  page,
  demo,
  context,
}) => {
  test.setTimeout(480_000) // two pages meter a whole rig at once
  await page.goto(`${demo.url}/balance`)
  const boost = page.getByRole('region', { name: 'Boost placement' })
  await expect(boost.getByRole('button', { name: /^Move Nudge/ }).first()).toBeVisible(patient)
  const other = await context.newPage()
  await other.goto(`${demo.url}/order`)
  await other.getByRole('button', { name: 'Actions for Silt' }).click()
  await other.getByRole('menuitem', { name: 'Out of the chain' }).click()
  await told(other, demo, /^Take Silt out/)
  // What is taken up before this page has heard of it is refused, and says so: then it is pressed again.
  await expect(async () => {
    await boost.getByRole('button', { name: /^Move Nudge after Amber/ }).click(patient)
    await expect
      .poll(async () => (await read(page, demo)).undo?.label ?? '', { timeout: 20_000 })
      .toMatch(/^Move Nudge/)
  }).toPass(patient)
  const path = stops(await rig(page, demo))
  expect(path.some((s) => s.startsWith('silt/'))).toBe(false)
  expect(path.indexOf('nudge/fx')).toBe(path.indexOf('amber/fx') + 1)
})

test('six presses of an arrow key are 6 mm, and a box has both the places it was given', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /^Nudge, 560 mm/ }).focus()
  for (let i = 0; i < 6; i += 1) await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('button', { name: /^Nudge, 566 mm/ })).toBeFocused()
  await page.getByRole('textbox', { name: 'From left, mm' }).fill('700')
  await page.getByRole('textbox', { name: 'From back, mm' }).fill('40')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => (await rig(page, demo)).floor.places?.nudge, patient)
    .toMatchObject({ x_mm: 700, y_mm: 40 })
})

test('a sheet stays with its song when a section is added while the cursor stands elsewhere', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/hear/songs`)
  await goTo(page, /Tin Cabana, Verse/)
  await expect(page.getByRole('group', { name: 'Tin Cabana' }).first()).toBeVisible()
  await page
    .getByRole('list', { name: 'Songs' })
    .getByRole('button', { name: /^Ferry Lights/ })
    .click()
  await page.getByRole('button', { name: 'Add a section', exact: true }).click()
  const rows = page.getByRole('grid', { name: 'Sections of Ferry Lights' }).getByRole('row')
  const name = rows.last().getByRole('textbox', { name: 'Section' })
  await name.fill('Coda')
  await expect(name).toHaveValue('Coda')
  await told(page, demo, /^Add a section/)
  await name.press('Enter')
  await told(page, demo, /^Name in Ferry Lights/)
  const song = (await read(page, demo)).songs.find((s) => s.value.title === 'Ferry Lights')?.value
  expect(song?.sections.at(-1)?.label).toBe('Coda')
  await expect(page.getByRole('region', { name: 'The set' }).locator('[aria-current=step]')).toHaveAttribute(
    'aria-label',
    /Tin Cabana, Verse/,
  )
})

test('what is made is changed at once', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/songs`)
  await page.getByRole('button', { name: 'Add a section', exact: true }).click()
  const rows = page.getByRole('grid', { name: 'Sections of Ferry Lights' }).getByRole('row')
  await rows.last().getByRole('textbox', { name: 'Bars' }).fill('3')
  await rows.last().getByRole('textbox', { name: 'Section' }).fill('Coda')
  await page.keyboard.press('Enter')
  await told(page, demo, /^Name in Ferry Lights/)
  const song = (await read(page, demo)).songs.find((s) => s.value.title === 'Ferry Lights')?.value
  expect(song?.sections.at(-1)).toMatchObject({ label: 'Coda', bars: 3 })

  await page.goto(`${demo.url}/hear/sets`)
  const list = page.getByRole('region', { name: 'Quay set' })
  await list.getByRole('button', { name: 'Put it in the set' }).click()
  await list.getByRole('grid').getByRole('row').last().getByRole('switch', { name: 'Segue' }).press('Space')
  await told(page, demo, /^Segue in/)
  expect(of((await read(page, demo)).set_lists, 'quay-set').entries.at(-1)?.segue).toBe(true)

  await page.goto(`${demo.url}/own/amber`)
  await page.getByRole('button', { name: 'Add a switch' }).click()
  await page.getByRole('textbox', { name: 'Label' }).last().fill('Boost')
  await page
    .getByRole('group', { name: 'Controls of Amber', exact: true })
    .getByRole('button', { name: 'Add a control' })
    .click()
  await page
    .getByRole('group', { name: 'Controls of Amber', exact: true })
    .getByRole('textbox', { name: 'Name of control knob' })
    .fill('voice')
  await page.keyboard.press('Enter')
  await told(page, demo, /^Control name of Amber/)
  const amber = of((await read(page, demo)).gear, 'amber')
  expect(amber.footswitches?.at(-1)?.label).toBe('Boost')
  expect(amber.controls?.at(-1)?.name).toBe('voice')

  await page.goto(`${demo.url}/own/driftwood`)
  const pickups = page.getByRole('region', { name: 'Pickups and wiring' })
  await pickups.getByRole('button', { name: 'Add a pickup' }).click()
  await pickups.getByRole('textbox', { name: 'Pickup' }).last().fill('bridge two')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => of((await read(page, demo)).gear, 'driftwood').pickups?.at(-1)?.name, patient)
    .toBe('bridge two')
})

test('a split is changed while it is made, and a sound set while it is begun', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: 'Actions for Echo' }).click()
  await page.getByRole('menuitem', { name: 'Split around it' }).click()
  await page.getByRole('button', { name: 'Add a lane' }).click()
  await page.getByRole('textbox', { name: 'Name of lane 2' }).fill('wet')
  await page.keyboard.press('Enter')
  const lanes = async () =>
    (await rig(page, demo)).path.find((n) => n.split)?.split?.lanes.map((l) => l.name ?? '')
  await expect.poll(lanes, patient).toEqual(['', 'wet', ''])

  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  await goTo(page, /Shimmer/)
  await page.getByRole('button', { name: 'Make Shimmer here' }).click()
  await page.getByRole('row', { name: /^Amber,/ }).click()
  const on = page.getByRole('switch', { name: 'On', exact: true })
  const before = await on.isChecked()
  await on.press('Space')
  await told(page, demo, /^Amber/)
  const plan = await read(page, demo)
  const id = plan.sounds.find((s) => s.value.name === 'Shimmer')?.value.id
  const made = of(plan.rigs, 'carry').recipes?.find((r) => r.sound === id)
  expect(made?.values?.['amber/fx/on']).toBe(!before)
})

test('a program moved twice quickly is the one that moves', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  await programs.getByRole('button', { name: 'Take these programs' }).click()
  await told(page, demo, /^One page/)
  const seats = async () => {
    const all = of((await read(page, demo)).rigs, 'switched').programs?.turntable ?? {}
    return Object.fromEntries(
      Object.entries(all).flatMap(([bank, slots]) =>
        Object.entries(slots).map(([slot, p]) => [p.label ?? '', `${bank}/${slot}`]),
      ),
    )
  }
  const before = await seats()
  const move = async (to: string) => {
    await programs.getByRole('button', { name: /^Lead on/ }).click()
    await page.getByRole('menuitem', { name: new RegExp(`^To ${to}`) }).click(patient)
  }
  const [one, two] = Object.entries(before).filter(([label]) => label !== 'Lead')
  if (!one || !two) throw new Error('too few programs')
  await move(one[1])
  await move(two[1])
  await told(page, demo, new RegExp(`^Move Lead to ${two[1]}`))
  expect(await seats()).toEqual({
    ...before,
    Lead: two[1],
    [one[0]]: before.Lead,
    [two[0]]: one[1],
  })
})

test('a layout that was worked out before another page changed a preset leaves the preset be', async ({
  page,
  demo,
  context,
}) => {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: 'Long board, switched' }).click()
  const programs = page.getByRole('region', { name: 'Programs', exact: true })
  await programs.getByRole('button', { name: 'Solve' }).click()
  const take = programs.getByRole('button', { name: 'Take these programs' })
  await expect(take).toBeEnabled(patient)
  const other = await context.newPage()
  const switched = of((await read(page, demo)).rigs, 'switched')
  const [preset] = Object.keys(switched.presets?.echo ?? {})
  const was = switched.presets?.echo?.[preset ?? '']?.['echo/fx/time']
  const edit = await other.request.post(`${demo.url}/api/operations`, {
    data: {
      label: 'Echo time elsewhere',
      edits: [
        {
          kind: 'rig',
          id: 'switched',
          ops: [
            {
              do: 'set',
              path: ['presets', 'echo', preset, 'echo/fx/time'].map((key) => ({ key })),
              was,
              to: 333,
            },
          ],
        },
      ],
    },
  })
  expect(edit.ok(), await edit.text()).toBe(true)
  // A press that falls into the moment in which the page hears of it takes nothing up, and is made again.
  await expect(async () => {
    if (await take.isVisible()) await take.click({ timeout: 20_000 })
    await expect
      .poll(async () => (await read(page, demo)).undo?.label ?? '', { timeout: 10_000 })
      .toMatch(/^One page/)
  }).toPass(patient)
  const after = of((await read(page, demo)).rigs, 'switched')
  expect(after.presets?.echo?.[preset ?? '']?.['echo/fx/time']).toBe(333)
})

test('the best order that is taken after a pin is the best with the pin', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const best = page.getByRole('region', { name: 'Best order' })
  await expect(best).toContainText('Best possible: 4 points, proven', patient)
  await page.getByRole('button', { name: 'Actions for Rotor' }).click()
  await page.getByRole('menuitem', { name: 'Pin it here' }).click()
  await best.getByRole('button', { name: 'Take the best order' }).click(patient)
  await told(page, demo, /^Best order/)
  const path = (await rig(page, demo)).path
  const at = path.findIndex((n) => n.stop?.startsWith('rotor/'))
  expect(path[at]?.pinned).toBe(true)
  expect(at).toBeGreaterThan(path.findIndex((n) => n.stop === 'amber/fx'))
})

test('text is kept while the same thing is saved elsewhere, and asked about on the way back', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/hear/sounds`)
  await page.getByRole('link', { name: 'Songs' }).click()
  const title = page.getByRole('textbox', { name: 'Title' })
  await title.fill('Harbour')
  const saved = await page.request.post(`${demo.url}/api/operations`, {
    data: {
      label: 'Notes elsewhere',
      edits: [
        { kind: 'song', id: 'ferry-lights', ops: [{ do: 'set', path: [{ key: 'tuning' }], to: 'Open D' }] },
      ],
    },
  })
  expect(saved.ok(), await saved.text()).toBe(true)
  await expect(page.getByRole('textbox', { name: 'Tuning' })).toHaveValue('Open D', patient)
  await expect(title).toBeFocused()
  await page.keyboard.type(' Lights')
  await expect(title).toHaveValue('Harbour Lights')
  await page.goBack()
  await expect(page.getByRole('button', { name: 'Add a sound', exact: true })).toBeVisible()
  await told(page, demo, /^Title of Ferry Lights/)
  expect(of((await read(page, demo)).songs, 'ferry-lights').title).toBe('Harbour Lights')

  // What was saved elsewhere while it was typed has to be chosen before it goes.
  await page.getByRole('link', { name: 'Songs' }).click()
  await expect(title).toHaveValue('Harbour Lights')
  await title.fill('Pier Lights')
  const again = await page.request.post(`${demo.url}/api/operations`, {
    data: {
      label: 'Title elsewhere',
      edits: [
        {
          kind: 'song',
          id: 'ferry-lights',
          ops: [{ do: 'set', path: [{ key: 'title' }], was: 'Harbour Lights', to: 'Quay Lights' }],
        },
      ],
    },
  })
  expect(again.ok(), await again.text()).toBe(true)
  await expect(page.getByText('Saved elsewhere meanwhile: “Quay Lights”.')).toBeVisible(patient)
  await page.goBack()
  const asked = page.getByRole('dialog', { name: 'Unsaved text' })
  await expect(asked).toContainText('Title: “Pier Lights”')
  await asked.getByRole('button', { name: 'Stay here' }).click()
  await expect(title).toHaveValue('Pier Lights')
  await page.goBack()
  await asked.getByRole('button', { name: 'Keep it and go' }).click()
  await expect(page.getByRole('button', { name: 'Add a sound', exact: true })).toBeVisible()
  await told(page, demo, /^Title of/)
  expect(of((await read(page, demo)).songs, 'ferry-lights').title).toBe('Pier Lights')
})

test('undo and an edit, two batteries, and edits behind one that is refused', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/songs`)
  const title = page.getByRole('textbox', { name: 'Title' })
  await title.fill('Harbour Lights')
  await title.press('Enter')
  await page.getByRole('button', { name: /^Undo: Title/ }).click()
  const tuning = page.getByRole('textbox', { name: 'Tuning' })
  await tuning.fill('Open G')
  await tuning.press('Enter')
  await told(page, demo, /^Tuning of/)
  await expect(title).toHaveValue('Ferry Lights', patient)
  await expect(page.getByRole('alert')).toHaveCount(0)

  await page.goto(`${demo.url}/pack/shows/quay-12`)
  const batteries = page.getByRole('region', { name: 'Batteries' })
  const fresh = batteries.getByRole('button', { name: /^Fresh battery in/ })
  await fresh.first().click()
  await fresh.first().click()
  await page.getByRole('textbox', { name: 'Place' }).fill('The far quay')
  await page.keyboard.press('Enter')
  await told(page, demo, /^Place of/)
  await expect(page.getByRole('alert')).toHaveCount(0)

  // The first of three does not fit; the others go on.
  await page.goto(`${demo.url}/own/amber`)
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Colour' }).fill('moss green')
  await page.getByRole('textbox', { name: 'Notes' }).fill('kept')
  await page.keyboard.press('Enter')
  await told(page, demo, /^Notes of/)
  const amber = of((await read(page, demo)).gear, 'amber') as unknown as Record<string, unknown>
  expect(amber).toMatchObject({ name: 'Amber', colour: 'moss green', notes: 'kept' })
})

test('a knob keeps the focus and what is typed into it', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('row', { name: /^Amber,/ }).click()
  const sheet = page.getByRole('region', { name: 'Settings of Amber' })
  await sheet.getByText('Every sound', { exact: true }).click()
  const drive = sheet.getByRole('textbox', { name: 'drive' })
  await drive.focus()
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('ArrowUp')
  await expect(drive).toHaveValue('5')
  await expect(drive).toBeFocused()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('7')
  await page.keyboard.press('Enter')
  await expect(drive).toBeFocused()
  await expect(page.getByRole('heading', { name: 'Order', level: 1 })).toBeVisible()
  await expect.poll(async () => (await rig(page, demo)).base?.['amber/fx/drive'], patient).toBe(7)
})

test('two recordings chosen while the first is sent are both taken', async ({ page, demo }) => {
  await page.goto(`${demo.url}/balance`)
  await page.getByRole('button', { name: 'Measured levels (0)' }).click(patient)
  await page.getByRole('button', { name: /Block$/ }).click()
  await page.getByRole('option', { name: 'Amber' }).click()
  const file = (name: string, amplitude: number) => ({ name, mimeType: 'audio/wav', buffer: tone(amplitude) })
  const choose = async (button: string) => {
    const waiting = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: button }).click()
    return waiting
  }
  const on = await choose('Or a WAV with it on')
  const off = await choose('and one with it off')
  await Promise.all([on.setFiles(file('on.wav', 16000)), off.setFiles(file('off.wav', 8000))])
  await expect
    .poll(async () => (await rig(page, demo)).levels?.[0]?.on_over_off_db, patient)
    .toBeCloseTo(6.02, 1)
})

test('a wrong value in one field does not stand in the way of an add beside it', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own/buoy`)
  const outputs = page.getByRole('region', { name: 'Outputs' })
  const before = of((await read(page, demo)).gear, 'buoy').supply?.outputs.length ?? 0
  const volts = outputs.getByRole('textbox', { name: 'Volts of output 1' })
  await volts.fill('nine')
  await volts.press('Enter')
  await outputs.getByRole('button', { name: 'Add an output' }).click()
  await expect
    .poll(async () => of((await read(page, demo)).gear, 'buoy').supply?.outputs.length, patient)
    .toBe(before + 1)
  await expect(volts).toHaveValue('nine', patient)

  await page.goto(`${demo.url}/hear/sounds`)
  const sound = page.getByRole('region', { name: 'Home', exact: true })
  await sound.getByRole('textbox', { name: 'Letters' }).fill('far too long')
  for (const effect of ['delay', 'reverb']) {
    await sound.getByRole('button', { name: 'Must be heard' }).click()
    await page.getByRole('menuitem', { name: effect, exact: true }).click()
  }
  await expect
    .poll(
      async () =>
        (await read(page, demo)).sounds.find((s) => s.value.name === 'Home')?.value.targets.effects?.length,
      patient,
    )
    .toBe(2)
})

test('what is taken twice is done once', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  const best = page.getByRole('region', { name: 'Best order' })
  const take = best.getByRole('button', { name: 'Take the best order' })
  await expect(take).toBeEnabled(patient)
  await take.dblclick()
  await told(page, demo, /^Best order/)
  await expect(best).toContainText('no order has fewer: proven', patient)
  const log = (await (await page.request.get(`${demo.url}/api/history`)).json()).transactions as {
    label: string
  }[]
  expect(log.filter((t) => t.label === 'Best order')).toHaveLength(1)

  await page.goto(`${demo.url}/step`)
  await goTo(page, /Tin Cabana, Solo/)
  const finding = page
    .getByRole('complementary', { name: 'Findings' })
    .locator('section', { hasText: 'Tin Cabana, Solo' })
  await expect(finding).toContainText('Then reach', patient)
  const repair = finding.getByRole('button').first()
  await expect(repair).toBeEnabled(patient)
  const words = (await repair.textContent()) ?? ''
  await repair.dblclick()
  await told(page, demo, new RegExp(`^${words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&').slice(0, 40)}`))
  const after = (await (await page.request.get(`${demo.url}/api/history`)).json()).transactions as {
    label: string
  }[]
  expect(after.filter((t) => t.label === words)).toHaveLength(1)
})
