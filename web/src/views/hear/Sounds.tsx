import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useSoundWords, values } from '../../api/plan'
import type { Sound } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button, IconButton, Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Effects } from './Effects'
import { letters } from './letters'
import { SoundRecording } from './SoundRecording'

const roles = ['home', 'rhythm', 'lead', 'texture', 'special'] as const

export function Sounds() {
  const { plan } = useChosen()
  const edit = useEdit()
  const sounds = values(plan, 'sounds')
  const add = () => {
    const used = sounds.map((s) => s.tape)
    const name = sounds.length === 0 ? 'Home' : `Sound ${sounds.length + 1}`
    void edit.add('sounds', `Add ${name}`, {
      id: freshId(),
      name,
      short: letters(
        name,
        sounds.map((s) => s.short.toUpperCase()),
      ),
      role: sounds.length === 0 ? 'home' : 'rhythm',
      tape: (plan.tapes.find((t) => !used.includes(t as Sound['tape'])) ?? 'bone') as Sound['tape'],
      targets: {},
    })
  }
  return (
    <Stack>
      <Muted>
        A sound is what the songs need, whatever rig makes it. Give each a tape colour; it keeps it
        everywhere.
      </Muted>
      {sounds.map((s) => (
        <SoundSheet key={s.id} sound={s} sounds={sounds} />
      ))}
      <div>
        <Button $strong={sounds.length === 0} onPress={add}>
          <Icon name="plus" /> Add a sound
        </Button>
      </div>
      <Fold title="A sound from a recording" level={2}>
        <SoundRecording />
      </Fold>
    </Stack>
  )
}

function SoundSheet({ sound, sounds }: { sound: Sound; sounds: Sound[] }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const set = (patch: Partial<Sound>, what: string) =>
    edit.change('sounds', sound.id, `${what} of ${sound.name}`, (s) => ({ ...s, ...patch }))
  const target = (patch: Partial<Sound['targets']>, what: string) =>
    edit.change('sounds', sound.id, `${what} of ${sound.name}`, (s) => ({
      ...s,
      targets: { ...s.targets, ...patch },
    }))
  const t = sound.targets
  const guitars = values(plan, 'gear').filter((g) => g.kind === 'guitar')
  return (
    <Panel aria-label={sound.name}>
      <Line>
        <Chip style={{ background: tape(sound.tape) }} aria-hidden="true">
          {sound.short}
        </Chip>
        <Grow>
          <TextField label="Name" value={sound.name} onCommit={(name) => set({ name }, 'Name')} />
        </Grow>
        <Narrow>
          <TextField label="Letters" value={sound.short} onCommit={(short) => set({ short }, 'Letters')} />
        </Narrow>
        <Select
          label="Tape"
          value={sound.tape}
          options={plan.tapes.map((name) => ({
            id: name,
            name: name + (sounds.some((o) => o.tape === name && o.id !== sound.id) ? ' (used)' : ''),
            tape: tape(name),
          }))}
          onChange={(v) => set({ tape: v as Sound['tape'] }, 'Tape')}
        />
        <Select
          label="Role"
          value={sound.role}
          options={roles.map((r) => ({ id: r, name: r }))}
          onChange={(v) => set({ role: v as Sound['role'] }, 'Role')}
        />
        <IconButton
          label={`Remove ${sound.name}`}
          onPress={() => edit.remove('sounds', sound.id, sound.name)}
        >
          <Icon name="cross" />
        </IconButton>
      </Line>
      <Row>
        <InWords sound={sound} target={target} />
        <Select
          label="Guitar"
          value={t.guitar ?? 'any'}
          options={[{ id: 'any', name: 'any' }, ...guitars.map((g) => ({ id: g.id, name: g.name }))]}
          onChange={(v) => target({ guitar: v === 'any' ? undefined : v }, 'Guitar')}
        />
        <Switch
          label="Must be stereo"
          value={t.width === 'stereo'}
          onChange={(on) => target({ width: on ? 'stereo' : undefined }, 'Width')}
        />
        <Switch
          label="Strict tempo"
          value={Boolean(t.strict_tempo)}
          onChange={(on) => target({ strict_tempo: on || undefined }, 'Tempo')}
        />
      </Row>
      <Fold title="Figures" level={2}>
        <Row>
          <NumberField
            label="Dirt from, %"
            width={96}
            value={t.dirt_min_pct}
            min={0}
            max={100}
            onCommit={(v) => target({ dirt_min_pct: v }, 'Least dirt')}
          />
          <NumberField
            label="Dirt to, %"
            width={96}
            value={t.dirt_max_pct}
            min={0}
            max={100}
            onCommit={(v) => target({ dirt_max_pct: v }, 'Most dirt')}
          />
          <NumberField
            label="Over home, LU"
            width={104}
            value={t.loudness_lu}
            min={-40}
            max={40}
            step={0.5}
            onCommit={(v) => target({ loudness_lu: v }, 'Loudness')}
          />
          <NumberField
            label="Tolerance, LU"
            width={110}
            value={t.tolerance_lu}
            min={0}
            max={40}
            step={0.5}
            onCommit={(v) => target({ tolerance_lu: v }, 'Tolerance')}
          />
          {(t.bands_db?.length ?? 0) > 0 && (
            <Row>
              <Muted>Its spectrum is that of a recording: proposals say how near they come.</Muted>
              <Button
                aria-label={`Forget the spectrum of ${sound.name}`}
                onPress={() => target({ bands_db: undefined }, 'Spectrum')}
              >
                Forget it
              </Button>
            </Row>
          )}
        </Row>
      </Fold>
      <TextField
        label="Notes"
        value={sound.notes ?? ''}
        onCommit={(notes) => set({ notes: notes || undefined }, 'Notes')}
      />
      <Effects
        sound={sound}
        onChange={(update) =>
          edit.change('sounds', sound.id, `Effects of ${sound.name}`, (s) => ({
            ...s,
            targets: { ...s.targets, effects: update(s.targets.effects ?? []) },
          }))
        }
      />
    </Panel>
  )
}

/** How dirty and how loud a sound is, in words; what its figures say where no word says it. */
function InWords(p: { sound: Sound; target: (patch: Partial<Sound['targets']>, what: string) => unknown }) {
  const { data } = useSoundWords()
  const t = p.sound.targets
  const dirt = data?.dirt.find((w) => w.dirt_min_pct === t.dirt_min_pct && w.dirt_max_pct === t.dirt_max_pct)
  const loud = data?.loudness.find((w) => w.loudness_lu === t.loudness_lu)
  const noDirt = t.dirt_min_pct === undefined && t.dirt_max_pct === undefined
  return (
    <>
      <Worded>
        <Select
          label="Dirt"
          value={noDirt ? 'any' : (dirt?.word ?? 'own')}
          options={[
            { id: 'any', name: 'any' },
            ...(data?.dirt ?? []).map((w) => ({ id: w.word, name: w.word })),
            ...(noDirt || dirt ? [] : [{ id: 'own', name: dirtFigures(t) }]),
          ]}
          onChange={(v) => {
            const w = data?.dirt.find((x) => x.word === v)
            if (v !== 'own')
              p.target({ dirt_min_pct: w?.dirt_min_pct, dirt_max_pct: w?.dirt_max_pct }, 'Dirt')
          }}
        />
      </Worded>
      <Worded>
        <Select
          label="Loudness"
          value={t.loudness_lu === undefined ? 'any' : (loud?.word ?? 'own')}
          options={[
            { id: 'any', name: 'any' },
            ...(data?.loudness ?? []).map((w) => ({ id: w.word, name: w.word })),
            ...(t.loudness_lu === undefined || loud
              ? []
              : [{ id: 'own', name: `${t.loudness_lu > 0 ? '+' : ''}${t.loudness_lu} LU over home` }]),
          ]}
          onChange={(v) => {
            const w = data?.loudness.find((x) => x.word === v)
            if (v !== 'own')
              p.target({ loudness_lu: w?.loudness_lu, tolerance_lu: w?.tolerance_lu }, 'Loudness')
          }}
        />
      </Worded>
    </>
  )
}

// As wide as the longest word, which comes after the figures.
const Worded = styled.div`flex: 0 1 190px; min-width: 0;`

function dirtFigures(t: Sound['targets']): string {
  if (t.dirt_min_pct === undefined) return `to ${t.dirt_max_pct} %`
  if (t.dirt_max_pct === undefined) return `from ${t.dirt_min_pct} %`
  return `${t.dirt_min_pct} to ${t.dirt_max_pct} %`
}

const Line = styled.div`display: flex; gap: 10px; align-items: end; flex-wrap: wrap;`
const Grow = styled.div`flex: 1 1 160px; min-width: 120px;`
const Narrow = styled.div`width: 72px;`
const Chip = styled.span`
  width: 44px; height: 44px; display: grid; place-items: center; color: var(--onTape); font: 600 18px/1 var(--face-label);
  clip-path: polygon(0 4%, 100% 0, 98% 100%, 2% 96%);
`
