import { ticks } from 'd3-array'
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import { type KeyboardEvent, type PointerEvent, useState } from 'react'
import styled from 'styled-components'
import { hertz, signed } from '../../ui/figures'
import { Figure } from '../../ui/layout'
import { useWidth } from '../../ui/useWidth'
import { nearest } from './curvesOf'

const height = 340
const pad = { left: 56, right: 12, top: 10, bottom: 34 }
const marked = [50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000]

export interface Curve {
  id: string
  name: string
  points: { f_hz: number; db: number }[]
  colour: string
  dash?: string
  width?: number
}

/** Responses over frequency, with a reading under the pointer or, by the arrow keys, at the line. */
export function Curves({ label, curves }: { label: string; curves: Curve[] }) {
  const [box, width] = useWidth<SVGSVGElement>(720)
  const grid = curves[0]?.points ?? []
  const [at, read] = useState(() => Math.max(0, nearest(grid, 5000)))
  const all = curves.flatMap((c) => c.points.filter((p) => p.f_hz >= 50).map((p) => p.db))
  const high = Math.ceil((Math.max(...all, 0) + 2) / 5) * 5
  const low = Math.max(Math.floor((Math.min(...all, -5) - 1) / 5) * 5, high - 60)
  const x = scaleLog([50, 20000], [pad.left, width - pad.right]).clamp(true)
  const y = scaleLinear([low, high], [height - pad.bottom, pad.top])
  const path = line<Curve['points'][number]>(
    (p) => x(p.f_hz),
    (p) => y(p.db),
  ).digits(1)
  const first = nearest(grid, 50)
  const hz = grid[at]?.f_hz ?? 0
  const reading = curves.map((c) => ({ c, db: c.points[at]?.db ?? 0 }))
  const point = (e: PointerEvent<SVGSVGElement>) => {
    const seen = e.currentTarget.getBoundingClientRect()
    const share = ((e.clientX - seen.left) / seen.width) * width
    read(Math.max(first, nearest(grid, x.invert(share))))
  }
  const key = (e: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key]
    if (by === undefined && e.key !== 'Home' && e.key !== 'End') return
    e.preventDefault()
    const to = e.key === 'Home' ? first : e.key === 'End' ? grid.length - 1 : at + (by ?? 0)
    read(Math.max(first, Math.min(grid.length - 1, to)))
  }
  return (
    <div>
      <Field
        ref={box}
        viewBox={`0 0 ${width} ${height}`}
        role="slider"
        tabIndex={0}
        data-keys="own"
        aria-label={label}
        aria-valuemin={first}
        aria-valuemax={grid.length - 1}
        aria-valuenow={at}
        aria-valuetext={`${hertz(hz)}: ${reading.map(({ c, db }) => `${c.name} ${signed(db)} dB`).join(', ')}`}
        onPointerMove={point}
        onPointerDown={point}
        onKeyDown={key}
      >
        {marked.map((f) => (
          <g key={f}>
            <line x1={x(f)} x2={x(f)} y1={pad.top} y2={height - pad.bottom} stroke="var(--line)" />
            <text x={x(f)} y={height - pad.bottom + 15} textAnchor={f === 20000 ? 'end' : 'middle'}>
              {f >= 1000 ? `${f / 1000}k` : f}
            </text>
          </g>
        ))}
        {ticks(low, high, 7).map((t) => (
          <g key={t}>
            <line
              x1={pad.left}
              x2={width - pad.right}
              y1={y(t)}
              y2={y(t)}
              stroke={t === 0 ? 'var(--edge)' : 'var(--line)'}
            />
            <text x={pad.left - 7} y={y(t) + 4} textAnchor="end">
              {signed(t, 0)}
            </text>
          </g>
        ))}
        <text x={(pad.left + width) / 2} y={height - 3} textAnchor="middle">
          Hz
        </text>
        <text x={12} y={height / 2} textAnchor="middle" transform={`rotate(-90 12 ${height / 2})`}>
          dB re the pickup
        </text>
        <clipPath id="curves-field">
          <rect
            x={pad.left}
            y={pad.top}
            width={width - pad.left - pad.right}
            height={height - pad.top - pad.bottom}
          />
        </clipPath>
        <g clipPath="url(#curves-field)">
          {curves.map((c) => (
            <path
              key={c.id}
              d={path(c.points.filter((p) => p.f_hz >= 45)) ?? ''}
              fill="none"
              stroke={c.colour}
              strokeWidth={c.width ?? 2}
              strokeDasharray={c.dash}
              strokeLinejoin="round"
            />
          ))}
          <line x1={x(hz)} x2={x(hz)} y1={pad.top} y2={height - pad.bottom} stroke="var(--text)" />
          {reading.map(({ c, db }) => (
            <circle key={c.id} cx={x(hz)} cy={y(db)} r={4} fill={c.colour} stroke="var(--bg)" />
          ))}
        </g>
      </Field>
      <Legend aria-hidden="true">
        <li>
          <b>{hertz(hz)}</b>
        </li>
        {reading.map(({ c, db }) => (
          <li key={c.id}>
            <svg width="26" height="8" focusable="false" aria-hidden="true">
              <line
                x1="0"
                x2="26"
                y1="4"
                y2="4"
                stroke={c.colour}
                strokeWidth={c.width ?? 2}
                strokeDasharray={c.dash}
              />
            </svg>
            {c.name} <Figure>{signed(db)} dB</Figure>
          </li>
        ))}
      </Legend>
    </div>
  )
}

const Field = styled.svg`
  width: 100%; display: block; background: var(--sunk); border: 1px solid var(--line); touch-action: none; cursor: crosshair; outline: none;
  text { font: 400 12px/1 var(--face-figures); fill: var(--muted); }
  &:focus-visible { outline: 2px solid var(--focus); outline-offset: 1px; }
`
const Legend = styled.ul`
  display: flex; flex-wrap: wrap; gap: 4px 20px; font-size: 13px; margin-top: 6px;
  li { display: flex; gap: 7px; align-items: center; }
  b { font: 600 15px/1.2 var(--face-figures); min-width: 84px; }
`
