import { useEffects } from '../../api/effects'
import type { Block, Gear } from '../../api/types'
import { Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField, TextField } from '../../ui/fields'
import { Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { assumedIn, TheyAreSo } from './assumed'
import { Circuit, CircuitsBySelector } from './Circuits'
import { Controls } from './Controls'
import type { Change } from './GearSheet'
import { PotFields } from './GuitarSheet'

/** One circuit of a thing: what it does, how it is bypassed and wired, and its controls. */
export function BlockSheet({ gear, block, change }: { gear: Gear; block: Block; change: Change }) {
  const effects = useEffects()
  const patch = (update: (b: Block) => Block, what: string) =>
    change(what, (g) => ({
      ...g,
      blocks: (g.blocks ?? []).map((b) => (b.id === block.id ? update(b) : b)),
    }))
  const assumed = assumedIn(gear, `blocks/${block.id}/`)
  const put = (some: Partial<Block>, what: string) => patch((b) => ({ ...b, ...some }), what)
  return (
    <Panel aria-label={`Block ${block.name}`}>
      <Row>
        <TextField label="Block" value={block.name} onCommit={(name) => put({ name }, 'Block name')} />
        <Select
          label="Does"
          value={block.effect}
          options={[...effects.values()].map((t) => ({ id: t.effect, name: t.name }))}
          onChange={(v) =>
            put({ effect: v as Block['effect'], model: undefined, model_at: undefined }, 'Effect')
          }
        />
        <Circuit block={block} put={put} />
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
            label="Ring time, s"
            width={84}
            value={block.ring_s}
            note={assumed('ring_s', block.ring_s)}
            placeholder="3"
            min={0}
            max={60}
            onCommit={(v) => put({ ring_s: v }, 'Ring')}
          />
        )}
        {block.trails && (
          <Switch
            label="Rings through a change of preset"
            value={Boolean(block.spills)}
            onChange={(on) => put({ spills: on || undefined }, 'Spill-over')}
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
      <CircuitsBySelector gear={gear} block={block} patch={patch} />
      <Controls
        owner={`${gear.name} ${block.name}`}
        list={block.controls ?? []}
        onChange={(what, update) => patch((b) => ({ ...b, controls: update(b.controls ?? []) }), what)}
      />
      <Fold title="Electrics">
        <Row $top>
          <Select
            label="Made for"
            value={block.level ?? 'instrument'}
            options={['instrument', 'line', 'speaker', 'any'].map((l) => ({ id: l, name: `${l} level` }))}
            onChange={(v) => put({ level: v as Block['level'] }, 'Level')}
          />
          <Select
            label="Gives"
            value={block.out_level ?? 'same'}
            options={[
              { id: 'same', name: 'what it gets' },
              ...['instrument', 'line', 'speaker'].map((l) => ({ id: l, name: `${l} level` })),
            ]}
            onChange={(v) =>
              put({ out_level: v === 'same' ? undefined : (v as Block['out_level']) }, 'Level')
            }
          />
          <NumberField
            label={block.effect === 'speaker' || block.effect === 'load' ? 'Rated, ohm' : 'Input, ohm'}
            width={110}
            value={block.input_ohm}
            note={assumed('input_ohm', block.input_ohm)}
            min={0}
            max={100000000}
            onCommit={(v) => put({ input_ohm: v }, 'Input impedance')}
          />
          <NumberField
            label="Input, pF"
            width={84}
            value={block.input_pf}
            note={assumed('input_pf', block.input_pf)}
            placeholder="none"
            min={0}
            max={1000000}
            onCommit={(v) => put({ input_pf: v }, 'Input capacitance')}
          />
          <NumberField
            label="Output, ohm"
            width={110}
            value={block.output_ohm}
            note={assumed('output_ohm', block.output_ohm)}
            min={0}
            max={10000000}
            onCommit={(v) => put({ output_ohm: v }, 'Output impedance')}
          />
          {block.bypass === 'true' && (
            <NumberField
              label="Switched off, pF"
              width={84}
              value={block.bypass_pf}
              note={assumed('bypass_pf', block.bypass_pf)}
              placeholder="30"
              min={0}
              max={1000000}
              onCommit={(v) => put({ bypass_pf: v }, 'Bypass capacitance')}
            />
          )}
          {block.effect === 'volume' && block.passive && (
            <PotFields
              of="Pot"
              pot={block.pot}
              put={(update) => patch((b) => ({ ...b, pot: update(b.pot) }), 'Pot')}
            />
          )}
          <NumberField
            label="Dry latency, ms"
            width={100}
            value={block.latency_ms}
            note={assumed('latency_ms', block.latency_ms)}
            min={0}
            max={1000}
            onCommit={(v) => put({ latency_ms: v }, 'Latency')}
          />
          <Switch
            label="Turns polarity"
            value={Boolean(block.inverts)}
            onChange={(on) => put({ inverts: on || undefined }, 'Polarity')}
          />
          <Switch
            label="Passive"
            value={Boolean(block.passive)}
            onChange={(on) => put({ passive: on || undefined }, 'Passive')}
          />
          <Switch
            label="Isolated output"
            value={Boolean(block.isolated)}
            onChange={(on) => put({ isolated: on || undefined }, 'Isolation')}
          />
          <TheyAreSo gear={gear} parts={[`blocks/${block.id}/`]} change={change} />
        </Row>
      </Fold>
    </Panel>
  )
}
