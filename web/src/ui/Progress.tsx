import styled from 'styled-components'
import { Button } from './controls'

/** How far a long computation is, and how to stop it. */
export function Progress(p: { label: string; share: number; cancel: () => void }) {
  const percent = Math.round(p.share * 100)
  return (
    <Line role="status">
      <span>{p.label}</span>
      <Bar
        role="progressbar"
        aria-label={p.label}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={percent}
      >
        <i style={{ width: `${percent}%` }} />
      </Bar>
      <span style={{ whiteSpace: 'nowrap' }}>{percent} %</span>
      <Button aria-label={`Cancel: ${p.label}`} onPress={p.cancel}>
        Cancel
      </Button>
    </Line>
  )
}

/** Keeps the place of what is worked out, so that nothing beneath it jumps when it comes. */
export const Waiting = styled.div`display: grid; align-content: start;`

const Line = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 6px 10px; font-size: 13px; font-variant-numeric: tabular-nums;`
const Bar = styled.div`flex: 1; min-width: 80px; max-width: 220px; height: 8px; background: var(--sunk); border: 1px solid var(--edge); i { display: block; height: 100%; background: var(--lit); }`
