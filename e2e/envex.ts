import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { test as base, expect, type Locator, type Page } from '@playwright/test'

const binary = resolve(import.meta.dirname, '../bin/envex')

/** The real program, running on a database of its own. */
export class Program {
  url = ''
  private child: ChildProcess | undefined
  readonly folder = mkdtempSync(join(tmpdir(), 'envex-e2e-'))
  constructor(private readonly command: 'demo' | 'serve') {}

  async start() {
    const child = spawn(binary, [this.command, '--addr', '127.0.0.1:0', '--db', join(this.folder, 'plan.db')])
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

/** Tests get the demo, or an empty plan, each in a fresh program. */
export const test = base.extend<{ demo: Program; blank: Program }>({
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
