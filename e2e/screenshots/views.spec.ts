import { resolve } from 'node:path'
import { expect, goTo, test } from '../envex.ts'

const folder = resolve(import.meta.dirname, '../../docs/screenshots')

const views = [
  { name: 'step', path: '/step', at: /Tin Cabana, Solo/ },
  { name: 'order', path: '/order', at: /Tin Cabana, Solo/, row: /^Echo,/ },
  { name: 'order-lanes', path: '/order', at: /Tin Cabana, Solo/, destination: 'Dance hall, two combos' },
  { name: 'programs', path: '/step', at: /Tin Cabana, Solo/, rig: 'Long board, switched' },
  { name: 'compared', path: '/step', at: /Tin Cabana, Solo/, beside: 'Carry-on board' },
  { name: 'balance', path: '/balance', at: /Tin Cabana, Solo/ },
  {
    name: 'treble',
    path: '/balance',
    at: /Night Dredger, Verse/,
    pick: 'Bare board',
    region: 'Lost treble',
  },
  { name: 'build', path: '/build/board', at: /Tin Cabana, Solo/ },
  { name: 'hear', path: '/hear/songs', at: /Tin Cabana, Solo/ },
  { name: 'room', path: '/balance/room', at: /Low Tide Cumbia, Chorus/, bench: true },
  {
    name: 'begin',
    path: '/begin',
    at: /Tin Cabana, Solo/,
    typed:
      'two humbuckers, tuner, Skiff = orange mid-hump drive 9V 20mA, light drive + boost, chorus / tremolo, zorbulator, tape echo tap, hall reverb > one-channel combo with loop: looper',
  },
  { name: 'own', path: '/own/echo', at: /Tin Cabana, Solo/ },
  { name: 'choose', path: '/own/choose', at: /Tin Cabana, Solo/, choose: 'three boxes' },
  { name: 'play', path: '/play', at: /Tin Cabana, Solo/, walk: 4 },
  { name: 'pack', path: '/pack/sheets?sheet=settings', at: /Tin Cabana, Solo/ },
  { name: 'show', path: '/pack/shows/loft-7', at: /Tin Cabana, Solo/ },
  { name: 'devices', path: '/pack/devices', at: /Tin Cabana, Solo/, devices: true },
  { name: 'dial', path: '/balance/dial', at: /Tin Cabana, Solo/ },
]

for (const v of views) {
  test(v.name, async ({ page, demo }) => {
    await page.goto(demo.url + (v.walk ? '/step' : v.path))
    if (v.bench) await page.getByRole('button', { name: 'Bench theme' }).click()
    if (v.devices) {
      // The addresses of whatever machine makes the picture are no part of it.
      const addresses = ['http://192.168.1.20:8421', 'http://quay.local:8421']
      await page.route(/\/api\/(devices|network|pairings)$/, async (route) => {
        const response = await route.fetch()
        const body = await response.json()
        if (body.network?.on) body.network.addresses = addresses
        if (body.links) body.links = addresses.map((a) => `${a}/pair#${body.code}`)
        await route.fulfill({ response, json: body })
      })
      await page.reload()
      await page.getByRole('button', { name: 'Let devices in by plain HTTP' }).click()
      await page.getByRole('button', { name: 'Show a code' }).click()
      await expect(page.getByRole('img', { name: /^Opens http/ })).toBeVisible()
    }
    if (v.destination) {
      await page.getByRole('button', { name: 'Plugs into' }).click()
      await page.getByRole('option', { name: v.destination }).click()
    }
    if (v.rig) {
      await page.getByRole('button', { name: /Rig$/ }).click()
      await page.getByRole('option', { name: v.rig }).click()
      const programs = page.getByRole('region', { name: 'Programs', exact: true })
      await programs.getByRole('button', { name: 'Solve' }).click()
      await programs.getByRole('button', { name: 'Take these programs' }).click()
      await expect(programs.getByRole('table')).toBeVisible()
    }
    if (v.beside) {
      await page.getByRole('button', { name: /Compare with$/ }).click()
      await page.getByRole('option', { name: v.beside }).click()
      const compared = page.getByRole('region', { name: `Compared with ${v.beside}` })
      await expect(compared.getByRole('table', { name: 'Sounds there' })).toBeVisible()
    }
    if (v.pick) {
      await page.getByRole('button', { name: /Rig$/ }).click()
      await page.getByRole('option', { name: v.pick, exact: true }).click()
    }
    await goTo(page, v.at)
    if (v.walk) {
      await page.getByRole('link', { name: /Play/ }).click()
      await page.getByRole('button', { name: 'Walk it by hand' }).click()
      for (let n = 0; n < v.walk; n += 1) await page.getByRole('button', { name: /^On to/ }).click()
      await expect(page.getByRole('group', { name: 'Now' })).toContainText('Not as it has to be')
    }
    if (v.beside)
      await page.getByRole('region', { name: `Compared with ${v.beside}` }).scrollIntoViewIfNeeded()
    // What is worked out for the view has come.
    await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 120_000 })
    if (v.region)
      await page.getByRole('region', { name: v.region }).evaluate((e) => e.scrollIntoView({ block: 'start' }))
    if (v.rig) await page.getByRole('region', { name: 'Programs', exact: true }).scrollIntoViewIfNeeded()
    if (v.row) await page.getByRole('row', { name: v.row }).click()
    if (v.choose) {
      await page.getByRole('button', { name: /At most$/ }).click()
      await page.getByRole('option', { name: v.choose }).click()
      await page.getByRole('button', { name: 'Choose boxes' }).click()
      await expect(page.getByRole('list', { name: 'Choices' })).toBeVisible({ timeout: 200_000 })
    }
    if (v.typed) {
      await page.getByRole('textbox', { name: 'Your chain, from the guitar on' }).fill(v.typed)
      await expect(page.getByRole('list', { name: 'What is understood' })).toBeVisible()
    }
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.mouse.move(700, 790)
    await page.evaluate(() => document.fonts.ready)
    await page.waitForTimeout(400)
    await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 120_000 })
    await page.screenshot({ path: `${folder}/${v.name}.png` })
  })
}

test('stage', async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${demo.url}/stand/quay-12`)
  await page.getByRole('button', { name: 'Songs' }).click()
  await page
    .getByRole('list', { name: 'Songs' })
    .getByRole('button', { name: /^Winch Song/ })
    .click()
  for (let n = 0; n < 3; n += 1) await page.getByRole('button', { name: /^On to/ }).click()
  await page.getByRole('button', { name: 'Dismiss' }).click()
  await expect(page.getByRole('status', { name: 'Connection' })).toContainText('Live')
  await page.evaluate(() => document.fonts.ready)
  await page.screenshot({ path: `${folder}/stage.png` })
})
