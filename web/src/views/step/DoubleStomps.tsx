import { useState } from 'react'
import type { Report, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { Button, IconButton } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

/** Pairs of neighbouring switches that the player presses under one shoe. */
export function DoubleStomps({ rig, report }: { rig: Rig; report: Report }) {
  const edit = useEdit()
  const [a, setA] = useState<string | undefined>()
  const [b, setB] = useState<string | undefined>()
  const pairs = rig.floor.double_stomps ?? []
  const switches = report.floor.switches.map((s) => ({
    id: s.key,
    name: s.name,
  }))
  const label = (key: string) => report.floor.switches.find((s) => s.key === key)?.label ?? key
  const set = (what: string, update: (list: typeof pairs) => typeof pairs) =>
    edit.change('rigs', rig.id, what, (r) => ({
      ...r,
      floor: { ...r.floor, double_stomps: update(r.floor.double_stomps ?? []) },
    }))
  const there = pairs.some((p) => (p.a === a && p.b === b) || (p.a === b && p.b === a))
  return (
    <Fold title={`Double stomps (${pairs.length})`}>
      {pairs.length === 0 && <Muted>Two neighbouring switches under one shoe count as one press.</Muted>}
      {pairs.map((p) => (
        <Row key={`${p.a} ${p.b}`}>
          <span>
            {label(p.a)} and {label(p.b)}
          </span>
          <IconButton
            label={`Never ${label(p.a)} and ${label(p.b)} together`}
            onPress={() =>
              set(`No double stomp on ${label(p.a)} and ${label(p.b)}`, (list) =>
                list.filter((x) => x.a !== p.a || x.b !== p.b),
              )
            }
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      <Row>
        <Select label="One switch" value={a} options={switches} onChange={setA} />
        <Select label="With" value={b} options={switches.filter((s) => s.id !== a)} onChange={setB} />
        <Button
          isDisabled={!a || !b || a === b || there}
          onPress={() =>
            a && b && set(`Double stomp on ${label(a)} and ${label(b)}`, (list) => [...list, { a, b }])
          }
        >
          Allow
        </Button>
      </Row>
    </Fold>
  )
}
