import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Locator, Page } from '@playwright/test'
import { expect, type Program, test } from '../envex.ts'

const chains = resolve(import.meta.dirname, '../../core/path/testdata/chains')

/** The gear of one of the chains, with an empty rig. */
async function emptyRig(program: Program, page: Page, chain: string) {
  const file = JSON.parse(readFileSync(`${chains}/${chain}.envex.json`, 'utf8'))
  file.rigs = [{ id: 'rig', name: 'First board', guitars: ['driftwood'], base: {}, floor: {}, profile: {} }]
  const done = await page.request.post(`${program.url}/api/import`, { data: file })
  expect(done.ok()).toBe(true)
  await page.goto(`${program.url}/order`)
  await expect(page.getByRole('heading', { name: 'Order', exact: true })).toBeVisible()
}

interface Node {
  stop?: string
  split?: { kind: string; join?: string; from?: string; to?: string; lanes: { nodes?: Node[] }[] }
}

/** The path as the program has it: gear names, lanes in brackets. */
async function path(program: Program, page: Page): Promise<unknown[]> {
  const plan = await (await page.request.get(`${program.url}/api/plan`)).json()
  const shape = (nodes: Node[]): unknown[] =>
    nodes.map((n) =>
      n.split
        ? [n.split.kind, n.split.join ?? 'open', ...n.split.lanes.map((l) => shape(l.nodes ?? []))]
        : (n.stop ?? '').replace('/fx', ''),
    )
  return shape(plan.rigs[0].value.path ?? [])
}

/** Chooses from a menu with the mouse, or with the keyboard alone. */
type Choose = (page: Page, button: string | RegExp, item: string) => Promise<void>

const byMouse: Choose = async (page, button, item) => {
  await page.getByRole('button', { name: button, exact: typeof button === 'string' }).click()
  await page.getByRole('menuitem', { name: item, exact: true }).click()
}

const byKeyboard: Choose = async (page, button, item) => {
  await tabTo(page, page.getByRole('button', { name: button, exact: typeof button === 'string' }))
  await page.keyboard.press('Enter')
  await arrowTo(page, page.getByRole('menuitem', { name: item, exact: true }))
  await page.keyboard.press('Enter')
}

/** Goes to a button as a keyboard does: what stands on a card by the card first. */
async function tabTo(page: Page, button: Locator) {
  const card = page.getByRole('row').filter({ has: button }).last()
  await expect(button).toBeAttached()
  if ((await card.count()) === 0) return button.focus()
  await card.focus()
  for (let i = 0; i < 6 && !(await button.evaluate((x) => x === document.activeElement)); i++)
    await page.keyboard.press('Tab')
  await expect(button).toBeFocused()
}

/** Walks down a list that has just been opened until an entry has the focus. */
async function arrowTo(page: Page, entry: Locator) {
  await expect(entry).toBeVisible()
  for (let i = 0; i < 30 && !(await entry.evaluate((x) => x === document.activeElement)); i++)
    await page.keyboard.press('ArrowDown')
  await expect(entry).toBeFocused()
}

/** Chooses an option of a select likewise. */
const option =
  (mouse: boolean) =>
  async (page: Page, label: string, name: RegExp): Promise<void> => {
    const button = page.getByRole('button', { name: new RegExp(`${label}$`) })
    const entry = page.getByRole('option', { name })
    if (mouse) {
      await button.click()
      await entry.click()
      return
    }
    await button.focus()
    await page.keyboard.press('Enter')
    await arrowTo(page, entry)
    await page.keyboard.press('Enter')
  }

/** Drags one stop before another with the mouse. */
async function drag(page: Page, from: string, to: string) {
  const target = page.getByRole('row', { name: new RegExp(`^${to},`) })
  await page
    .getByRole('row', { name: new RegExp(`^${from},`) })
    .dragTo(target, { targetPosition: { x: 3, y: 40 } })
}

/** Moves a stop before another with the keyboard: from its grip, through the places on offer. */
async function carry(page: Page, from: string, to: RegExp) {
  await tabTo(page, page.getByRole('button', { name: `Move ${from}`, exact: true }))
  await page.keyboard.press('Enter')
  const at = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
  await expect.poll(at).toMatch(/^Insert|^Drop/)
  for (let i = 0; i < 40 && !to.test(await at()); i++) await page.keyboard.press('ArrowDown')
  expect(await at()).toMatch(to)
  await page.keyboard.press('Enter')
}

for (const mouse of [true, false]) {
  const choose = mouse ? byMouse : byKeyboard
  const set = option(mouse)
  const how = mouse ? 'by mouse' : 'by keyboard alone'
  const add = async (page: Page, name: string, where = 'Add a stop') => {
    await choose(page, where, name)
    await expect(page.getByRole('row', { name: new RegExp(`^${name}`) }).first()).toBeVisible()
  }

  test(`gain in front and time effects in the loop, built ${how}`, async ({ page, blank }) => {
    await emptyRig(blank, page, '02-time-effects-in-the-loop-of-a-driven-amp')
    for (const name of ['Amber', 'Plumb', 'Echo', 'Room']) await add(page, name)
    await choose(page, 'Add a stop', 'Hired head')
    await expect(page.getByRole('row', { name: /^Hired head power/ })).toBeVisible()
    if (mouse) await drag(page, 'Plumb', 'Amber')
    else await carry(page, 'Plumb', /^Insert before Amber/)
    await expect
      .poll(() => path(blank, page))
      .toEqual(['plumb', 'amber', 'echo', 'room', 'hired/preamp', 'hired/power'])
    await choose(page, 'Actions for Echo', 'Into the loop')
    await choose(page, 'Actions for Room', 'Into the loop')
    await choose(page, 'Add to Out', 'Crate')
    await expect
      .poll(() => path(blank, page))
      .toEqual(['plumb', 'amber', 'hired/preamp', 'echo', 'room', 'hired/power', 'crate'])
    await expect(page.getByRole('region', { name: 'In the loop' }).getByRole('row')).toHaveCount(2)
    await expect(page.getByText('Nothing to say against the order.')).toBeVisible()
  })

  test(`two reverbs in parallel lanes, built ${how}`, async ({ page, blank }) => {
    await emptyRig(blank, page, '07-two-reverbs-in-parallel')
    for (const name of ['Amber', 'Echo', 'Room', 'Vault', 'Pier combo']) {
      if (name === 'Pier combo') await choose(page, 'Add a stop', name)
      else await add(page, name)
    }
    await choose(page, 'Actions for Room', 'Split around it')
    await choose(page, 'Actions for Vault', 'Into lane 2 of the split into Room and lane 2')
    await expect
      .poll(() => path(blank, page))
      .toEqual(['amber', 'echo', ['copy', 'sum', ['room'], ['vault']], 'pier/preamp', 'pier/power'])
    const head = page.getByRole('row', { name: /^the split into/ })
    if (mouse) await head.click()
    else {
      await head.focus()
      await page.keyboard.press('Enter')
    }
    await set(page, 'Divided by', /Raft in/)
    await set(page, 'Joined by', /Raft out/)
    const findings = page.getByRole('complementary', { name: 'Findings' })
    await expect(findings.getByRole('heading', { name: /Lanes out of step/ })).toBeVisible()
    await expect(findings).toContainText('1.5 ms')
    await expect(findings).toContainText('333 Hz')
  })

  test(`mono until a ping-pong delay, then stereo to two amps, built ${how}`, async ({ page, blank }) => {
    await emptyRig(blank, page, '10-mono-until-a-ping-pong-delay-then-two-amps')
    for (const name of ['Plumb', 'Amber', 'Flutter', 'Pong', 'Grotto']) await add(page, name)
    await choose(page, 'Add a stop', 'A split')
    await set(page, 'Divides as', /^left-right/)
    await set(page, 'Come together', /^never/)
    await choose(page, /^Add to left of/, 'Pier combo')
    await choose(page, /^Add to right of/, 'Jetty combo')
    await expect
      .poll(() => path(blank, page))
      .toEqual([
        'plumb',
        'amber',
        'flutter',
        'pong',
        'grotto',
        ['left-right', 'open', ['pier/preamp', 'pier/power'], ['jetty/preamp', 'jetty/power']],
      ])
    const findings = page.getByRole('complementary', { name: 'Findings' })
    await expect(
      findings.getByRole('heading', { name: /hum loop between Pier combo and Jetty combo/ }),
    ).toBeVisible()
    await expect(findings).toContainText('Never lift the mains safety earth')
  })
}

test('a stop dropped on another stands beside it', async ({ page, blank }) => {
  await emptyRig(blank, page, '07-two-reverbs-in-parallel')
  for (const name of ['Amber', 'Room', 'Vault']) await byMouse(page, 'Add a stop', name)
  await page
    .getByRole('row', { name: /^Vault,/ })
    .dragTo(page.getByRole('row', { name: /^Room,/ }), { targetPosition: { x: 40, y: 50 } })
  await expect.poll(() => path(blank, page)).toEqual(['amber', ['copy', 'sum', ['room'], ['vault']]])
  await byMouse(page, /^Actions for the split/, 'Put its lanes in one line')
  await expect.poll(() => path(blank, page)).toEqual(['amber', 'room', 'vault'])
})
