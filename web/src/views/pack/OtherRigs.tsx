import { useState } from 'react'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Rig, Show } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { ChangeShow } from './ShowSheet'

/** The rigs at a show, each with its player; songs are called for all of them, and the house gets one sheet. */
export function OtherRigs({ show, change }: { show: Show; change: ChangeShow }) {
  const { plan } = useChosen()
  const [chosen, choose] = useState<string | undefined>()
  const rigs = values(plan, 'rigs')
  const others = show.others ?? []
  const free = rigs.filter((r) => r.id !== show.rig && !others.some((o) => o.rig === r.id))
  if (rigs.length < 2) return null
  const own = rigs.find((r) => r.id === show.rig)
  return (
    <Panel aria-label="Rigs at the show">
      <Heading>Rigs at the show</Heading>
      {own && (
        <Line>
          <b>{own.name}</b>
          <Player rig={own} />
        </Line>
      )}
      {others.map((o) => {
        const rig = rigs.find((r) => r.id === o.rig)
        if (!rig) return null
        return (
          <Line key={o.rig}>
            <b>{rig.name}</b>
            <Player rig={rig} />
            <Select
              label={`${rig.name} plugs into`}
              value={o.destination ?? 'own'}
              options={[
                { id: 'own', name: 'As it stands' },
                ...(rig.destinations ?? []).map((d) => ({ id: d.id, name: d.name })),
              ]}
              onChange={(d) =>
                change(`Destination of ${rig.name}`, (s) => ({
                  ...s,
                  others: (s.others ?? []).map((x) =>
                    x.rig === o.rig ? { ...x, destination: d === 'own' ? undefined : d } : x,
                  ),
                }))
              }
            />
            <IconButton
              label={`Take ${rig.name} off the show`}
              onPress={() =>
                change(`${rig.name} off`, (s) => {
                  const left = (s.others ?? []).filter((x) => x.rig !== o.rig)
                  return { ...s, others: left.length > 0 ? left : undefined }
                })
              }
            >
              <Icon name="cross" />
            </IconButton>
          </Line>
        )
      })}
      {free.length > 0 && (
        <Row>
          <Select
            label="Another rig"
            value={chosen ?? free[0]?.id}
            options={free.map((r) => ({ id: r.id, name: r.name }))}
            onChange={choose}
          />
          <Button
            onPress={() => {
              const rig = free.find((r) => r.id === chosen) ?? free[0]
              if (rig)
                change(`Add ${rig.name}`, (s) => ({ ...s, others: [...(s.others ?? []), { rig: rig.id }] }))
              choose(undefined)
            }}
          >
            <Icon name="plus" /> Add it to the show
          </Button>
        </Row>
      )}
      <Muted>
        A player of the band has sounds of their own in the sections of a song, under Hear, Songs. A rig
        without a player is that of the player whose sounds the songs name.
      </Muted>
    </Panel>
  )
}

/** Who plays a rig. */
function Player({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const parts = values(plan, 'bands').flatMap((b) =>
    (b.parts ?? []).map((p) => ({ id: `${b.id}/${p.id}`, name: p.name, band: b.id, part: p.id })),
  )
  return (
    <Select
      label={`Player of ${rig.name}`}
      value={rig.player ? `${rig.player.band}/${rig.player.part}` : 'songs'}
      options={[{ id: 'songs', name: 'Whose sounds songs name' }, ...parts]}
      onChange={(id) => {
        const p = parts.find((x) => x.id === id)
        void edit.change('rigs', rig.id, `Player of ${rig.name}`, (r) => ({
          ...r,
          player: p ? { band: p.band, part: p.part } : undefined,
        }))
      }}
    />
  )
}

const Line = styled.div`
  display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: end; border-bottom: 1px solid var(--line); padding-bottom: 8px;
  b { font: 600 18px/1.2 var(--face-label); flex: 1 1 160px; align-self: center; }
`
