import { values } from '../../api/plan'
import type { Gear } from '../../api/types'
import { unread } from '../../edits/desk'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { Change } from './GearSheet'

type Port = NonNullable<Gear['midi']>
type Message = NonNullable<Port['map']>[number]

/** The channel a box listens on, and what each message does to it. */
export function MidiSheet({ gear, change }: { gear: Gear; change: Change }) {
  const { plan } = useChosen()
  const port = gear.midi
  const put = (update: (p: Port) => Port | undefined, what = 'MIDI') =>
    change(what, (g) => ({ ...g, midi: update(g.midi ?? { channel: 1 }) }))
  const mine = plan.variables.filter((v) => v.gear === gear.id)
  const local = (key: string) => key.slice(gear.id.length + 1)
  const map = port?.map ?? []
  const left = mine.filter((v) => !map.some((m) => m.target === local(v.key)))
  const putMessage = (target: string, patch: Partial<Message>) =>
    put((p) => ({ ...p, map: (p.map ?? []).map((m) => (m.target === target ? { ...m, ...patch } : m)) }))
  const shared = values(plan, 'gear').filter(
    (g) =>
      port &&
      g.id !== gear.id &&
      g.kind !== 'controller' &&
      gear.kind !== 'controller' &&
      g.midi?.channel === port.channel,
  )
  const free = (list: Message[] = map) => {
    const used = new Set(list.map((m) => m.control))
    let n = 20
    while (used.has(n)) n += 1
    return n
  }
  return (
    <Panel aria-label="MIDI">
      <Row>
        <Heading>MIDI</Heading>
        <Switch
          label="On MIDI"
          value={Boolean(port)}
          onChange={(on) => put(() => (on ? { channel: 1 } : undefined))}
        />
        {port && (
          <>
            <NumberField
              label="Channel"
              width={80}
              min={1}
              max={16}
              value={port.channel}
              onCommit={(channel) => channel && put((p) => ({ ...p, channel }), 'MIDI channel')}
            />
            {gear.kind !== 'controller' && (
              <>
                <Select
                  label="Its display counts programs from"
                  value={String(port.counts_from ?? 1)}
                  options={['0', '1'].map((n) => ({ id: n, name: n }))}
                  onChange={(n) => put((p) => ({ ...p, counts_from: Number(n) }))}
                />
                <Switch
                  label="Sends messages too"
                  value={Boolean(port.sends)}
                  onChange={(on) => put((p) => ({ ...p, sends: on || undefined }))}
                />
              </>
            )}
          </>
        )}
      </Row>
      {shared.length > 0 && (
        <Muted role="note">
          {shared.map((g) => g.name).join(', ')} listens on channel {port?.channel} too: in one rig both would
          move.
        </Muted>
      )}
      {port && gear.kind !== 'controller' && (
        <>
          {map.length === 0 && (
            <Muted>
              No message entered: program changes are assumed for presets in their order, control changes from
              20 for the rest.
            </Muted>
          )}
          {map.map((m) => {
            const v = mine.find((x) => local(x.key) === m.target)
            return (
              <Row key={m.target}>
                <b>{v?.label ?? m.target}</b>
                {v && (v.kind === 'preset' || v.kind === 'selector' || v.kind === 'snapshot') && (
                  <Select
                    label={`Message of ${v.label}`}
                    value={m.control === undefined ? 'program change' : 'control change'}
                    options={['program change', 'control change'].map((k) => ({ id: k, name: k }))}
                    onChange={(k) =>
                      putMessage(m.target, { control: k === 'program change' ? undefined : free() })
                    }
                  />
                )}
                {m.control !== undefined && (
                  <NumberField
                    label={`Control change of ${v?.label ?? m.target}`}
                    width={110}
                    min={0}
                    max={127}
                    value={m.control}
                    onCommit={(control) => control !== undefined && putMessage(m.target, { control })}
                  />
                )}
                {v?.kind !== 'knob' && (
                  <TextField
                    label={`Values of ${v?.label ?? m.target}`}
                    value={Object.entries(m.values ?? {})
                      .map(([k, n]) => `${k}=${n}`)
                      .join(', ')}
                    placeholder={v?.switch ? 'on=127, off=0' : 'A=0, B=1'}
                    onCommit={(text) => {
                      const values = pairs(text)
                      if (!values) return unread(`“${text}” is not a list of values. Write A=0, B=1.`)
                      return putMessage(m.target, {
                        values: Object.keys(values).length > 0 ? values : undefined,
                      })
                    }}
                  />
                )}
                <IconButton
                  label={`Drop the message of ${v?.label ?? m.target}`}
                  onPress={() =>
                    put((p) => ({ ...p, map: (p.map ?? []).filter((x) => x.target !== m.target) }))
                  }
                >
                  <Icon name="cross" />
                </IconButton>
              </Row>
            )
          })}
          <Row>
            {left.slice(0, 12).map((v) => (
              <Button
                key={v.key}
                onPress={() =>
                  put((p) => ({
                    ...p,
                    map: [
                      ...(p.map ?? []),
                      { target: local(v.key), control: v.kind === 'preset' ? undefined : free(p.map ?? []) },
                    ],
                  }))
                }
              >
                <Icon name="plus" /> {v.label}
              </Button>
            ))}
          </Row>
        </>
      )}
    </Panel>
  )
}

/** "A=0, B=1" as numbers by name; undefined where a part of it is none. */
function pairs(text: string): Record<string, number> | undefined {
  const list = text
    .split(',')
    .filter((x) => x.trim())
    .map((x) => x.split('=').map((y) => y.trim()))
  if (list.some((x) => x.length !== 2 || !x[0] || !x[1] || !Number.isFinite(Number(x[1])))) return undefined
  return Object.fromEntries(list.map(([k, n]) => [k, Number(n)]))
}
