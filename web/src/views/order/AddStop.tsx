import { answer, client, freshId, Problem } from '../../api/client'
import { useKinds, values } from '../../api/plan'
import type { Kind, PathNode } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useKeptJSON } from '../../state/kept'
import { useNotices } from '../../state/notices'
import { useChosen } from '../../state/place'
import { withPath } from '../../state/there'
import { type Act, Actions } from '../../ui/Actions'
import { idOf, put, type Spot, spare } from './chain'
import { useChain } from './useChain'

const areWords = (x: unknown): x is string[] => Array.isArray(x) && x.every((w) => typeof w === 'string')
const none: string[] = []

/** A menu of what is owned and not in the chain yet, of splits, and of kinds that are not owned, the last used first, to be put at
 * a spot. */
export function AddStop({ label, spot, small }: { label: string; spot: Spot; small?: boolean }) {
  const { plan, rig, destination } = useChosen()
  const { data } = useKinds()
  const { tell } = useNotices()
  const edit = useEdit()
  const { path, change, pick } = useChain()
  const [recent, keepRecent] = useKeptJSON('kinds', none, areWords)
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
  const addNew = async (kind: Kind) => {
    const gear = await answer(
      client.GET('/api/kinds/{kind}/new', { params: { path: { kind: kind.id }, query: { id: freshId() } } }),
    ).catch((e) => tell(e instanceof Problem ? e : new Problem(0, undefined)))
    if (!gear || !rig) return
    keepRecent([kind.id, ...recent.filter((k) => k !== kind.id)].slice(0, 8))
    const nodes = (gear.blocks ?? []).map((b): PathNode => ({ stop: `${gear.id}/${b.id}` }))
    await edit.addAnd(
      `Add ${gear.name} to the chain`,
      { kind: 'gear', value: gear },
      {
        kind: 'rigs',
        id: rig.id,
        update: (r) => withPath(r, destination?.id, path, (p) => put(p, nodes, spot)),
      },
    )
    pick(nodes[0] && idOf(nodes[0]))
  }
  const place = (k: Kind) => {
    const at = recent.indexOf(k.id)
    return at < 0 ? recent.length : at
  }
  const kinds = (data?.kinds ?? [])
    .filter((k) => (k.gear.blocks ?? []).length > 0 && k.gear.blocks?.every((b) => b.effect !== 'splitter'))
    .sort((a, b) => place(a) - place(b))
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
  // What is not owned yet comes after what is: owned and placed in one step.
  for (const k of kinds) acts.push({ id: `kind ${k.id}`, name: `New: ${k.name}`, run: () => void addNew(k) })
  return (
    <Actions label={label} plain={small ?? false} acts={acts}>
      <Icon name="plus" /> {!small && label}
    </Actions>
  )
}
