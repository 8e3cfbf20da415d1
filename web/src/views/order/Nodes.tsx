import styled from 'styled-components'
import type { PathNode, Split } from '../../api/types'
import { AddStop } from './AddStop'
import { idOf, lanesOf, runsOf, type Spot } from './chain'
import { Run } from './Run'
import { useChain, useLaneName } from './useChain'
import { PlainWire } from './Wire'

/** A line of the chain: stops, and splits with their lanes below each other. What does not
 * fit goes on in the next line. */
export function Nodes(p: { label: string; nodes: PathNode[]; end: Spot; empty: string; add?: boolean }) {
  const chain = useChain()
  const runs = runsOf(p.nodes)
  const last = p.nodes.at(-1)
  const closed = last?.split && last.split.kind !== 'tap' && !last.split.join
  const after = last && chain.traced.get(idOf(last))
  return (
    <Flow>
      {runs.map((run, i) => {
        const split = run.at(-1)?.split
        const before = runs[i - 1]?.at(-1)?.split
        if (run.length === 0 && i > 0 && (closed || chain.preview)) return null
        return (
          <Group key={split?.id ?? (i === 0 ? 'first' : `after ${before?.id}`)}>
            <Run
              label={i === 0 ? p.label : `${p.label}, after ${chain.name(before?.id ?? '')}`}
              nodes={run}
              end={run.length > 0 || i === 0 ? p.end : { after: before?.id ?? '' }}
              empty={i === 0 ? p.empty : ''}
              wired={i > 0 || 'split' in Object(p.end)}
            />
            {split && <Lanes split={split} />}
          </Group>
        )
      })}
      {!chain.preview && !closed && p.add && (
        <Plus>
          <PlainWire sides={after?.out} level={after?.level_out} />
          <AddStop label={`Add to ${p.label}`} spot={p.end} small />
        </Plus>
      )}
    </Flow>
  )
}

/** The lanes of a split, drawn from where they part to where they come together. */
function Lanes({ split }: { split: Split }) {
  const chain = useChain()
  const laneName = useLaneName()
  const at = chain.traced.get(split.id)
  const lanes = lanesOf(split)
  const joins = { sum: 'sum', stereo: 'stereo', crossfade: 'crossfade' } as const
  const mixer = chain.stops.get(split.to ?? '')
  return (
    <Fork role="group" aria-label={`Lanes of ${chain.name(split.id)}`}>
      <div>
        {lanes.map((l, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a lane is its place
          <LaneRow key={i} $first={i === 0} $last={i === lanes.length - 1} $joined={Boolean(split.join)}>
            <Lead>
              <LeadWire split={split} first={l.nodes?.[0]} />
              <small title={laneName(split, i)}>{laneName(split, i)}</small>
            </Lead>
            <Nodes
              label={`${laneName(split, i)} of ${chain.name(split.id)}`}
              nodes={l.nodes ?? []}
              end={{ split: split.id, lane: i }}
              empty={split.join ? 'dry' : 'nothing yet'}
              add
            />
            {split.join && (
              <Rest>
                <PlainWire />
              </Rest>
            )}
          </LaneRow>
        ))}
      </div>
      {split.join && (
        <Join>
          <PlainWire sides={at?.out} level={at?.level_out} />
          <small title={mixer?.name}>
            {joins[split.join]}
            {mixer && mixer.key !== split.from ? `, ${mixer.gear.name}` : ''}
          </small>
        </Join>
      )}
    </Fork>
  )
}

/** What runs into a lane: what arrives at its first stop, else what the split divides. */
function LeadWire({ split, first }: { split: Split; first: PathNode | undefined }) {
  const { traced } = useChain()
  const at = (first && traced.get(idOf(first))) ?? traced.get(split.id)
  return <PlainWire sides={split.kind === 'left-right' ? 1 : at?.in} level={at?.level_in} />
}

const Flow = styled.div`display: flex; flex-wrap: wrap; gap: 8px 6px; align-items: flex-start; min-width: 0;`
const Plus = styled.span`flex: none; width: 30px; button { margin-top: 10px; }`
const Group = styled.div`
  display: flex; flex-wrap: wrap; gap: 8px 0; min-width: 0; max-width: 100%; align-items: flex-start;
`
const Fork = styled.div`display: flex; min-width: 0; max-width: 100%; align-items: flex-start;`
const LaneRow = styled.div<{ $first: boolean; $last: boolean; $joined: boolean }>`
  position: relative; display: flex; align-items: flex-start; padding: 0 10px 8px; min-width: 0;
  &::before, &::after { content: ''; position: absolute; width: 2px; background: var(--wire);
    top: ${(p) => (p.$first ? 6 : 0)}px; ${(p) => (p.$last ? 'height: 8px;' : 'bottom: 0;')} }
  ${(p) => p.$last && !p.$first && '&::before, &::after { top: 0; height: 8px; }'}
  ${(p) => p.$first && p.$last && '&::before, &::after { display: none; }'}
  &::before { left: 0; }
  &::after { right: 0; ${(p) => !p.$joined && 'display: none;'} }
`
const Lead = styled.span`
  flex: none; width: 52px; margin-left: -10px; display: block;
  small { display: -webkit-box; -webkit-line-clamp: 4; -webkit-box-orient: vertical; font: 600 13px/1.1 var(--face-label); color: var(--muted); overflow: hidden; overflow-wrap: anywhere; margin: 3px 4px 0 8px; }
`
const Rest = styled.span`flex: 1 1 0; min-width: 10px; margin-right: -10px;`
const Join = styled.span`
  flex: none; min-width: 34px; max-width: 86px; color: var(--muted);
  small { display: block; font: 600 13px/1.1 var(--face-label); padding: 3px 0 0 6px; overflow: hidden; text-overflow: ellipsis; }
`
