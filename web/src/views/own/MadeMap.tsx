import { ticks } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { ChosenSet } from '../../api/types'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { signed } from '../../ui/figures'

const width = 250
const height = 130
const pad = { left: 34, right: 10, top: 8, bottom: 22 }

const mark = 16

/** Marks that would lie on each other stand side by side, and each knows where it belongs. */
function apart<T extends { x: number; y: number }>(list: T[]): (T & { from: number })[] {
  const out: (T & { from: number })[] = []
  for (const one of list) {
    const at = { ...one, from: one.x }
    while (out.some((o) => Math.abs(o.x - at.x) < mark && Math.abs(o.y - at.y) < mark)) at.x += mark / 2
    out.push(at)
  }
  return out
}

/** Where a choice puts each sound, on what it has to be: dirt to the right, loudness over home upwards. */
export function MadeMap({ set }: { set: ChosenSet }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const loud = set.made.flatMap((m) =>
    [m.loudness_lu, m.loud_min_lu, m.loud_max_lu].filter((v): v is number => v !== undefined),
  )
  const low = Math.floor(Math.min(-1, ...loud)) - 1
  const high = Math.ceil(Math.max(1, ...loud)) + 1
  const x = scaleLinear([0, 100], [pad.left, width - pad.right])
  const y = scaleLinear([low, high], [height - pad.bottom, pad.top])
  const marks = apart(set.made.map((m) => ({ m, x: x(m.dirt_pct), y: y(m.loudness_lu) })))
  return (
    <Plot
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Dirt and loudness: ${set.made
        .map((m) => `${m.name} ${Math.round(m.dirt_pct)} %, ${signed(m.loudness_lu)} LU`)
        .join('; ')}`}
    >
      {ticks(low, high, 4).map((t) => (
        <g key={t}>
          <line x1={pad.left} x2={width - pad.right} y1={y(t)} y2={y(t)} data-zero={t === 0 || undefined} />
          <text x={pad.left - 5} y={y(t) + 4} textAnchor="end">
            {signed(t, 0)}
          </text>
        </g>
      ))}
      {set.made.map((m) => (
        <rect
          key={m.sound}
          x={x(m.dirt_min_pct)}
          width={x(m.dirt_max_pct) - x(m.dirt_min_pct)}
          y={y(m.loud_max_lu ?? high)}
          height={y(m.loud_min_lu ?? low) - y(m.loud_max_lu ?? high)}
          fill={tape(find('sounds', m.sound)?.tape)}
          stroke={tape(find('sounds', m.sound)?.tape)}
        />
      ))}
      {[0, 50, 100].map((t) => (
        <text key={t} x={x(t)} y={height - 6} textAnchor={t === 100 ? 'end' : 'middle'}>
          {t} %
        </text>
      ))}
      {marks
        .filter((m) => m.from !== m.x)
        .map(({ m, x, y, from }) => (
          <line key={m.sound} x1={from} x2={x} y1={y} y2={y} data-lead />
        ))}
      {marks.map(({ m, x, y }) => (
        <g key={m.sound} transform={`translate(${x} ${y})`}>
          <circle r="8" fill={tape(find('sounds', m.sound)?.tape)} />
          <text y="4" textAnchor="middle" data-mark>
            {(find('sounds', m.sound)?.short ?? m.name).slice(0, 2)}
          </text>
        </g>
      ))}
    </Plot>
  )
}

const Plot = styled.svg`
  width: 100%; height: auto; background: var(--sunk); border: 1px solid var(--line);
  rect { fill-opacity: 0.16; stroke-width: 1.5; }
  line { stroke: var(--line); } line[data-zero] { stroke: var(--edge); } line[data-lead] { stroke: var(--text); stroke-width: 2; }
  text { fill: var(--muted); font: 12px var(--face-figures); } text[data-mark] { fill: var(--onTape); font: 600 12px var(--face-label); }
`
