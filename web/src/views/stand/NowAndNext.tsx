import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { VerdictMark } from '../../marks/marks'
import { tape } from '../../theme/tokens'
import type { State } from './nightDesk'
import { ago, type Step } from './tonight'

/** The sound of a section, on its tape. */
export function Sound({ step, verdict }: { step: Step; verdict?: boolean }) {
  return (
    <SoundRow>
      <Tape style={{ background: tape(step.tape) }} title={step.name}>
        {step.name}
      </Tape>
      <b title={step.label}>{step.label}</b>
      {verdict && step.verdict && <VerdictMark verdict={step.verdict} size={20} />}
      {step.singing && <span>singing</span>}
      {step.meant && <em>for {step.meant}, which is lost</em>}
      {step.without && <em>{step.without}</em>}
    </SoundRow>
  )
}

/** How long it is to the change. */
export function Left({ step, since, now }: { step: Step; since: number | undefined; now: number }) {
  if (step.length_s === undefined) return <Time>Open: until you go on</Time>
  const gone = since === undefined ? 0 : Math.max(0, (now - since) / 1000)
  const left = Math.max(0, step.length_s - gone)
  const bars = left / (step.beat_s * step.beats)
  return (
    <Time>
      {left > 0 ? `${Math.ceil(left)} s, ${Math.ceil(bars)} bars to the change` : 'Change now'}
      <i aria-hidden="true">
        <i style={{ width: `${(100 * left) / step.length_s}%`, background: tape(step.tape) }} />
      </i>
    </Time>
  )
}

/** Whether the page is up to date, and whether it stays lit. */
export function Connected({ state, now, awake }: { state: State; now: () => number; awake: boolean }) {
  const [, look] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => look((n) => n + 1), 5000)
    return () => clearInterval(timer)
  }, [])
  const waiting = state.held.outbox.length
  return (
    <Signal role="status" aria-label="Connection">
      {state.online ? 'Live' : `Own copy, ${ago(now() - state.held.at)} old`}
      {!state.online && waiting > 0 && <span>{waiting} to send</span>}
      {!awake && <span>Keep the screen on: this browser may let it go dark</span>}
    </Signal>
  )
}

const Signal = styled.div`font-size: 13px; color: var(--muted); display: grid; justify-items: end; text-align: right; max-width: 44%; flex: none; span { font-size: 12px; }`
const SoundRow = styled.div`
  display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; min-width: 0;
  b { font: 600 26px/1.1 var(--face-label); min-width: 0; overflow: hidden; text-overflow: ellipsis; }
  span { color: var(--muted); font-size: 15px; }
  em { font-style: normal; font-weight: 600; color: var(--red); font-size: 16px; }
`
const Tape = styled.strong`font: 600 24px/1.2 var(--face-label); color: var(--onTape); padding: 3px 12px; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap;`
const Time = styled.p`
  margin: 0; font-size: 16px; color: var(--text); display: grid; gap: 6px; font-variant-numeric: tabular-nums;
  > i { display: block; height: 8px; background: var(--sunk); }
  > i > i { display: block; height: 100%; }
`
