import { freshId } from '../../api/client'
import type { Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, IconButton } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { Change } from './GearSheet'

type Jack = NonNullable<Gear['jacks']>[number]

const sides = ['left', 'right', 'top', 'front', 'back'] as const

/** The sockets of a thing, where they are, and which block each belongs to where blocks can
 * stand apart. */
export function Jacks({ gear, change }: { gear: Gear; change: Change }) {
  const list = gear.jacks ?? []
  const put = (id: string, patch: Partial<Jack>, what: string) =>
    change(what, (g) => ({ ...g, jacks: (g.jacks ?? []).map((j) => (j.id === id ? { ...j, ...patch } : j)) }))
  const several = (gear.blocks?.length ?? 0) > 1
  const add = () => {
    const other = freshId()
    const free = (all: Jack[]) =>
      ['in', 'out', 'send', 'return'].find((id) => !all.some((j) => j.id === id)) ?? other
    return change('Jack', (g) => {
      const id = free(g.jacks ?? [])
      return { ...g, jacks: [...(g.jacks ?? []), { id, name: id === other ? 'tap' : id }] }
    })
  }
  return (
    <Fold title={`Jacks (${list.length})`}>
      {list.map((j) => (
        <Row key={j.id}>
          <TextField
            label={`Name of ${j.name ?? j.id}`}
            value={j.name ?? ''}
            placeholder={j.id}
            onCommit={(name) => put(j.id, { name: name || undefined }, 'Jack')}
          />
          <Select
            label={`Side of ${j.name ?? j.id}`}
            value={j.side}
            placeholder="not entered"
            options={sides.map((s) => ({ id: s, name: s }))}
            onChange={(side) => put(j.id, { side: side as Jack['side'] }, 'Jack')}
          />
          {j.side && (
            <NumberField
              label={`${j.name ?? j.id} along it, mm`}
              width={130}
              value={j.at_mm}
              min={0}
              max={3000}
              onCommit={(at_mm) => put(j.id, { at_mm }, 'Jack')}
            />
          )}
          {several && (
            <Select
              label={`Block of ${j.name ?? j.id}`}
              value={j.block ?? 'all'}
              options={[
                { id: 'all', name: 'the whole box' },
                ...(gear.blocks ?? []).map((b) => ({ id: b.id, name: b.name })),
              ]}
              onChange={(id) => put(j.id, { block: id === 'all' ? undefined : id }, 'Jack')}
            />
          )}
          <IconButton
            label={`Remove ${j.name ?? j.id}`}
            onPress={() =>
              change('Jack', (g) => ({ ...g, jacks: (g.jacks ?? []).filter((x) => x.id !== j.id) }))
            }
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      {several && <Muted>Blocks with jacks of their own can stand apart in a chain.</Muted>}
      <Button onPress={add}>
        <Icon name="plus" /> Add a jack
      </Button>
    </Fold>
  )
}
