import { useState } from 'react'
import styled from 'styled-components'
import { useJournal } from '../../api/pack'
import { values } from '../../api/plan'
import type { Fix, Show, Value, VariableInfo } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton, Switch } from '../../ui/controls'
import { AskName } from '../../ui/dialogs'
import { NumberField, TextField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { ChangeShow } from './ShowSheet'
import { useGearOf } from './useBoxes'

/** What was changed on the night, and whether it stays. */
export function Fixes({ show, change }: { show: Show; change: ChangeShow }) {
  const [asking, setAsking] = useState(false)
  return (
    <Panel aria-label="Changed on the night">
      <Heading>Changed on the night</Heading>
      {(show.fixes ?? []).length === 0 && (
        <Muted>
          Nothing was changed. A change that says which control stood where can be kept for the rig.
        </Muted>
      )}
      {(show.fixes ?? []).map((f, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a line of the log is known by its place
        <OneFix key={`${i} of ${show.fixes?.length}`} show={show} fix={f} at={i} change={change} />
      ))}
      <div>
        <Button onPress={() => setAsking(true)}>
          <Icon name="plus" /> Write a change down
        </Button>
      </div>
      {asking && (
        <AskName
          title="A change on the night"
          label="What was changed, and why"
          action="Write it down"
          onCancel={() => setAsking(false)}
          onDone={(text) => {
            setAsking(false)
            change('Change', (s) => ({ ...s, fixes: [...(s.fixes ?? []), { text }] }))
          }}
        />
      )}
    </Panel>
  )
}

function OneFix({ show, fix, at, change }: { show: Show; fix: Fix; at: number; change: ChangeShow }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const gear = useGearOf(show)
  const { data } = useJournal({ show: show.id, kind: 'change' })
  const carries = data?.lines.find((l) => l.index === at)?.carries
  const inRig = new Set(gear.map((g) => g.id))
  const controls = plan.variables.filter((v) => inRig.has(v.gear) || v.key === fix.key)
  const control = controls.find((v) => v.key === fix.key)
  const put = (patch: Partial<Fix>, what = 'Change') =>
    change(what, (s) => ({ ...s, fixes: (s.fixes ?? []).map((f, k) => (k === at ? { ...f, ...patch } : f)) }))
  const presets =
    control?.access === 'memory'
      ? plan.variables.find((v) => v.gear === control.gear && v.kind === 'preset')?.options
      : undefined
  const open = !fix.keep
  return (
    <Line role="group" aria-label={`Change ${at + 1}: ${fix.text}`}>
      <Row>
        <Grow>
          <TextField label="What was changed" value={fix.text} onCommit={(text) => put({ text })} />
        </Grow>
        <IconButton
          label={`Remove the change: ${fix.text}`}
          onPress={() =>
            change('Remove a change', (s) => ({ ...s, fixes: (s.fixes ?? []).filter((_, k) => k !== at) }))
          }
        >
          <Icon name="cross" />
        </IconButton>
      </Row>
      {open && (
        <Row>
          <Select
            label="Control"
            value={fix.key ?? 'none'}
            options={[
              { id: 'none', name: 'none: words alone' },
              ...controls.map((v) => ({ id: v.key, name: v.label })),
            ]}
            onChange={(key) => {
              const v = controls.find((x) => x.key === key)
              put(
                v
                  ? { key, gear: v.gear, value: v.default, preset: undefined }
                  : { key: undefined, value: undefined, preset: undefined, sound: undefined },
              )
            }}
          />
          {control && <Stood control={control} value={fix.value} onChange={(value) => put({ value })} />}
          {presets && (
            <Select
              label="In preset"
              value={fix.preset ?? 'none'}
              options={[{ id: 'none', name: 'none' }, ...presets.map((n) => ({ id: n, name: n }))]}
              onChange={(n) => put(n === 'none' ? { preset: undefined } : { preset: n, sound: undefined })}
            />
          )}
          {control && !fix.preset && (
            <Select
              label="For the sound"
              value={fix.sound ?? 'all'}
              options={[
                { id: 'all', name: 'all of them' },
                ...values(plan, 'sounds').map((s) => ({ id: s.id, name: s.name })),
              ]}
              onChange={(id) => put({ sound: id === 'all' ? undefined : id })}
            />
          )}
        </Row>
      )}
      <Row>
        {open ? (
          <>
            {carries && (
              <Button $strong onPress={() => edit.decide(show.id, at, fix.text, true)}>
                Keep: {carries}
              </Button>
            )}
            <Button onPress={() => edit.decide(show.id, at, fix.text, false)}>That night alone</Button>
          </>
        ) : (
          <>
            <Muted as="span">
              {fix.keep === 'kept' ? `Kept${carries ? `: ${carries}` : ''}` : 'That night alone'}
            </Muted>
            <Button $plain onPress={() => put({ keep: undefined }, 'Decide again on a change')}>
              Decide again
            </Button>
          </>
        )}
      </Row>
    </Line>
  )
}

/** Where a control stood, in the form it has. */
function Stood(p: { control: VariableInfo; value: Value | undefined; onChange: (value: Value) => unknown }) {
  const { control, value } = p
  if (control.switch) return <Switch label="On" value={value === true} onChange={(on) => p.onChange(on)} />
  if (control.options?.length)
    return (
      <Select
        label="Stood at"
        value={typeof value === 'string' ? value : undefined}
        options={control.options.map((o) => ({ id: o, name: o }))}
        onChange={p.onChange}
      />
    )
  return (
    <NumberField
      label={control.unit ? `Stood at, ${control.unit}` : 'Stood at'}
      width={110}
      value={typeof value === 'number' ? value : undefined}
      min={control.min}
      max={control.max}
      onCommit={(v) => v !== undefined && p.onChange(v)}
    />
  )
}

const Line = styled.div`display: grid; gap: 8px; border-bottom: 1px solid var(--line); padding-bottom: 12px;`
const Grow = styled.div`flex: 1 1 240px;`
