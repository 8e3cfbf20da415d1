import styled from 'styled-components'
import type { Gear } from '../../api/types'
import { unread } from '../../edits/desk'
import { Icon } from '../../marks/marks'
import { Button, IconButton, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Caution, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { Change } from './GearSheet'
import { numbers } from './numbers'

type Supply = NonNullable<Gear['supply']>
type Output = NonNullable<Supply['outputs']>[number]

/** The outputs of a supply, and what leads it allows between them. */
export function SupplySheet({ gear, change }: { gear: Gear; change: Change }) {
  const s = gear.supply
  const set = (patch: Partial<Supply>, what: string) =>
    change(what, (g) => ({ ...g, supply: { ...g.supply, ...patch } }))
  const put = (id: string, patch: Partial<Output>) =>
    change(`Output ${id}`, (g) => ({
      ...g,
      supply: {
        ...g.supply,
        outputs: g.supply?.outputs?.map((o) => (o.id === id ? { ...o, ...patch } : o)),
      },
    }))
  const outputs = s?.outputs ?? []
  const allows = (lead: string) => s?.doubles?.includes(lead) ?? false
  const allow = (lead: string, on: boolean) =>
    change('Doubling leads', (g) => ({
      ...g,
      supply: {
        ...g.supply,
        doubles: [...(g.supply?.doubles ?? []).filter((x) => x !== lead), ...(on ? [lead] : [])],
      },
    }))
  const add = () =>
    change('Outputs', (g) => {
      const all = g.supply?.outputs ?? []
      const last = all.at(-1)
      const id = freeNumber(all)
      const made = last ? { ...last, id, name: undefined } : { id, voltages_v: [9], current_ma: 100 }
      return { ...g, supply: { ...g.supply, outputs: [...all, made] } }
    })
  return (
    <Panel role="region" aria-label="Outputs">
      <Row>
        <Heading>Outputs ({outputs.length})</Heading>
        <NumberField
          label="Total current, mA"
          width={100}
          value={s?.total_ma}
          placeholder="their sum"
          min={0}
          max={100000}
          onCommit={(v) => set({ total_ma: v }, 'Total current')}
        />
        <TextField
          label="Mains, V"
          value={s?.mains_v ?? ''}
          placeholder="100-240"
          onCommit={(v) => set({ mains_v: v || undefined }, 'Mains')}
        />
        <Switch
          label="Allows current-doubling leads"
          value={allows('current-doubling')}
          onChange={(on) => allow('current-doubling', on)}
        />
        <Switch
          label="Allows voltage-doubling leads"
          value={allows('voltage-doubling')}
          onChange={(on) => allow('voltage-doubling', on)}
        />
      </Row>
      {outputs.length === 0 && <Muted>What it gives is not known yet: add its outputs.</Muted>}
      {outputs.length > 0 && (
        <Lines aria-label={`Outputs of ${gear.name}`}>
          <thead>
            <tr>
              {['Name', 'Volts', 'mA', 'Polarity', 'Connector', 'AC', 'Isolated'].map((h) => (
                <th scope="col" key={h}>
                  {h}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {outputs.map((o) => (
              <OutputLine
                key={o.id}
                output={o}
                put={(patch) => put(o.id, patch)}
                remove={() =>
                  change(`Output ${o.id}`, (g) => ({
                    ...g,
                    supply: { ...g.supply, outputs: g.supply?.outputs?.filter((x) => x.id !== o.id) },
                  }))
                }
              />
            ))}
          </tbody>
        </Lines>
      )}
      <Row>
        <Button onPress={add}>
          <Icon name="plus" /> Add an output
        </Button>
      </Row>
      <Caution>On tour, check the mains voltage it is set to before you plug it in.</Caution>
    </Panel>
  )
}

/** The lowest number that no output has. */
function freeNumber(outputs: Output[]): string {
  let n = 1
  while (outputs.some((o) => o.id === String(n))) n += 1
  return String(n)
}

function OutputLine({
  output: o,
  put,
  remove,
}: {
  output: Output
  put: (patch: Partial<Output>) => unknown
  remove: () => unknown
}) {
  return (
    <tr>
      <td style={{ width: '15%' }}>
        <TextField
          label={`Name of output ${o.id}`}
          hideLabel
          value={o.name ?? ''}
          placeholder={o.id}
          onCommit={(name) => put({ name: name || undefined })}
        />
      </td>
      <td style={{ width: '15%' }}>
        <TextField
          label={`Volts of output ${o.id}`}
          hideLabel
          value={o.voltages_v.join(', ')}
          onCommit={(text) => {
            const voltages_v = numbers(text)
            return voltages_v ? put({ voltages_v }) : unread(`“${text}” is not a voltage. Write 9, or 9, 18.`)
          }}
        />
      </td>
      <td>
        <NumberField
          label={`mA of output ${o.id}`}
          hideLabel
          width={74}
          value={o.current_ma}
          min={0}
          max={20000}
          onCommit={(v) => put({ current_ma: v ?? 0 })}
        />
      </td>
      <td>
        <Select
          label={`Polarity of output ${o.id}`}
          hideLabel
          value={o.polarity ?? 'centre-negative'}
          options={['centre-negative', 'centre-positive', 'none'].map((p) => ({ id: p, name: p }))}
          onChange={(v) => put({ polarity: v as Output['polarity'] })}
        />
      </td>
      <td style={{ width: '20%' }}>
        <TextField
          label={`Connector of output ${o.id}`}
          hideLabel
          value={o.connector ?? ''}
          placeholder="2.1 mm barrel"
          onCommit={(v) => put({ connector: v || undefined })}
        />
      </td>
      <td>
        <Switch
          label={`AC on output ${o.id}`}
          hideLabel
          value={Boolean(o.ac)}
          onChange={(on) => put({ ac: on || undefined })}
        />
      </td>
      <td>
        <Switch
          label={`Output ${o.id} is isolated`}
          hideLabel
          value={!o.shared}
          onChange={(on) => put({ shared: on ? undefined : true })}
        />
      </td>
      <td>
        <IconButton label={`Remove output ${o.id}`} onPress={remove}>
          <Icon name="cross" />
        </IconButton>
      </td>
    </tr>
  )
}

const Lines = styled.table`
  border-collapse: collapse; font-size: 13px; width: 100%;
  th { text-align: left; font: 600 13px/1.2 var(--face-label); color: var(--muted); }
  td { padding: 2px 6px 2px 0; vertical-align: top; }
  input { width: 100%; min-width: 0; }
`
