import { ticks } from 'd3-array'
import { scaleLinear, scaleLog } from 'd3-scale'
import { area, line } from 'd3-shape'
import { useState } from 'react'
import styled from 'styled-components'
import type { ToneStack } from '../../api/types'
import { signed } from '../../ui/figures'
import { Heading, Muted } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { useWidth } from '../../ui/useWidth'

const height = 200
const pad = { left: 44, right: 12, top: 10, bottom: 24 }
const marked = [50, 100, 200, 500, 1000, 2000, 5000, 10000]

/** What the tone knobs of an amp do: the curve as it stands, and one knob from end to end. */
export function ToneCurves({ tone }: { tone: ToneStack }) {
  const [box, width] = useWidth<HTMLDivElement>(720)
  const [chosen, choose] = useState<string>()
  const knob = tone.knobs.find((k) => k.key === chosen) ?? tone.knobs[0]
  const all = [...tone.as_set_db, ...tone.knobs.flatMap((k) => [...k.lowest_db, ...k.highest_db])]
  const low = Math.floor(Math.min(...all) / 6) * 6
  const high = Math.ceil(Math.max(...all) / 6) * 6
  const x = scaleLog([tone.hz[0] ?? 50, tone.hz.at(-1) ?? 10000], [pad.left, width - pad.right])
  const y = scaleLinear([low, high], [height - pad.bottom, pad.top])
  const along = (_: number, i: number) => x(tone.hz[i] ?? 1)
  const asSet = line<number>(along, y).digits(1)
  const travel = area<number>(
    along,
    (_, i) => y(knob?.lowest_db[i] ?? 0),
    (_, i) => y(knob?.highest_db[i] ?? 0),
  ).digits(1)
  const widest = knob
    ? knob.lowest_db.reduce((best, _, i) => {
        const apart = (k: number) => Math.abs((knob.highest_db[k] ?? 0) - (knob.lowest_db[k] ?? 0))
        return apart(i) > apart(best) ? i : best
      }, 0)
    : 0
  const most = knob
    ? `${knob.name} at ${knob.at}: ${signed(knob.lowest_db[widest] ?? 0, 0)} to ${signed(knob.highest_db[widest] ?? 0, 0)} dB at ${Math.round(tone.hz[widest] ?? 0)} Hz, ${signed(tone.as_set_db[widest] ?? 0, 0)} dB as it stands.`
    : ''
  return (
    <section aria-label={`Tone knobs of ${tone.name}`}>
      <Line>
        <Heading>Tone knobs of {tone.name}</Heading>
        <Select
          label="Knob"
          value={knob?.key ?? ''}
          options={tone.knobs.map((k) => ({ id: k.key, name: k.name }))}
          onChange={choose}
        />
      </Line>
      <div ref={box}>
        <Field
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={`What the tone knobs do along frequency. ${most}`}
        >
          {marked.map((f) => (
            <g key={f}>
              <line x1={x(f)} x2={x(f)} y1={pad.top} y2={height - pad.bottom} stroke="var(--line)" />
              <text x={x(f)} y={height - 8} textAnchor="middle">
                {f >= 1000 ? `${f / 1000}k` : f}
              </text>
            </g>
          ))}
          {ticks(low, high, 5).map((db) => (
            <g key={db}>
              <line x1={pad.left} x2={width - pad.right} y1={y(db)} y2={y(db)} stroke="var(--line)" />
              <text x={pad.left - 6} y={y(db) + 4} textAnchor="end">
                {signed(db, 0)}
              </text>
            </g>
          ))}
          {knob && <path d={travel(knob.highest_db) ?? ''} fill="var(--edge)" opacity={0.45} />}
          <path d={asSet(tone.as_set_db) ?? ''} fill="none" stroke="var(--text)" strokeWidth={2.5} />
        </Field>
      </div>
      <Muted>
        {most} The line is how the amp stands, the pale field what this knob can make of it: dB over Hz.
      </Muted>
    </section>
  )
}

const Line = styled.div`display: flex; align-items: end; justify-content: space-between; gap: 12px; margin-bottom: 8px;`
const Field = styled.svg`width: 100%; display: block; text { font: 400 12px/1 var(--face-figures); fill: var(--muted); }`
