import { values } from '../../api/plan'
import type { Split, VariableInfo } from '../../api/types'
import { useChosen } from '../../state/place'
import { Switch } from '../../ui/controls'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { keysOf, lanesOf } from './chain'
import { useChain } from './useChain'

type Position = NonNullable<Split['main']>[number]

/** What chooses among the lanes of a split, and at which of its positions each of them sounds. */
export function Chosen({
  split,
  set,
  laneName,
}: {
  split: Split
  set: (what: string, update: (s: Split) => Split) => unknown
  laneName: (lane: number) => string
}) {
  const { plan, rig } = useChosen()
  const { path } = useChain()
  const here = new Set([...keysOf(path).map((k) => k.split('/')[0]), ...(rig?.guitars ?? [])])
  for (const g of values(plan, 'gear')) if (g.kind === 'controller') here.add(g.id)
  const choices = plan.variables.filter((v) => here.has(v.gear) && (v.switch || v.kind === 'selector'))
  const usual = split.kind === 'AB' && split.from
  const by =
    choices.find((v) => v.key === split.choice) ??
    (usual && !split.choice
      ? choices.find((v) => v.kind === 'selector' && v.key.startsWith(`${split.from}/`))
      : undefined)
  const none = usual ? 'the switch of its box' : 'nothing: all of them sound'
  return (
    <>
      <Row>
        <Select
          label="Lanes are chosen by"
          value={split.choice ?? 'none'}
          options={[{ id: 'none', name: none }, ...choices.map((v) => ({ id: v.key, name: v.label }))]}
          onChange={(id) => set('Choice of lanes', (s) => chosenBy(s, id === 'none' ? undefined : id))}
        />
        {!by && split.kind === 'AB' && (
          <Muted>No switch chooses a lane: the first is assumed. Choose a switch, or a box with one.</Muted>
        )}
      </Row>
      {by &&
        lanesOf(split).map((l, i) => (
          <Positions
            // biome-ignore lint/suspicious/noArrayIndexKey: a lane is its place
            key={i}
            label={`${laneName(i)} sounds at`}
            by={by}
            on={l.when ?? usually(split, by, i)}
            set={(when) =>
              set('When a lane sounds', (s) => ({
                ...s,
                lanes: lanesOf(s).map((x, k) => (k === i ? { ...x, when } : x)),
              }))
            }
          />
        ))}
      {by && split.kind === 'tap' && (
        <Positions
          label="The main path sounds at"
          by={by}
          on={split.main ?? positionsOf(by)}
          set={(main) => set('When the main path sounds', (s) => ({ ...s, main }))}
        />
      )}
    </>
  )
}

function Positions({
  label,
  by,
  on,
  set,
}: {
  label: string
  by: VariableInfo
  on: Position[]
  set: (list: Position[] | undefined) => unknown
}) {
  return (
    <Row role="group" aria-label={label} style={{ alignItems: 'center' }}>
      <Muted as="span">{label}</Muted>
      {positionsOf(by).map((p) => (
        <Switch
          key={String(p)}
          label={p === true ? `${by.label} on` : p === false ? `${by.label} off` : String(p)}
          value={on.includes(p)}
          onChange={(is) => {
            const list = positionsOf(by).filter((x) => (x === p ? is : on.includes(x)))
            // One that sounds nowhere is no lane.
            if (list.length > 0) set(list)
          }}
        />
      ))}
    </Row>
  )
}

const positionsOf = (v: VariableInfo): Position[] => (v.switch ? [false, true] : (v.options ?? []))

/** Where a lane sounds when nobody says: of an A/B split at its own position and at those after the last
 * lane's, else everywhere. */
function usually(split: Split, by: VariableInfo, lane: number): Position[] {
  const all = positionsOf(by)
  if (split.kind !== 'AB') return all
  if (by.switch) return [lane > 0]
  return all.filter((_, i) => i === lane || i >= lanesOf(split).length)
}

/** The split chosen by something else: what was said of its positions goes. */
const chosenBy = (s: Split, choice: string | undefined): Split => ({
  ...s,
  choice,
  main: undefined,
  lanes: lanesOf(s).map(({ when: _, ...l }) => l),
})
