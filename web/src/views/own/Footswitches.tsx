import styled from 'styled-components'
import { freshId } from '../../api/client'
import type { Footswitch, Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { tight } from '../../theme/tokens'
import { Button, IconButton } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Heading, Panel, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { chosen, doings, recalls } from '../doings'
import type { Change } from './GearSheet'

/** The switches of a box: where they are and what each gesture does. */
export function Footswitches({ gear, change }: { gear: Gear; change: Change }) {
  const { plan } = useChosen()
  const options = [
    ...doings(
      plan.variables.filter((v) => v.gear === gear.id),
      (key) => key.slice(gear.id.length + 1),
    ),
    ...(gear.kind === 'controller' ? recalls : []),
  ]
  const put = (id: string, patch: Partial<Footswitch>, what: string) =>
    change(what, (g) => ({
      ...g,
      footswitches: (g.footswitches ?? []).map((s) => (s.id === id ? { ...s, ...patch } : s)),
    }))
  const gesture = (s: Footswitch, name: 'press' | 'hold' | 'double') => {
    const { id: now, list } = chosen(s[name], options)
    return (
      <Select
        label={name}
        value={now}
        options={list}
        onChange={(id) => put(s.id, { [name]: list.find((o) => o.id === id)?.press }, `What ${s.label} does`)}
      />
    )
  }
  return (
    <Panel>
      <Heading>Footswitches</Heading>
      <Stack $gap={8}>
        {(gear.footswitches ?? []).map((s) => (
          <Line key={s.id}>
            <TextField
              label="Label"
              value={s.label}
              onCommit={(label) => put(s.id, { label }, 'Switch label')}
            />
            <NumberField
              label="From left, mm"
              value={s.x_mm}
              min={0}
              max={3000}
              onCommit={(v) => put(s.id, { x_mm: v ?? 0 }, 'Switch place')}
            />
            <NumberField
              label="From back, mm"
              value={s.y_mm}
              min={0}
              max={3000}
              onCommit={(v) => put(s.id, { y_mm: v ?? 0 }, 'Switch place')}
            />
            {gesture(s, 'press')}
            {gesture(s, 'hold')}
            {gesture(s, 'double')}
            <IconButton
              label={`Drop switch ${s.label}`}
              onPress={() =>
                change(`Drop switch ${s.label}`, (g) => ({
                  ...g,
                  footswitches: (g.footswitches ?? []).filter((x) => x.id !== s.id),
                }))
              }
            >
              <Icon name="cross" />
            </IconButton>
          </Line>
        ))}
        <div>
          <Button
            onPress={() => {
              const id = freshId()
              change('Add a switch', (g) => ({
                ...g,
                footswitches: [...(g.footswitches ?? []), { id, label: g.name, x_mm: 35, y_mm: 100 }],
              }))
            }}
          >
            <Icon name="plus" /> Add a switch
          </Button>
        </div>
      </Stack>
    </Panel>
  )
}

const Line = styled.div`display: grid; grid-template-columns: minmax(70px, 1fr) 84px 86px repeat(3, minmax(96px, 1.3fr)) 32px; gap: 6px; align-items: end;
  ${tight} { display: flex; flex-wrap: wrap; padding-bottom: 8px; > * { flex: 1 1 100px; } > :last-child { flex: none; } }
`
