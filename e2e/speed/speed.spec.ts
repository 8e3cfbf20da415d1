import { readFileSync, writeFileSync } from 'node:fs'
import { resolve } from 'node:path'
import type { Page, Request } from '@playwright/test'
import { expect, type Program, test } from '../envex.ts'
import { large } from './large.ts'

// What the hand waits for, on the demo and on a large plan. It fails on sizes and counts, which are the same on every
// machine; times are printed, and kept in docs/speed.md by SPEED_DOC=1.

test.describe.configure({ mode: 'serial' })

const root = resolve(import.meta.dirname, '../..')
const demoFile = `${root}/demo/kelp-street-nine.envex.json`
const rows: string[][] = []
// Counts need few acts, times many.
const times = process.env.SPEED_DOC ? 40 : 4

/** Counts what is drawn, and notes long tasks. */
function watch() {
  const seen = { drawn: 0, long: [] as number[] }
  Object.assign(window, { seen })
  new PerformanceObserver((l) => {
    for (const e of l.getEntries()) seen.long.push(e.duration)
  }).observe({ type: 'longtask', buffered: true })
  interface Fiber {
    tag: number
    flags: number
    child: Fiber | null
    sibling: Fiber | null
    alternate: Fiber | null
  }
  const components = [0, 1, 11, 15] // functions, classes, and what is wrapped
  const count = (f: Fiber) => {
    for (let c = f.child; c; c = c.sibling) {
      if (components.includes(c.tag) && c.flags & 1) seen.drawn += 1
      if (c.alternate?.child !== c.child || c.child === null) count(c)
    }
  }
  Object.assign(window, {
    __REACT_DEVTOOLS_GLOBAL_HOOK__: {
      supportsFiber: true,
      inject: () => 1,
      onCommitFiberUnmount: () => undefined,
      onPostCommitFiberRoot: () => undefined,
      onCommitFiberRoot: (_: number, r: { current: Fiber }) => count(r.current),
    },
  })
}

interface Seen {
  drawn: number
  long: number[]
}

const seen = (page: Page) => page.evaluate(() => (window as unknown as { seen: Seen }).seen)
const forget = (page: Page) =>
  page.evaluate(() => Object.assign((window as unknown as { seen: Seen }).seen, { drawn: 0, long: [] }))

/** Nothing has changed on the page for a while. */
async function still(page: Page) {
  await page.evaluate(
    () =>
      new Promise<void>((done) => {
        let last = performance.now()
        // What is read out to those who listen is taken away again seconds later: nothing that is seen.
        const seen = (m: MutationRecord) =>
          !(m.target instanceof Element && m.target.closest('[data-live-announcer]'))
        const watcher = new MutationObserver((list) => {
          if (list.some(seen)) last = performance.now()
        })
        watcher.observe(document.body, {
          subtree: true,
          childList: true,
          attributes: true,
          characterData: true,
        })
        const look = () => {
          if (performance.now() - last < 600) return void setTimeout(look, 50)
          watcher.disconnect()
          done()
        }
        look()
      }),
  )
}

/** From an act to the last thing that it changes, in ms. */
const settled = (page: Page, act: 'arrow' | 'switch') =>
  page.evaluate(
    (what) =>
      new Promise<number>((done) => {
        const began = performance.now()
        let last = began
        // What is read out to those who listen is taken away again seconds later: nothing that is seen.
        const seen = (m: MutationRecord) =>
          !(m.target instanceof Element && m.target.closest('[data-live-announcer]'))
        const watcher = new MutationObserver((list) => {
          if (list.some(seen)) last = performance.now()
        })
        watcher.observe(document.body, {
          subtree: true,
          childList: true,
          attributes: true,
          characterData: true,
        })
        if (what === 'arrow')
          document.body.dispatchEvent(
            new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true, cancelable: true }),
          )
        else
          [...document.querySelectorAll<HTMLElement>('[role=switch]')]
            .find((e) => e.closest('[aria-label^="Settings of"]'))
            ?.click()
        const look = () => {
          if (performance.now() - last < 400) return void setTimeout(look, 20)
          watcher.disconnect()
          done(Math.round(last - began))
        }
        setTimeout(look, 400)
      }),
    act,
  )

async function measure(page: Page, plan: string, what: string, act: 'arrow' | 'switch') {
  // The views are fetched ahead while nothing else is to be done: the last of them has come.
  await expect
    .poll(() =>
      page.evaluate(() => {
        const there = performance.getEntriesByType('resource').map((e) => e.name)
        return ['Rescue-', 'Repairs-'].every((name) => there.some((x) => x.includes(name)))
      }),
    )
    .toBe(true)
  // What is metered has been.
  await expect(page.getByRole('progressbar')).toHaveCount(0, { timeout: 300_000 })
  await still(page)
  await forget(page)
  let requests = 0
  const count = (r: Request) => {
    if (r.url().includes('/api/')) requests += 1
  }
  page.on('request', count)
  const took: number[] = []
  for (let i = 0; i < times; i += 1) took.push(await settled(page, act))
  page.off('request', count)
  const { drawn, long } = await seen(page)
  took.sort((a, b) => a - b)
  const at = (share: number) => String(took[Math.min(took.length - 1, Math.floor(share * took.length))])
  const row = [
    plan,
    what,
    at(0.5),
    at(0.95),
    at(1),
    String(long.length),
    (drawn / times).toFixed(0),
    (requests / times).toFixed(1),
    String(await page.evaluate(() => document.querySelectorAll('*').length)),
  ]
  rows.push(row)
  return { drawn: drawn / times, requests: requests / times, elements: Number(row.at(-1)) }
}

/** The views, and how many components an arrow may draw anew: what looks different, and little besides. */
const drawnBy = { step: 180, order: 230, 'hear/songs': 500, balance: 330, build: 140, own: 60 }

async function walk(page: Page, program: Program, plan: string) {
  await page.addInitScript(watch)
  for (const [view, most] of Object.entries(drawnBy)) {
    await page.goto(`${program.url}/${view}?at=0`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    const found = await measure(page, plan, `arrow on ${view}`, 'arrow')
    expect(found.requests, `an arrow on ${view} asks for next to nothing`).toBeLessThan(2)
    expect(found.drawn, `components drawn for an arrow on ${view}`).toBeLessThan(most)
    expect(found.elements, `elements of ${view}`).toBeLessThan(9000)
  }
  await page.goto(`${program.url}/order`)
  await page.getByRole('row', { name: /^Amber,/ }).click()
  const edit = await measure(page, plan, 'a pedal switched on order', 'switch')
  // One that writes; the other meters what is shown of another order.
  expect(edit.requests, 'requests of an edit').toBeLessThanOrEqual(3)
  expect(edit.drawn, 'components drawn for an edit').toBeLessThan(1200)
}

test('the first load is small', async ({ page, still: program }) => {
  const session = await page.context().newCDPSession(page)
  await session.send('Network.enable')
  const kinds = new Map<string, string>()
  const bytes = { script: 0, all: 0 }
  session.on('Network.responseReceived', (e) => kinds.set(e.requestId, e.type))
  session.on('Network.loadingFinished', (e) => {
    bytes.all += e.encodedDataLength
    if (kinds.get(e.requestId) === 'Script') bytes.script += e.encodedDataLength
  })
  // What is fetched when nothing else is to be done is not waited for by anybody.
  await page.addInitScript(() => Object.assign(window, { requestIdleCallback: () => 0 }))
  const began = Date.now()
  await page.goto(`${program.url}/step`)
  await expect(page.getByRole('button', { name: /^Echo, \d+ mm/ })).toBeVisible()
  const took = Date.now() - began
  rows.push([
    'demo',
    `first load of Step, ${bytes.script} bytes of script`,
    String(took),
    '',
    '',
    '',
    '',
    '',
    '',
  ])
  expect(bytes.script, 'bytes of compressed script').toBeLessThan(200_000)
  expect(bytes.all, 'bytes of all').toBeLessThan(600_000)
})

test('the demo is walked and edited', async ({ page, demo }) => {
  test.skip(
    !process.env.SPEED_DOC,
    'its counts are less than those of the large plan; its times are for the table',
  )
  await walk(page, demo, 'demo')
})

test('forty songs on thirty stops are walked and edited', async ({ page, blank }) => {
  test.slow() // its figures are metered before anything is timed
  const taken = await page.request.post(`${blank.url}/api/import`, {
    data: large(readFileSync(demoFile, 'utf8')),
    headers: { 'Content-Type': 'application/json' },
  })
  expect(taken.ok(), await taken.text()).toBe(true)
  await walk(page, blank, 'large')
})

test.afterAll(() => {
  const head = ['plan', 'what', 'median, ms', 'p95', 'worst', 'long tasks', 'drawn', 'requests', 'elements']
  const table = [head, head.map(() => '---'), ...rows].map((r) => `| ${r.join(' | ')} |`).join('\n')
  console.log(table)
  if (!process.env.SPEED_DOC) return
  const file = `${root}/docs/speed.md`
  const text = readFileSync(file, 'utf8')
  const mark = '<!-- screens -->'
  const parts = text.split(mark)
  writeFileSync(file, `${parts[0]}${mark}\n\n${table}\n\n${mark}${parts[2]}`)
})
