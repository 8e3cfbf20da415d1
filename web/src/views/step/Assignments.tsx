import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { withRelay } from '../../state/there'
import { Fold } from '../../ui/Fold'
import { Muted, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { chosen, doings, recalls } from '../doings'
import { keysOf } from '../order/chain'

type Assignment = NonNullable<Rig['assignments']>[number]

/** What the switches of controllers do in this rig: an amp footswitch, a remote switch. */
export function Assignments({ rig }: { rig: Rig }) {
  const { plan, here, destination } = useChosen()
  const edit = useEdit()
  // What stands in the rig, and where it is looked at.
  const inRig = new Set([...keysOf(rig.path ?? []), ...keysOf(here?.path ?? [])].map((k) => k.split('/')[0]))
  const options = [
    ...doings(
      plan.variables.filter((v) => inRig.has(v.gear)),
      (key) => key,
    ),
    ...recalls,
  ]
  const controllers = values(plan, 'gear').filter(
    (g) => g.kind === 'controller' && (g.footswitches ?? []).length > 0,
  )
  const put = (gear: string, sw: string, label: string, patch: Partial<Assignment>) =>
    edit.change('rigs', rig.id, `What ${label} does`, (r) => {
      const all = r.assignments ?? []
      const mine = all.find((a) => a.gear === gear && a.switch === sw) ?? { gear, switch: sw }
      const next = { ...mine, ...patch }
      const others = all.filter((a) => a.gear !== gear || a.switch !== sw)
      return { ...r, assignments: next.press || next.hold || next.double ? [...others, next] : others }
    })
  return (
    <Fold title="Controllers’ switches">
      {controllers.length === 0 && (
        <Muted>No controller is owned yet. An amp footswitch or a remote switch is added under Own.</Muted>
      )}
      <Stack $gap={8}>
        {controllers.flatMap((g) =>
          (g.footswitches ?? []).map((s) => {
            const mine = rig.assignments?.find((a) => a.gear === g.id && a.switch === s.id)
            const label = `${g.name} ${s.label}`
            return (
              <Line key={`${g.id}/${s.id}`}>
                {(['press', 'hold'] as const).map((gesture) => {
                  const { id, list } = chosen(mine?.[gesture], options)
                  return (
                    <Select
                      key={gesture}
                      label={`${label}, ${gesture}`}
                      value={id}
                      options={list}
                      onChange={(to) =>
                        put(g.id, s.id, label, { [gesture]: list.find((o) => o.id === to)?.press })
                      }
                    />
                  )
                })}
              </Line>
            )
          }),
        )}
        {controllers.flatMap((g) =>
          (g.relays ?? []).map((relay) => (
            <Select
              key={`${g.id}/${relay.id}`}
              label={`${g.name} ${relay.name ?? relay.id}, plugged into`}
              value={
                (here ?? rig).relays?.find((l) => l.controller === g.id && l.relay === relay.id)?.target ??
                'nothing'
              }
              options={[
                { id: 'nothing', name: 'nothing' },
                ...plan.variables
                  .filter((v) => inRig.has(v.gear) && (v.switch || v.options?.length === 2))
                  .map((v) => ({ id: v.key, name: v.label })),
              ]}
              onChange={(target) =>
                edit.change('rigs', rig.id, `What ${g.name} ${relay.name ?? relay.id} works`, (r) =>
                  withRelay(
                    r,
                    destination?.id,
                    { controller: g.id, relay: relay.id },
                    target === 'nothing' ? undefined : target,
                  ),
                )
              }
            />
          )),
        )}
      </Stack>
    </Fold>
  )
}

const Line = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 8px;`
