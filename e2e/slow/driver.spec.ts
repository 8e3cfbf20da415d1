import type { Locator, Page } from '@playwright/test'
import { expect, type Program, test } from '../envex.ts'
import { dice, type Roll } from './dice.ts'
import { Model, smallPlan } from './model.ts'

// Two tabs, one plan, and a driver that edits at random by roles and labels while answers are late, lost,
// or never asked for. A model has the same done to it; in the end the plan must be what the model is.
//
// DRIVER_RUNS and DRIVER_EDITS make it longer; DRIVER_SEED begins with the seed of a run that failed.

const runs = Number(process.env.DRIVER_RUNS ?? (process.env.CI ? 6 : 20))
const edits = Number(process.env.DRIVER_EDITS ?? 6)
const first = Number(
  process.env.DRIVER_SEED ?? Number(new Date().toISOString().slice(0, 10).replaceAll('-', '')),
)

// Delays and losses are of its own making.
test.use({ slow: { writesMs: 0, cpu: 1 } })

/** Makes answers to writes late, and some of them, or the requests themselves, lost. */
async function unsteady(page: Page, roll: Roll) {
  await page.route(/\/api\//, async (route) => {
    if (route.request().method() === 'GET') return route.fallback()
    const luck = roll(10)
    const wait = roll(250)
    if (luck === 0) return route.abort().catch(() => undefined) // it never arrives
    const response = await route.fetch().catch(() => undefined)
    await new Promise((done) => setTimeout(done, wait))
    if (!response || luck === 1) return route.abort().catch(() => undefined) // the answer is lost
    await route.fulfill({ response }).catch(() => undefined)
  })
}

/** A tab, and where it is. */
class Tab {
  private at = ''
  constructor(
    readonly page: Page,
    private readonly program: Program,
  ) {}

  async go(view: 'songs' | 'sounds' | 'gear' | 'chain') {
    if (this.at === view) return
    const rail = this.page.getByRole('navigation', { name: 'Work' })
    if (this.at === '') {
      await this.page.goto(`${this.program.url}/hear/songs`)
      await expect(this.page.getByRole('heading', { name: 'Hear', level: 1 })).toBeVisible()
    }
    if (view === 'songs' || view === 'sounds') {
      await rail.getByRole('link', { name: /Hear/ }).click()
      await this.page.getByRole('link', { name: view === 'songs' ? 'Songs' : 'Sounds', exact: true }).click()
    } else await rail.getByRole('link', { name: view === 'gear' ? /Own/ : /Order/ }).click()
    this.at = view
  }

  /** Writes into a field once it shows what the hand expects to change. */
  async write(field: Locator, before: string, text: string) {
    await expect(field).toHaveValue(before)
    await field.click() // a grid takes the focus back from a field in a row that is not its own yet
    await field.fill(text)
    await field.press('Enter')
  }

  async menu(button: string, item: string) {
    await this.page.getByRole('button', { name: button, exact: true }).click()
    await this.page.getByRole('menuitem', { name: item, exact: true }).click()
  }
}

type Act = (tab: Tab, model: Model, roll: Roll) => Promise<string | undefined>

const word = (roll: Roll) =>
  ['Kelp', 'Gull', 'Tide', 'Rope', 'Mast', 'Reef', 'Buoy', 'Foam'][roll(8)] + String(roll(900) + 100)

/** A song on the screen, its sections and rows. */
async function openSong(tab: Tab, model: Model, roll: Roll) {
  await tab.go('songs')
  const song = model.songs[roll(model.songs.length)]
  if (!song) throw new Error('no song')
  await tab.page
    .getByRole('list', { name: 'Songs' })
    .getByRole('button', { name: `${song.title} 100` })
    .click()
  const grid = tab.page.getByRole('grid', { name: `Sections of ${song.title}`, exact: true })
  await expect(grid.getByRole('row')).toHaveCount(song.sections.length)
  return { song, row: (i: number) => grid.getByRole('row').nth(i) }
}

const acts: Record<string, Act> = {
  title: async (tab, model, roll) => {
    const { song } = await openSong(tab, model, roll)
    const text = word(roll)
    await tab.write(tab.page.getByRole('textbox', { name: 'Title' }), song.title, text)
    song.title = text
    return `title ${text}`
  },
  tuning: async (tab, model, roll) => {
    const { song } = await openSong(tab, model, roll)
    const text = word(roll)
    await tab.write(tab.page.getByRole('textbox', { name: 'Tuning' }), song.tuning, text)
    song.tuning = text
    return `tuning ${text}`
  },
  label: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    const i = roll(song.sections.length)
    const section = song.sections[i]
    if (!section) return undefined
    const text = word(roll)
    await tab.write(row(i).getByRole('textbox', { name: 'Section' }), section.label, text)
    section.label = text
    return `section ${text}`
  },
  bars: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    const i = roll(song.sections.length)
    const section = song.sections[i]
    if (!section) return undefined
    const bars = 1 + ((section.bars + roll(30)) % 32)
    await expect(row(i).getByRole('textbox', { name: 'Section' })).toHaveValue(section.label)
    await tab.write(row(i).getByRole('textbox', { name: 'Bars' }), String(section.bars), String(bars))
    section.bars = bars
    return `bars ${bars} of ${section.label}`
  },
  singing: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    const i = roll(song.sections.length)
    const section = song.sections[i]
    if (!section) return undefined
    const sings = row(i).getByRole('switch', { name: `Singing in ${section.label}` })
    await expect(sings).toBeChecked({ checked: section.singing })
    await row(i).getByRole('textbox', { name: 'Section' }).click()
    await sings.press('Space')
    section.singing = !section.singing
    return `singing in ${section.label}`
  },
  addSection: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    if (song.sections.length > 6) return undefined
    await tab.page.getByRole('button', { name: 'Add a section', exact: true }).click()
    const text = word(roll)
    const last = row(song.sections.length)
    await tab.write(
      last.getByRole('textbox', { name: 'Section' }),
      song.sections.length ? 'Verse' : 'Intro',
      text,
    )
    song.sections.push({ label: text, bars: 8, singing: false })
    return `new section ${text}`
  },
  moveSection: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    const i = roll(song.sections.length)
    const to = roll(2) ? i - 1 : i + 1
    const [section, other] = [song.sections[i], song.sections[to]]
    if (!section || !other) return undefined
    for (const [n, s] of song.sections.entries())
      await expect(row(n).getByRole('textbox', { name: 'Section' })).toHaveValue(s.label)
    await tab.menu(`Actions for ${section.label}`, to < i ? 'Move up' : 'Move down')
    song.sections.splice(i, 1)
    song.sections.splice(to, 0, section)
    return `move ${section.label}`
  },
  removeSection: async (tab, model, roll) => {
    const { song, row } = await openSong(tab, model, roll)
    const i = roll(song.sections.length)
    const section = song.sections[i]
    if (!section || song.sections.length < 3) return undefined
    await expect(row(i).getByRole('textbox', { name: 'Section' })).toHaveValue(section.label)
    await expect(row(i).getByRole('textbox', { name: 'Bars' })).toHaveValue(String(section.bars))
    await expect(row(i).getByRole('switch', { name: /^Singing/ })).toBeChecked({ checked: section.singing })
    await tab.menu(`Actions for ${section.label}`, 'Remove')
    song.sections.splice(i, 1)
    return `remove ${section.label}`
  },
  sound: async (tab, model, roll) => {
    await tab.go('sounds')
    const sound = model.sounds[roll(model.sounds.length)]
    if (!sound) return undefined
    const region = tab.page.getByRole('region', { name: sound.name, exact: true })
    const text = word(roll)
    if (roll(2)) {
      await tab.write(region.getByRole('textbox', { name: 'Notes' }), sound.notes, text)
      sound.notes = text
    } else {
      await tab.write(region.getByRole('textbox', { name: 'Name' }), sound.name, text)
      sound.name = text
    }
    return `sound ${text}`
  },
  gear: async (tab, model, roll) => {
    await tab.go('gear')
    const box = model.gear[roll(model.gear.length)]
    if (!box) return undefined
    await tab.page.getByRole('navigation', { name: 'Gear' }).getByRole('button', { name: box.name }).click()
    const text = word(roll)
    const field = (['colour', 'notes'] as const)[roll(2)] ?? 'notes'
    const label = { colour: 'Colour', notes: 'Notes' }[field]
    await tab.write(
      tab.page
        .getByRole('region', { name: box.name, exact: true })
        .getByRole('textbox', { name: label, exact: true }),
      box[field],
      text,
    )
    box[field] = text
    return `${field} of ${box.name} ${text}`
  },
  chain: async (tab, model, roll) => {
    await tab.go('chain')
    const i = roll(model.path.length)
    const to = roll(2) ? i - 1 : i + 1
    const [stop, other] = [model.path[i], model.path[to]]
    if (!stop || !other) return undefined
    const cards = tab.page.getByRole('grid', { name: 'Front of amp' }).getByRole('row')
    for (const [n, name] of model.path.entries())
      await expect(cards.nth(n)).toHaveAttribute('aria-label', new RegExp(`^${name}`))
    await tab.menu(`Actions for ${stop}`, to < i ? 'Move earlier' : 'Move later')
    model.path.splice(i, 1)
    model.path.splice(to, 0, stop)
    return `move ${stop}`
  },
}

for (let run = 0; run < runs; run += 1) {
  const seed = first + run
  test(`two tabs at random, seed ${seed}`, async ({ context, browser, blank }) => {
    test.setTimeout(240_000 + edits * 8_000)
    const roll = dice(seed)
    const model = new Model()
    const apart =
      roll(2) === 0 ? context : await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const pages = [await context.newPage(), await apart.newPage()]
    const taken = await pages[0]?.request.post(`${blank.url}/api/import`, { data: smallPlan })
    expect(taken?.ok(), await taken?.text()).toBe(true)
    const tabs = pages.map((page) => new Tab(page, blank))
    for (const page of pages) await unsteady(page, dice(seed + 7919))
    const done: string[] = []
    const names = Object.keys(acts)
    const began = Date.now()
    await test.step(`seed ${seed}`, async () => {
      for (let n = 0; n < edits; n += 1) {
        const tab = tabs[roll(2)] as Tab
        const act = acts[names[roll(names.length)] ?? ''] as Act
        const words = await act(tab, model, roll).catch((e) => {
          throw new Error(`seed ${seed}, after ${done.slice(-6).join('; ')}: ${e}`)
        })
        if (process.env.DRIVER_LOG) console.log(`${((Date.now() - began) / 1000).toFixed(1)} s`, words)
        if (words) done.push(`${tabs.indexOf(tab)}: ${words}`)
      }
    })
    const plan = async () => Model.of(await (await pages[0]?.request.get(`${blank.url}/api/plan`))?.json())
    const story = `seed ${seed}: ${done.join('; ')}`
    await expect
      .poll(
        async () =>
          (await plan()) !== undefined && JSON.stringify(await plan()) === JSON.stringify(model.plain()),
        {
          message: story,
          timeout: 60_000,
        },
      )
      .toBe(true)
      .catch(() => undefined) // said below, with what differs
    // What was done is done; a page whose last answer was lost has still to hear of it.
    for (const page of pages)
      await expect
        .poll(() => page.getByRole('alert').allTextContents(), { message: story, timeout: 60_000 })
        .toEqual([])
    expect(await plan(), story).toEqual(model.plain())
    if (apart !== context) await apart.close()
  })
}
