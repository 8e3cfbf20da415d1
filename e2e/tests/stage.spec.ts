import type { Browser, Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, type Program, test } from '../envex.ts'

const phoneSize = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }

const now = (page: Page) => page.getByRole('group', { name: 'Now', exact: true })
const next = (page: Page) => page.getByRole('group', { name: 'Next' })
const on = (page: Page) => page.getByRole('button', { name: /^On to/ }).click()
const signal = (page: Page) => page.getByRole('status', { name: 'Connection' })

const more = async (page: Page, act: () => Promise<void>) => {
  await page.getByRole('button', { name: 'More' }).click()
  await act()
  await page.getByRole('button', { name: 'Close' }).click()
}

const call = async (page: Page, song: string | RegExp) => {
  await page.getByRole('button', { name: 'Songs' }).click()
  await page.getByRole('list', { name: 'Songs' }).getByRole('button', { name: song }).click()
}

/** Phones that the owner let in as stands, on the page of a show. */
async function phones(page: Page, demo: Program, browser: Browser): Promise<Page[]> {
  await page.goto(`${demo.url}/pack/devices`)
  await expect(page.getByRole('status', { name: 'Reach' })).toContainText(/\d/) // nothing moves any more
  await page.getByRole('button', { name: 'Let devices in by plain HTTP' }).click()
  const list: Page[] = []
  for (const name of ['Stand left', 'Stand right']) {
    await page.getByRole('button', { name: /Show a(nother)? code/ }).click()
    const code = (await page.getByLabel('Code', { exact: true }).textContent()) ?? ''
    const network = await demo.byNetwork()
    const phone = await (await browser.newContext(phoneSize)).newPage()
    await phone.goto(`${network}/pair#${code}`)
    await phone.getByLabel('Name of this device').fill(name)
    await phone.getByRole('button', { name: 'Pair this device' }).click()
    await expect(phone.getByRole('heading', { name: 'Play', level: 1 })).toBeVisible()
    await phone.getByRole('button', { name: 'Leave' }).click()
    await phone.getByRole('link', { name: 'On stage' }).click()
    await expect(now(phone)).toBeVisible()
    await expect(page.getByRole('row', { name: new RegExp(name) })).toBeVisible()
    list.push(phone)
  }
  return list
}

test('an evening: one leads, songs are called, a box dies, and the network goes twice', async ({
  page,
  demo,
  browser,
}) => {
  test.slow()
  const [left, right] = (await phones(page, demo, browser)) as [Page, Page]
  const show = new URL(left.url()).pathname
  await page.goto(demo.url + show)
  await more(page, async () => {
    await page.getByRole('switch', { name: /This page leads/ }).press('Space')
  })
  await more(left, async () => {
    await left.getByRole('button', { name: /This page goes on by/ }).click()
    await left.getByRole('option', { name: 'The page that leads' }).click()
  })
  expect(await axe(left)).toEqual([])

  // The cursor of the owner leads from anywhere, and the page on stage does.
  const side = await page.context().newPage()
  await side.goto(demo.url + show.replace('/stand/', '/pack/shows/'))
  await side.getByRole('button', { name: 'Lead the stands' }).click()
  await expect(side.getByRole('status', { name: 'Leading' })).toContainText('leads the stands of')
  await side.getByRole('heading', { level: 1 }).click()
  await side.keyboard.press('ArrowRight')
  await side.keyboard.press('ArrowRight')
  await side.keyboard.press('ArrowRight')
  await expect(now(left)).toContainText('Verse 2')
  await side.getByRole('button', { name: 'Stop leading', exact: true }).click()
  await expect(side.getByRole('status', { name: 'Leading' })).toHaveCount(0)
  await side.close()

  // The left one goes along, the right one by its own pedal.
  await on(page)
  await on(page)
  const there = (await now(page).textContent()) ?? ''
  await expect(now(left)).toContainText(there.replace(/^Now/, '').slice(0, 8))
  await expect(now(right)).toContainText('Intro')
  await right.keyboard.press('PageDown')
  await expect(now(right)).toContainText('Verse')
  await right.keyboard.press('PageUp')
  await expect(now(right)).toContainText('Intro')

  // A song is called on one, and comes next on all.
  await call(right, /Winch Song/)
  await expect(right.getByText('Winch Song comes next.')).toBeVisible()
  for (const p of [page, left, right])
    await more(p, async () => {
      await expect(
        p.getByRole('list', { name: 'Still to come' }).getByRole('listitem').first(),
      ).toContainText('Winch Song')
    })

  // The network goes: the right one works on, is loaded anew, and says how old it is.
  await expect(signal(right)).toContainText('Live')
  await expect
    .poll(() => right.evaluate(async () => (await caches.keys()).includes('envex-stand')))
    .toBe(true)
  await expect
    .poll(() => right.evaluate(async () => (await (await caches.open('envex-stand')).match('/stand'))?.ok))
    .toBe(true)
  await right.context().setOffline(true)
  await expect(signal(right)).toContainText('Own copy')
  await call(right, /Barnacle Bop/)
  await more(right, async () => {
    await right
      .getByRole('textbox', { name: 'For the log of the show' })
      .fill('The wind takes the high notes')
    await right.getByRole('button', { name: 'Write it down' }).click()
  })
  await expect(signal(right)).toContainText('2 to send')
  await right.reload()
  await expect(signal(right)).toContainText('2 to send')
  await more(right, async () => {
    await expect(
      right.getByRole('list', { name: 'Still to come' }).getByRole('listitem').first(),
    ).toContainText('Barnacle Bop')
  })
  await right.context().setOffline(false)
  await expect(signal(right)).toContainText('Live')
  await expect(signal(right)).not.toContainText('to send')
  await more(page, async () => {
    await expect(
      page.getByRole('list', { name: 'Still to come' }).getByRole('listitem').first(),
    ).toContainText('Barnacle Bop')
  })

  // A box dies: three taps, and every page of the rig knows.
  await left.getByRole('button', { name: 'Broke' }).click()
  await left
    .getByRole('list', { name: 'What broke' })
    .getByRole('button', { name: /^Rotor/ })
    .click()
  const ways = left.getByRole('list', { name: 'Ways round' })
  await expect(ways).toContainText('Shimmer: play it with no vibe')
  expect(await axe(left)).toEqual([])
  await ways.getByRole('button').first().click()
  for (const p of [page, left, right]) await expect(p.getByText(/^Rotor is out: leave it off/)).toBeVisible()

  // The network goes again, on the left: what broke then is told later.
  await left.getByRole('button', { name: 'Broke' }).click()
  await expect(left.getByRole('list', { name: 'What broke' })).toBeVisible()
  await left.context().setOffline(true)
  await left
    .getByRole('list', { name: 'What broke' })
    .getByRole('button', { name: /^Driftwood/ })
    .click()
  await left
    .getByRole('list', { name: 'Ways round' })
    .getByRole('button', { name: /Bulkhead/ })
    .click()
  await expect(left.getByText(/^Kept on this phone\. The rest of the night/)).toBeVisible()
  await left.context().setOffline(false)
  await expect(page.getByText('Driftwood is out: played on Bulkhead.')).toBeVisible()
  await expect(left.getByText(/^Kept on this phone/)).toHaveCount(0)

  // It is mended, and all of it is in the log of the show.
  await page.getByRole('button', { name: 'Broke' }).click()
  await page.getByRole('button', { name: /^Rotor works again/ }).click()
  await expect(right.getByText(/^Rotor is out/)).toHaveCount(0)
  await page.goto(demo.url + show.replace('/stand/', '/pack/shows/'))
  await expect(
    page.getByRole('group', { name: /Rotor failed.*Gone round/ }).getByRole('textbox', { name: 'Fix' }),
  ).toHaveValue(/^Works again/)
  await expect(page.getByRole('group', { name: /Driftwood failed/ })).toBeVisible()
  await expect(page.getByLabel('After: what to remember')).toHaveValue(/The wind takes the high notes/)
})

test('a song is called and struck again, dropped, and cut short', async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${demo.url}/stand/quay-12`)
  await expect(now(page)).toContainText('Intro')
  await page.getByRole('button', { name: 'Songs' }).click()
  const songs = page.getByRole('list', { name: 'Songs' })
  await expect(songs.getByRole('button', { name: /^Low Tide Cumbia/ })).toContainText(
    /in time, \d+\.\d s of 15 s/,
  )
  await page.getByRole('textbox', { name: 'Find' }).fill('sail')
  await expect(songs.getByRole('button')).toHaveCount(1)
  await page.getByRole('switch', { name: /^Now: leave the rest/ }).press('Space')
  await songs.getByRole('button', { name: /^Paper Sail/ }).click()
  await expect(next(page)).toContainText('Paper Sail')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(next(page)).toContainText('Verse')
  await more(page, async () => {
    await page.getByRole('button', { name: 'Drop Low Tide Cumbia' }).click()
    await expect(page.getByRole('button', { name: 'Drop Low Tide Cumbia' })).toHaveCount(0)
  })
  // A name that nobody can read out does not push anything off the phone.
  const { version, value } = (await (await page.request.get(`${demo.url}/api/plan`)).json()).songs[0]
  await page.request.put(`${demo.url}/api/songs/${value.id}`, {
    data: {
      version,
      value: { ...value, title: 'A very long title of a song that nobody could read out in one breath' },
    },
  })
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A very long title')
  const wide = () => page.evaluate(() => document.getElementById('main')?.scrollWidth ?? 0)
  expect(await wide()).toBeLessThanOrEqual(390)

  await page.goto(`${demo.url}/stand/nope`)
  await expect(page.getByRole('alert')).toContainText('The plan does not have it.')
})

test('sound is checked by the minute, devices are sent to, and the show is gone through', async ({
  page,
  demo,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 })
  await page.goto(`${demo.url}/stand/quay-12`)
  await page.getByRole('button', { name: 'More' }).click()
  await page.getByRole('button', { name: 'Soundcheck' }).click()
  await page.getByRole('textbox', { name: 'Minutes there are' }).fill('3')
  const checks = page.getByRole('list', { name: 'Checks' })
  await expect(checks.getByRole('checkbox')).toHaveCount(3, { timeout: 60_000 })
  await expect(page.getByText(/^No time for: /)).toBeVisible()
  await checks.getByRole('checkbox').first().check()
  await expect(page.getByText('1 of 3 done')).toBeVisible()
  await checks.getByRole('textbox').first().fill('Line two hums')
  await checks.getByRole('textbox').first().press('Enter')
  expect(await axe(page)).toEqual([])
  await page.getByRole('button', { name: 'Close' }).click()

  // What would be sent is seen first; nothing is sent until it is armed.
  const devices = async (act: () => Promise<void>) => {
    await page.getByRole('button', { name: 'More' }).click()
    await page.getByRole('button', { name: 'Send to devices' }).click()
    await act()
    await page.getByRole('button', { name: 'Close' }).click()
  }
  await devices(async () => {
    await expect(page.getByRole('list', { name: 'Dry run' }).getByRole('listitem').first()).toContainText(
      /C2 0\d Echo preset/,
    )
    await expect(page.getByText('Nothing yet.')).toBeVisible()
    expect(await axe(page)).toEqual([])
    await page.getByRole('switch', { name: /^Armed/ }).press('Space')
    await expect(page.getByRole('list', { name: 'Sent' }).getByText('answered').first()).toBeVisible()
  })
  const armed = page.getByRole('status', { name: 'Armed' })
  await expect(armed).toContainText('Armed: sends to simulated devices')
  await devices(async () => {
    await page.getByRole('button', { name: /To try out a fault/ }).click()
    await page.getByRole('option', { name: 'Channel 3 answers wrongly' }).click()
  })
  for (let i = 0; i < 4; i += 1) await on(page)
  await expect(armed).toContainText('A device answered wrongly.')

  // The clock of a MIDI line moves the page on.
  await page.getByRole('button', { name: 'Back' }).click()
  await page.getByRole('button', { name: 'Back' }).click()
  await page.getByRole('button', { name: 'Back' }).click()
  await page.getByRole('button', { name: 'Back' }).click()
  await expect(now(page)).toContainText('Intro')
  await more(page, async () => {
    await page.getByRole('button', { name: /This page goes on by/ }).click()
    await page.getByRole('option', { name: 'MIDI clock and program changes' }).click()
    await page.getByRole('switch', { name: 'Simulated clock runs' }).press('Space')
  })
  await expect(now(page)).toContainText('Verse', { timeout: 30_000 })

  // The end of the show disarms; what it tells is kept or left.
  await more(page, async () => {
    await page.getByRole('button', { name: 'End the show' }).click()
  })
  await expect(page.getByText('The show has ended.').first()).toBeVisible()
  await expect(armed).toHaveCount(0)
  await devices(async () => {
    await page.getByRole('switch', { name: /^Armed/ }).press('Space')
    await expect(page.getByRole('switch', { name: /^Armed/ })).not.toBeChecked()
  })
  await page.goto(`${demo.url}/pack/shows/quay-12`)
  const after = page.getByRole('region', { name: 'After the show' })
  await expect(after).toContainText('Played: Ferry Lights.')
  await expect(after).toContainText('1 check ticked off')
  await expect(page.getByLabel('After: what to remember')).toHaveValue(/Line two hums/)
  await after.getByRole('button', { name: 'Keep this as the set' }).click()
  await expect(page.getByRole('region', { name: 'The set' }).getByRole('group')).toHaveCount(1)
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByRole('region', { name: 'The set' }).getByRole('group')).toHaveCount(14)
  await after.getByRole('button', { name: 'Next show from this one' }).click()
  await expect(page.getByRole('region', { name: 'After Quay stage' })).toBeVisible()
  await expect(page.getByLabel('Before: what to know')).toHaveValue(/Line two hums/)
})

test('two players are at a show, each on a rig with sounds of their own', async ({ page, demo, browser }) => {
  await page.goto(`${demo.url}/pack/shows/quay-12`)
  const rigs = page.getByRole('region', { name: 'Rigs at the show' })
  await rigs.getByRole('button', { name: /Another rig/ }).click()
  await page.getByRole('option', { name: 'Carry-on board' }).click()
  await rigs.getByRole('button', { name: 'Add it to the show' }).click()
  await rigs.getByRole('button', { name: /Player of Carry-on board/ }).click()
  await page.getByRole('option', { name: 'Second guitar' }).click()
  await expect(rigs.getByRole('button', { name: /Second guitar/ })).toBeVisible()
  expect(await axe(page)).toEqual([])

  await page.goto(`${demo.url}/hear/songs`)
  await page.getByRole('button', { name: /Sounds of$/ }).click()
  await page.getByRole('option', { name: 'Second guitar' }).click()
  await page.getByRole('button', { name: /Sound of Verse$/ }).click()
  await page.getByRole('option', { name: 'Skank' }).click()
  await expect(page.getByRole('button', { name: /Sound of Verse$/ })).toContainText('Skank')

  await page.goto(`${demo.url}/stand/quay-12?rig=carry`)
  await expect(next(page)).toContainText('Skank')
  await on(page)
  const side = await (await browser.newContext({ viewport: { width: 1024, height: 768 } })).newPage()
  await side.goto(`${demo.url}/stand/quay-12/all`)
  const second = side.getByRole('region', { name: 'Carry-on board' })
  await expect(second).toContainText('Second guitar')
  await expect(second.getByRole('group', { name: 'Now' })).toContainText('Skank')
  const first = side.getByRole('region', { name: 'Long board' })
  await expect(first).toContainText('No page of this rig is open')
  await expect(first.getByRole('group', { name: 'Next' })).toContainText('Home')
  await side.getByRole('button', { name: /^Lead on to/ }).click()
  await expect(first.getByRole('group', { name: 'Now' })).toContainText('Ferry Lights, Verse')
  expect(await axe(side)).toEqual([])

  await page.goto(`${demo.url}/pack/sheets?sheet=foh`)
  const paper = page.frameLocator('iframe')
  await expect(paper.getByRole('heading', { name: /Lines of Second guitar, Carry-on board/i })).toBeVisible()
  await expect(paper.getByRole('heading', { name: /Mains on stage/i })).toBeVisible()
})
