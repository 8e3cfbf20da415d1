import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { unread } from '../edits/desk'
import { Clash } from './Clash'
import { clockOf, readKnob } from './clock'
import { useDraft } from './useDraft'

/** A knob as a clock hand and a number; it takes either. What cannot be read stays as it was typed. */
export function Knob(p: {
  label: string
  value: number
  min: number
  max: number
  unit?: string
  free?: boolean
  onCommit: (value: number) => unknown
}) {
  const plain = !p.unit
  const share = (p.value - p.min) / (p.max - p.min)
  const shown = p.free ? 'any' : String(Math.round(p.value * 100) / 100)
  const read = (text: string) => readKnob(text, p.min, p.max, plain)
  const draft = useDraft({
    label: p.label,
    value: shown,
    words: (text) => text,
    onCommit: (text) => {
      const value = read(text)
      if (typeof value === 'string') return unread(value)
      return p.free || value !== p.value ? p.onCommit(value) : undefined
    },
  })
  return (
    <Box value={draft.shown} onChange={draft.type} isInvalid={draft.clash || draft.trouble !== undefined}>
      <Face $free={p.free} aria-hidden="true" viewBox="0 0 40 40">
        <circle cx="20" cy="20" r="17" />
        <line x1="20" y1="20" x2="20" y2="5" transform={`rotate(${-150 + 300 * share} 20 20)`} />
      </Face>
      <div>
        <Label>{p.label}</Label>
        <Input
          title={plain ? clockOf(p.value, p.min, p.max) : undefined}
          onBlur={draft.commit}
          onKeyDown={(e) => {
            const step = p.unit ? 10 : 0.5
            const by = e.key === 'ArrowUp' ? step : e.key === 'ArrowDown' ? -step : 0
            if (by !== 0) {
              e.preventDefault()
              const typed = draft.dirty ? read(draft.shown) : p.value
              const from = typeof typed === 'number' ? typed : p.value
              draft.drop()
              void p.onCommit(Math.min(p.max, Math.max(p.min, from + by)))
            }
            if (e.key === 'Enter') draft.commit()
            if (e.key === 'Escape') draft.drop()
          }}
        />
        <small>{p.unit ?? (p.free ? '' : clockOf(p.value, p.min, p.max))}</small>
        <Clash draft={draft} theirs={shown} />
      </div>
    </Box>
  )
}

const Box = styled(TextField)`
  display: flex; gap: 8px; align-items: center; width: 148px;
  label { display: block; font-size: 12px; color: var(--muted); text-transform: none; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; max-width: 96px; }
  input { width: 84px; min-height: 28px; padding: 2px 8px; border: 1px solid var(--edge); background: var(--raised); font-family: var(--face-figures); }
  small { display: block; font-size: 12px; color: var(--muted); white-space: nowrap; }
  &[data-invalid] small { color: var(--red); white-space: normal; }
`

const Face = styled.svg<{ $free?: boolean }>`
  width: 40px; height: 40px; flex: none; opacity: ${(p) => (p.$free ? 0.35 : 1)};
  circle { fill: var(--sunk); stroke: var(--edge); stroke-width: 1.5; }
  line { stroke: var(--text); stroke-width: 3; stroke-linecap: round; }
`
