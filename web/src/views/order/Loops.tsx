import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Gear, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Actions } from '../../ui/Actions'
import { Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Muted, Name } from '../../ui/layout'
import { changed, flat, idOf } from './chain'
import { usePathEdit } from './usePathEdit'

/** The loops of every switcher the player owns: what stands in each, which are held on, and
 * where the chain can leave the switcher. */
export function Loops({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const switchers = values(plan, 'gear').filter((g) => g.switcher)
  if (switchers.length === 0) return null
  return (
    <Fold title="Loops">
      {switchers.map((g) => (
        <LoopTable key={g.id} gear={g} rig={rig} />
      ))}
    </Fold>
  )
}

function LoopTable(p: { gear: Gear; rig: Rig }) {
  const { path, change, changePath, nameIn } = usePathEdit()
  const edit = useEdit()
  const g = p.gear
  const name = (id: string) => nameIn(path, id)
  const nodes = flat(path).filter((n) => n.stop)
  const own = p.rig.own_switches ?? []
  const held = (loop: number) => Boolean(p.rig.held?.some((h) => h.switcher === g.id && h.loop === loop))
  const into = (id: string, loop: number | undefined) =>
    changePath(loop ? `${name(id)} into loop ${loop}` : `${name(id)} out of its loop`, (path) =>
      changed(path, id, (n) => ({ ...n, switcher: loop ? g.id : undefined, loop })),
    )
  return (
    <>
      <Name>{g.name}</Name>
      <Table>
        <thead>
          <tr>
            <th scope="col">Loop</th>
            <th scope="col">Stops in it</th>
            <th scope="col">Held on all night</th>
            <th scope="col">The chain can leave before it</th>
          </tr>
        </thead>
        <tbody>
          {(g.switcher?.loops ?? []).map((l, i) => {
            const loop = i + 1
            const inside = nodes.filter((n) => n.switcher === g.id && n.loop === loop)
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a loop is its number
              <tr key={i}>
                <th scope="row">
                  {loop} {l.name}
                </th>
                <td>
                  <Actions
                    label={`Stops in loop ${loop}`}
                    acts={nodes.map((n) => {
                      const here = inside.includes(n)
                      return {
                        id: idOf(n),
                        name: `${here ? 'Take out' : 'Put in'} ${name(idOf(n))}${!here && n.loop ? `, now in ${n.loop}` : ''}`,
                        run: () => into(idOf(n), here ? undefined : loop),
                      }
                    })}
                  >
                    {inside.length > 0 ? (
                      inside.map((n) => name(idOf(n))).join(', ')
                    ) : (
                      <Muted as="span">spare</Muted>
                    )}
                  </Actions>
                </td>
                <td>
                  <Switch
                    hideLabel
                    label={`Loop ${loop} held on`}
                    value={held(loop)}
                    onChange={(on) =>
                      change(`${on ? 'Hold' : 'Release'} loop ${loop} of ${g.name}`, (r) => ({
                        ...r,
                        held: on
                          ? [...(r.held ?? []), { switcher: g.id, loop }]
                          : (r.held ?? []).filter((h) => h.switcher !== g.id || h.loop !== loop),
                      }))
                    }
                  />
                </td>
                <td>
                  {loop > 1 && (
                    <Switch
                      hideLabel
                      label={`Break point before loop ${loop}`}
                      value={Boolean(l.break)}
                      onChange={(on) =>
                        edit.change('gear', g.id, `Break point of ${g.name}`, (x) => ({
                          ...x,
                          switcher: x.switcher && {
                            ...x.switcher,
                            loops: (x.switcher.loops ?? []).map((y, k) =>
                              k === i ? { ...y, break: on || undefined } : y,
                            ),
                          },
                        }))
                      }
                    />
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </Table>
      <Actions
        label="Boxes that keep their own switch"
        acts={nodes.map((n) => {
          const id = idOf(n)
          const keeps = own.includes(id)
          return {
            id,
            name: keeps ? `${name(id)} may get a loop` : `${name(id)} keeps its own switch`,
            run: () =>
              change(keeps ? `${name(id)} may get a loop` : `${name(id)} keeps its own switch`, (r) => {
                const list = (r.own_switches ?? []).filter((k) => k !== id)
                return { ...r, own_switches: keeps ? list : [...list, id] }
              }),
          }
        })}
      >
        {own.length === 0 ? 'Any box may get a loop' : `Own switch: ${own.map(name).join(', ')}`}
      </Actions>
    </>
  )
}

const Table = styled.table`
  border-collapse: collapse; font-size: 13px; margin: 4px 0 10px;
  th { text-align: left; font: 600 14px/1.2 var(--face-label); color: var(--muted); }
  th, td { padding: 3px 18px 3px 0; border-bottom: 1px solid var(--line); }
`
