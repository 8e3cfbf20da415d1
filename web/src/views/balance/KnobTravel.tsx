import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import styled from 'styled-components'
import type { DialTravel } from '../../api/types'
import { signed } from '../../ui/figures'
import { Figure, Muted, Name } from '../../ui/layout'

const width = 220
const height = 74
const pad = 6

/** One knob over its travel: loudness, dirt and brightness, where it stands and where it is steep. */
export function KnobTravel({ knob: k }: { knob: DialTravel }) {
  const x = scaleLinear([k.low, k.high], [pad, width - pad])
  const loud = scaleLinear([-12, 12], [height - pad, pad]).clamp(true)
  const dirt = scaleLinear([0, 100], [height - pad, pad])
  const path = (y: (p: DialTravel['points'][number]) => number) =>
    line<DialTravel['points'][number]>((p) => x(p.at), y).digits(1)(k.points) ?? ''
  const first = k.points[0]
  const last = k.points.at(-1)
  const steep = k.steep.to > k.steep.from
  return (
    <>
      <Name>
        {k.name} <Figure>{k.at}</Figure>
      </Name>
      <Field
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`${k.name} from ${k.low} to ${k.high}: ${signed(first?.louder_lu ?? 0)} to ${signed(last?.louder_lu ?? 0)} LU, ${Math.round(first?.dirt_pct ?? 0)} to ${Math.round(last?.dirt_pct ?? 0)} % dirt${steep ? `, steepest from ${k.steep.from} to ${k.steep.to}` : ''}.`}
      >
        {steep && (
          <rect
            x={x(k.steep.from)}
            y={0}
            width={x(k.steep.to) - x(k.steep.from)}
            height={height}
            fill="var(--edge)"
            opacity={0.35}
          />
        )}
        <line x1={pad} x2={width - pad} y1={height / 2} y2={height / 2} stroke="var(--line)" />
        <path d={path((p) => loud(p.louder_lu))} fill="none" stroke="var(--text)" strokeWidth={2} />
        <path
          d={path((p) => dirt(p.dirt_pct))}
          fill="none"
          stroke="var(--text)"
          strokeWidth={1.6}
          strokeDasharray="6 3"
        />
        <path
          d={path((p) => loud(p.brighter_db * 3))}
          fill="none"
          stroke="var(--text)"
          strokeWidth={1.6}
          strokeDasharray="2 3"
        />
        <line x1={x(k.at)} x2={x(k.at)} y1={0} y2={height} stroke="var(--tape-yellow)" strokeWidth={3} />
      </Field>
      <p style={{ fontSize: 13 }}>{k.words}</p>
      {k.shares && <Muted style={{ fontSize: 13 }}>Moves {k.shares} too.</Muted>}
    </>
  )
}

const Field = styled.svg`width: 100%; display: block; background: var(--sunk); border: 1px solid var(--line);`
