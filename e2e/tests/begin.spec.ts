import type { Locator, Page } from '@playwright/test'
import { expect, test } from '../envex.ts'

/** Counts what a new player has to do: each click, each field that is filled, each key that is not typing. */
class Hands {
  actions = 0
  private page: Page
  constructor(page: Page) {
    this.page = page
  }

  async click(what: Locator) {
    this.actions += 1
    await what.click()
  }

  async fill(what: Locator, text: string) {
    this.actions += 1
    await what.fill(text)
  }

  /** Tab until a control has the focus counts as one: nobody counts how often. */
  async tabTo(what: Locator) {
    this.actions += 1
    await expect(what).toBeVisible()
    for (let i = 0; i < 200; i++) {
      if (await what.evaluate((e) => e === document.activeElement)) return
      await this.page.keyboard.press('Tab')
    }
    throw new Error('Tab never comes to it')
  }

  async type(text: string) {
    this.actions += 1
    await this.page.keyboard.insertText(text)
  }

  async press(key: string) {
    this.actions += 1
    await this.page.keyboard.press(key)
  }
}

const chain = (page: Page) => page.getByRole('textbox', { name: 'Your chain, from the guitar on' })
const songs = (page: Page) => page.getByRole('textbox', { name: /^Your set, a line for each song/ })
const pattern = (page: Page) => page.getByRole('textbox', { name: 'Sections of songs that name none' })
const stands = (page: Page) => page.getByRole('status', { name: 'Where it stands' })
const press = (page: Page, name: string | RegExp) => page.getByRole('button', { name })

test.describe.configure({ timeout: 300_000 })

test('a singer with ten boxes, five sounds and twelve songs is judged in a few actions', async ({
  page,
  blank,
}) => {
  await page.goto(blank.url)
  const hands = new Hands(page)
  await hands.fill(
    chain(page),
    'single coils, tuner, volume, comp, boost, light drive, Amber = orange mid-hump drive 9V 20mA, fuzz, tap tremolo, tape echo tap, hall reverb > chiming combo',
  )
  await expect(page.getByRole('list', { name: 'What is understood' }).getByRole('listitem')).toHaveCount(12)
  await hands.click(press(page, 'Make this rig'))
  await expect(page.getByRole('region', { name: 'Chain' })).toContainText('My rig: 12 stops')
  await hands.fill(
    songs(page),
    [
      'Ferry Lights 104: clean, verse clean x2 (sing), chorus crunch (sing), solo lead 16, out crunch',
      'Low Tide Cumbia 96: intro trem 4, verse clean 16 (sing), chorus crunch 8 (sing)',
      'Night Dredger 138: big fuzz 16, verse clean 8 (sing), big fuzz 8',
      ...['Nine Gulls', 'Tin Cabana', 'Barnacle Beat', 'Paper Sail', 'Lamp Room', 'Winch Song'],
      ...['Slack Water', 'Harbour Pilot', 'The Last Crossing'],
    ].join('\n'),
  )
  await hands.fill(pattern(page), 'verse clean 16 (sing), chorus crunch 8 (sing), solo lead 8')
  await expect(
    page.getByRole('group', { name: 'What is understood' }).getByText('Harbour Pilot'),
  ).toBeVisible()
  await hands.click(press(page, 'Make this set'))
  // The first answer: how many changes there are, and what they wait for.
  await expect(stands(page)).toContainText('wait for a recipe')
  expect(hands.actions).toBeLessThanOrEqual(20)
  await hands.click(press(page, 'Propose recipes for 5 sounds'))
  await expect(press(page, 'Take all 5')).toBeVisible({ timeout: 180_000 })
  await hands.click(press(page, 'Take all 5'))
  await expect(stands(page)).toContainText(/^(3[4-9]|4\d) of \d+changes are in reach\./, { timeout: 20_000 })
  expect(hands.actions).toBeLessThanOrEqual(60)
  console.log(`singer: ${hands.actions} actions`)

  // What was made can be taken back, a step at a time.
  await press(page, /^Undo: Take recipes for 5 sounds/).click()
  await expect(stands(page)).toContainText('wait for a recipe')
})

test('an ambient player comes to an answer by keyboard alone', async ({ page, blank }) => {
  await page.goto(blank.url)
  const hands = new Hands(page)
  await hands.tabTo(chain(page))
  await hands.type(
    'two wide single coils, volume, stereo chorus, dual reverb > scooped clean combo | chiming combo',
  )
  await hands.tabTo(press(page, 'Make this rig'))
  await hands.press('Enter')
  await expect(page.getByRole('region', { name: 'Chain' })).toContainText('My rig')
  await page.keyboard.press('Home')
  await hands.tabTo(songs(page))
  await hands.type('Tide Hours 66: clean 32, chorus pad 32, clean 16')
  await hands.tabTo(press(page, 'Make this set'))
  await hands.press('Enter')
  await expect(stands(page)).toContainText('wait for a recipe')
  expect(hands.actions).toBeLessThanOrEqual(20)
  await hands.tabTo(press(page, /^Propose recipes/))
  await hands.press('Enter')
  await expect(press(page, /^Take all/)).toBeVisible({ timeout: 180_000 })
  await hands.tabTo(press(page, /^Take all/))
  await hands.press('Enter')
  await expect(stands(page)).toContainText('2 of 2', { timeout: 20_000 })
  console.log(`ambient: ${hands.actions} actions by keyboard`)
})

test('a traveller corrects what was misread, takes one way, and makes next week’s set', async ({
  page,
  blank,
}) => {
  await page.goto(blank.url)
  const hands = new Hands(page)
  await hands.fill(chain(page), 'semi-hollow, tuner, zorbulator 70x120, revreb > cab sim, DI')
  await expect(page.getByText('"Zorbulator" is not understood')).toBeVisible()
  await hands.click(press(page, /^Zorbulator, not understood/))
  await hands.click(page.getByRole('menuitem', { name: 'Light overdrive' }))
  await expect(chain(page)).toHaveValue(
    'semi-hollow, tuner, Zorbulator = Light overdrive 70x120, revreb > cab sim, DI',
  )
  await hands.click(press(page, 'Make this rig'))
  await hands.fill(songs(page), 'Nine Gulls\nTin Cabana 128')
  await hands.fill(pattern(page), 'verse clean 16, chorus edge 8')
  await hands.click(press(page, 'Make this set'))
  await expect(stands(page)).toContainText('wait for a recipe')
  await hands.click(press(page, 'Propose recipes for 2 sounds'))
  const ways = page.getByRole('radiogroup', { name: 'Ways to make Clean' })
  await expect(ways.getByRole('radio').first()).toBeChecked({ timeout: 180_000 })
  await hands.click(press(page, 'Take this for Clean'))
  await expect(press(page, 'Take this for Clean')).toHaveCount(0)
  await expect(press(page, 'Propose recipes for 1 sound')).toBeVisible()
  expect(hands.actions).toBeLessThanOrEqual(20)

  const later = new Hands(page)
  await page.goto(`${blank.url}/hear/sets`)
  await later.click(press(page, 'Next set from it'))
  await expect(page.getByRole('region', { name: 'After Set 1' })).toBeVisible()
  await expect(press(page, /After Set 1/i).first()).toBeVisible()
  expect(later.actions).toBeLessThanOrEqual(5)
})

test('the next step is offered until it is closed for good', async ({ page, blank }) => {
  await page.goto(`${blank.url}/step`)
  const next = page.getByRole('region', { name: 'Next step' })
  await expect(next).toContainText('There is no rig with a chain yet.')
  await next.getByRole('button', { name: 'Type your chain' }).click()
  await expect(chain(page)).toBeVisible()
  await page.goto(`${blank.url}/step`)
  await next.getByRole('button', { name: 'Close the next steps for good' }).click()
  await expect(next).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('link', { name: 'Type your set' })).toBeVisible()
  await expect(next).toHaveCount(0)
})

test('a kind is found by typing, and what can be done by its name', async ({ page, blank }) => {
  await page.goto(`${blank.url}/own`)
  await press(page, 'Add gear').click()
  await page.getByRole('searchbox', { name: 'Find a kind' }).fill('compr fast')
  await press(page, /^Fast compressor/).click()
  await expect(page.getByRole('textbox', { name: 'Name' }).first()).toHaveValue('Fast compressor')
  await page.keyboard.press('Control+k')
  await page.getByRole('searchbox', { name: 'Find' }).fill('undo')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveCount(0)
  await page.goto(`${blank.url}/about`)
  await expect(page.getByText(/^Envex development/)).toBeVisible()
  await press(page, /^react-router: MIT$/).click()
  await expect(page.getByText('Permission is hereby granted').first()).toBeVisible()
})

test('a rig is started from, and a sound is said in words', async ({ page, blank }) => {
  await page.goto(`${blank.url}/begin`)
  await press(page, 'Start like someone').click()
  await press(page, 'Start from Loop switcher').click()
  await expect(stands(page)).toContainText(/changes are in reach\./)
  await expect(press(page, /^Undo: Start from Loop switcher/)).toBeVisible()
  await page.goto(`${blank.url}/hear/sounds`)
  const crunch = page.getByRole('region', { name: 'Crunch' })
  await crunch.getByRole('button', { name: /Dirt$/ }).click()
  await page.getByRole('option', { name: 'saturated' }).click()
  await crunch.getByRole('button', { name: /Loudness$/ }).click()
  await page.getByRole('option', { name: 'over the band' }).click()
  await press(page, 'Figures').nth(1).click()
  await expect(crunch.getByRole('textbox', { name: 'Dirt from, %' })).toHaveValue('45')
  await expect(crunch.getByRole('textbox', { name: 'Over home, LU' })).toHaveValue('3.5')
  await crunch.getByRole('textbox', { name: 'Dirt from, %' }).fill('41')
  await page.keyboard.press('Enter')
  await expect(crunch.getByRole('button', { name: /41 to 75 %.*Dirt$/ })).toBeVisible()
})

test('a place in the night is in the address, and an address that leads nowhere says so', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/order?at=9`)
  const here = page.getByRole('region', { name: 'The set' }).locator('[aria-current=step]')
  await expect(page).toHaveURL(/\/order\?at=9$/)
  // It is there from the first drawing on: nothing is drawn at another place before.
  const name = await here.getAttribute('aria-label')
  expect(name).toBe('Low Tide Cumbia, Verse 2, Skank, tight')
  await page.keyboard.press('ArrowRight')
  await expect(page).toHaveURL(/\/order\?at=10$/)
  await page.getByRole('link', { name: /^Own/ }).click()
  await expect(page).toHaveURL(/\/own\?at=10$/)
  await page.goto(`${demo.url}/order?at=9`)
  expect(await here.getAttribute('aria-label')).toBe(name)
  for (const nowhere of ['/moon', '/build/moon', '/hear/moon', '/pack/moon']) {
    await page.goto(demo.url + nowhere)
    await expect(page.getByText(`Envex has no page at ${nowhere}.`)).toBeVisible()
  }
})

test('rules of order are learnt on one’s own rig', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await page.getByRole('link', { name: 'Learn the rules' }).click()
  await press(page, /^Delay before reverb: /).click()
  const rule = page.getByRole('main')
  await expect(rule).toContainText('Who sees it otherwise')
  await expect(rule).toContainText('Does the room come last?')
  await press(page, 'Meter it on this rig').click()
  await expect(page.getByText(/^On this rig, modelled:/)).toBeVisible({ timeout: 60_000 })
})

test('a stop is added of a kind that is not owned yet', async ({ page, demo }) => {
  await page.goto(`${demo.url}/order`)
  await press(page, 'Add a stop').click()
  await page.getByRole('menuitem', { name: 'New: Vibrato' }).click()
  await expect(page.getByRole('row', { name: /^Vibrato,/ })).toBeVisible()
  const owned = async () => {
    const plan = await (await page.request.get(`${demo.url}/api/plan`)).json()
    return plan.gear.some((g: { value: { name: string } }) => g.value.name === 'Vibrato')
  }
  await expect.poll(owned).toBe(true)
  await press(page, 'Undo: Add Vibrato to the chain').click()
  await expect(page.getByRole('row', { name: /^Vibrato,/ })).toHaveCount(0)
  // The last used is offered first of what is not owned.
  await press(page, 'Add a stop').click()
  await expect(page.getByRole('menuitem', { name: /^New: / }).first()).toHaveText('New: Vibrato')
})

test('the demo is toured in seven steps, and left', async ({ page, blank }) => {
  await page.goto(blank.url)
  await press(page, 'Load the demo').click()
  const tour = page.getByRole('region', { name: 'Tour' })
  await expect(tour).toContainText('1 of 7')
  await expect(page.getByRole('heading', { level: 1, name: 'Step' })).toBeVisible()
  await tour.getByRole('button', { name: 'Next' }).click()
  await tour.getByRole('button', { name: 'Next' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Order' })).toBeVisible()
  await tour.getByRole('button', { name: 'Back' }).click()
  await expect(tour).toContainText('2 of 7')
  await tour.getByRole('button', { name: 'Leave the tour' }).click()
  await expect(tour).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await expect(tour).toHaveCount(0)
})

test('what is so of every verse is said once, and undone as one', async ({ page, demo }) => {
  await page.goto(`${demo.url}/hear/songs?many`)
  const verses = page
    .getByRole('table', { name: 'Sections by name' })
    .getByRole('row')
    .filter({ has: page.getByRole('rowheader', { name: 'Verse', exact: true }) })
  const sung = await verses.getByRole('cell').nth(1).textContent()
  await verses.getByRole('button', { name: 'I sing in every Verse' }).click()
  await expect(verses).toContainText('all')
  await expect(page.getByRole('switch', { name: 'Singing in Verse', exact: true })).toBeChecked()
  await verses.getByRole('textbox', { name: 'Bars of every Verse' }).fill('12')
  await verses.getByRole('textbox', { name: 'Bars of every Verse' }).press('Enter')
  await expect(page.getByRole('row', { name: 'Verse', exact: true }).getByLabel('Bars')).toHaveValue('12')
  await page.getByRole('button', { name: 'Undo: Mark every Verse' }).click()
  await expect(verses.getByRole('textbox', { name: 'Bars of every Verse' })).toHaveValue('16')
  await page.getByRole('button', { name: 'Undo: Mark every Verse' }).click()
  await expect(verses.getByRole('cell').nth(1)).toHaveText(sung ?? '')
})

test('a figure of a kind is marked as assumed until it is changed or said to be right', async ({
  page,
  blank,
}) => {
  await page.goto(`${blank.url}/own`)
  await page.getByRole('button', { name: 'Add gear', exact: true }).first().click()
  await page.getByRole('button', { name: /^Mid-hump overdrive/ }).click()
  const box = page.getByRole('region', { name: 'Mid-hump overdrive', exact: true })
  const draw = box.getByRole('textbox', { name: 'Draw, mA' })
  await expect(draw).toHaveAccessibleDescription('assumed')
  await draw.fill('31')
  await draw.press('Enter')
  await expect(draw).toHaveAccessibleDescription('')
  const wide = box.getByRole('textbox', { name: 'Width, mm' })
  await expect(wide).toHaveAccessibleDescription('assumed')
  await box.getByRole('button', { name: 'The assumed figures are right' }).click()
  await expect(wide).toHaveAccessibleDescription('')
  await expect(box.getByRole('button', { name: 'The assumed figures are right' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Electrics' }).click()
  await expect(page.getByRole('textbox', { name: 'Input, ohm' })).toHaveAccessibleDescription('assumed')
})

test('a finding is in the address, and is gone back to', async ({ page, demo }) => {
  await page.goto(`${demo.url}/step?at=3`)
  const findings = page.getByRole('complementary', { name: 'Findings' })
  await findings.getByRole('link', { name: /Tin Cabana, Solo: late/ }).click()
  await expect(page).toHaveURL(/finding=/)
  const at = page.url()
  expect(at).toContain('at=3')
  await page.goto(`${demo.url}/hear/songs`)
  await page.goto(at)
  await expect(findings.locator('[aria-current=true]')).toContainText('Tin Cabana, Solo: late')
})
