import type { ReactNode } from 'react'
import styled from 'styled-components'
import type { OutputState, PowerLoad, Rig, SupplyState } from '../../api/types'
import { Select } from '../../ui/controls'
import { Figure } from '../../ui/layout'
import { switched } from './feeds'
import { Drop } from './LoadTag'

/** One output: what it gives, what hangs on it, and how much is left. While a box is lifted it says
 * whether that would fit. */
export function OutputCard(p: {
  supply: SupplyState
  output: OutputState
  up: PowerLoad | undefined
  onDrop: (gear: string) => void
  change: (what: string, update: (r: Rig) => Rig) => void
  children: ReactNode
}) {
  const { supply, output: o } = p
  const name = `${supply.name} ${o.name}`
  const choice = p.up?.choices.find((c) => c.supply === supply.supply && c.output === o.output)
  const used = o.drawn_ma > 0
  const left = Math.round(o.headroom * 100)
  const second = o.with && o.loads.length === 0
  return (
    <Card $verdict={choice?.verdict}>
      <Head>
        <b>{o.name}</b>
        <Figure>
          {o.voltage_v} V{o.ac && ' AC'} {o.current_ma.toFixed(0)} mA
        </Figure>
        {o.polarity === 'centre-positive' && <small>centre-positive</small>}
        {o.shared && <small>not isolated</small>}
      </Head>
      {o.voltages_v.length > 1 && (
        <Select
          label={`Voltage of ${name}`}
          hideLabel
          value={String(o.voltage_v)}
          options={o.voltages_v.map((v) => ({ id: String(v), name: `${v} V` }))}
          onChange={(v) =>
            p.change(`Switch ${name} to ${v} V`, (r) => switched(r, supply.supply, o.output, Number(v)))
          }
        />
      )}
      <Drop label={name} accepts={() => true} onDrop={p.onDrop}>
        {p.children}
        {second && <small>joined with {o.with}</small>}
        {o.loads.length === 0 && !second && <small>free</small>}
      </Drop>
      {o.lead && <small>{o.lead} lead</small>}
      <Bar
        role="img"
        aria-label={
          used ? `${name}: ${o.drawn_ma.toFixed(0)} mA drawn, ${left} % left` : `${name}: nothing drawn`
        }
      >
        <i
          style={{
            width: `${Math.max(0, Math.min(100, 100 - left))}%`,
            background: o.headroom < 1 - 1 / 1.2 - 1e-9 ? 'var(--red)' : 'var(--wire)',
          }}
        />
        <u />
      </Bar>
      <small>{used ? `${left} % left` : '\u00a0'}</small>
      {choice && choice.verdict !== 'fits' && <Why>{choice.why}</Why>}
    </Card>
  )
}

const Card = styled.div<{ $verdict: string | undefined }>`
  border: 1px ${(p) => (p.$verdict === 'fault' ? 'dashed' : 'solid')}
    ${(p) => (p.$verdict === 'danger' ? 'var(--red)' : p.$verdict === 'fits' ? 'var(--text)' : 'var(--line)')};
  padding: 8px; display: grid; gap: 5px; align-content: start; font-size: 13px; min-width: 0;
  small { font-size: 12px; color: var(--muted); }
`
const Head = styled.div`
  display: flex; flex-wrap: wrap; gap: 2px 8px; align-items: baseline;
  b { font: 600 18px/1 var(--face-label); }
`
// The mark at five sixths is where a fifth of the draw is still in hand.
const Bar = styled.div`
  height: 8px; background: var(--sunk); border: 1px solid var(--line); position: relative;
  i { display: block; height: 100%; }
  u { position: absolute; left: 83.33%; top: -2px; bottom: -2px; width: 1px; background: var(--edge); }
`
const Why = styled.span`font-size: 12px; color: var(--text);`
