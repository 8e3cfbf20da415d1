import { readFileSync, writeFileSync } from 'node:fs'
import { axe } from '../axe.ts'
import { expect, test } from '../envex.ts'

test('a copy is made, brought back, undone and removed', async ({ page, demo }) => {
  await page.goto(`${demo.url}/pack/files`)
  const copies = page.getByRole('region', { name: 'Copies' })
  await expect(copies.getByRole('row', { name: /of the day/ })).toContainText('14 songs')
  await copies.getByRole('button', { name: 'Make a copy now' }).click()
  await expect(copies.getByRole('row', { name: /made by hand/ })).toBeVisible()

  await page.goto(`${demo.url}/own/amber`)
  const amber = page.getByRole('region', { name: 'Amber', exact: true })
  await amber.getByRole('textbox', { name: 'Name', exact: true }).fill('Ochre')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Ochre', exact: true })).toBeVisible()

  await page.goto(`${demo.url}/pack/files`)
  await copies
    .getByRole('row', { name: /made by hand/ })
    .getByRole('button', { name: /^Bring back/ })
    .click()
  await expect(page.getByText(/^The plan is as it was on/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^Undo: Bring back the copy/ })).toBeVisible()
  await page.goto(`${demo.url}/own/amber`)
  await expect(amber).toBeVisible()
  await page.getByRole('button', { name: /^Undo: Bring back the copy/ }).click()
  await expect(page.getByRole('region', { name: 'Ochre', exact: true })).toBeVisible()

  await page.goto(`${demo.url}/pack/files`)
  const saved = page.waitForEvent('download')
  await copies.getByRole('link', { name: 'Save a copy as a file' }).click()
  const file = await (await saved).path()
  await copies
    .getByRole('row', { name: /made by hand/ })
    .getByRole('button', { name: /^Remove/ })
    .click()
  await expect(copies.getByRole('row', { name: /made by hand/ })).toHaveCount(0)
  const chooser = page.waitForEvent('filechooser')
  await copies.getByRole('button', { name: 'Bring a copy from a file' }).click()
  await (await chooser).setFiles(file)
  await expect(copies.getByRole('row', { name: /made by hand/ })).toBeVisible()
  const wrong = page.waitForEvent('filechooser')
  await copies.getByRole('button', { name: 'Bring a copy from a file' }).click()
  await (await wrong).setFiles({
    name: 'x.db',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from('a letter'),
  })
  await expect(page.getByRole('alert')).toContainText('This copy cannot be used')
})

test('a damaged database is looked at, and what is sound is brought into a new one', async ({
  page,
  demo,
}) => {
  await demo.stop()
  // A byte of what stands of a song turns.
  const data = readFileSync(demo.db)
  const at = data.indexOf('"title":"Tin Cabana"')
  expect(at).toBeGreaterThan(0)
  data[at] = 0x7b
  writeFileSync(demo.db, data)
  demo.asItIs()
  await demo.start()

  await page.goto(demo.url)
  await expect(page.getByRole('heading', { name: 'Rescue', level: 1 })).toBeVisible()
  await expect(page.getByRole('row', { name: /Tin Cabana/ })).toBeVisible()
  await expect(page.getByRole('status', { name: 'Nothing is written' })).toBeVisible()
  expect(await axe(page)).toEqual([])
  await page.getByRole('button', { name: 'Write what is sound into a new database' }).click()
  await expect(page.getByText('It was written to')).toBeVisible()

  // It can be looked at, and an edit is refused in words.
  await page.goto(`${demo.url}/hear/songs`)
  const title = page.getByRole('textbox', { name: 'Title' })
  await title.fill('Other')
  await title.press('Enter')
  await expect(page.getByText('Nothing is written: the database is damaged').first()).toBeVisible()
  expect(readFileSync(demo.db).equals(data)).toBe(true)
})
