import { scaleLinear, scaleLog } from 'd3-scale'
import { area, line } from 'd3-shape'
import styled from 'styled-components'
import { useWidth } from '../../ui/useWidth'

const height = 230
const pad = { left: 12, right: 12, top: 12, bottom: 34 }
const marked = [50, 100, 200, 500, 1000, 2000, 5000, 10000]

interface Heard {
  alone: number[] | null
  heard: number[] | null
  others: number[] | null
}

/** Loudness along frequency: of a sound alone, of what is left of it among the others, and of the others. */
export function HeardCurve(p: { hz: number[]; curve: Heard; name: string; colour: string }) {
  const [box, width] = useWidth<HTMLDivElement>(820)
  const { hz } = p
  const alone = p.curve.alone ?? []
  const heard = p.curve.heard ?? []
  const others = p.curve.others ?? []
  const x = scaleLog([hz[0] ?? 25, hz.at(-1) ?? 16000], [pad.left, width - pad.right])
  const y = scaleLinear([0, Math.max(...alone, ...others, 0.1) * 1.05], [height - pad.bottom, pad.top])
  const along = (_: number, i: number) => x(hz[i] ?? 1)
  const over = line<number>(along, y).digits(1)
  const under = area<number>(along, y(0), y).digits(1)
  const best = heard.indexOf(Math.max(...heard, 0))
  return (
    <div ref={box}>
      <Field
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`Loudness of ${p.name} along frequency, alone and among the others. Most of what is left is at ${Math.round(hz[best] ?? 0)} Hz.`}
      >
        {marked.map((f) => (
          <g key={f}>
            <line x1={x(f)} x2={x(f)} y1={pad.top} y2={height - pad.bottom} stroke="var(--line)" />
            <text x={x(f)} y={height - pad.bottom + 15} textAnchor="middle">
              {f >= 1000 ? `${f / 1000}k` : f}
            </text>
          </g>
        ))}
        <path d={under(others) ?? ''} fill="var(--edge)" opacity={0.45} />
        <path d={under(heard) ?? ''} fill={p.colour} />
        <path d={over(alone) ?? ''} fill="none" stroke="var(--text)" strokeWidth={2} strokeDasharray="5 4" />
        <text x={width - pad.right} y={height - 3} textAnchor="end">
          Hz
        </text>
      </Field>
      <Legend aria-hidden="true">
        <li>
          <i style={{ background: p.colour }} /> {p.name} as it is heard
        </li>
        <li>
          <svg width="26" height="8" focusable="false" aria-hidden="true">
            <line x1="0" x2="26" y1="4" y2="4" stroke="currentColor" strokeWidth="2" strokeDasharray="5 4" />
          </svg>{' '}
          alone
        </li>
        <li>
          <i style={{ background: 'var(--edge)', opacity: 0.6 }} /> the others beside it
        </li>
        <li>higher is louder</li>
      </Legend>
    </div>
  )
}

const Field = styled.svg`width: 100%; display: block; text { font: 400 12px/1 var(--face-figures); fill: var(--muted); }`
const Legend = styled.ul`
  margin: 6px 0 0; padding: 0; list-style: none; display: flex; flex-wrap: wrap; gap: 4px 18px; font-size: 13px;
  i { display: inline-block; width: 14px; height: 10px; }
`
