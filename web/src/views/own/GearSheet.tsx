import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useUses } from '../../api/plan'
import type { Gear } from '../../api/types'
import { unread } from '../../edits/desk'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { Button, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Caution, Heading, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { assumedIn, TheyAreSo } from './assumed'
import { BlockSheet } from './BlockSheet'
import { BoardSheet } from './BoardSheet'
import { CableSheet } from './CableSheet'
import { Controls } from './Controls'
import { Footswitches } from './Footswitches'
import { fitting } from './fitting'
import { GearHistory } from './GearHistory'
import { GuitarSheet } from './GuitarSheet'
import { Jacks } from './Jacks'
import { MidiSheet } from './MidiSheet'
import { numbers } from './numbers'
import { SupplySheet } from './SupplySheet'
import { SwitcherSheet } from './SwitcherSheet'

type Set = (patch: Partial<Gear>, what: string) => unknown

/** How a sheet changes its gear: an update, and what it does in words. */
export type Change = (what: string, update: (g: Gear) => Gear) => unknown

export function GearSheet({ gear }: { gear: Gear }) {
  const edit = useEdit()
  const navigate = useNavigate()
  const change: Change = (what, update) =>
    edit.change('gear', gear.id, `${what} of ${gear.name}`, (g) => fitting(update(g)))
  const set = (patch: Partial<Gear>, what: string) => change(what, (g) => ({ ...g, ...patch }))
  const duplicate = () => {
    const copy = { ...gear, id: freshId(), name: `${gear.name} copy` }
    void edit.add('gear', `Duplicate ${gear.name}`, copy)
    navigate(`/own/${copy.id}`)
  }
  return (
    <Stack>
      <Panel aria-label={gear.name}>
        <Row>
          <Grow>
            <TextField label="Name" value={gear.name} onCommit={(name) => set({ name }, 'Name')} />
          </Grow>
          <TextField
            label="Kind, in words"
            value={gear.circuit ?? ''}
            onCommit={(v) => set({ circuit: v || undefined }, 'Circuit')}
          />
          <TextField
            label="Colour"
            value={gear.colour ?? ''}
            onCommit={(v) => set({ colour: v || undefined }, 'Colour')}
          />
          <Button onPress={duplicate}>
            <Icon name="copy" /> Duplicate
          </Button>
          <Button onPress={() => edit.remove('gear', gear.id, gear.name)}>Remove</Button>
        </Row>
        <TextField
          label="Notes"
          value={gear.notes ?? ''}
          onCommit={(v) => set({ notes: v || undefined }, 'Notes')}
        />
        <Outside gear={gear} set={set} change={change} />
      </Panel>
      {gear.kind === 'amp' && <AmpNotes gear={gear} set={set} change={change} />}
      {gear.kind === 'guitar' && <GuitarSheet gear={gear} change={change} />}
      {gear.kind === 'board' && <BoardSheet gear={gear} change={change} />}
      {gear.kind === 'supply' && <SupplySheet gear={gear} change={change} />}
      {gear.kind === 'cable' && <CableSheet gear={gear} change={change} />}
      {gear.kind === 'controller' && <SwitcherSheet gear={gear} change={change} />}
      {(gear.blocks ?? []).map((b) => (
        <BlockSheet key={b.id} gear={gear} block={b} change={change} />
      ))}
      {gear.kind !== 'supply' && gear.kind !== 'board' && gear.kind !== 'cable' && (
        <Panel>
          <Heading>{gear.kind === 'guitar' ? 'Controls' : 'Controls of the whole box'}</Heading>
          <Controls
            owner={gear.name}
            list={gear.controls ?? []}
            onChange={(what, update) => change(what, (g) => ({ ...g, controls: update(g.controls ?? []) }))}
          />
        </Panel>
      )}
      {['pedal', 'amp', 'controller', 'interface'].includes(gear.kind) && (
        <Footswitches gear={gear} change={change} />
      )}
      {['pedal', 'amp', 'controller'].includes(gear.kind) && <MidiSheet gear={gear} change={change} />}
      {!['supply', 'board', 'cable'].includes(gear.kind) && <Jacks gear={gear} change={change} />}
      <GearHistory id={gear.id} name={gear.name} />
      <UsedBy id={gear.id} />
    </Stack>
  )
}

function Outside({ gear, set, change }: { gear: Gear; set: Set; change: Change }) {
  const size = gear.size
  const power = gear.power
  const measure = (patch: Partial<NonNullable<Gear['size']>>) =>
    change('Size', (g) => ({ ...g, size: { width_mm: 70, depth_mm: 120, ...g.size, ...patch } }))
  const feed = (patch: Partial<NonNullable<Gear['power']>>) =>
    change('Power', (g) => ({ ...g, power: { voltage_v: 9, ...g.power, ...patch } }))
  if (gear.kind === 'guitar' || gear.kind === 'cable') return null
  const fed = ['pedal', 'controller', 'interface'].includes(gear.kind)
  return (
    <>
      <Row $top>
        <NumberField
          label="Width, mm"
          width={84}
          value={size?.width_mm}
          note={assumedIn(gear, '')('size/width_mm', size?.width_mm)}
          min={1}
          max={3000}
          onCommit={(v) => v && measure({ width_mm: v })}
        />
        <NumberField
          label="Depth, mm"
          width={84}
          value={size?.depth_mm}
          note={assumedIn(gear, '')('size/depth_mm', size?.depth_mm)}
          min={1}
          max={3000}
          onCommit={(v) => v && measure({ depth_mm: v })}
        />
        <NumberField
          label="Height, mm"
          width={84}
          value={size?.height_mm}
          note={assumedIn(gear, '')('size/height_mm', size?.height_mm)}
          min={1}
          max={3000}
          onCommit={(v) => measure({ height_mm: v })}
        />
        <NumberField
          label="Weight, g"
          width={90}
          value={gear.weight_g}
          note={assumedIn(gear, '')('weight_g', gear.weight_g)}
          min={0}
          max={200000}
          onCommit={(v) => set({ weight_g: v }, 'Weight')}
        />
        {fed && (
          <>
            <NumberField
              label="Power, V"
              width={80}
              value={power?.voltage_v}
              note={assumedIn(gear, '')('power/voltage_v', power?.voltage_v)}
              min={0}
              max={250}
              onCommit={(v) => v !== undefined && feed({ voltage_v: v })}
            />
            <NumberField
              label="Draw, mA"
              width={84}
              value={power?.current_ma}
              note={assumedIn(gear, '')('power/current_ma', power?.current_ma)}
              min={0}
              max={20000}
              onCommit={(v) => feed({ current_ma: v })}
            />
            <Select
              label="Polarity"
              value={power?.polarity ?? 'centre-negative'}
              options={['centre-negative', 'centre-positive', 'none'].map((p) => ({ id: p, name: p }))}
              onChange={(v) => feed({ polarity: v as 'none' })}
            />
            <NumberField
              label="Highest voltage, V"
              width={96}
              value={power?.highest_v}
              note={assumedIn(gear, '')('power/highest_v', power?.highest_v)}
              placeholder="its own"
              min={0}
              max={250}
              onCommit={(v) => feed({ highest_v: v })}
            />
            <TextField
              label="Connector"
              value={power?.connector ?? ''}
              placeholder="2.1 mm barrel"
              onCommit={(v) => feed({ connector: v || undefined })}
            />
            <Select
              label="Power jack on"
              value={power?.side}
              placeholder="not entered"
              options={['left', 'right', 'top', 'front', 'back'].map((x) => ({ id: x, name: x }))}
              onChange={(v) => feed({ side: v as 'left' })}
            />
          </>
        )}
        <TheyAreSo gear={gear} parts={['size/', 'weight_g', 'power/']} change={change} />
      </Row>
      {fed && (
        <Row>
          <Switch label="AC" value={Boolean(power?.ac)} onChange={(on) => feed({ ac: on || undefined })} />
          <Switch
            label="Digital"
            value={Boolean(power?.digital)}
            onChange={(on) => feed({ digital: on || undefined })}
          />
          <Switch
            label="Battery"
            value={Boolean(power?.battery)}
            onChange={(on) => feed({ battery: on || undefined })}
          />
        </Row>
      )}
    </>
  )
}

function AmpNotes({ gear, set, change }: { gear: Gear; set: Set; change: Change }) {
  const speaker = (patch: Partial<NonNullable<Gear['speaker_out']>>) =>
    change('Speaker output', (g) => ({ ...g, speaker_out: { ...g.speaker_out, ...patch } }))
  const loop = (patch: Partial<NonNullable<Gear['loop']>>, what: string) =>
    change(what, (g) => ({ ...g, loop: { kind: 'series', ...g.loop, ...patch } }))
  return (
    <Panel>
      <Row>
        <Switch
          label="Effects loop"
          value={Boolean(gear.loop)}
          onChange={(on) => set({ loop: on ? { kind: 'series' } : undefined }, 'Loop')}
        />
        {gear.loop && (
          <Select
            label="Kind of loop"
            value={gear.loop.kind}
            options={['series', 'parallel'].map((k) => ({ id: k, name: k }))}
            onChange={(v) => loop({ kind: v as 'series' }, 'Loop')}
          />
        )}
        {gear.loop && (
          <NumberField
            label="Loop level, dBu"
            width={100}
            value={gear.loop.level_db}
            note={assumedIn(gear, '')('loop/level_db', gear.loop.level_db)}
            placeholder="not known"
            min={-40}
            max={24}
            onCommit={(v) => loop({ level_db: v }, 'Loop level')}
          />
        )}
        <Switch
          label="Valve power section"
          value={Boolean(gear.speaker_out?.valve)}
          onChange={(on) => speaker({ valve: on || undefined })}
        />
        <Switch
          label="Built-in speaker"
          value={Boolean(gear.speaker_out?.internal)}
          onChange={(on) => speaker({ internal: on || undefined })}
        />
        <TextField
          label="May drive, ohm"
          value={(gear.speaker_out?.ohms ?? []).join(', ')}
          placeholder="8, 16"
          onCommit={(text) => {
            const ohms = numbers(text)
            if (!ohms) return unread(`“${text}” is not a load in ohm. Write 8, or 8, 16.`)
            return speaker({ ohms: ohms.length > 0 ? ohms : undefined })
          }}
        />
      </Row>
      <Caution>
        A valve amp always needs its speaker or a rated load, and holds lethal voltage even unplugged: inside
        work is for a qualified tech.
        {gear.weight_g !== undefined && gear.weight_g > 15000 && ' Over 15 kg: lift with two.'}
      </Caution>
    </Panel>
  )
}

function UsedBy({ id }: { id: string }) {
  const { data } = useUses(id)
  return (
    <Panel>
      <Heading>Used by</Heading>
      {data?.uses.length ? (
        <ul>
          {data.uses.map((u) => (
            <li key={`${u.id} ${u.where}`}>
              {u.name}: {u.where}
            </li>
          ))}
        </ul>
      ) : (
        <Muted>Nothing uses it; it can be removed.</Muted>
      )}
    </Panel>
  )
}

const Grow = styled.div`flex: 1 1 180px; min-width: 140px;`
