import type { Page } from '@playwright/test'
import { expect, type Program, test } from '../envex.ts'

interface Section {
  label: string
  bars?: number
  grace_beats?: number
}

/** Makes the first song of the set short and quick, with room for the feet. */
async function shorten(page: Page, demo: Program) {
  const plan = await (await page.request.get(`${demo.url}/api/plan`)).json()
  const song = plan.songs.find((s: { value: { title: string } }) => s.value.title === 'Ferry Lights')
  song.value.tempo.bpm = 200
  song.value.sections = song.value.sections.map((s: Section) => ({ ...s, bars: 2, grace_beats: 3 }))
  const done = await page.request.put(`${demo.url}/api/songs/${song.value.id}`, {
    data: { version: song.version, value: song.value },
    headers: { Origin: demo.url },
  })
  expect(done.ok()).toBe(true)
}

async function open(page: Page, demo: Program, rig: string) {
  await page.goto(`${demo.url}/step`)
  await page.getByRole('button', { name: /Rig$/ }).click()
  await page.getByRole('option', { name: rig, exact: true }).click()
  await page.getByRole('link', { name: /Play/ }).click()
  await expect(page.getByRole('heading', { name: 'Play' })).toBeVisible()
}

test('a song is rehearsed against the clock, scored, kept, and its worst change drilled', async ({
  page,
  demo,
}) => {
  await shorten(page, demo)
  await open(page, demo, 'Bare board')
  await page.getByText('Click', { exact: true }).click()
  // A player who presses what is asked as soon as the section begins, but sleeps through the solo.
  await page.evaluate(() => {
    let seen = ''
    const look = () => {
      const now = document.querySelector('[aria-label=Now] b')?.textContent ?? ''
      const asks = document.querySelector('[aria-label=Press] small')?.textContent?.includes('now')
      if (now !== seen && asks) {
        seen = now
        if (now !== 'Solo')
          for (const li of [...document.querySelectorAll('[aria-label=Press] ol strong')]) {
            const pads = [...document.querySelectorAll('[aria-label=Switches] button')]
            const i = pads.findIndex((p) => p.querySelector('b')?.textContent === li.textContent)
            if (i >= 0) window.dispatchEvent(new KeyboardEvent('keydown', { key: String((i + 1) % 10) }))
          }
      }
      requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
  })
  await page.getByRole('button', { name: 'Start Ferry Lights' }).click()
  await expect(page.getByRole('group', { name: 'Now' })).toContainText('Count-in')
  await expect(page.getByRole('group', { name: 'Now' })).toContainText('Chorus')
  const score = page.getByRole('region', { name: 'Score' })
  await expect(score).toContainText('Ferry Lights: 3 of 5 made')
  const changes = score.getByRole('table', { name: 'Changes' })
  await expect(changes.getByRole('row', { name: /^Chorus/ })).toContainText('Made')
  await expect(changes.getByRole('row', { name: /^Solo/ })).toContainText('Missed: Amber, Nudge')
  await score.getByRole('button', { name: 'Keep it' }).click()
  await expect(score.getByRole('button', { name: 'Kept' })).toBeVisible()
  await page.getByRole('button', { name: 'Progress and drills' }).click()
  await expect(page.getByRole('list', { name: 'Drill' })).toContainText(
    'Ferry Lights, Solo: Home to Lead, made 0 of 1',
  )
  await expect(page.getByRole('table', { name: 'Progress' })).toContainText('1 of 1')
  await page.getByRole('list', { name: 'Drill' }).getByRole('button', { name: 'Practise it' }).first().click()
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
})

test('a song is walked by hand, wrong presses and all, and the monitor tells', async ({ page, demo }) => {
  await open(page, demo, 'Bare board')
  await page.getByRole('button', { name: 'Walk it by hand' }).click()
  const now = page.getByRole('group', { name: 'Now' })
  const pads = page.getByRole('group', { name: 'Switches' })
  await page.getByRole('button', { name: 'On to Verse' }).click()
  await page.getByRole('button', { name: 'On to Chorus' }).click()
  await expect(now).toContainText('Not as it has to be: Amber')
  await pads.getByRole('button', { name: /^Rust/ }).click()
  await expect(now).toContainText('Not as it has to be: Amber, Rust')
  await pads.getByRole('button', { name: /^Rust/ }).click()
  const amber = (await pads.getByRole('button', { name: /^Amber/ }).textContent())?.match(/[0-9]/)?.[0]
  await page.keyboard.press(amber ?? 'no key is written on Amber')
  await expect(pads.getByRole('button', { name: 'Amber, on' })).toBeVisible()
  await expect(now).not.toContainText('Not as it has to be')
  await page.getByRole('button', { name: 'On to Verse 2' }).click()
  await expect(page.getByRole('status', { name: 'Last change' })).toContainText(/Verse 2|Chorus/)
  await page.getByRole('button', { name: 'Monitor' }).click()
  await expect(page.getByRole('list', { name: 'What presses did' })).toContainText('Rust off')
  await page.getByRole('button', { name: 'Pedals and keys' }).click()
  await page.getByRole('button', { name: /Learn a pedal for/ }).click()
  await page.getByRole('option', { name: 'Amber' }).click()
  await page.keyboard.press('PageDown')
  await expect(page.getByRole('list', { name: 'Learnt pedals' })).toContainText('key PageDown: Amber')
  await page.keyboard.press('PageDown')
  await expect(pads.getByRole('button', { name: 'Amber, off' })).toBeVisible()
})

test('what a pedal types presses nothing else', async ({ page, demo }) => {
  await open(page, demo, 'Bare board')
  const pads = page.getByRole('group', { name: 'Switches' })
  await page.getByRole('button', { name: 'Pedals and keys' }).click()
  await page.getByRole('button', { name: /Learn a pedal for/ }).click()
  await page.getByRole('option', { name: 'Amber' }).click()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('list', { name: 'Learnt pedals' })).toContainText('key Enter: Amber')
  await page.getByRole('button', { name: 'Walk it by hand' }).click()
  const onward = page.getByRole('button', { name: 'On to Verse' })
  await expect(onward).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(pads.getByRole('button', { name: /^Amber, on/ })).toBeVisible()
  await expect(onward).toBeFocused()
})

test('hands are judged where the player asks for it', async ({ page, demo }) => {
  await open(page, demo, 'Bare board')
  const script = await (
    await page.request.get(`${demo.url}/api/play/script?rig=bare&set_list=quay-set`)
  ).json()
  const song = script.songs.find((s: { sections: { by_hand: unknown[] }[] }) =>
    s.sections.some((x, i) => i > 0 && x.by_hand.length > 0),
  )
  const at = song.sections.findIndex((x: { by_hand: unknown[] }, i: number) => i > 0 && x.by_hand.length > 0)
  const hand = song.sections[at].by_hand[0].label
  await page.getByRole('button', { name: /Song$/ }).click()
  await page.getByRole('option', { name: song.title, exact: true }).click()
  await page.getByText('Judge hands too').click()
  await page.getByRole('button', { name: 'Walk it by hand' }).click()
  for (const x of song.sections.slice(1, at + 1))
    await page.getByRole('button', { name: `On to ${x.label}`, exact: true }).click()
  const now = page.getByRole('group', { name: 'Now' })
  await expect(now).toContainText(hand)
  await page
    .getByRole('group', { name: 'By hand' })
    .getByRole('button', { name: `${hand}, moved by hand` })
    .press('Enter')
  await expect(now).not.toContainText(hand)
})

test('feet are fitted on pedals that were learnt, and kept', async ({ page, demo }) => {
  await page.addInitScript(() => {
    localStorage.setItem(
      'envex.pedals',
      JSON.stringify({ 'key:a': 'amber/on', 'key:b': 'plumb/on', 'key:c': 'room/on', 'key:d': 'nudge/on' }),
    )
  })
  await open(page, demo, 'Long board')
  await page.getByRole('button', { name: 'Fit to me' }).click()
  await page.getByRole('button', { name: 'Begin the drill' }).click()
  const script = await (
    await page.request.get(`${demo.url}/api/play/script?rig=long&set_list=quay-set`)
  ).json()
  // A player of 250 ms and 120 ms a bit.
  await page.evaluate(async (switches) => {
    const keys: Record<string, string> = { Amber: 'a', Plumb: 'b', Room: 'c', Nudge: 'd' }
    let was: { x_mm: number; y_mm: number } | undefined
    let at = performance.now() // the time that presses carry: how fast this machine is does not come into it
    for (let n = 0; n < 26; n += 1) {
      const target = document.querySelector('button[aria-label^="Press "]')?.getAttribute('aria-label') ?? ''
      const name = Object.keys(keys).find((k) => target.includes(k)) ?? ''
      const to = switches.find((s: { gear: string }) => s.gear === name)
      const mm = was ? Math.hypot(to.x_mm - was.x_mm, to.y_mm - was.y_mm) : 0
      at += 250 + 120 * Math.log2(mm / 30 + 1)
      const press = new KeyboardEvent('keydown', { key: keys[name] ?? '' })
      Object.defineProperty(press, 'timeStamp', { value: at })
      window.dispatchEvent(press)
      was = to
      await new Promise((r) => requestAnimationFrame(() => setTimeout(r, 0)))
    }
  }, script.switches)
  await page.getByRole('button', { name: 'Enough' }).click()
  const feet = page.getByRole('group', { name: 'Your feet' })
  await expect(feet).toContainText(/moves fitted/)
  await feet.getByRole('button', { name: 'Keep it as my feet' }).click()
  await page.getByRole('button', { name: 'Leave' }).click()
  await expect(page.getByRole('button', { name: 'Undo: Feet as they were measured' })).toBeEnabled()
})
