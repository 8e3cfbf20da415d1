import type { Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, IconButton, NumberField, Select, Switch, TextField } from '../../ui/controls'
import { Caution, Heading, Muted, Panel, Row } from '../../ui/layout'
import type { Change } from './GearSheet'

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
    set(
      { doubles: [...(s?.doubles ?? []).filter((x) => x !== lead), ...(on ? [lead] : [])] },
      'Doubling leads',
    )
  const last = outputs[outputs.length - 1]
  const free = () => {
    let n = 1
    while (outputs.some((o) => o.id === String(n))) n += 1
    return String(n)
  }
  return (
    <Panel role="region" aria-label="Outputs">
      <Row>
        <Heading>Outputs ({outputs.length})</Heading>
        <NumberField
          label="In all, mA"
          width={100}
          value={s?.total_ma}
          placeholder="their sum"
          min={0}
          max={100000}
          onCommit={(v) => set({ total_ma: v }, 'Current in all')}
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
      {outputs.map((o) => (
        <Row key={o.id}>
          <TextField
            label={`Output ${o.id}`}
            value={o.name ?? ''}
            placeholder={o.id}
            onCommit={(name) => put(o.id, { name: name || undefined })}
          />
          <TextField
            label={`Volts of ${o.id}`}
            value={o.voltages_v.join(', ')}
            onCommit={(v) =>
              put(o.id, {
                voltages_v: v
                  .split(/[\s,;/]+/)
                  .filter(Boolean)
                  .map(Number),
              })
            }
          />
          <NumberField
            label={`mA of ${o.id}`}
            width={90}
            value={o.current_ma}
            min={0}
            max={20000}
            onCommit={(v) => put(o.id, { current_ma: v ?? 0 })}
          />
          <Select
            label={`Polarity of ${o.id}`}
            value={o.polarity ?? 'centre-negative'}
            options={['centre-negative', 'centre-positive', 'none'].map((p) => ({ id: p, name: p }))}
            onChange={(v) => put(o.id, { polarity: v as Output['polarity'] })}
          />
          <TextField
            label={`Connector of ${o.id}`}
            value={o.connector ?? ''}
            placeholder="2.1 mm barrel"
            onCommit={(v) => put(o.id, { connector: v || undefined })}
          />
          <Switch label="AC" value={Boolean(o.ac)} onChange={(on) => put(o.id, { ac: on || undefined })} />
          <Switch
            label="Isolated"
            value={!o.shared}
            onChange={(on) => put(o.id, { shared: on ? undefined : true })}
          />
          <IconButton
            label={`Remove output ${o.id}`}
            onPress={() =>
              change(`Output ${o.id}`, (g) => ({
                ...g,
                supply: { ...g.supply, outputs: g.supply?.outputs?.filter((x) => x.id !== o.id) },
              }))
            }
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      <Row>
        <Button
          onPress={() =>
            set(
              {
                outputs: [
                  ...outputs,
                  last
                    ? { ...last, id: free(), name: undefined }
                    : { id: free(), voltages_v: [9], current_ma: 100 },
                ],
              },
              'Outputs',
            )
          }
        >
          <Icon name="plus" /> Add an output
        </Button>
      </Row>
      <Caution>On tour, check the mains voltage it is set to before you plug it in.</Caution>
    </Panel>
  )
}
