import type { Page } from '@playwright/test'
import { axe } from '../axe.ts'
import { expect, type Program, test } from '../envex.ts'

/** The owner lets this network in and shows a code for a device. */
async function offer(page: Page, demo: Program, role: 'Stand' | 'Owner'): Promise<string> {
  await page.goto(`${demo.url}/pack/devices`)
  await expect(page.getByRole('status', { name: 'Reach' })).toContainText(/\d/) // nothing moves any more
  await page.getByRole('button', { name: 'Let devices in by plain HTTP' }).click()
  await expect(page.getByText('This is plain HTTP. Others on this network can overhear')).toBeVisible()
  if (role === 'Owner') {
    await page.getByRole('button', { name: /Stand: reads/ }).click()
    await page.getByRole('option', { name: /^Owner/ }).click()
  }
  await page.getByRole('button', { name: 'Show a code' }).click()
  await expect(page.getByRole('img', { name: /^Opens http/ })).toBeVisible()
  return (await page.getByLabel('Code', { exact: true }).textContent()) ?? ''
}

const phoneSize = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true }

test('a phone is paired, follows, writes what a stand may, and is forgotten', async ({
  page,
  demo,
  browser,
}) => {
  const code = await offer(page, demo, 'Stand')
  const network = await demo.byNetwork()
  const phone = await (await browser.newContext(phoneSize)).newPage()

  // At the door nothing of the plan is seen.
  await phone.goto(`${network}/pack/shows`)
  await expect(phone.getByRole('heading', { name: 'This device has not been let in' })).toBeVisible()
  expect((await phone.request.get(`${network}/api/plan`)).status()).toBe(401)
  expect(await axe(phone)).toEqual([])
  await phone.getByRole('textbox', { name: 'Code' }).fill('2222-2222')
  await phone.getByRole('button', { name: 'Pair this device' }).click()
  await expect(phone.getByRole('alert')).toContainText("look at the owner's screen again")

  // The picture carries the code behind the hash.
  await phone.goto(`${network}/pair#${code}`)
  await phone.getByLabel('Name of this device').fill('Stand by the organ')
  await phone.getByRole('button', { name: 'Pair this device' }).click()
  await expect(phone.getByRole('heading', { name: 'Play', level: 1 })).toBeVisible()
  await phone.getByRole('button', { name: 'Leave' }).click()
  await expect(phone.getByRole('heading', { name: 'Pack', level: 1 })).toBeVisible()
  await phone.getByRole('button', { name: /^Pilot house/ }).click()
  const sheet = phone.getByRole('region', { name: 'Pilot house' })
  await expect(sheet.getByLabel('Before: what to know')).toBeVisible()
  await expect(sheet.getByLabel('Name')).toHaveCount(0)
  expect(await axe(phone)).toEqual([])

  // It follows the owner, and the owner it.
  await expect(page.getByRole('row', { name: /Stand by the organ/ })).toBeVisible()
  await page.goto(`${demo.url}/pack/shows/pilot-19`)
  const owners = page.getByRole('region', { name: 'Pilot house' })
  await owners.getByLabel('Before: what to know').fill('Two stairs')
  await owners.getByLabel('After: what to remember').click()
  await expect(sheet.getByLabel('Before: what to know')).toHaveValue('Two stairs')
  await sheet.getByLabel('After: what to remember').fill('Bring the long lead')
  await phone.getByRole('heading', { level: 1 }).click()
  await expect(owners.getByLabel('After: what to remember')).toHaveValue('Bring the long lead')
  await phone.getByRole('button', { name: 'Write a fault down' }).click()
  await phone.getByRole('dialog').getByRole('textbox').fill('Echo went dark')
  await phone.keyboard.press('Enter')
  await expect(page.getByRole('group', { name: /Echo went dark/ })).toBeVisible()

  // What it may not do is not offered, and refused.
  for (const verb of ['Hear', 'Versions', 'Files', 'Devices'])
    await expect(phone.getByRole('link', { name: verb })).toHaveCount(0)
  await phone.goto(`${network}/own`)
  await expect(phone).toHaveURL(/\/pack\/shows/)
  const refused = await phone.evaluate(async () => {
    const send = (method: string, path: string) =>
      fetch(path, { method, headers: { 'Content-Type': 'application/json' }, body: '{}' }).then(
        (r) => r.status,
      )
    return [
      await send('POST', '/api/undo'),
      await send('PUT', '/api/passphrase'),
      await send('POST', '/api/demo'),
    ]
  })
  expect(refused).toEqual([403, 403, 403])

  await page.goto(`${demo.url}/pack/devices`)
  await page.getByRole('button', { name: 'Forget Stand by the organ' }).click()
  await expect(page.getByText('No other device has been let in.')).toBeVisible()
  await phone.reload()
  await expect(phone.getByRole('heading', { name: 'This device has not been let in' })).toBeVisible()
})

test('a phone loses the server and comes back', async ({ page, demo, browser }) => {
  const code = await offer(page, demo, 'Stand')
  const network = await demo.byNetwork()
  const phone = await (await browser.newContext(phoneSize)).newPage()
  await phone.goto(`${network}/pair#${code}`)
  await phone.getByRole('button', { name: 'Pair this device' }).click()
  await expect(phone.getByRole('heading', { name: 'Play', level: 1 })).toBeVisible()
  await phone.goto(`${network}/pack/shows/pilot-19`)
  const sheet = phone.getByRole('region', { name: 'Pilot house' })
  await expect(sheet).toBeVisible()

  await demo.stop()
  await sheet.getByLabel('After: what to remember').fill('Written in the dark')
  await phone.getByRole('heading', { level: 1 }).click()
  await expect(phone.getByRole('alert')).toContainText('One edit waits here')
  await demo.start('--lan')
  await expect(phone.getByRole('alert')).toHaveCount(0)
  await expect
    .poll(async () => JSON.stringify(await (await fetch(`${demo.url}/api/plan`)).json()))
    .toContain('Written in the dark')
  // And it hears of edits again.
  await page.goto(`${demo.url}/pack/shows/pilot-19`)
  await page.getByLabel('Before: what to know').fill('Back again')
  await page.getByLabel('After: what to remember').click()
  await expect(sheet.getByLabel('Before: what to know')).toHaveValue('Back again')
})

test('a passphrase lets a device in as an owner', async ({ page, demo, browser }) => {
  await offer(page, demo, 'Owner')
  await page.getByRole('textbox', { name: /^Passphrase/ }).fill('nine kelps in a row')
  await page.getByRole('button', { name: 'Set it' }).click()
  await expect(page.getByText('A passphrase is set')).toBeVisible()
  const laptop = await (await browser.newContext()).newPage()
  await laptop.goto(await demo.byNetwork())
  await laptop.getByRole('textbox', { name: 'Passphrase' }).fill('nine kelps in a line')
  await laptop.getByRole('button', { name: 'Come in' }).click()
  await expect(laptop.getByRole('alert')).toContainText('That is not right')
  await laptop.getByRole('textbox', { name: 'Passphrase' }).fill('nine kelps in a row')
  await laptop.getByRole('button', { name: 'Come in' }).click()
  await expect(laptop.getByRole('status', { name: 'Reach' })).toBeVisible()
  await expect(page.getByRole('row', { name: /owner/ })).toBeVisible()
  await page.getByRole('button', { name: 'Let no device in' }).click()
  await expect(page.getByText('Envex is reached from this device alone.')).toBeVisible()
})
