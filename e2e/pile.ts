import type { Page } from '@playwright/test'
import { expect, type Program } from './envex.ts'

/** A guitar, an amp, twelve boxes, and a song whose sounds ask for a drive, a tremolo and an echo. */
/** What there is besides, and another amp. */
interface Besides {
  rigs?: object[]
  shows?: object[]
  songs?: object[]
  amp?: string
  more?: [id: string, kind: string][]
}

export async function pileOfTwelve(
  program: Program,
  page: Page,
  { rigs = [], shows = [], songs = [], amp = 'combo-plain', more = [] }: Besides = {},
) {
  const kinds = [
    ['guitar', 'three-single-coil'],
    ['amp', amp],
    ['brine', 'mid-hump-overdrive'],
    ['throb', 'tremolo'],
    ['shore', 'digital-delay'],
    ['foam', 'chorus'],
    ['spray', 'phaser'],
    ['swirl', 'flanger'],
    ['eddy', 'vibe'],
    ['cave', 'room-reverb'],
    ['depth', 'octave'],
    ['howl', 'wah'],
    ['drone', 'pitch'],
    ['lamp', 'rotary'],
    ...more,
  ]
  const gear = []
  for (const [id, kind] of kinds) {
    const made = await (await page.request.get(`${program.url}/api/kinds/${kind}/new?id=${id}`)).json()
    gear.push({ ...made, name: `${id}`.charAt(0).toUpperCase() + `${id}`.slice(1) })
  }
  const sound = (id: string, name: string, role: string, tape: string, targets: object) => ({
    id,
    name,
    short: name.slice(0, 2).toUpperCase(),
    tape,
    role,
    targets,
  })
  const section = (id: string) => ({ id: `to-${id}`, label: id, sound: id, bars: 4 })
  const file = {
    format: 'envex',
    version: (await (await page.request.get(`${program.url}/api/export`)).json()).version,
    gear,
    sounds: [
      sound('home', 'Home', 'home', 'bone', { dirt_max_pct: 10 }),
      sound('crunch', 'Crunch', 'rhythm', 'yellow', {
        dirt_min_pct: 20,
        dirt_max_pct: 45,
        loudness_lu: 1,
        tolerance_lu: 1,
      }),
      sound('haze', 'Haze', 'texture', 'sky', {
        loudness_lu: 0,
        tolerance_lu: 1.5,
        effects: [{ effect: 'tremolo' }],
      }),
      sound('far', 'Far', 'texture', 'teal', {
        loudness_lu: 0,
        tolerance_lu: 1.5,
        effects: [{ effect: 'delay', note: '1/4' }],
      }),
    ],
    songs: [
      {
        id: 'tide',
        title: 'Tide table',
        tempo: { bpm: 100 },
        meter: { beats: 4, unit: 4 },
        sections: ['home', 'crunch', 'haze', 'far'].map(section),
      },
      ...songs,
    ],
    rigs,
    shows,
    set_lists: [
      {
        id: 'night',
        name: 'Night',
        entries: ['tide', ...songs.map((s) => (s as { id: string }).id)].map((song) => ({
          id: `at-${song}`,
          song,
        })),
      },
    ],
  }
  const taken = await page.request.post(`${program.url}/api/import`, { data: file })
  expect(taken.ok(), await taken.text()).toBe(true)
  await page.goto(`${program.url}/own`)
}

/** A rig of a drive and a tremolo, and a show that it is for. */
export const pierRig = {
  id: 'pier',
  name: 'Pier rig',
  guitars: ['guitar'],
  path: ['brine/fx', 'throb/fx', 'amp/preamp', 'amp/reverb', 'amp/power'].map((stop) => ({ stop })),
  recipes: [
    { id: 'r1', sound: 'home' },
    { id: 'r2', sound: 'crunch', values: { 'brine/fx/on': true } },
    { id: 'r3', sound: 'haze', values: { 'throb/fx/on': true } },
  ],
  floor: {},
  profile: {},
}
export const ferry = { id: 'ferry', name: 'Ferry deck', set_list: 'night', rig: 'pier' }
