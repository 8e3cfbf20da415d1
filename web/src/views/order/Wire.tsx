import styled from 'styled-components'
import type { Traced } from '../../api/types'

const heavy = { instrument: 2, line: 2, speaker: 4 } as const
const dashes = { instrument: undefined, line: '7 4', speaker: undefined } as const

/** The signal past one card: what arrives on the left half, what leaves on the right. One line
 * is mono and two are stereo; line level is dashed and speaker level is thick. */
export function Wire({ at }: { at: Traced | undefined }) {
  const half = (sides: number, level: keyof typeof heavy, from: number) =>
    (sides === 2 ? [4, 10] : [7]).map((y) => (
      <line
        key={`${from} ${y}`}
        x1={`${from}%`}
        x2={`${from + 50}%`}
        y1={y}
        y2={y}
        stroke="var(--wire)"
        strokeWidth={heavy[level]}
        strokeDasharray={dashes[level]}
      />
    ))
  return (
    <Strip height="14" aria-hidden="true" focusable="false">
      {half(at?.in ?? 1, at?.level_in ?? 'instrument', 0)}
      {half(at?.out ?? 1, at?.level_out ?? 'instrument', 50)}
    </Strip>
  )
}

/** A signal that passes nothing: an empty lane, or the end of a line. */
export function PlainWire({
  sides = 1,
  level = 'instrument',
}: {
  sides?: number
  level?: Traced['level_in']
}) {
  const at = { stop: '', zone: 'front', in: sides, out: sides, level_in: level, level_out: level } as Traced
  return <Wire at={at} />
}

// No width of its own, so that a wire never widens what it runs past.
const Strip = styled.svg`display: block; width: 0; min-width: calc(100% + 6px); margin-left: -3px; overflow: visible;`
