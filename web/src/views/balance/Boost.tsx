import { useState } from 'react'
import styled from 'styled-components'
import { useEffects } from '../../api/effects'
import type { Placement, Rig } from '../../api/types'
import { useWork, type Working } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen, usePlace } from '../../state/place'
import { withPath } from '../../state/there'
import { signed } from '../../ui/figures'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Progress, Waiting } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { TakeButton } from '../../ui/TakeButton'
import { keysOf, stopsOf } from '../order/chain'
import { type Group, grouped } from './grouped'
import type { HeardBy } from './heardBy'

/** What a boost does at every place of the chain where it could stand; `stops` are those of a song that is played with other
 * boxes. */
export function Boost(p: { rig: Rig; heard: HeardBy; stops: string[] | undefined }) {
  const { rig, heard } = p
  const { plan, here, destination, sound } = usePlace()
  const stops = stopsOf(plan)
  const effects = useEffects()
  const gains = (p.stops ?? keysOf(here?.path ?? [])).filter(
    (k) => effects.get(stops.get(k)?.effect ?? '')?.pushes,
  )
  const [picked, pick] = useState<string | undefined>()
  const block =
    picked && gains.includes(picked)
      ? picked
      : (gains.find((k) => stops.get(k)?.effect === 'boost') ?? gains[0])
  const work = useWork<Placement>(
    '/api/boost',
    block ? { rig: rig.id, destination: destination?.id, ...heard, block } : undefined,
  )
  const found = work.latest
  if (!block) return null
  return (
    <Panel aria-label="Boost placement" role="region">
      <Row $gap={12}>
        <Heading>Boost placement</Heading>
        <Select
          label="Stop"
          hideLabel
          value={block}
          options={gains.map((k) => ({ id: k, name: stops.get(k)?.name ?? k }))}
          onChange={pick}
        />
      </Row>
      {work.busy && (
        <Waiting style={found ? undefined : { minHeight: 170 }}>
          <Progress label="Trying every place" share={work.progress} cancel={work.cancel} />
        </Waiting>
      )}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {found && (
        <List>
          {grouped(found).map((g) => (
            <PlaceLine
              key={g.first.words}
              group={g}
              found={found}
              work={work}
              rig={rig}
              heard={heard}
              sound={sound?.id}
            />
          ))}
        </List>
      )}
      {found && (
        <Muted>
          On against off, from the guitar on: the upper bar is loudness, the lower one dirt. Between stops
          that are linear nothing changes, so they share a line.
        </Muted>
      )}
    </Panel>
  )
}

function PlaceLine({
  group,
  found,
  work,
  rig,
  heard,
  sound,
}: {
  group: Group
  found: Placement
  work: Working<Placement>
  rig: Rig
  heard: HeardBy
  sound: string | undefined
}) {
  const { here, destination } = useChosen()
  const edit = useEdit()
  const stands = group.all.some((x) => x.place.here)
  const to = group.all.find((x) => x.place.here)?.place ?? group.first
  const words = group.all.map((x) => x.place.words.replace(/^after /, '')).join(', ')
  const title = group.first.words.startsWith('after')
    ? `After ${words}`
    : group.first.words.replace(/^f/, 'F')
  const badges = [
    stands && 'stands here',
    group.all.some((x) => x.index === found.louder) && 'best for louder',
    group.all.some((x) => x.index === found.thicker) && 'best for thicker',
  ].filter(Boolean)
  const does = group.first.does.find((d) => d.sound === sound) ?? group.first.does[0]
  return (
    <Line $here={stands}>
      <Where title={title}>
        {title}
        {badges.length > 0 && <small>{badges.join(', ')}</small>}
      </Where>
      {does && (
        <>
          <Bars aria-hidden="true">
            <i
              style={{ width: `${Math.min(100, Math.abs(does.louder_lu) * 12)}%`, background: 'var(--lit)' }}
            />
            <i
              style={{
                width: `${Math.min(100, Math.abs(does.dirtier_pct) * 4)}%`,
                background: 'var(--edge)',
              }}
            />
          </Bars>
          <Does>
            <Figure>{signed(does.louder_lu)} LU</Figure>, <Figure>{signed(does.dirtier_pct, 0)} %</Figure>
            <small>
              {does.name} {signed(does.over_home_lu)} LU, {does.dirt_pct.toFixed(0)} %
              {does.met ? ', in its target' : ''}
            </small>
          </Does>
          <Row $gap={4}>
            {!stands && (
              <>
                <TakeButton
                  aria-label={`Move ${found.name} ${to.words}`}
                  fresh={work.fresh}
                  onPress={() =>
                    edit.change(
                      'rigs',
                      rig.id,
                      `Move ${found.name} ${to.words}`,
                      (r) => withPath(r, destination?.id, here?.path ?? [], () => to.path ?? []),
                      work.from,
                    )
                  }
                >
                  Move
                </TakeButton>
                <ListenButton
                  title={`${does.name}: ${found.name} ${to.words}`}
                  query={{ sound: does.sound, order: JSON.stringify(to.order), ...heard }}
                />
              </>
            )}
          </Row>
        </>
      )}
    </Line>
  )
}

const List = styled.ul`display: grid; gap: 2px; font-size: 13px;`
const Line = styled.li<{ $here: boolean }>`
  display: grid; grid-template-columns: minmax(0, 1.4fr) 150px minmax(190px, 1fr) 136px; gap: 14px; align-items: center; padding: 4px 6px; min-height: 42px;
  @media (max-width: 1100px) { grid-template-columns: 90px minmax(0, 1fr) 136px; gap: 4px 10px; > :first-child { grid-column: 1 / -1; } }
  border: 1px solid ${(p) => (p.$here ? 'var(--text)' : 'transparent')}; border-bottom-color: ${(p) => (p.$here ? 'var(--text)' : 'var(--line)')};
  small { display: block; font-size: 12px; color: var(--muted); }
`
const Where = styled.span`overflow: hidden; text-overflow: ellipsis; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical;`
const Bars = styled.div`display: grid; gap: 3px; i { display: block; height: 7px; }`
const Does = styled.span``
