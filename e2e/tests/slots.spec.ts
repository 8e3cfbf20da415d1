import { axe } from '../axe.ts'
import { expect, goTo, test } from '../envex.ts'
import { ferry, pierRig, pileOfTwelve } from '../pile.ts'

test.describe.configure({ timeout: 180_000 })

/** A song that is all haze. */
const mist = {
  id: 'mist',
  title: 'Mist line',
  tempo: { bpm: 90 },
  meter: { beats: 4, unit: 4 },
  sections: ['home', 'haze'].map((id) => ({ id: `mist-${id}`, label: id, sound: id, bars: 8 })),
}

test('a swap slot is one rig: a show picks, a song asks, and both boxes stand side by side', async ({
  page,
  blank,
}) => {
  const rig = { ...pierRig, recipes: [...pierRig.recipes, { id: 'r4', sound: 'far' }] }
  await pileOfTwelve(blank, page, { rigs: [rig], shows: [ferry], songs: [mist] })
  await page.goto(`${blank.url}/order`)
  const front = page.getByRole('region', { name: 'Front of amp' })
  await page.getByRole('row', { name: /^Throb,/ }).click()
  await page.getByRole('button', { name: 'Another box can stand here' }).click()
  await page.getByRole('button', { name: /In the place of Throb$/ }).click()
  await page.getByRole('option', { name: 'Foam' }).click()
  await page.getByRole('textbox', { name: 'Name of the slot' }).fill('Movement')
  await page.getByRole('textbox', { name: 'Name of the slot' }).press('Enter')
  await expect(front).toContainText('or Foam')

  // Everything for both, side by side: the tremolo is asked for, and the chorus is none.
  await page.getByRole('button', { name: 'How they differ' }).click()
  const differ = page.getByRole('table', { name: 'How they differ' })
  await expect(differ.getByRole('columnheader')).toHaveText(['Throb', 'Foam'], { timeout: 60_000 })
  await expect(differ.getByRole('row', { name: /^Haze/ }).getByRole('cell').nth(1)).toContainText(
    'No tremolo is on.',
  )
  await expect(differ.getByRole('row', { name: /^Haze/ }).getByRole('cell').nth(0)).not.toContainText(
    'No tremolo',
  )
  expect(await axe(page)).toEqual([])

  // A show picks: its sheets are made with the other box, and the chain stays as it is.
  await page.goto(`${blank.url}/pack/shows/ferry`)
  await page.getByRole('button', { name: /Movement$/ }).click()
  await page.getByRole('option', { name: 'Foam', exact: true }).click()
  await page.getByRole('button', { name: 'Its sheets' }).click()
  await page.getByRole('button', { name: 'Patch list' }).click()
  const sheet = page.frameLocator('iframe[title^="Patch list"]')
  await expect(sheet.getByRole('table').first()).toContainText('Foam')
  await expect(sheet.getByRole('table').first()).not.toContainText('Throb')
  await page.goto(`${blank.url}/order`)
  await expect(front).toContainText('Throb')
  // The screens are of the chain and the sheets of the show, and they say so.
  const otherwise = page.getByRole('region', { name: 'Movement at Ferry deck' })
  await expect(otherwise).toHaveText(/Ferry deck has Foam in Movement; what is shown here is with Throb\./)

  // The other box is put into the chain, with what it is set to, and back.
  const actions = page.getByRole('button', { name: 'Actions for Throb' })
  await actions.click()
  await page.getByRole('menuitem', { name: 'Put Foam in its place' }).click()
  await expect(page.getByRole('region', { name: 'Settings of Foam' })).toBeVisible()
  await expect(otherwise).toHaveCount(0)
  await expect(front).toContainText('or Throb')
  await page.getByRole('button', { name: 'Swap slot: Movement' }).click()

  // A song asks for the tremolo: it is put there by hand before it, which takes longer than the gap.
  const throb = page.getByRole('list', { name: 'Boxes of Movement' }).getByRole('listitem', { name: 'Throb' })
  await throb.getByRole('button', { name: /played with Throb/ }).click()
  await page.getByRole('option', { name: 'Mist line' }).click()
  await expect(throb).toContainText('Mist line')
  await page.goto(`${blank.url}/step`)
  await expect(
    page.getByRole('complementary', { name: 'Findings' }).getByText(/Put Throb in place of Foam/),
  ).toBeVisible()

  // Its level is that of the box that stands there then.
  await page.goto(`${blank.url}/balance`)
  await goTo(page, /Mist line, haze/)
  await expect(page.getByRole('region', { name: 'Level ladder' })).toContainText(
    /Haze \(with Throb\): .* LU/,
    {
      timeout: 60_000,
    },
  )
  // The figures are of the chain, until those of the song are asked for.
  const of = page.getByRole('button', { name: /Figures of/ })
  await expect(of).toContainText('the chain as it stands')
  const haze = page.getByRole('table', { name: 'Sounds metered' }).getByRole('row', { name: /^Haze/ })
  await expect(haze).toContainText('No tremolo is on.', { timeout: 60_000 })
  await page.getByRole('button', { name: 'As Mist line is played' }).click()
  await expect(of).toContainText('Mist line (with Throb)')
  await expect(haze).toContainText(/tremolo \d+ % left/, { timeout: 60_000 })
  expect(await axe(page)).toEqual([])

  // Where a boost stands, and what each knob does, is of the song as well; a place is taken up by the chain as it stands.
  const boost = page.getByRole('region', { name: 'Boost placement' })
  await expect(boost).toContainText('Throb', { timeout: 60_000 })
  await expect(boost).not.toContainText('Foam')
  await boost
    .getByRole('button', { name: /^Move Brine / })
    .first()
    .click()
  await expect(page.getByRole('button', { name: /^Undo: Move Brine/ })).toBeVisible()
  await expect(boost).toContainText('Throb', { timeout: 60_000 })
  await page.getByRole('link', { name: 'Dial in' }).click()
  await expect(page.getByText('As Mist line is played: with Throb.')).toBeVisible()
  const knobs = page.getByRole('list', { name: /^Knobs of Haze/ })
  await expect(knobs).toContainText('Throb', { timeout: 60_000 })
  await expect(knobs).not.toContainText('Foam')
  await page.goto(`${blank.url}/order`)
  await expect(front).toContainText('Foam')
  await expect(front).toContainText('or Throb')
})
