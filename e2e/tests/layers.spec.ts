import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { expect, test } from '../envex.ts'

const rig = resolve(import.meta.dirname, '../../testdata/rigs/looper/rig.envex.json')

test('a layer is recorded and played, and what changes it is said and heard', async ({
  page,
  blank: program,
}) => {
  const file = JSON.parse(readFileSync(rig, 'utf8'))
  const tune = file.rigs[0].recipes.find((r: { id: string }) => r.id === 'r-tune')
  tune.values['small-combo/preamp/gain'] = 9
  expect((await page.request.post(`${program.url}/api/import`, { data: file })).ok()).toBe(true)
  await page.goto(`${program.url}/hear`)
  const sections = page.getByRole('grid', { name: 'Sections of Ropewalk' })
  const layers = page.getByRole('region', { name: 'Layers of Ropewalk' })
  const presses = layers.getByRole('table', { name: 'Presses of the looper' })
  await expect(presses.getByRole('row')).toHaveCount(5)
  await expect(presses.getByRole('row').nth(2)).toContainText('Close Bass, and at once: Lay Chords over it')
  await expect(layers).toContainText(
    'Tune changes Bass, recorded in Bass: Small combo preamp gain stands after Round.',
  )
  await expect(layers).toContainText('points of dirt')
  await layers.getByRole('button', { name: 'Listen to Bass in Tune' }).click()
  await expect(page.getByRole('region', { name: 'Listen' })).toBeVisible()

  await sections.getByText('Bass runs in End').click()
  await expect(layers).toContainText('Bass plays too.')
  await sections.getByText('Chords runs in End').click()
  await expect(presses.getByRole('row').last()).toContainText('76.80 sStop the loop')

  await page.goto(`${program.url}/play`)
  await expect(page.getByRole('group', { name: 'Press' })).toContainText('On the bar')
  await page.goto(`${program.url}/hear`)

  const name = sections.getByRole('textbox', { name: 'Layer recorded in Chords' })
  await name.fill('Pads')
  await name.press('Enter')
  await expect(sections.getByText('Pads runs in Tune')).toBeVisible()
  await sections.getByRole('button', { name: 'Actions for Chords' }).click()
  await page.getByRole('menuitem', { name: 'Record no layer' }).click()
  await expect(sections.getByText('Pads runs in Tune')).toHaveCount(0)
  await expect(presses.getByRole('row')).toHaveCount(4)
  await page.getByRole('button', { name: /^Undo: Layer of Chords/ }).click()
  await expect(sections.getByText('Pads runs in Tune')).toBeVisible()
})
