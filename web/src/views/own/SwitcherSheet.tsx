import type { Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, IconButton, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import type { Change } from './GearSheet'

type Switcher = NonNullable<Gear['switcher']>

/** The first name of a relay that none has. */
function freeRelay(relays: { id: string }[]): string {
  let n = 1
  while (relays.some((r) => r.id === `relay-${n}`)) n += 1
  return `relay-${n}`
}

/** The loops of a loop switcher. */
export function SwitcherSheet({ gear, change }: { gear: Gear; change: Change }) {
  const loops = gear.switcher?.loops ?? []
  const put = (update: (s: Switcher) => Switcher | undefined) =>
    change('Loops', (g) => ({ ...g, switcher: update(g.switcher ?? { loops: [] }) }))
  const patch = (at: number, more: Partial<Switcher['loops'][number]>) =>
    put((s) => ({ ...s, loops: s.loops.map((l, i) => (i === at ? { ...l, ...more } : l)) }))
  return (
    <Panel aria-label="Loops">
      <Heading>Loops</Heading>
      {loops.length === 0 && <Muted>It has no loops: it only sends messages or works an amp.</Muted>}
      {loops.map((l, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a loop is its number
        <Row key={i}>
          <TextField
            label={`Name of loop ${i + 1}`}
            value={l.name ?? ''}
            onCommit={(name) => patch(i, { name: name || undefined })}
          />
          <Switch
            label="Stereo"
            value={Boolean(l.stereo)}
            onChange={(on) => patch(i, { stereo: on || undefined })}
          />
          {i > 0 && (
            <Switch
              label="Break point before it"
              value={Boolean(l.break)}
              onChange={(on) => patch(i, { break: on || undefined })}
            />
          )}
          {i === loops.length - 1 && (
            <IconButton
              label={`Remove loop ${i + 1}`}
              onPress={() =>
                put((s) => (s.loops.length > 1 ? { ...s, loops: s.loops.slice(0, -1) } : undefined))
              }
            >
              <Icon name="cross" />
            </IconButton>
          )}
        </Row>
      ))}
      <Row>
        <NumberField
          label="Banks of programs"
          width={120}
          value={gear.banks}
          min={1}
          max={128}
          placeholder="not known"
          onCommit={(banks) => change('Banks', (g) => ({ ...g, banks }))}
        />
        <Switch
          label="Bank switches pass over empty banks"
          value={Boolean(gear.skips_empty_banks)}
          onChange={(on) => change('Banks', (g) => ({ ...g, skips_empty_banks: on || undefined }))}
        />
        <Button onPress={() => put((s) => ({ ...s, loops: [...s.loops, {}] }))}>
          <Icon name="plus" /> Add a loop
        </Button>
        {loops.length > 0 && (
          <Switch
            label="Buffer at its input"
            value={Boolean(gear.switcher?.buffered)}
            onChange={(on) => put((s) => ({ ...s, buffered: on || undefined }))}
          />
        )}
        {loops.length > 0 && (
          <Switch
            label="Can put its loops in any order"
            value={Boolean(gear.switcher?.reorders)}
            onChange={(on) => put((s) => ({ ...s, reorders: on || undefined }))}
          />
        )}
      </Row>
      <Row>
        {(gear.relays ?? []).map((r, i) => (
          <TextField
            key={r.id}
            label={`Relay ${i + 1}`}
            value={r.name ?? ''}
            placeholder={r.id}
            onCommit={(name) =>
              change('Relay', (g) => ({
                ...g,
                relays: (g.relays ?? []).map((x) => (x.id === r.id ? { ...x, name: name || undefined } : x)),
              }))
            }
          />
        ))}
        <Button
          onPress={() =>
            change('Add a relay', (g) => ({
              ...g,
              relays: [...(g.relays ?? []), { id: freeRelay(g.relays ?? []) }],
            }))
          }
        >
          <Icon name="plus" /> Add a relay
        </Button>
        {(gear.relays ?? []).length > 0 && (
          <Button
            onPress={() => change('Remove a relay', (g) => ({ ...g, relays: (g.relays ?? []).slice(0, -1) }))}
          >
            Remove the last relay
          </Button>
        )}
      </Row>
    </Panel>
  )
}
