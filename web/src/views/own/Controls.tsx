import styled from 'styled-components'
import { freshId } from '../../api/client'
import type { Control } from '../../api/types'
import { Icon } from '../../marks/marks'
import { tight } from '../../theme/tokens'
import { Button, IconButton } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'

const access = [
  { id: 'foot', name: 'foot' },
  { id: 'quick', name: 'quick hand' },
  { id: 'slow', name: 'slow hand' },
  { id: 'memory', name: 'memory' },
  { id: 'remote', name: 'remote' },
]

/** The knobs, selectors and presets of a block or a whole box, and how each is reached. */
export function Controls({
  owner,
  list,
  onChange,
}: {
  owner: string
  list: Control[]
  onChange: (what: string, update: (list: Control[]) => Control[]) => unknown
}) {
  const put = (id: string, patch: Partial<Control>, what: string) =>
    onChange(what, (all) => all.map((c) => (c.id === id ? { ...c, ...patch } : c)))
  return (
    <Stack $gap={4} role="group" aria-label={`Controls of ${owner}`}>
      {list.map((c) => (
        <Line key={c.id}>
          <TextField
            hideLabel
            label={`Name of control ${c.name}`}
            value={c.name}
            onCommit={(name) => put(c.id, { name }, 'Control name')}
          />
          <Select
            hideLabel
            label={`Kind of ${c.name}`}
            value={c.kind}
            options={['knob', 'selector', 'preset', 'snapshot'].map((k) => ({ id: k, name: k }))}
            onChange={(kind) =>
              put(
                c.id,
                kind === 'knob'
                  ? { kind, options: undefined, default: undefined }
                  : {
                      kind: kind as 'selector',
                      options: c.options ?? ['A', 'B'],
                      min: undefined,
                      max: undefined,
                      unit: undefined,
                      default: undefined,
                    },
                'Control kind',
              )
            }
          />
          <Select
            hideLabel
            label={`Reach of ${c.name}`}
            value={c.access}
            options={access}
            onChange={(v) => put(c.id, { access: v as Control['access'] }, 'Control access')}
          />
          {c.kind === 'knob' ? (
            <>
              <NumberField
                hideLabel
                label={`Least of ${c.name}`}
                placeholder="0"
                value={c.min}
                onCommit={(min) => put(c.id, { min }, 'Range')}
              />
              <NumberField
                hideLabel
                label={`Most of ${c.name}`}
                placeholder="10"
                value={c.max}
                onCommit={(max) => put(c.id, { max }, 'Range')}
              />
              <TextField
                hideLabel
                label={`Unit of ${c.name}`}
                placeholder="unit"
                value={c.unit ?? ''}
                onCommit={(v) => put(c.id, { unit: v || undefined }, 'Unit')}
              />
            </>
          ) : (
            <Span>
              <TextField
                hideLabel
                label={`Options of ${c.name}`}
                value={(c.options ?? []).join(', ')}
                onCommit={(v) =>
                  put(
                    c.id,
                    {
                      options: v
                        .split(',')
                        .map((o) => o.trim())
                        .filter(Boolean),
                      default: undefined,
                    },
                    'Options',
                  )
                }
              />
            </Span>
          )}
          {c.kind === 'knob' && !c.unit && (
            <Rates>
              <Measured control={c} put={(measured) => put(c.id, { measured }, 'Measured rates')} />
            </Rates>
          )}
          <IconButton
            label={`Drop ${c.name}`}
            onPress={() => onChange(`Drop ${c.name}`, (all) => all.filter((x) => x.id !== c.id))}
          >
            <Icon name="cross" />
          </IconButton>
        </Line>
      ))}
      <div>
        <Button
          onPress={() => {
            const id = freshId()
            onChange('Add a control', (all) => [...all, { id, name: 'knob', kind: 'knob', access: 'slow' }])
          }}
        >
          <Icon name="plus" /> Add a control
        </Button>
      </div>
    </Stack>
  )
}

/** How fast a rate knob without a unit is at some of its positions. */
function Measured({ control, put }: { control: Control; put: (measured: Control['measured']) => unknown }) {
  const list = control.measured ?? []
  const [min, max] = [control.min ?? 0, control.max ?? 10]
  if (list.length === 0)
    return /speed|rate/i.test(control.name) ? (
      <Button
        $plain
        onPress={() =>
          put([
            { at: min, hz: 0.5 },
            { at: (min + max) / 2, hz: 2 },
            { at: max, hz: 8 },
          ])
        }
      >
        Measure how fast {control.name} is
      </Button>
    ) : null
  return (
    <Row role="group" aria-label={`How fast ${control.name} is`}>
      {list.map((m, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a position has no identity of its own
        <Row key={i} $gap={4}>
          <NumberField
            label={`At position ${i + 1}`}
            width={84}
            value={m.at}
            min={min}
            max={max}
            onCommit={(v) => put(list.map((x, k) => (k === i ? { ...x, at: v ?? x.at } : x)))}
          />
          <NumberField
            label={`Hz at position ${i + 1}`}
            width={104}
            value={m.hz}
            min={0.01}
            max={100}
            onCommit={(v) => put(list.map((x, k) => (k === i ? { ...x, hz: v ?? x.hz } : x)))}
          />
        </Row>
      ))}
      <Button $plain onPress={() => put(undefined)}>
        Forget them
      </Button>
    </Row>
  )
}

const Rates = styled.div`grid-column: 1 / -2; grid-row: 2;`
const Line = styled.div`display: grid; grid-template-columns: minmax(90px, 1.4fr) 100px 110px 70px 70px 70px 32px; gap: 6px; align-items: center;
  ${tight} { display: flex; flex-wrap: wrap; padding-bottom: 8px; > * { flex: 1 1 84px; } > :last-child { flex: none; } }
`
const Span = styled.div`grid-column: span 3;`
