import type { Gear } from '../../api/types'
import { NumberField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { Change } from './GearSheet'

type Cable = NonNullable<Gear['cable']>

/** A made-up lead, or stock that is cut to length. */
export function CableSheet({ gear, change }: { gear: Gear; change: Change }) {
  const c = gear.cable
  const put = (patch: Partial<Cable>, what: string) =>
    change(what, (g) => ({ ...g, cable: { ...g.cable, ...patch } }))
  return (
    <Panel role="region" aria-label="Cable">
      <Heading>Cable</Heading>
      <Row>
        <NumberField
          label="Capacitance, pF a metre"
          width={150}
          value={c?.pf_per_m}
          placeholder="100"
          min={0}
          max={10000}
          onCommit={(v) => put({ pf_per_m: v }, 'Capacitance')}
        />
        <NumberField
          label="Length, m"
          width={100}
          value={c?.length_m}
          placeholder="cut"
          min={0}
          max={1000}
          onCommit={(v) => put({ length_m: v }, 'Length')}
        />
        <Select
          label="Plugs"
          value={c?.plugs ?? 'straight'}
          options={['straight', 'angled', 'flat'].map((p) => ({ id: p, name: p }))}
          onChange={(v) => put({ plugs: v as Cable['plugs'] }, 'Plugs')}
        />
      </Row>
      <Muted>
        A lead with a length is used as it is; stock without one is cut. Say in Order, under Cables, where it
        goes.
      </Muted>
    </Panel>
  )
}
