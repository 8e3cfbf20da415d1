import { useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { clockOf, readKnob } from './clock'

/** A knob as a clock hand and a number; it takes either. */
export function Knob(p: {
  label: string
  value: number
  min: number
  max: number
  unit?: string
  free?: boolean
  onCommit: (value: number) => void
}) {
  const [bad, setBad] = useState('')
  const plain = !p.unit
  const share = (p.value - p.min) / (p.max - p.min)
  const commit = (text: string, reset: () => void) => {
    const read = readKnob(text, p.min, p.max, plain)
    if (typeof read === 'string') {
      setBad(read)
      reset()
      return
    }
    setBad('')
    if (read !== p.value) p.onCommit(read)
  }
  const shown = p.free ? 'any' : String(Math.round(p.value * 100) / 100)
  return (
    <Box key={shown} defaultValue={shown} isInvalid={bad !== ''}>
      <Face $free={p.free} aria-hidden="true" viewBox="0 0 40 40">
        <circle cx="20" cy="20" r="17" />
        <line x1="20" y1="20" x2="20" y2="5" transform={`rotate(${-150 + 300 * share} 20 20)`} />
      </Face>
      <div>
        <Label>{p.label}</Label>
        <Input
          title={plain ? clockOf(p.value, p.min, p.max) : undefined}
          onBlur={(e) => {
            const field = e.currentTarget
            if (field.value !== shown) commit(field.value, () => (field.value = shown))
          }}
          onKeyDown={(e) => {
            const step = p.unit ? 10 : 0.5
            const by = e.key === 'ArrowUp' ? step : e.key === 'ArrowDown' ? -step : 0
            if (by !== 0) {
              e.preventDefault()
              p.onCommit(Math.min(p.max, Math.max(p.min, p.value + by)))
            }
            if (e.key === 'Enter') e.currentTarget.blur()
          }}
        />
        <small>{bad || (p.unit ?? (p.free ? '' : clockOf(p.value, p.min, p.max)))}</small>
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
