import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useEdit, useUses } from '../../api/plan'
import type { Block, Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, NumberField, Select, Switch, TextField } from '../../ui/controls'
import { Caution, Heading, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Controls } from './Controls'
import { Footswitches } from './Footswitches'

const effects = [
  'tuner',
  'volume',
  'wah',
  'pitch',
  'octave',
  'compressor',
  'gate',
  'boost',
  'overdrive',
  'distortion',
  'fuzz',
  'eq',
  'vibe',
  'phaser',
  'chorus',
  'flanger',
  'tremolo',
  'rotary',
  'delay',
  'reverb',
  'looper',
  'preamp',
  'power',
  'cab',
  'buffer',
  'di',
  'splitter',
  'mixer',
  'acoustic',
  'radio',
] as const

/** How a sheet changes its gear: an update, and what it does in words. */
export type Change = (what: string, update: (g: Gear) => Gear) => void

export function GearSheet({ gear }: { gear: Gear }) {
  const edit = useEdit()
  const navigate = useNavigate()
  const change: Change = (what, update) =>
    void edit.change('gear', gear.id, `${what} of ${gear.name}`, update)
  const set = (patch: Partial<Gear>, what: string) => change(what, (g) => ({ ...g, ...patch }))
  const duplicate = async () => {
    const copy = { ...gear, id: freshId(), name: `${gear.name} copy` }
    if (await edit.add('gear', `Duplicate ${gear.name}`, copy)) navigate(`/own/${copy.id}`)
  }
  return (
    <Stack>
      <Panel aria-label={gear.name}>
        <Row>
          <Grow>
            <TextField label="Name" value={gear.name} onCommit={(name) => set({ name }, 'Name')} />
          </Grow>
          <TextField
            label="Circuit"
            value={gear.circuit ?? ''}
            onCommit={(v) => set({ circuit: v || undefined }, 'Circuit')}
          />
          <TextField
            label="Colour"
            value={gear.colour ?? ''}
            onCommit={(v) => set({ colour: v || undefined }, 'Colour')}
          />
          <Button onPress={() => void duplicate()}>
            <Icon name="copy" /> Duplicate
          </Button>
          <Button onPress={() => void edit.remove('gear', gear.id)}>Remove</Button>
        </Row>
        <TextField
          label="Notes"
          value={gear.notes ?? ''}
          onCommit={(v) => set({ notes: v || undefined }, 'Notes')}
        />
        <Outside gear={gear} set={set} />
      </Panel>
      {gear.kind === 'amp' && <AmpNotes gear={gear} set={set} />}
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
      <UsedBy id={gear.id} />
    </Stack>
  )
}

function Outside({ gear, set }: { gear: Gear; set: (patch: Partial<Gear>, what: string) => void }) {
  const size = gear.size
  const power = gear.power
  const measure = (patch: object) => set({ size: { width_mm: 70, depth_mm: 120, ...size, ...patch } }, 'Size')
  const feed = (patch: object) => set({ power: { voltage_v: 9, ...power, ...patch } }, 'Power')
  if (gear.kind === 'guitar' || gear.kind === 'cable') return null
  return (
    <Row>
      <NumberField
        label="Wide, mm"
        width={84}
        value={size?.width_mm}
        min={1}
        max={3000}
        onCommit={(v) => v && measure({ width_mm: v })}
      />
      <NumberField
        label="Deep, mm"
        width={84}
        value={size?.depth_mm}
        min={1}
        max={3000}
        onCommit={(v) => v && measure({ depth_mm: v })}
      />
      <NumberField
        label="High, mm"
        width={84}
        value={size?.height_mm}
        min={1}
        max={3000}
        onCommit={(v) => measure({ height_mm: v })}
      />
      <NumberField
        label="Weight, g"
        width={90}
        value={gear.weight_g}
        min={0}
        max={200000}
        onCommit={(v) => set({ weight_g: v }, 'Weight')}
      />
      {['pedal', 'controller', 'interface'].includes(gear.kind) && (
        <>
          <NumberField
            label="Power, V"
            width={80}
            value={power?.voltage_v}
            min={0}
            max={250}
            onCommit={(v) => v !== undefined && feed({ voltage_v: v })}
          />
          <NumberField
            label="Draw, mA"
            width={84}
            value={power?.current_ma}
            min={0}
            max={20000}
            onCommit={(v) => feed({ current_ma: v })}
          />
          <Select
            label="Polarity"
            value={power?.polarity ?? 'centre-negative'}
            options={['centre-negative', 'centre-positive', 'none'].map((p) => ({ id: p, name: p }))}
            onChange={(v) => feed({ polarity: v })}
          />
          <Switch
            label="Battery"
            value={Boolean(power?.battery)}
            onChange={(on) => feed({ battery: on || undefined })}
          />
        </>
      )}
    </Row>
  )
}

function AmpNotes({ gear, set }: { gear: Gear; set: (patch: Partial<Gear>, what: string) => void }) {
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
            onChange={(v) => set({ loop: { ...gear.loop, kind: v as 'series' } }, 'Loop')}
          />
        )}
      </Row>
      <Caution>
        A valve amp always needs its speaker or a rated load, and holds lethal voltage even unplugged: inside
        work is for a qualified tech.
        {gear.weight_g !== undefined && gear.weight_g > 15000 && ' Over 15 kg: lift with two.'}
      </Caution>
    </Panel>
  )
}

function BlockSheet({ gear, block, change }: { gear: Gear; block: Block; change: Change }) {
  const put = (patch: Partial<Block>, what: string) =>
    change(what, (g) => ({
      ...g,
      blocks: (g.blocks ?? []).map((b) => (b.id === block.id ? { ...b, ...patch } : b)),
    }))
  return (
    <Panel aria-label={`Block ${block.name}`}>
      <Row>
        <TextField label="Block" value={block.name} onCommit={(name) => put({ name }, 'Block name')} />
        <Select
          label="Does"
          value={block.effect}
          options={effects.map((e) => ({ id: e, name: e }))}
          onChange={(v) => put({ effect: v as Block['effect'] }, 'Effect')}
        />
        <Select
          label="Bypass"
          value={block.bypass}
          options={[
            { id: 'true', name: 'true bypass' },
            { id: 'buffered', name: 'buffered bypass' },
            { id: 'always', name: 'always on' },
          ]}
          onChange={(v) => put({ bypass: v as Block['bypass'] }, 'Bypass')}
        />
        <Switch
          label="Trails"
          value={Boolean(block.trails)}
          onChange={(on) => put({ trails: on || undefined }, 'Trails')}
        />
        {block.trails && (
          <NumberField
            label="Rings on, s"
            width={84}
            value={block.ring_s}
            placeholder="3"
            min={0}
            max={60}
            onCommit={(v) => put({ ring_s: v }, 'Ring')}
          />
        )}
        <Switch
          label="Played by foot"
          value={Boolean(block.rocker)}
          onChange={(on) => put({ rocker: on || undefined }, 'Rocker')}
        />
        <Select
          label="In"
          value={block.inputs ?? 'mono'}
          options={['mono', 'stereo'].map((m) => ({ id: m, name: m }))}
          onChange={(v) => put({ inputs: v as 'mono' }, 'Inputs')}
        />
        <Select
          label="Out"
          value={block.outputs ?? 'mono'}
          options={['mono', 'stereo'].map((m) => ({ id: m, name: m }))}
          onChange={(v) => put({ outputs: v as 'mono' }, 'Outputs')}
        />
      </Row>
      <Controls
        owner={`${gear.name} ${block.name}`}
        list={block.controls ?? []}
        onChange={(what, update) => put({ controls: update(block.controls ?? []) }, what)}
      />
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
