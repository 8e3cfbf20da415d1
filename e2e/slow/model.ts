interface Section {
  label: string
  bars: number
  singing: boolean
}

const boxes = ['Amber', 'Nudge', 'Rotor', 'Echo']
const sounds = ['Home', 'Lead']
const titles = ['Ferry Lights', 'Tin Cabana', 'Low Tide']
const labels = ['Intro', 'Verse', 'Solo']

const pedal = (name: string) => ({
  id: name.toLowerCase(),
  name,
  kind: 'pedal',
  blocks: [{ id: 'fx', name: 'drive', effect: 'overdrive', bypass: 'true' }],
})

/** A plan that a screen draws in no time. */
export const smallPlan = {
  format: 'envex',
  version: 1,
  gear: [{ id: 'pier', name: 'Pier', kind: 'guitar' }, ...boxes.map(pedal)],
  sounds: sounds.map((name, i) => ({
    id: name.toLowerCase(),
    name,
    short: name.slice(0, 2),
    role: i === 0 ? 'home' : 'lead',
    tape: i === 0 ? 'bone' : 'sky',
    targets: {},
  })),
  songs: titles.map((title, i) => ({
    id: `song-${i}`,
    title,
    tempo: { bpm: 100 },
    meter: { beats: 4, unit: 4 },
    sections: labels.map((label, k) => ({
      id: `s-${i}-${k}`,
      label,
      sound: k === 2 ? 'lead' : 'home',
      bars: 8,
    })),
  })),
  set_lists: [
    { id: 'set', name: 'Quay set', entries: titles.map((_, i) => ({ id: `e-${i}`, song: `song-${i}` })) },
  ],
  rigs: [
    {
      id: 'board',
      name: 'Board',
      guitars: ['pier'],
      path: boxes.map((name) => ({ stop: `${name.toLowerCase()}/fx` })),
      recipes: [
        { id: 'r-home', sound: 'home' },
        { id: 'r-lead', sound: 'lead', values: { 'amber/fx/on': true } },
      ],
      floor: {},
      profile: {},
    },
  ],
  shows: [],
}

interface Cell<T> {
  value: T
}
interface Plan {
  songs: Cell<{
    title: string
    tuning?: string
    sections: { label: string; bars?: number; singing?: boolean }[]
  }>[]
  sounds: Cell<{ name: string; notes?: string }>[]
  gear: Cell<{ id: string; name: string; kind: string; colour?: string; notes?: string }>[]
  rigs: Cell<{ path: { stop: string }[] }>[]
}

/** What the plan should have come to. */
export class Model {
  songs = titles.map((title) => ({
    title,
    tuning: '',
    sections: labels.map((label): Section => ({ label, bars: 8, singing: false })),
  }))
  sounds = sounds.map((name) => ({ name, notes: '' }))
  gear = boxes.map((name) => ({ name, colour: '', notes: '' }))
  path = [...boxes]

  plain() {
    return { songs: this.songs, sounds: this.sounds, gear: this.gear, path: this.path }
  }

  /** The plan of the program, in the model's terms. */
  static of(plan: Plan) {
    return {
      songs: plan.songs.map(({ value: s }) => ({
        title: s.title,
        tuning: s.tuning ?? '',
        sections: s.sections.map((x) => ({ label: x.label, bars: x.bars ?? 0, singing: x.singing ?? false })),
      })),
      sounds: plan.sounds.map(({ value: s }) => ({ name: s.name, notes: s.notes ?? '' })),
      gear: plan.gear
        .filter((g) => g.value.kind === 'pedal')
        .map(({ value: g }) => ({ name: g.name, colour: g.colour ?? '', notes: g.notes ?? '' })),
      path: plan.rigs[0]?.value.path.map((n) => boxes.find((b) => n.stop === `${b.toLowerCase()}/fx`)),
    }
  }
}
