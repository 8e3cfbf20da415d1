import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { type BrowserContext, test as base, expect, type Locator, type Page } from '@playwright/test'

const binary = resolve(import.meta.dirname, '../bin/envex')

/** The real program, running on a database of its own. */
export class Program {
  url = ''
  private child: ChildProcess | undefined
  readonly folder = mkdtempSync(join(tmpdir(), 'envex-e2e-'))
  readonly db = join(this.folder, 'plan.db')
  private network = '127.0.0.1:0'
  constructor(private command: 'demo' | 'serve') {}

  /** Starts it; a second time at the same address, and by the same network where it was let in. */
  async start(...more: string[]) {
    const child = spawn(binary, [
      this.command,
      '--addr',
      this.url ? new URL(this.url).host : '127.0.0.1:0',
      '--lan-addr',
      this.network,
      '--db',
      this.db,
      ...(process.env.ENVEX_E2E_CACHE ? ['--cache', process.env.ENVEX_E2E_CACHE] : ['--no-cache']),
      ...more,
    ])
    this.child = child
    this.url = await new Promise((done, fail) => {
      let text = ''
      const read = (data: Buffer) => {
        text += data
        const found = /http:\/\/[\d.:]+/.exec(text)
        if (found) done(found[0])
      }
      child.stdout.on('data', read)
      child.stderr.on('data', (d) => {
        text += d
      })
      child.on('exit', () => fail(new Error(`envex ended: ${text}`)))
    })
  }

  /** Where another device reaches it, once the owner has let the network in. It is this machine, by the
   * way of the network: who comes there is asked who they are. */
  async byNetwork(): Promise<string> {
    const { network } = await (await fetch(`${this.url}/api/devices`)).json()
    const address = new URL(network.addresses[0])
    this.network = `127.0.0.1:${address.port}`
    return `${address.protocol}//${this.network}`
  }

  /** From now on it is served as it is, without the demo being laid over it. */
  asItIs() {
    this.command = 'serve'
  }

  async stop() {
    const child = this.child
    if (!child || child.exitCode !== null) return
    await new Promise((done) => {
      child.on('exit', done)
      child.kill('SIGTERM')
    })
  }

  async end() {
    await this.stop()
    rmSync(this.folder, { recursive: true, force: true })
  }
}

/** How slow the machine is made: how long the answers to writes take, and how many times slower the
 * processor is. */
export interface Slow {
  writesMs: number
  cpu: number
}

/** Has answers to writes wait. The server has done them by then, as on a slow line. Only what goes to the API is looked at:
 * files come, and are kept, as they would. */
export async function delayWrites(context: BrowserContext, ms: () => number) {
  const hold = async (page: Page) => {
    const session = await context.newCDPSession(page)
    session.on('Fetch.requestPaused', async ({ requestId, request }) => {
      if (request.method !== 'GET') await new Promise((done) => setTimeout(done, ms()))
      await session.send('Fetch.continueRequest', { requestId }).catch(() => undefined) // the page may have gone
    })
    await session.send('Fetch.enable', { patterns: [{ urlPattern: '*/api/*', requestStage: 'Response' }] })
  }
  for (const page of context.pages()) await hold(page)
  context.on('page', (page) => void hold(page).catch(() => undefined))
}

/** Tests get the demo, or an empty plan, each in a fresh program; those that edit nothing share one. */
export const test = base.extend<
  { demo: Program; blank: Program; slow: Slow | undefined },
  { still: Program }
>({
  still: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
    async ({}, use) => {
      const program = new Program('demo')
      await program.start()
      await use(program)
      await program.end()
    },
    { scope: 'worker' },
  ],
  slow: [undefined, { option: true }],
  context: async ({ context, slow }, use) => {
    if (slow) {
      await delayWrites(context, () => slow.writesMs)
      context.on('page', async (page) => {
        const session = await context.newCDPSession(page).catch(() => undefined)
        await session?.send('Emulation.setCPUThrottlingRate', { rate: slow.cpu }).catch(() => undefined)
      })
    }
    await use(context)
  },
  // As a hand would that is asked whether to leave: a page is left once its edits are kept.
  page: async ({ page }, use) => {
    const goto = page.goto.bind(page)
    const reload = page.reload.bind(page)
    const kept = () =>
      expect
        .poll(() => page.evaluate(() => dispatchEvent(new Event('beforeunload', { cancelable: true }))))
        .toBe(true)
    page.goto = async (...to) => {
      await kept()
      return goto(...to)
    }
    page.reload = async (...how) => {
      await kept()
      return reload(...how)
    }
    await use(page)
  },
  // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
  demo: async ({}, use) => {
    const program = new Program('demo')
    await program.start()
    await use(program)
    await program.end()
  },
  // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
  blank: async ({}, use) => {
    const program = new Program('serve')
    await program.start()
    await use(program)
    await program.end()
  },
})

export { expect }

/** What the bar at the top says was reached. */
export async function reached(page: Page): Promise<number> {
  const text = await page.getByRole('status', { name: 'Reach' }).textContent()
  return Number(/(\d+)\s*\/\s*\d+/.exec(text ?? '')?.[1])
}

/** Puts the cursor on a section of the set. */
export async function goTo(page: Page, section: string | RegExp) {
  await page.getByRole('region', { name: 'The set' }).getByRole('button', { name: section }).first().click()
}

/** As a hand drags: what is dragged over has the time to see it. */
export async function drag(page: Page, from: Locator, to: Locator) {
  const [a, b] = [await from.boundingBox(), await to.boundingBox()]
  if (!a || !b) throw new Error('nothing to drag')
  await page.mouse.move(a.x + 10, a.y + 10)
  await page.mouse.down()
  await page.mouse.move(a.x + 25, a.y + 20, { steps: 4 })
  await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 8 })
  await page.waitForTimeout(300)
  await page.mouse.move(b.x + b.width / 2 + 2, b.y + b.height / 2 + 2)
  await page.mouse.up()
}
