import styled from 'styled-components'
import { tape } from '../../theme/tokens'
import type { Step, Tonight } from './tonight'

/** The floor from above with the switches of a change, numbered in the order they are pressed. */
export function FloorMap({ night, step }: { night: Tonight; step: Step }) {
  const switches = night.evening.switches
  if (switches.length === 0 || step.presses.length === 0) return null
  const order = new Map<string, number[]>()
  for (const [i, p] of step.presses.entries()) order.set(p.switch, [...(order.get(p.switch) ?? []), i + 1])
  const margin = 50
  const left = Math.min(...switches.map((s) => s.x_mm)) - margin
  const top = Math.min(...switches.map((s) => s.y_mm)) - margin
  const width = Math.max(...switches.map((s) => s.x_mm)) + margin - left
  const height = Math.max(...switches.map((s) => s.y_mm)) + margin - top
  const said = `Press ${step.presses.map((p) => p.label).join(', then ')}`
  return (
    <Ground viewBox={`${left} ${top} ${width} ${height}`} role="img" aria-label={said}>
      {switches.map((s) => {
        const n = order.get(s.key)
        return (
          <g key={s.key}>
            <circle
              cx={s.x_mm}
              cy={s.y_mm}
              r={n ? 34 : 14}
              fill={n ? tape(step.tape) : 'var(--raised)'}
              stroke={n ? 'var(--text)' : 'var(--edge)'}
              strokeWidth={n ? 5 : 3}
            />
            {n && (
              <text x={s.x_mm} y={s.y_mm + 15} textAnchor="middle" fontSize={n.length > 1 ? 30 : 42}>
                {n.join(' ')}
              </text>
            )}
          </g>
        )
      })}
    </Ground>
  )
}

/** What is pressed and done by hand to come into a section, in words. */
export function Doings({ step }: { step: Step }) {
  if (step.presses.length === 0 && step.hands.length === 0) return <p>Nothing to press.</p>
  return (
    <Words>
      {step.pressed.map((words, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: one thing can be pressed twice
        <li key={i}>{words}</li>
      ))}
      {step.hands.map((h) => (
        <li key={h.variable}>
          <small>By hand</small> {h.action}
        </li>
      ))}
    </Words>
  )
}

const Ground = styled.svg`
  display: block; width: 100%; max-height: 30vh; background: var(--sunk); border: 1px solid var(--line);
  text { font-family: var(--face-label); font-weight: 600; fill: var(--onTape); }
`
const Words = styled.ol`
  margin: 0; padding-left: 26px; display: grid; gap: 4px; font-size: 19px; list-style: decimal;
  small { font: 600 14px/1 var(--face-label); text-transform: uppercase; letter-spacing: 0.04em; color: var(--muted); }
`
