import { describe, expect, test } from 'vitest'
import type { PathNode, Rig, Value, VariableInfo, WholePlan } from './api/types'
import { there } from './state/there'
import held from './testdata/rules.json'
import { clockOf, readKnob } from './ui/clock'
import { decibelsOf, percentOf } from './units'
import { stopsOf, zonesOf } from './views/order/chain'
import { settingOf } from './views/order/lit'

// The rules of the job are the server's. A few stand here too, since what is changed is drawn before it has answered: they say
// what it says of the same plans. `go test ./core/plan -update` writes that down.

interface Held {
  file: string
  rig: string
  destination?: string
  path: PathNode[]
  zones: Record<string, string>
  base: Rig['base'] | null
  recipes: { id: string; values: Value[] }[]
  variables: { key: string; default: Value }[]
}

interface File {
  gear: WholePlan['gear'][0]['value'][]
  rigs: Rig[]
}

const files = import.meta.glob<File>(
  ['../../core/path/testdata/chains/*.envex.json', '../../demo/kelp-street-nine.envex.json'],
  { eager: true, import: 'default' },
)
const rules = held as unknown as {
  rigs: Held[]
  clock: Record<string, number>
  decibels: Record<string, number>
}

describe.each(rules.rigs)('$rig of $file at "$destination"', (said) => {
  const file = files[
    `../../${said.file.startsWith('../') ? '' : 'core/'}${said.file.replace('../', '')}`
  ] as File
  const rig = file.rigs.find((r) => r.id === said.rig) as Rig
  const d = rig.destinations?.find((x) => x.id === said.destination)
  const here = there(rig, d, said.path)

  test('has the zones that the server says', () => {
    const plan = { gear: file.gear.map((value) => ({ version: 1, value })) } as unknown as WholePlan
    expect(Object.fromEntries(zonesOf(said.path, stopsOf(plan)))).toEqual(said.zones)
  })

  test('has the base settings and the recipes that the server says', () => {
    expect(here.path).toEqual(said.path)
    expect(here.base ?? {}).toEqual(said.base ?? {})
    expect((here.recipes ?? []).map((r) => r.id)).toEqual(said.recipes.map((r) => r.id))
    for (const r of said.recipes) {
      const recipe = here.recipes?.find((x) => x.id === r.id)
      for (const [i, v] of said.variables.entries())
        expect(settingOf(here, recipe, v as unknown as VariableInfo).value).toEqual(r.values[i])
    }
  })
})

test('a knob stands on the clock where the server says', () => {
  for (const [face, turn] of Object.entries(rules.clock)) {
    expect(clockOf(turn * 10, 0, 10).replace('’', "'")).toBe(face)
    expect(readKnob(face, 0, 10, true)).toBeCloseTo(turn * 10, 0)
  }
})

test('a size in per cent is as many decibels as the server says', () => {
  for (const [percent, db] of Object.entries(rules.decibels)) {
    expect(decibelsOf(Number(percent))).toBe(db)
    expect(percentOf(db) / Number(percent)).toBeCloseTo(1, 1)
  }
})

// Where there are logarithms, powers and roots something is worked out. Drawing on a screen is; the job is the server's.
const drawing = [
  'units.ts',
  'floor/FloorPicture.tsx',
  'floor/standing.ts',
  'views/balance/Curves.tsx',
  'views/balance/curvesOf.ts',
  'views/balance/LostTreble.tsx',
  'views/play/Pads.tsx',
  'edits/desk.ts',
]

test('no arithmetic of the job stands in the screens', () => {
  const sources = import.meta.glob<string>(['./**/*.{ts,tsx}', '!./**/*.test.ts', '!./api/schema.gen.ts'], {
    eager: true,
    query: '?raw',
    import: 'default',
  })
  expect(Object.keys(sources).length).toBeGreaterThan(100)
  const found = Object.entries(sources)
    .filter(([file]) => !drawing.includes(file.slice(2)))
    .flatMap(([file, text]) =>
      text
        .split('\n')
        .filter((line) => !/^\s*(\*|\/[*/])/.test(line))
        .filter((line) =>
          /Math\.(log|log2|log10|exp|pow|hypot|sqrt|cbrt|sin|cos|tan|atan2?)\b|[\w)] \*\* /.test(line),
        )
        .map((line) => `${file}: ${line.trim()}`),
    )
  expect(found).toEqual([])
})
