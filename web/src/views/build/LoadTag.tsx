import { type ReactNode, useRef } from 'react'
import { useDrag } from 'react-aria/useDrag'
import { useDrop } from 'react-aria/useDrop'
import styled from 'styled-components'
import type { Power, PowerChoice, PowerLoad } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Actions } from '../../ui/Actions'
import { Figure } from '../../ui/layout'
import { outputName } from './feeds'

const kind = 'application/x-envex-load'

/** A box that wants power: dragged to an output by mouse or keyboard, or sent there by its menu. */
export function LoadTag(p: {
  load: PowerLoad
  data: Power
  onLift: (gear: string | undefined) => void
  onPlug: (supply: string, output: string) => void
  onTake: () => void
  onBattery: () => void
}) {
  const { load, data } = p
  const { dragProps } = useDrag({
    getItems: () => [{ [kind]: load.gear, 'text/plain': load.name }],
    onDragStart: () => p.onLift(load.gear),
    onDragEnd: () => p.onLift(undefined),
  })
  const rank = { fits: 0, fault: 1, danger: 2 }
  const choices = [...load.choices].sort((a, b) => rank[a.verdict] - rank[b.verdict])
  const acts = choices.map((c) => ({
    id: `${c.supply} ${c.output}`,
    name: `${outputName(data, c.supply, c.output)}${c.verdict === 'fits' ? `, ${c.voltage_v} V` : `: ${c.why}`}`,
    run: () => p.onPlug(c.supply, c.output),
    disabled: data.supplies
      .find((s) => s.supply === c.supply)
      ?.outputs.find((o) => o.output === c.output)
      ?.loads.includes(load.gear),
  }))
  if (load.fed !== 'nothing') acts.unshift({ id: 'take', name: 'Unplug', run: p.onTake, disabled: false })
  if (load.battery && load.fed !== 'battery')
    acts.unshift({ id: 'battery', name: 'On its battery', run: p.onBattery, disabled: false })
  return (
    <Tag>
      <Grip {...dragProps} role="button" tabIndex={0} aria-label={`Move ${load.name}`} data-keys="own">
        <b title={load.name}>{load.name}</b>
        <Figure>
          {load.voltage_v} V{load.ac && ' AC'} {load.assumed ? '?' : load.current_ma.toFixed(0)} mA
        </Figure>
      </Grip>
      <Actions plain label={`What feeds ${load.name}`} acts={acts}>
        <Icon name="more" />
      </Actions>
    </Tag>
  )
}

/** A place a box can be dropped at. */
export function Drop(p: {
  label: string
  accepts: (gear: string) => boolean
  onDrop: (gear: string) => void
  /** How what is lifted would do here. */
  verdict?: PowerChoice['verdict']
  filled?: boolean
  children: ReactNode
}) {
  const ref = useRef<HTMLDivElement>(null)
  const { dropProps, isDropTarget } = useDrop({
    ref,
    getDropOperation: (types) => (types.has(kind) ? 'move' : 'cancel'),
    onDrop: (e) => {
      const item = e.items.find((i) => i.kind === 'text')
      if (item?.kind === 'text') void item.getText(kind).then((gear) => p.accepts(gear) && p.onDrop(gear))
    },
  })
  return (
    <Field
      ref={ref}
      {...dropProps}
      role="group"
      tabIndex={-1}
      aria-label={p.label}
      $over={isDropTarget}
      $verdict={p.verdict}
      $filled={p.filled ?? false}
    >
      {p.children}
    </Field>
  )
}

const Tag = styled.span`
  display: inline-flex; align-items: center; border: 1px solid var(--edge); background: var(--raised); font-size: 13px; max-width: 100%;
`
const Grip = styled.div`
  cursor: grab; padding: 4px 0 4px 8px; min-width: 0; display: flex; gap: 8px; align-items: baseline;
  b { font: 600 15px/1.2 var(--face-label); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { font-size: 12px; color: var(--muted); white-space: nowrap; }
  &:focus-visible { outline: 2px solid var(--focus); outline-offset: 2px; }
`
const Field = styled.div<{ $over: boolean; $verdict: PowerChoice['verdict'] | undefined; $filled: boolean }>`
  ${(p) =>
    p.$filled
      ? 'display: grid; grid-template-columns: minmax(0, 1fr); gap: 5px; align-content: start;'
      : 'display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; min-height: 52px;'}
  position: relative; padding: 7px 10px; min-width: 0; font-size: 13px;
  border: 1px ${(p) => (p.$filled && p.$verdict !== 'fault' ? 'solid' : 'dashed')}
    ${(p) => (p.$over ? 'var(--focus)' : p.$verdict === 'danger' ? 'var(--red)' : p.$verdict === 'fits' ? 'var(--text)' : 'var(--line)')};
  &:focus-visible { outline: 2px solid var(--focus); outline-offset: 2px; }
  small { font-size: 12px; color: var(--muted); }
`
