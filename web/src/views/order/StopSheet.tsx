import { useState } from 'react'
import { Radio, RadioGroup } from 'react-aria-components/RadioGroup'
import styled from 'styled-components'
import { useTempo, values } from '../../api/plan'
import type { Gear, Rig, Value, VariableInfo } from '../../api/types'
import { usePlace } from '../../state/place'
import { withBaseAt, withRecipes } from '../../state/there'
import { tape } from '../../theme/tokens'
import { Button, Switch } from '../../ui/controls'
import { Knob } from '../../ui/Knob'
import { Muted, Name, Panel, Row, Tape } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { InSetOrder } from './InSetOrder'
import { heldIn, isFree, type MemoryAt, memoryOf, memoryWords, settingOf, syncOf, withMemory } from './lit'
import { Meanings } from './Meanings'
import { Slot } from './Slot'
import { StandIn } from './StandIn'
import { StopFacts } from './StopFacts'

const withNote = (all: Record<string, string>, key: string, value: string | undefined) => {
  const rest = Object.fromEntries(Object.entries(all).filter(([k]) => k !== key))
  return value ? { ...rest, [key]: value } : rest
}

const hasPresets = (gear: Gear) =>
  [...(gear.controls ?? []), ...(gear.blocks ?? []).flatMap((b) => b.controls ?? [])].some(
    (c) => c.kind === 'preset',
  )

const notes = ['1/16', '1/8t', '1/8', '1/8.', '1/4t', '1/4', '1/4.', '1/2']

/** The settings of one stop or guitar: for every sound, or only for the cursor's. */
export function StopSheet(p: {
  rig: Rig
  here: Rig
  picked: string | undefined
  change: (what: string, update: (r: Rig) => Rig) => unknown
}) {
  const { plan, sound, recipe, destination, setList } = usePlace()
  const [layer, setLayer] = useState<'sound' | 'base'>('sound')
  const gear = values(plan, 'gear').find((g) => g.id === p.picked?.split('/')[0])
  if (!p.picked || !gear) return <Muted>Choose a stop to see and change its settings.</Muted>
  const mine = plan.variables.filter(
    (v) =>
      (v.block ? `${v.gear}/${v.block}` === p.picked || gear.kind === 'guitar' : true) &&
      v.gear === gear.id &&
      (p.picked?.includes('/') || gear.kind === 'guitar'),
  )
  const block = gear.blocks?.find((b) => `${gear.id}/${b.id}` === p.picked)
  const forSound = layer === 'sound' && recipe !== undefined
  const name = block && (gear.blocks?.length ?? 0) > 1 ? `${gear.name} ${block.name}` : gear.name
  const set = (v: VariableInfo, value: Value | undefined) =>
    p.change(`${v.label}${forSound ? ` in ${sound?.name}` : ''}`, (r) =>
      forSound
        ? withRecipes(r, destination?.id, recipe.id, (list) =>
            list.map((x) => (x.id === recipe.id ? { ...x, values: withKey(x.values, v.key, value) } : x)),
          )
        : withBaseAt(r, destination?.id, v.key, (base) => withKey(base, v.key, value)),
    )
  const rocker = block?.rocker && recipe
  return (
    <Panel aria-label={`Settings of ${name}`}>
      <Row $gap={16}>
        <Name>{name}</Name>
        <Muted>{gear.circuit}</Muted>
        <Layers
          aria-label="Change it for"
          value={forSound ? 'sound' : 'base'}
          onChange={(v) => setLayer(v as 'sound')}
          orientation="horizontal"
        >
          <Radio value="sound" isDisabled={!recipe}>
            Only{' '}
            <Tape $small style={{ background: tape(sound?.tape) }}>
              {sound?.name ?? 'this sound'}
            </Tape>
          </Radio>
          <Radio value="base">Every sound</Radio>
        </Layers>
        {rocker && (
          <Switch
            label={`Foot moves it in ${sound?.name}`}
            value={Boolean(recipe.rockers?.includes(p.picked))}
            onChange={(on) =>
              p.change(`${name} played in ${sound?.name}`, (r) =>
                withRecipes(r, destination?.id, recipe.id, (list) =>
                  list.map((x) =>
                    x.id === recipe.id
                      ? {
                          ...x,
                          rockers: on
                            ? [...(x.rockers ?? []), p.picked ?? '']
                            : (x.rockers ?? []).filter((k) => k !== p.picked),
                        }
                      : x,
                  ),
                ),
              )
            }
          />
        )}
      </Row>
      {block && recipe && forSound && (
        <Plays
          of={(sound?.targets.effects ?? []).filter((e) => e.effect === block.effect).map((e) => e.note)}
          value={recipe.notes?.[p.picked]}
          put={(note) =>
            p.change(`Note of ${name} in ${sound?.name}`, (r) =>
              withRecipes(r, destination?.id, recipe.id, (list) =>
                list.map((x) => {
                  if (x.id !== recipe.id) return x
                  return { ...x, notes: withNote(x.notes ?? {}, p.picked ?? '', note) }
                }),
              ),
            )
          }
        />
      )}
      <Grid>
        {mine.map((v) => (
          <Setting
            key={v.key}
            v={v}
            rig={p.here}
            forSound={forSound}
            set={(value) => set(v, value)}
            store={(at, value) =>
              p.change(`${v.label} in ${memoryWords(at)}`, (r) => withMemory(r, v.gear, at, v.key, value))
            }
          />
        ))}
        {mine.length === 0 && <Muted>Nothing to set on it.</Muted>}
      </Grid>
      {block && (block.effect === 'delay' || block.effect === 'reverb') && (
        <Meanings key={gear.id} rig={p.rig} gear={gear} />
      )}
      {hasPresets(gear) && <InSetOrder rig={p.rig} gear={gear} />}
      {block && <StopFacts rig={p.here} gear={gear} block={block} />}
      {block && gear.kind === 'pedal' && <Slot key={`slot ${gear.id}`} rig={p.rig} gear={gear} />}
      {block && gear.kind === 'pedal' && (
        <StandIn
          key={`in ${gear.id}`}
          rig={p.rig}
          gear={gear}
          destination={destination?.id}
          setList={setList?.id}
        />
      )}
    </Panel>
  )
}

/** Which of the notes that the sound asks this block answers for, where there are several. */
function Plays(p: {
  of: (string | undefined)[]
  value: string | undefined
  put: (note: string | undefined) => unknown
}) {
  const notes = [...new Set(p.of.filter((n) => n !== undefined))]
  if (notes.length < 2) return null
  return (
    <Select
      label="Answers for"
      value={p.value ?? 'nearest'}
      options={[{ id: 'nearest', name: 'the nearest note' }, ...notes.map((n) => ({ id: n, name: n }))]}
      onChange={(v) => p.put(v === 'nearest' ? undefined : v)}
    />
  )
}

function withKey(map: Record<string, Value> | undefined, key: string, value: Value | undefined) {
  const { [key]: _old, ...rest } = map ?? {}
  return value === undefined ? rest : { ...rest, [key]: value }
}

function Setting(p: {
  v: VariableInfo
  rig: Rig
  forSound: boolean
  set: (value: Value | undefined) => unknown
  store: (at: MemoryAt, value: Value) => unknown
}) {
  const { v, rig, forSound } = p
  const { plan, recipe, sound, setList, destination } = usePlace()
  const { data: night } = useTempo(v.timed ? setList?.id : undefined, rig.id, destination?.id)
  const asked = night?.songs.flatMap((s) => s.uses).find((u) => u.variable === v.key && u.sound === sound?.id)
  const named = settingOf(rig, forSound ? recipe : undefined, v)
  // What is stored in a preset is shown, and changed, there, unless the recipe insists.
  const memory = named.from === 'sound' ? undefined : memoryOf(rig, recipe, v, plan.variables)
  const held = memory && heldIn(rig, memory, v)
  const value = held ?? named.value
  const from = memory ? 'preset' : named.from
  const set = memory ? (x: Value | undefined) => x !== undefined && p.store(memory, x) : p.set
  const label = v.switch ? 'On' : (v.label.split(' ').slice(-1)[0] ?? v.label)
  const free = isFree(value)
  const sync = syncOf(value)
  const own = forSound && from === 'sound'
  return (
    <Cell $own={own}>
      {v.switch ? (
        <Switch label={label} value={value === true} onChange={set} />
      ) : v.kind === 'knob' ? (
        sync ? (
          <Select
            label={`${label}, follows the tempo`}
            value={sync}
            options={(notes.includes(sync) ? notes : [sync, ...notes]).map((n) => ({ id: n, name: n }))}
            onChange={(n) => set({ sync: n })}
          />
        ) : (
          <Knob
            label={label}
            value={typeof value === 'number' ? value : typeof v.default === 'number' ? v.default : v.min}
            min={v.min}
            max={v.max}
            unit={v.unit}
            free={free}
            onCommit={set}
          />
        )
      ) : (
        <Select
          label={label}
          value={free ? 'any' : String(value)}
          options={[...(free ? ['any'] : []), ...(v.options ?? [])].map((o) => ({ id: o, name: o }))}
          onChange={set}
        />
      )}
      <Foot>
        <span>
          {memory
            ? `in ${memoryWords(memory)}`
            : own
              ? `set for ${sound?.name}`
              : from === 'gear'
                ? 'as the box comes'
                : from === 'guitar'
                  ? 'this guitar'
                  : 'every sound'}
        </span>
        {own && (
          <Button $plain onPress={() => set(undefined)}>
            Back to base
          </Button>
        )}
        {forSound && !free && !v.switch && from !== 'preset' && (
          <Button $plain onPress={() => set({ free: true })}>
            Any
          </Button>
        )}
        {v.timed && !free && (
          <Button $plain onPress={() => set(sync ? v.default : { sync: asked?.note ?? '1/4' })}>
            {sync ? (v.unit === 'ms' ? 'In ms' : 'By the knob') : 'With the tempo'}
          </Button>
        )}
      </Foot>
    </Cell>
  )
}

const Grid = styled.div`display: flex; flex-wrap: wrap; gap: 10px;`
const Cell = styled.div<{ $own: boolean }>`
  min-width: 158px; padding: 8px 10px; border: 1px solid ${(p) => (p.$own ? 'var(--edge)' : 'var(--line)')}; display: grid; gap: 4px; align-content: space-between; background: var(--bg);
`
const Foot = styled.div`
  display: flex; flex-wrap: wrap; align-items: center; gap: 2px 8px; font-size: 12px; color: var(--muted); min-height: 24px;
  button { font-size: 12px; min-height: 24px; padding: 0 4px; text-decoration: underline; color: var(--text); }
`
const Layers = styled(RadioGroup)`
  display: flex; gap: 14px; margin-left: auto;
  label { display: inline-flex; align-items: center; gap: 6px; cursor: pointer; font-size: 13px; min-height: 28px; }
  label::before { content: ''; width: 12px; height: 12px; border: 1px solid var(--edge); border-radius: 50%; }
  label[data-selected]::before { background: var(--text); box-shadow: inset 0 0 0 2px var(--panel); }
  label[data-focus-visible] { outline: 2px solid var(--focus); }
  label[data-disabled] { opacity: 0.5; }
`
