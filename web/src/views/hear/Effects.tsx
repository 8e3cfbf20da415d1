import { useState } from 'react'
import { ToggleButton } from 'react-aria-components/ToggleButton'
import styled from 'styled-components'
import { type EffectId, useEffects } from '../../api/effects'
import type { Sound } from '../../api/types'
import { EffectMark, Icon } from '../../marks/marks'
import { Actions } from '../../ui/Actions'
import { IconButton } from '../../ui/controls'
import { NumberField } from '../../ui/fields'
import { Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { decibelsOf, percentOf } from '../../units'
import { inWords } from './heard'

export type Effect = NonNullable<Sound['targets']['effects']>[number]

const notes = ['1/16', '1/8t', '1/8', '1/8.', '1/4t', '1/4', '1/4.', '1/2']
const noteOptions = ['any', ...notes].map((n) => ({ id: n, name: n }))

/** The effects that must be heard in a sound, as chips that say their note and repeats; a chip that is pressed shows its
 * fields. */
export function Effects({
  sound,
  onChange,
}: {
  sound: Sound
  onChange: (update: (effects: Effect[]) => Effect[]) => unknown
}) {
  const table = useEffects()
  const list = sound.targets.effects ?? []
  const said = (e: Effect) => inWords(e, table.get(e.effect))
  const [open, setOpen] = useState<number | undefined>()
  const shown = open === undefined ? undefined : list[open]
  return (
    <Stack $gap={8} role="group" aria-label={`Effects of ${sound.name}`}>
      <Row>
        {list.map((e, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: an effect has no identity of its own
          <Chip key={`${i} of ${list.length}`}>
            <Face isSelected={open === i} onChange={(on) => setOpen(on ? i : undefined)}>
              <EffectMark effect={e.effect} />
              {said(e)}
            </Face>
            <IconButton
              label={`Drop ${said(e)} from ${sound.name}`}
              onPress={() => {
                setOpen(undefined)
                onChange((all) => all.filter((_, j) => j !== i))
              }}
            >
              <Icon name="cross" />
            </IconButton>
          </Chip>
        ))}
        <Actions
          label={`Must be heard in ${sound.name}`}
          acts={askable(table).map(({ effect, name }) => ({
            id: effect,
            name,
            run: () => {
              setOpen(list.length)
              onChange((all) => [...all, { effect }])
            },
          }))}
        >
          <Icon name="plus" /> Must be heard
        </Actions>
      </Row>
      {shown && open !== undefined && (
        <Fields
          effect={shown}
          put={(patch) => onChange((all) => all.map((e, j) => (j === open ? { ...e, ...patch } : e)))}
        />
      )}
    </Stack>
  )
}

const askable = (table: ReturnType<typeof useEffects>) => [...table.values()].filter((t) => t.asked)

/** What is asked of one effect. */
function Fields({ effect: e, put }: { effect: Effect; put: (patch: Partial<Effect>) => unknown }) {
  const table = useEffects()
  const asks = table.get(e.effect)?.asks ?? []
  const note = (label: string) => (
    <Select
      label={label}
      value={e.note ?? 'any'}
      options={noteOptions}
      onChange={(v) => put({ note: v === 'any' ? undefined : v })}
    />
  )
  return (
    <Row>
      <Select
        label="Effect"
        value={e.effect}
        options={askable(table).map((t) => ({ id: t.effect, name: t.name }))}
        onChange={(v) => put({ effect: v as EffectId })}
      />
      {asks.includes('note') && note(asks.includes('repeats') ? 'Repeats at' : 'In time with')}
      {asks.includes('repeats') && (
        <>
          <NumberField
            label="Repeats"
            width={72}
            value={e.repeats}
            min={1}
            max={100}
            onCommit={(v) => put({ repeats: v })}
          />
          <NumberField
            label="First repeat, dB"
            width={104}
            value={e.level_db}
            placeholder="any"
            min={-40}
            max={12}
            onCommit={(v) => put({ level_db: v })}
          />
          <NumberField
            label="or % of the note"
            width={104}
            value={e.level_db === undefined ? undefined : percentOf(e.level_db)}
            placeholder="any"
            min={1}
            max={400}
            onCommit={(v) => put({ level_db: v === undefined ? undefined : decibelsOf(v) })}
          />
        </>
      )}
      {asks.includes('size') && (
        <Select
          label="Size of reverb"
          value={e.size ?? 'any'}
          options={['any', 'small', 'medium', 'large'].map((n) => ({ id: n, name: n }))}
          onChange={(v) => put({ size: v === 'any' ? undefined : (v as Effect['size']) })}
        />
      )}
    </Row>
  )
}

const Chip = styled.div`display: flex; align-items: center; border: 1px solid var(--edge); background: var(--raised);`
const Face = styled(ToggleButton)`
  display: flex; gap: 6px; align-items: center; min-height: 32px; padding: 2px 4px 2px 8px; border: 0; background: none; cursor: pointer; font-size: 13px;
  &[data-selected] { background: var(--lit); color: var(--onLit); }
`
