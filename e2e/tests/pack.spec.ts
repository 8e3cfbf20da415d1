import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'

const kinds = [
  'set',
  'patch',
  'settings',
  'floor',
  'power',
  'midi',
  'foh',
  'load',
  'failure',
  'faults',
  'walk',
]

/** How many pages a page prints on. */
async function pages(page: Page): Promise<number> {
  const pdf = (await page.pdf({ preferCSSPageSize: true, printBackground: true })).toString('latin1')
  return pdf.match(/\/Type\s*\/Page\b(?!s)/g)?.length ?? 0
}

/** The sheet that is looked at. */
const sheet = (page: Page, name: string) => page.frameLocator(`iframe[title^="${name}"]`)

test('from a show to a printed set sheet in three actions', async ({ page, demo }) => {
  // A browser without a window prints nothing: what would have been printed is written down.
  await page.addInitScript(() => {
    window.print = () => {
      ;(window.top as unknown as { printed: string }).printed = document.title
    }
  })
  await page.goto(`${demo.url}/step`)
  await page.getByRole('link', { name: /Pack/ }).click()
  await page.getByRole('button', { name: 'Set sheet' }).click()
  await expect(sheet(page, 'Set sheet').getByText('1. Ferry Lights')).toBeVisible()
  await page.getByRole('button', { name: 'Print' }).click()
  expect(await page.evaluate(() => (window as unknown as { printed: string }).printed)).toBe(
    'Set sheet, Quay stage',
  )
})

test('fourteen songs print on two pages, of either paper', async ({ page, demo }) => {
  for (const paper of ['a4', 'letter']) {
    await page.goto(`${demo.url}/api/sheet/file?show=quay-12&kind=set&format=html&paper=${paper}`)
    await expect(page.getByText('14. The Last Crossing')).toBeVisible()
    expect(await pages(page), paper).toBe(2)
  }
})

test('nothing on a sheet is cut at the edge of the paper, however long its names', async ({ page, demo }) => {
  const plan = await (await page.request.get(`${demo.url}/api/plan`)).json()
  for (const [collection, list] of [
    ['gear', plan.gear],
    ['songs', plan.songs],
    ['sounds', plan.sounds],
  ]) {
    const thing = list.find((x: { value: { id: string } }) =>
      ['amber', 'ferry-lights', 'crunch'].includes(x.value.id),
    )
    const long =
      'The very longest name that anybody on the quay ever gave to anything at all, and Unbreakable'.padEnd(
        180,
        'e',
      )
    if (collection === 'songs') thing.value.title = thing.value.sections[0].label = long
    else thing.value.name = long
    const done = await page.request.put(`${demo.url}/api/${collection}/${thing.value.id}`, { data: thing })
    expect(done.ok()).toBe(true)
  }
  await page.setViewportSize({ width: 840, height: 900 })
  for (const show of ['quay-12', 'quay-20']) {
    for (const kind of kinds) {
      await page.goto(`${demo.url}/api/sheet/file?show=${show}&kind=${kind}&format=html`)
      const over = await page
        .getByRole('article')
        .evaluate(
          (e) =>
            Array.from(e.querySelectorAll('td, th, h1, h2, li, dd')).filter(
              (x) => x.getBoundingClientRect().right > e.getBoundingClientRect().right - 30,
            ).length,
        )
      expect(over, `${kind} of ${show}`).toBe(0)
      expect(await pages(page)).toBeGreaterThan(0)
    }
  }
})

test('every sheet is saved in every form, and all in one file', async ({ page, demo }) => {
  await page.goto(`${demo.url}/pack/sheets?sheet=walk`)
  for (const [form, says] of [
    ['HTML', '<h1>Walk of the rig</h1>'],
    ['CSV', 'part,no.,where,what'],
    ['Markdown', '# Walk of the rig'],
    ['SVG', '<svg '],
  ]) {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: `Save ${form}` }).click(),
    ])
    expect(readFileSync(await file.path(), 'utf8')).toContain(says)
  }
  await page.getByRole('button', { name: 'Every sheet' }).click()
  await expect(sheet(page, 'Every sheet').getByRole('article')).toHaveCount(kinds.length)
})

test('the page for the night opens from disk with no network and turns by tap and by pedal', async ({
  page,
  demo,
  browser,
}) => {
  await page.goto(`${demo.url}/pack/sheets?sheet=night`)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /^Save/ }).click(),
  ])
  const path = `${demo.folder}/gig.html`
  await file.saveAs(path)
  const context = await browser.newContext({ offline: true, viewport: { width: 390, height: 780 } })
  const phone = await context.newPage()
  const wrong: string[] = []
  phone.on('pageerror', (e) => wrong.push(e.message))
  phone.on('console', (m) => m.type() === 'error' && wrong.push(m.text()))
  phone.on(
    'request',
    (r) => r.url().startsWith('file:') || r.url().startsWith('data:') || wrong.push(r.url()),
  )
  await phone.goto(`file://${path}`)
  const here = phone.getByRole('main').getByRole('heading', { level: 1 })
  await expect(here).toHaveText(/Intro/)
  for (const [key, section] of [
    ['PageDown', /^Verse/],
    ['ArrowRight', /^Chorus/],
    [' ', /^Verse 2/],
    ['PageUp', /^Chorus/],
    ['ArrowLeft', /^Verse/],
  ] as const) {
    await phone.keyboard.press(key)
    await expect(here).toHaveText(section)
  }
  await phone.mouse.click(300, 500)
  await expect(here).toHaveText(/^Chorus/)
  await phone.mouse.click(40, 500)
  await expect(here).toHaveText(/^Verse/)
  await phone.getByRole('button', { name: 'Next' }).click()
  await phone.getByRole('button', { name: 'Next' }).click()
  await phone.getByRole('button', { name: 'Next' }).click()
  await expect(here).toHaveText(/^Solo/)
  await expect(phone.getByRole('list', { name: 'Press' }).getByRole('listitem')).toHaveText([
    'Nudge on',
    'Amber on',
    'Echo on',
  ])
  await phone.reload()
  await expect(here).toHaveText(/^Solo/)
  await phone.getByLabel('Song', { exact: true }).selectOption('5. Rope & Lantern')
  await expect(phone.getByRole('main')).toContainText('76 bpm')
  expect(await axe(phone)).toEqual([])
  await phone.getByRole('button', { name: 'Sheets' }).click()
  await phone.getByText('Patch list', { exact: true }).first().click()
  await expect(phone.getByRole('table', { name: 'From jack to jack' })).toBeVisible()
  expect(wrong).toEqual([])
  await context.close()
})

test('a sheet on its own has no fault that axe can find', async ({ page, demo }) => {
  await page.goto(`${demo.url}/api/sheet/file?show=quay-12&kind=all&format=html`)
  expect(await axe(page)).toEqual([])
})

test('a title that looks like a formula and like markup stays text everywhere', async ({ page, demo }) => {
  const title = '=1+1,"<b>'
  await page.goto(`${demo.url}/hear/songs`)
  const field = page.getByRole('textbox', { name: 'Title' })
  await field.fill(title)
  await field.press('Enter')
  await expect(
    page.getByRole('region', { name: 'The set' }).getByRole('group', { name: title }),
  ).toBeVisible()
  await page.goto(`${demo.url}/pack/sheets`)
  await expect(sheet(page, 'Set sheet').getByText(`1. ${title}`)).toBeVisible()
  const csv = await (
    await page.request.get(`${demo.url}/api/export/songs?format=csv&set_list=quay-set`)
  ).text()
  expect(csv).toContain(`"'=1+1,""<b>"`)
  await page.getByRole('button', { name: 'Page for the night' }).click()
  await expect(sheet(page, 'Page for the night').getByRole('main')).toContainText(title)
})

test('a night is written down, a change of it kept, compared with the rig before and brought back', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/pack/shows`)
  await page.getByRole('button', { name: 'Add a show' }).click()
  const name = page.getByRole('textbox', { name: 'Name' })
  await expect(name).toHaveValue(/^Show \d/)
  await name.fill('Lock keeper’s ball')
  await name.press('Enter')
  const listed = page
    .getByRole('navigation', { name: 'Shows' })
    .getByRole('button', { name: /^Lock keeper’s/ })
  await expect(listed).toBeVisible()
  await page.getByRole('spinbutton', { name: /^day/ }).click()
  await page.keyboard.type('05122026')
  await expect(listed).toContainText('5 December 2026')

  const faults = page.getByRole('region', { name: 'Faults' })
  await faults.getByRole('button', { name: 'Write a fault down' }).click()
  await page.getByRole('textbox', { name: 'What went wrong' }).fill('Squeal from the loop')
  await page.keyboard.press('Enter')
  const fault = faults.getByRole('group', { name: 'Fault 1: Squeal from the loop' })
  await fault.getByRole('button', { name: /Where in the chain/ }).click()
  await page.getByRole('option', { name: 'Room', exact: true }).click()
  const cure = fault.getByRole('textbox', { name: 'Fix' })
  await cure.fill('Return lead turned round')
  await cure.press('Enter')

  const changes = page.getByRole('region', { name: 'Changed on the night' })
  await changes.getByRole('button', { name: 'Write a change down' }).click()
  await page.getByRole('textbox', { name: 'What was changed, and why' }).fill('Longer echo for a stone hall')
  await page.keyboard.press('Enter')
  const change = changes.getByRole('group', { name: 'Change 1: Longer echo for a stone hall' })
  await change.getByRole('button', { name: /Control$/ }).click()
  await page.getByRole('option', { name: 'Echo time' }).click()
  await change.getByRole('textbox', { name: 'Stood at, ms' }).fill('420')
  await page.keyboard.press('Enter')
  await change.getByRole('button', { name: /In preset$/ }).click()
  await page.getByRole('option', { name: 'B', exact: true }).click()
  await change.getByRole('button', { name: 'Keep: Echo time to 420 ms in preset B of Echo' }).click()
  await expect(change).toContainText('Kept: Echo time to 420 ms in preset B of Echo')

  await page.getByRole('link', { name: 'Versions' }).click()
  const versions = page.getByRole('region', { name: 'Versions' })
  const words = versions.getByRole('list', { name: 'Differences' })
  await expect(words).toHaveText('Echo preset B time 380 to 420 ms')
  await versions.getByRole('button', { name: 'Bring back version 1' }).click()
  await versions.getByRole('button', { name: 'Compare version 1 with now' }).click()
  await expect(words).toHaveText('Nothing is different.')
  await page.getByRole('button', { name: /^Undo: Bring back version 1/ }).click()
  await expect(words).toHaveText('Echo preset B time 380 to 420 ms')

  await page.getByRole('link', { name: 'Log', exact: true }).click()
  await page.getByRole('searchbox', { name: 'Search the log' }).fill('squeal ROOM')
  const log = page.getByRole('table', { name: 'Log' })
  await expect(log.getByRole('row')).toHaveCount(2)
  await expect(log).toContainText('Cured: Return lead turned round')
  await page.getByRole('searchbox', { name: 'Search the log' }).fill('nobody wrote this')
  await expect(page.getByText('The log has no such line.')).toBeVisible()
  await page.goto(`${demo.url}/own/room`)
  await expect(page.getByRole('table', { name: 'Log of Room' })).toContainText('Squeal from the loop')
})

test('a fresh battery sets the hours of its box to nothing and stands in its history', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/pack/shows/quay-12`)
  const batteries = page.getByRole('region', { name: 'Batteries' })
  await expect(batteries).toContainText('Silt: has run for 18 hours')
  await batteries.getByRole('button', { name: 'Fresh battery in Silt' }).click()
  await expect(batteries).toContainText('Silt: has run for 0 hours')
  await expect(batteries.getByRole('list', { name: 'Fresh for this show' })).toContainText('Silt')
  await page.goto(`${demo.url}/own/silt`)
  await expect(page.getByRole('table', { name: 'Log of Silt' }).getByRole('row')).toHaveCount(4)
  await page.getByRole('button', { name: /^Undo: Fresh battery in Silt/ }).click()
  await expect(page.getByRole('button', { name: /^Redo: Fresh battery in Silt/ })).toBeEnabled()
  await page.goto(`${demo.url}/pack/shows/quay-12`)
  await expect(batteries).toContainText('Silt: has run for 18 hours')
})

test('a phone reads the sheets and the shows', async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 780 })
  await page.goto(`${demo.url}/pack`)
  await page.getByRole('button', { name: /Sheet$/ }).click()
  await page.getByRole('option', { name: 'Failure plan' }).click()
  await expect(sheet(page, 'Failure plan').getByText('If it dies')).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await page.getByRole('link', { name: 'Shows' }).click()
  await page.getByRole('link', { name: 'The log of every show' }).click()
  await expect(page.getByRole('table', { name: 'Log' })).toBeVisible()
})

test('without a show Pack says what one is and how to begin', async ({ page, blank }) => {
  await page.goto(`${blank.url}/pack`)
  await expect(page.getByRole('main')).toContainText('are made for a show')
  await page.getByRole('link', { name: 'Add a show' }).click()
  await expect(page.getByRole('main')).toContainText('It needs a rig and a set list first.')
  await expect(page.getByRole('button', { name: 'Add a show' })).toBeDisabled()
})

test('a sheet is chosen, read and printed from the keyboard alone', async ({ page, demo }) => {
  await page.addInitScript(() => {
    window.print = () => {
      ;(window.top as unknown as { printed: string }).printed = document.title
    }
  })
  await page.goto(`${demo.url}/step`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('8')
  await expect(page.getByRole('heading', { name: 'Pack', level: 1 })).toBeVisible()
  const nav = page.getByRole('navigation', { name: 'Sheets' })
  await nav.getByRole('button', { name: 'Set sheet' }).focus()
  await page.keyboard.press('Tab')
  await expect(nav.getByRole('button', { name: 'Patch list' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(sheet(page, 'Patch list').getByRole('table', { name: 'From jack to jack' })).toBeVisible()
  await page.getByRole('button', { name: 'Print' }).focus()
  await page.keyboard.press('Enter')
  await expect
    .poll(() => page.evaluate(() => (window as unknown as { printed: string }).printed))
    .toBe('Patch list, Quay stage')
  await page.getByRole('button', { name: /Paper$/ }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('option', { name: 'Letter' }).press('Enter')
  await expect(page.locator('iframe')).toHaveAttribute('src', /paper=letter/)
  await page.reload()
  await expect(page.locator('iframe'), 'the paper in the house is remembered').toHaveAttribute(
    'src',
    /paper=letter/,
  )
})

test('what is wrong in a night’s log is refused in a sentence, and what was typed stays to be mended', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/pack/shows/loft-7`)
  const fault = page.getByRole('region', { name: 'Faults' }).getByRole('group', { name: /^Fault 2/ })
  const text = fault.getByRole('textbox', { name: 'What went wrong' })
  await text.fill('')
  await text.press('Enter')
  await expect(page.getByRole('alert')).toContainText('say what went wrong')
  await expect(text).toHaveValue('')
  await text.press('Escape')
  await expect(text).toHaveValue('Died in Night Dredger')
  const place = page.getByRole('textbox', { name: 'Place' })
  await place.fill('The net loft, upstairs')
  await place.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: Place of Net loft/ })).toBeEnabled()
  await page.reload()
  await expect(place).toHaveValue('The net loft, upstairs')
  await page.getByRole('button', { name: 'Remove the fault: Died in Night Dredger' }).click()
  await expect(page.getByRole('group', { name: /^Fault/ })).toHaveCount(2)
  await page.getByRole('button', { name: /^Undo: Remove a fault/ }).click()
  await expect(page.getByRole('group', { name: /^Fault/ })).toHaveCount(3)
  await page.getByRole('button', { name: 'Its sheets' }).click()
  await expect(sheet(page, 'Set sheet').getByText('The net loft, upstairs')).toBeVisible()
})

test('a sheet that cannot be made says why, and an address that asks for none gets the first', async ({
  page,
  demo,
}) => {
  await page.route('**/api/sheet?*', (route) =>
    route.fulfill({
      status: 422,
      contentType: 'application/problem+json',
      json: {
        title: 'Unprocessable',
        status: 422,
        detail: 'One footswitch moves more controls than any does.',
      },
    }),
  )
  await page.goto(`${demo.url}/pack/sheets?sheet=walk`)
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'Walk of the rig cannot be made: One footswitch moves more controls than any does.',
  )
  await expect(page.locator('iframe')).toHaveCount(0)
  await page.unroute('**/api/sheet?*')
  await page.goto(`${demo.url}/pack/sheets?sheet=poem&paper=papyrus&show=nowhere`)
  await expect(sheet(page, 'Set sheet').getByText('1. Ferry Lights')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Set sheet' })).toHaveAttribute('aria-current', 'true')
})
