import { values } from '../../api/plan'
import type { Gear, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Fold } from '../../ui/Fold'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

const own = 'own'

/** Whose tempo each box that keeps one follows. */
export function Clocks({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const gear = values(plan, 'gear')
  const timed = new Set(plan.variables.filter((v) => v.timed).map((v) => v.gear))
  const stands = new Set(plan.rigs.find((r) => r.value.id === rig.id) ? gearIn(rig) : [])
  const devices = gear.filter((g) => timed.has(g.id) && stands.has(g.id))
  const senders = gear.filter((g) => ['pedal', 'controller', 'interface', 'amp'].includes(g.kind))
  if (devices.length === 0) return null
  const follow = (g: Gear, from: string) =>
    edit.change('rigs', rig.id, `Clock of ${g.name}`, (r) => {
      const without = (r.clocks ?? [])
        .map((c) => ({ ...c, to: (c.to ?? []).filter((id) => id !== g.id) }))
        .filter((c) => c.to.length > 0)
      if (from === own) return { ...r, clocks: without.length > 0 ? without : undefined }
      const there = without.find((c) => c.from === from)
      return {
        ...r,
        clocks: there
          ? without.map((c) => (c === there ? { ...c, to: [...c.to, g.id] } : c))
          : [...without, { from, to: [g.id] }],
      }
    })
  return (
    <Fold title="Who sends the tempo">
      <Muted>
        What is bound to a note in a box that follows a clock needs no tap and no preset. A tap box is wired
        by what its switch does.
      </Muted>
      <Row>
        {devices.map((g) => (
          <Select
            key={g.id}
            label={`${g.name} follows`}
            value={rig.clocks?.find((c) => c.to?.includes(g.id))?.from ?? own}
            options={[
              { id: own, name: 'its own tempo' },
              ...senders
                .filter((s) => s.id !== g.id)
                .map((s) => ({ id: s.id, name: `the clock of ${s.name}` })),
            ]}
            onChange={(v) => void follow(g, v)}
          />
        ))}
      </Row>
    </Fold>
  )
}

/** The gear of a rig's chain, lanes included. */
function gearIn(rig: Rig): string[] {
  const stops = (nodes: Rig['path']): string[] =>
    (nodes ?? []).flatMap((n) =>
      n.split
        ? (n.split.lanes ?? []).flatMap((l) => stops(l.nodes))
        : n.stop
          ? [n.stop.split('/')[0] ?? '']
          : [],
    )
  return stops(rig.path)
}
