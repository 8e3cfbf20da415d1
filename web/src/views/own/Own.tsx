import { useState } from 'react'
import { Route, Routes, useNavigate, useParams } from 'react-router'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Gear } from '../../api/types'
import { EffectMark, Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { tight } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Heading, Muted, Row, Stack, Title } from '../../ui/layout'
import { AddGear } from './AddGear'
import { Choose } from './Choose'
import { GearSheet } from './GearSheet'
import { OwnTabs } from './OwnTabs'

const families: [Gear['kind'], string][] = [
  ['guitar', 'Guitars'],
  ['pedal', 'Pedals'],
  ['amp', 'Amps'],
  ['controller', 'Controllers'],
  ['interface', 'Boxes and DIs'],
  ['supply', 'Supplies'],
  ['board', 'Boards'],
  ['cable', 'Cable'],
]

/** Gear by kind, one sheet for each thing. */
export function Own() {
  return (
    <Routes>
      <Route index element={<Pile />} />
      <Route path="choose" element={<Choose />} />
      <Route path=":id" element={<Pile />} />
    </Routes>
  )
}

function Pile() {
  const { id } = useParams()
  const { plan } = useChosen()
  const navigate = useNavigate()
  const [adding, setAdding] = useState(false)
  const all = values(plan, 'gear')
  const shown = all.find((g) => g.id === id) ?? all[0]
  return (
    <Stack>
      <Row $gap={16}>
        <Title>Own</Title>
        <OwnTabs />
        <Button $strong={all.length === 0} onPress={() => setAdding(true)}>
          <Icon name="plus" /> Add gear
        </Button>
        <Button onPress={() => navigate('/begin')}>Type a chain</Button>
      </Row>
      {adding && <AddGear close={() => setAdding(false)} />}
      {all.length === 0 ? (
        <Muted>
          One pile of gear, owned once and used in as many rigs as you like. Start from a generic kind.
        </Muted>
      ) : (
        <Columns>
          <nav aria-label="Gear">
            {families.map(([kind, title]) => {
              const list = all.filter((g) => g.kind === kind)
              return (
                list.length > 0 && (
                  <Family key={kind}>
                    <Heading>{title}</Heading>
                    <ul>
                      {list.map((g) => (
                        <li key={g.id}>
                          <Pick
                            type="button"
                            aria-current={g.id === shown?.id ? 'true' : undefined}
                            onClick={() => navigate(`/own/${g.id}`)}
                          >
                            <EffectMark
                              effect={g.kind === 'guitar' ? 'guitar' : (g.blocks?.[0]?.effect ?? '')}
                            />
                            <span title={g.name}>{g.name}</span>
                          </Pick>
                        </li>
                      ))}
                    </ul>
                  </Family>
                )
              )
            })}
          </nav>
          {shown && <GearSheet key={shown.id} gear={shown} />}
        </Columns>
      )}
    </Stack>
  )
}

const Columns = styled.div`display: grid; grid-template-columns: 170px minmax(0, 1fr); gap: 18px; align-items: start;
  ${tight} { grid-template-columns: minmax(0, 1fr); > nav { max-height: 240px; overflow: auto; } }
`
const Family = styled.div`margin-bottom: 12px; display: grid; gap: 3px;`
const Pick = styled.button`
  width: 100%; display: flex; gap: 8px; align-items: center; padding: 4px 6px; border: 0; background: none; cursor: pointer; text-align: left; min-height: 30px;
  span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  &:hover { background: var(--panel); }
  &[aria-current] { background: var(--lit); color: var(--onLit); }
`
