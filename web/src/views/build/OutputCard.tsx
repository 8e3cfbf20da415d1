import type { ReactNode } from 'react'
import styled from 'styled-components'
import type { OutputState, PowerLoad, Rig, SupplyState } from '../../api/types'
import { Figure } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { switched } from './feeds'
import { Drop } from './LoadTag'

/** One output: what it gives, what hangs on it, and how much is left. While a box is lifted it says
 * whether that would fit. */
export function OutputCard(p: {
  supply: SupplyState
  output: OutputState
  up: PowerLoad | undefined
  onDrop: (gear: string) => void
  change: (what: string, update: (r: Rig) => Rig) => unknown
  children: ReactNode
}) {
  const { supply, output: o } = p
  const name = `${supply.name} ${o.name}`
  const choice = p.up?.choices.find((c) => c.supply === supply.supply && c.output === o.output)
  const used = o.drawn_ma > 0
  const left = Math.round(o.headroom * 100)
  const second = o.with && o.loads.length === 0
  return (
    <Drop
      label={name}
      accepts={() => true}
      onDrop={p.onDrop}
      verdict={choice?.verdict ?? (o.troubles.some((t) => t.verdict === 'danger') ? 'danger' : undefined)}
      filled
    >
      <Head>
        <b>{o.name}</b>
        {o.voltages_v.length > 1 ? (
          <Select
            label={`Voltage of ${name}`}
            hideLabel
            value={String(o.voltage_v)}
            options={o.voltages_v.map((v) => ({ id: String(v), name: `${v} V` }))}
            onChange={(v) =>
              p.change(`Switch ${name} to ${v} V`, (r) => switched(r, supply.supply, o.output, Number(v)))
            }
          />
        ) : (
          <Figure>
            {o.voltage_v} V{o.ac && ' AC'}
          </Figure>
        )}
        <Figure>{o.current_ma.toFixed(0)} mA</Figure>
        {o.polarity === 'centre-positive' && <small>centre-positive</small>}
        {o.shared && <small>not isolated</small>}
        {o.lead && <small>{o.lead} lead</small>}
      </Head>
      <Loads>
        {p.children}
        {second && <small>joined with {o.with}</small>}
        {o.loads.length === 0 && !second && <small>free</small>}
      </Loads>
      <Left>
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
        {used && <small>{left} % left</small>}
      </Left>
      {o.troubles.map((t) => (
        <Why key={t.gear} $red={t.verdict === 'danger'}>
          {t.why.charAt(0).toUpperCase() + t.why.slice(1)}.
        </Why>
      ))}
      {choice && choice.verdict !== 'fits' && (
        <Over>
          <Why $red={choice.verdict === 'danger'}>{choice.why}</Why>
        </Over>
      )}
    </Drop>
  )
}

// Laid over the card, so that nothing moves under the hand while a box is lifted.
const Over = styled.div`position: absolute; inset: auto 0 0 0; padding: 5px 10px; background: var(--raised); pointer-events: none;`
const Head = styled.div`
  display: flex; flex-wrap: wrap; gap: 2px 8px; align-items: center; min-height: 32px; color: var(--muted);
  b { font: 600 20px/1 var(--face-label); color: var(--text); min-width: 18px; }
`
const Loads = styled.div`display: flex; flex-wrap: wrap; gap: 4px; align-items: center; min-height: 34px;`
const Left = styled.div`display: grid; grid-template-columns: 1fr auto; gap: 8px; align-items: center; min-height: 18px;`
// The mark at five sixths is where a fifth of the draw is still in hand.
const Bar = styled.div`
  height: 8px; background: var(--sunk); border: 1px solid var(--line); position: relative;
  i { display: block; height: 100%; }
  u { position: absolute; left: 83.33%; top: -2px; bottom: -2px; width: 1px; background: var(--edge); }
`
const Why = styled.span<{
  $red: boolean
}>`font-size: 13px; color: ${(p) => (p.$red ? 'var(--red)' : 'var(--text)')};`
