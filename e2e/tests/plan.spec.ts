import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, goTo, reached, test } from '../envex.ts'

const demoFile = resolve(import.meta.dirname, '../../demo/kelp-street-nine.envex.json')

async function chain(page: import('@playwright/test').Page): Promise<string[]> {
  const names = await page.getByRole('grid', { name: 'Front of amp' }).getByRole('row').all()
  return Promise.all(names.map(async (r) => ((await r.getAttribute('aria-label')) ?? '').split(',')[0] ?? ''))
}

test('the chain is reordered with the keyboard alone', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await expect.poll(() => chain(page)).toContain('Nudge')
  expect((await chain(page)).slice(4, 6)).toEqual(['Nudge', 'Amber'])
  await page.getByRole('row', { name: /^Plumb/ }).focus()
  for (let i = 0; i < 4; i += 1) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Move Nudge' })).toBeFocused()
  // A person sees where the keyboard is before pressing the next key.
  const focused = () =>
    page.evaluate(() => {
      const at = document.activeElement
      return `${at?.id} ${at?.getAttribute('aria-label')} ${at?.getAttribute('aria-labelledby')}`
    })
  const press = async (key: string) => {
    const before = await focused()
    await page.keyboard.press(key)
    await expect.poll(focused).not.toBe(before)
  }
  await press('Enter')
  await press('ArrowRight') // on Amber, which would put it beside
  await press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await chain(page)).slice(4, 6)).toEqual(['Amber', 'Nudge'])
})

test('the chain is reordered by menu, and a stop goes into the loop', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('button', { name: 'Actions for Nudge' }).click()
  await page.getByRole('menuitem', { name: 'Move later' }).click()
  await expect.poll(async () => (await chain(page)).slice(4, 6)).toEqual(['Amber', 'Nudge'])
  await page.getByRole('button', { name: 'Actions for Nudge' }).click()
  await page.getByRole('menuitem', { name: 'Into the loop' }).click()
  await expect(
    page.getByRole('grid', { name: 'In the loop' }).getByRole('row', { name: /^Nudge/ }),
  ).toBeVisible()
})

test('a stop is dragged along the chain', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page
    .getByRole('row', { name: /^Nudge,/ })
    .dragTo(page.getByRole('row', { name: /^Squeeze,/ }), { targetPosition: { x: 4, y: 40 } })
  await expect.poll(async () => (await chain(page)).indexOf('Nudge')).toBeLessThan(4)
})

test('a bad file changes nothing and says what is wrong, by path', async ({ page, demo }) => {
  await page.goto(`${demo.url}/pack/files`)
  const before = await reached(page)
  const bad = readFileSync(demoFile, 'utf8')
    .replace('"bpm": 104', '"bpm": 4000')
    .replace('"title": "Nine Gulls"', '"titel": "Nine Gulls"')
  await page
    .getByRole('region', { name: 'Import' })
    .locator('input[type=file]')
    .setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from(bad) })
  const alert = page.getByRole('alert')
  await expect(alert).toContainText('bad.json was not taken in. Your plan is as it was.')
  await expect(alert).toContainText('songs[2].titel')
  expect(await reached(page)).toBe(before)
  await page
    .getByRole('region', { name: 'Import' })
    .locator('input[type=file]')
    .setInputFiles({
      name: 'torn.json',
      mimeType: 'application/json',
      buffer: Buffer.from(bad.slice(0, 5000)),
    })
  await expect(alert).toContainText('ends too early')
})

test('a file that differs asks first', async ({ page, demo }) => {
  await page.goto(`${demo.url}/pack/files`)
  const other = readFileSync(demoFile, 'utf8').replace('"title": "Nine Gulls"', '"title": "Ten Gulls"')
  await page
    .getByRole('region', { name: 'Import' })
    .locator('input[type=file]')
    .setInputFiles({ name: 'other.json', mimeType: 'application/json', buffer: Buffer.from(other) })
  await expect(page.getByRole('group', { name: 'What other.json brings' })).toContainText(
    '1 are here with other content: Nine Gulls',
  )
  await page.getByRole('button', { name: 'Replace mine' }).click()
  await expect(page.getByRole('group', { name: 'Ten Gulls' })).toBeVisible()
  await page.getByRole('button', { name: /^Undo: Import/ }).click()
  await expect(page.getByRole('group', { name: 'Nine Gulls' })).toBeVisible()
})

test('a set list of another program is understood before it is taken, nonsense by its line', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/pack/files`)
  const file = page.getByRole('region', { name: 'Import' }).locator('input[type=file]')
  const csv = (text: string) => ({ name: 'Pier night.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await file.setInputFiles(csv('title,bpm\nFerry Lights,104\nHalyard,fast\n'))
  await expect(page.getByRole('alert')).toContainText('ine 3: "fast" is no tempo from 20 to 400')
  await file.setInputFiles(
    csv('title,bpm,sections\nFerry Lights,,\nHalyard,96,Verse:Crunch:8; Break:Fog:4\n'),
  )
  const brings = page.getByRole('group', { name: 'What Pier night.csv brings' })
  await expect(brings).toContainText('Halyard: 96 bpm, 4/4, Verse, Break')
  await expect(brings).toContainText('Fog is no sound here; Home stands in.')
  await expect(brings).toContainText('Ferry Lights is the song that is here already.')
  await brings.getByRole('button', { name: 'Take it in' }).click()
  await page.goto(`${demo.url}/hear/songs`)
  await expect(page.getByText('Halyard', { exact: true })).toBeVisible()
  const midi = await page.request.get(
    `${demo.url}/api/export/songs?format=smf&set_list=quay-set&song=tin-cabana`,
  )
  await page.goto(`${demo.url}/pack/files`)
  await file.setInputFiles({ name: 'cabana.mid', mimeType: 'audio/midi', buffer: await midi.body() })
  await expect(page.getByRole('group', { name: 'What cabana.mid brings' })).toContainText(
    'Tin Cabana: 126 bpm',
  )
  const chart = (text: string) => ({
    name: 'windlass.cho',
    mimeType: 'text/plain',
    buffer: Buffer.from(text),
  })
  await file.setInputFiles(chart('{t: Windlass}\n{tempo: quick}\n'))
  await expect(page.getByRole('group', { name: 'What windlass.cho brings' })).toContainText(
    'Line 2 is left out: "quick" is no tempo from 20 to 400.',
  )
  await file.setInputFiles(
    chart('{t: Windlass}\n{tempo: 96}\n{time: 6/8}\n{sov: Verse}\nHaul [D]away\n{eov}\n{c: Solo [Lead]}\n'),
  )
  await expect(page.getByRole('group', { name: 'What windlass.cho brings' })).toContainText(
    'Windlass: 96 bpm, 6/8, Verse, Solo',
  )
})

test('two tabs follow each other, and edits of different things both hold', async ({
  page,
  demo,
  context,
}) => {
  await page.goto(`${demo.url}/hear/songs`)
  const other = await context.newPage()
  await other.goto(`${demo.url}/hear/songs`)
  const title = page.getByRole('textbox', { name: 'Title' })
  const tuning = other.getByRole('textbox', { name: 'Tuning' })
  await tuning.fill('Open G')
  await title.fill('Ferry Nights')
  await title.press('Enter')
  await expect(other.getByRole('textbox', { name: 'Title' })).toHaveValue('Ferry Nights')
  await expect(other.getByRole('button', { name: 'Undo: Title of Ferry Lights' })).toBeVisible()
  await expect(tuning).toHaveValue('Open G')
  await expect(tuning).toBeFocused()
  await tuning.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Tuning' })).toHaveValue('Open G')
  await expect(title).toHaveValue('Ferry Nights')
})

test('two tabs never overwrite each other silently: both values are shown, and one is chosen', async ({
  page,
  demo,
  context,
}) => {
  await page.goto(`${demo.url}/hear/songs`)
  const other = await context.newPage()
  await other.goto(`${demo.url}/hear/songs`)
  const [mine, theirs] = [page, other].map((p) => p.getByRole('textbox', { name: 'Title' }))
  if (!mine || !theirs) throw new Error('no title')
  for (const [choice, title] of [
    ['Take theirs', 'Ferry Nights'],
    ['Keep mine', 'Ferry Days'],
  ] as const) {
    await theirs.fill('Harbour Lights')
    await mine.fill(title)
    await mine.press('Enter')
    await expect(other.getByRole('alert')).toContainText(`Saved elsewhere meanwhile: “${title}”.`)
    await theirs.press('Enter')
    await expect(theirs).toHaveValue('Harbour Lights')
    await expect(mine).toHaveValue(title)
    await other.getByRole('button', { name: choice }).click()
    await expect(other.getByRole('alert')).toHaveCount(0)
    await expect(theirs).toHaveValue(choice === 'Take theirs' ? title : 'Harbour Lights')
  }
  await expect(mine).toHaveValue('Harbour Lights')
})

test('undo and redo survive a reload and a restart', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/songs`)
  const title = page.getByRole('textbox', { name: 'Title' })
  await title.fill('Harbour Lights')
  await title.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: Title/ })).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: /^Undo: Title/ }).click()
  await expect(title).toHaveValue('Ferry Lights')
  await demo.stop()
  await demo.start()
  await page.goto(`${demo.url}/hear/songs`)
  await page.getByRole('button', { name: /^Redo: Title/ }).click()
  await expect(title).toHaveValue('Harbour Lights')
})

test('what is refused is put back and explained', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own/amber`)
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('cannot be removed while it is in use')
  await expect(page.getByRole('alert')).toContainText('Long board: in the chain')
  await expect(page.getByRole('textbox', { name: 'Name', exact: true })).toHaveValue('Amber')
})

test('sections are edited in place, and the verdicts follow', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/songs`)
  await goTo(page, /Tin Cabana, Solo/)
  const solo = page.getByRole('row', { name: 'Solo' })
  const before = await reached(page)
  await solo.getByRole('textbox', { name: 'Rest before, beats' }).fill('2')
  await solo.getByRole('textbox', { name: 'Rest before, beats' }).press('Enter')
  await expect.poll(() => reached(page)).toBe(before + 1)
})

test('from nothing to a verdict', async ({ page, blank }) => {
  await page.goto(blank.url)
  await page.getByRole('button', { name: 'Name your first sound' }).click()
  await page.getByRole('button', { name: 'Add a sound', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Home' })).toBeVisible()
  await page.getByRole('button', { name: 'Add a sound', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Sound 2' })).toBeVisible()

  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Add gear', exact: true }).click()
  await page.getByRole('button', { name: /^Mid-hump overdrive/ }).click()
  await expect(page.getByRole('region', { name: 'Mid-hump overdrive', exact: true })).toBeVisible()

  await page.getByRole('button', { name: 'Rig actions' }).click()
  await page.getByRole('menuitem', { name: 'New rig' }).click()
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name' }).fill('First board')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'First board Rig' })).toBeVisible()

  await page.goto(`${blank.url}/hear/songs`)
  await page.getByRole('button', { name: 'Add a song', exact: true }).click()
  await page.getByRole('button', { name: 'Add a section', exact: true }).click()
  await page.getByRole('button', { name: 'Add a section', exact: true }).click()
  await expect(page.getByRole('grid', { name: 'Sections of Song 1' }).getByRole('row')).toHaveCount(2)
  await page
    .getByRole('row', { name: 'Verse' })
    .getByRole('button', { name: /Sound of Verse/ })
    .click()
  await page.getByRole('option', { name: 'Sound 2' }).click()

  await page.getByRole('link', { name: 'Set lists' }).click()
  await page.getByRole('button', { name: 'Add a set list', exact: true }).click()
  await page.getByRole('button', { name: 'Put it in the set' }).click()
  await expect(page.getByRole('status', { name: 'Reach' })).toContainText('1 not set yet')
  await expect(page.getByRole('complementary', { name: 'Findings' })).toContainText(
    '1 sound waits for a recipe',
  )

  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('3')
  await page.getByRole('button', { name: 'Add a stop', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Mid-hump overdrive', exact: true }).click()
  await page.getByRole('button', { name: 'Make Sound 2 here' }).click()
  // Before it is made the switch is the rig's, for every sound.
  await expect(page.getByRole('button', { name: 'Make Sound 2 here' })).toHaveCount(0)
  await page.getByRole('switch', { name: 'On' }).press('Space')
  await goTo(page, /Song 1, Intro/)
  await page.getByRole('button', { name: 'Make Home here' }).click()
  await expect(page.getByRole('status', { name: 'Reach' })).toContainText('1/1')
  await goTo(page, /Song 1, Verse/)
  await expect(page.getByRole('region', { name: 'The set' })).toContainText('1 press, 0.08 s of footwork')
})

test('a remote switch is given something to do in one rig', async ({ page, demo }) => {
  await page.goto(`${demo.url}/own`)
  await page.getByRole('button', { name: 'Add gear', exact: true }).click()
  await page.getByRole('button', { name: /^Remote switch/ }).click()
  await expect(page.getByRole('region', { name: 'Remote switch', exact: true })).toBeVisible()
  await page.goto(`${demo.url}/step`)
  const before = await reached(page)
  await page.getByRole('button', { name: 'Controllers’ switches' }).click()
  await page.getByRole('button', { name: /Remote switch remote, press/ }).click()
  await page.getByRole('option', { name: 'Echo on and off' }).click()
  await expect(page.getByRole('button', { name: /^Remote switch, .* from the left/ })).toBeVisible()
  expect(await reached(page), 'another way to the same end never costs a change').toBeGreaterThanOrEqual(
    before,
  )
})

test('a section gets a recipe of its own', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await goTo(page, /Tin Cabana, Solo/)
  await page.getByRole('button', { name: 'Recipe for Lead', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Another recipe for Lead, here' }).click()
  await expect(page.getByRole('button', { name: 'Recipe for Lead', exact: true })).toContainText(
    'Another Lead',
  )
  await page.getByRole('row', { name: /^Nudge,/ }).click()
  await page
    .getByRole('region', { name: 'Settings of Nudge' })
    .getByRole('switch', { name: 'On' })
    .press('Space')
  await expect(page.getByRole('region', { name: 'The set' })).toContainText('1 press, 0.08 s of footwork')
  await goTo(page, /Barnacle Bop, Solo/)
  await expect(page.getByRole('row', { name: 'Nudge, on' })).toBeVisible()
})
