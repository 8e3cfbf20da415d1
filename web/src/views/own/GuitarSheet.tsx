import { freshId } from '../../api/client'
import type { Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, IconButton, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { assumedIn, TheyAreSo } from './assumed'
import type { Change } from './GearSheet'
import { Positions } from './Positions'

type Pickup = NonNullable<Gear['pickups']>[number]
type Wiring = NonNullable<Gear['wiring']>
type Pot = NonNullable<Wiring['volume']>

/** A guitar as a circuit: its pickups, and the pots and capacitors before its jack. */
export function GuitarSheet({ gear, change }: { gear: Gear; change: Change }) {
  const wire = (patch: Partial<Wiring>, what: string) =>
    change(what, (g) => ({ ...g, wiring: { ...g.wiring, ...patch } }))
  const put = (id: string, patch: Partial<Pickup>) =>
    change('Pickup', (g) => ({
      ...g,
      pickups: g.pickups?.map((p) => (p.id === id ? { ...p, ...patch } : p)),
    }))
  const tone = (patch: Partial<NonNullable<Wiring['tone']>>, what: string) =>
    change(what, (g) => ({
      ...g,
      wiring: { ...g.wiring, tone: g.wiring?.tone && { ...g.wiring.tone, ...patch } },
    }))
  const bleed = (patch: Partial<NonNullable<Wiring['bleed']>>) =>
    change('Bleed', (g) => ({
      ...g,
      wiring: { ...g.wiring, bleed: g.wiring?.bleed && { ...g.wiring.bleed, ...patch } },
    }))
  const w = gear.wiring
  return (
    <Panel role="region" aria-label="Pickups and wiring">
      <Heading>Pickups and wiring</Heading>
      {(gear.pickups ?? []).map((p) => (
        <Row key={p.id} $top>
          <TextField label="Pickup" value={p.name} onCommit={(name) => put(p.id, { name })} />
          <NumberField
            label="Resistance, ohm"
            width={110}
            value={p.resistance_ohm}
            note={assumedIn(gear, `pickups/${p.id}/`)('resistance_ohm', p.resistance_ohm)}
            min={0}
            max={1000000}
            onCommit={(v) => put(p.id, { resistance_ohm: v })}
          />
          <NumberField
            label="Inductance, H"
            width={100}
            value={p.inductance_h}
            note={assumedIn(gear, `pickups/${p.id}/`)('inductance_h', p.inductance_h)}
            min={0}
            max={100}
            onCommit={(v) => put(p.id, { inductance_h: v })}
          />
          <NumberField
            label="Capacitance, pF"
            width={110}
            value={p.capacitance_pf}
            note={assumedIn(gear, `pickups/${p.id}/`)('capacitance_pf', p.capacitance_pf)}
            min={0}
            max={100000}
            onCommit={(v) => put(p.id, { capacitance_pf: v })}
          />
          <NumberField
            label="Output, mV"
            width={90}
            value={p.output_mv_rms}
            note={assumedIn(gear, `pickups/${p.id}/`)('output_mv_rms', p.output_mv_rms)}
            min={0}
            max={10000}
            onCommit={(v) => put(p.id, { output_mv_rms: v })}
          />
          {(gear.jacks ?? []).length > 1 && (
            <Select
              label="Output jack"
              value={p.jack ?? 'main'}
              options={[
                { id: 'main', name: 'the main output' },
                ...(gear.jacks ?? []).map((j) => ({ id: j.id, name: j.name ?? j.id })),
              ]}
              onChange={(id) => put(p.id, { jack: id === 'main' ? undefined : id })}
            />
          )}
          <IconButton
            label={`Remove the ${p.name} pickup`}
            onPress={() =>
              change('Pickup', (g) => ({ ...g, pickups: g.pickups?.filter((x) => x.id !== p.id) }))
            }
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      {(gear.pickups ?? []).length > 0 && (
        <Muted>
          Output: on strummed chords, on full through 3 m of cable. Empty fields use the usual values, and
          reports say so.
        </Muted>
      )}
      <Row>
        <Button
          onPress={() => {
            const id = freshId()
            change('Pickup', (g) => ({
              ...g,
              pickups: [...(g.pickups ?? []), { id, name: `pickup ${(g.pickups ?? []).length + 1}` }],
            }))
          }}
        >
          <Icon name="plus" /> Add a pickup
        </Button>
        <TheyAreSo gear={gear} parts={['pickups/']} change={change} />
      </Row>
      <Positions gear={gear} change={change} />
      {!w && (
        <Muted>
          The pots are not known: the usual ones for its pickups are assumed, and reports say so. Enter them
          for the right treble.
        </Muted>
      )}
      <Row>
        <Switch
          label="Volume pot"
          value={Boolean(w?.volume)}
          onChange={(on) =>
            wire(on ? { volume: { ohm: 250000 } } : { volume: undefined, bleed: undefined }, 'Volume pot')
          }
        />
        {w?.volume && (
          <PotFields
            of="Volume pot"
            pot={w.volume}
            put={(update) =>
              change('Volume pot', (g) => ({
                ...g,
                wiring: { ...g.wiring, volume: update(g.wiring?.volume) },
              }))
            }
          />
        )}
      </Row>
      <Row>
        <Switch
          label="Tone pot"
          value={Boolean(w?.tone)}
          onChange={(on) =>
            wire({ tone: on ? { pot: { ohm: 250000 }, capacitor_nf: 22 } : undefined }, 'Tone pot')
          }
        />
        {w?.tone && (
          <>
            <PotFields
              of="Tone pot"
              pot={w.tone.pot}
              put={(update) =>
                change('Tone pot', (g) => ({
                  ...g,
                  wiring: {
                    ...g.wiring,
                    tone: g.wiring?.tone && {
                      ...g.wiring.tone,
                      pot: update(g.wiring.tone.pot) ?? g.wiring.tone.pot,
                    },
                  },
                }))
              }
            />
            <NumberField
              label="Tone capacitor, nF"
              width={120}
              value={w.tone.capacitor_nf}
              min={0}
              max={100000}
              onCommit={(v) => tone({ capacitor_nf: v ?? 0 }, 'Capacitor')}
            />
            <Select
              label="Tone wired"
              value={w.tone.vintage ? 'vintage' : 'modern'}
              options={[
                { id: 'modern', name: 'before the volume (modern)' },
                { id: 'vintage', name: 'after the volume (vintage)' },
              ]}
              onChange={(v) => tone({ vintage: v === 'vintage' || undefined }, 'Tone wiring')}
            />
          </>
        )}
      </Row>
      {w?.volume && (
        <Row>
          <Switch
            label="Treble bleed"
            value={Boolean(w.bleed)}
            onChange={(on) => wire({ bleed: on ? { capacitance_pf: 1000 } : undefined }, 'Treble bleed')}
          />
          {w.bleed && (
            <>
              <NumberField
                label="Bleed, pF"
                width={100}
                value={w.bleed.capacitance_pf}
                min={0}
                max={1000000}
                onCommit={(v) => bleed({ capacitance_pf: v ?? 0 })}
              />
              <NumberField
                label="Bleed, ohm"
                width={110}
                value={w.bleed.resistance_ohm}
                placeholder="none"
                min={0}
                max={100000000}
                onCommit={(v) => bleed({ resistance_ohm: v })}
              />
              <Switch
                label="Resistor in series"
                value={Boolean(w.bleed.series)}
                onChange={(on) => bleed({ series: on || undefined })}
              />
            </>
          )}
        </Row>
      )}
    </Panel>
  )
}

/** A pot's resistance and taper. */
export function PotFields({
  of,
  pot,
  put,
}: {
  of: string
  pot: Pot | undefined
  put: (update: (pot: Pot | undefined) => Pot | undefined) => unknown
}) {
  return (
    <>
      <NumberField
        label={`${of}, ohm`}
        width={120}
        value={pot?.ohm}
        placeholder="not known"
        min={0}
        max={100000000}
        onCommit={(v) => put((now) => (v === undefined ? undefined : { ...now, ohm: v }))}
      />
      {pot && (
        <Select
          label={`${of}, taper`}
          value={pot.taper ?? 'audio'}
          options={[
            { id: 'linear', name: 'linear' },
            { id: 'audio', name: 'audio, 15 % half way' },
            { id: 'audio-10', name: 'audio, 10 % half way' },
          ]}
          onChange={(v) => put((now) => now && { ...now, taper: v as Pot['taper'] })}
        />
      )}
    </>
  )
}
