import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import type { PathNode } from '../../api/types'
import { Icon } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { type Act, Actions } from '../../ui/controls'
import { idOf, put, type Spot, spare } from './chain'
import { useChain } from './useChain'

/** A menu of what is owned and not in the chain yet, and of splits, to be put at a spot. */
export function AddStop({ label, spot, small }: { label: string; spot: Spot; small?: boolean }) {
  const { plan, rig } = usePlace()
  const { path, change, pick } = useChain()
  const add = (name: string, nodes: PathNode[]) => {
    change(`Add ${name} to the chain`, (p) => put(p, nodes, spot))
    pick(nodes[0] && idOf(nodes[0]))
  }
  // What leaves at the guitar stands at its head, wherever it is added.
  const addFirst = (name: string, nodes: PathNode[]) => {
    change(`Add ${name} to the chain`, (p) => [...nodes, ...p])
    pick(nodes[0] && idOf(nodes[0]))
  }
  const free = spare(plan, path)
  const acts: Act[] = free.map((f) => ({ id: f.id, name: f.name, run: () => add(f.name, f.nodes) }))
  if (acts.length === 0)
    acts.push({ id: 'none', name: 'Everything owned is in the chain', run: () => undefined, disabled: true })
  acts.push({
    id: 'split',
    name: 'A split',
    run: () => add('a split', [{ split: { id: freshId(), kind: 'copy', lanes: [{}, {}], join: 'sum' } }]),
  })
  for (const g of values(plan, 'gear'))
    if (rig?.guitars?.includes(g.id))
      for (const j of g.jacks ?? [])
        if (j.id !== 'out')
          acts.push({
            id: `tap ${g.id} ${j.id}`,
            name: `${g.name}'s ${j.name ?? j.id}, on a path of its own`,
            run: () =>
              addFirst(`${g.name}'s ${j.name ?? j.id}`, [
                { split: { id: freshId(), kind: 'tap', from: `${g.id}/${j.id}`, lanes: [{}] } },
              ]),
          })
  return (
    <Actions label={label} plain={small ?? false} acts={acts}>
      <Icon name="plus" /> {!small && label}
    </Actions>
  )
}
