import { useState } from 'react'
import styled from 'styled-components'
import type { RoomMending, RoomReport } from '../api/types'
import { useWork } from '../api/work'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { Button } from '../ui/controls'
import { ListenButton } from '../ui/ListenButton'
import { Muted, Row } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { TakeButton } from '../ui/TakeButton'
import { useRoom } from '../views/balance/useRoom'
import { PlainCards } from './PlainCards'

type Finding = RoomReport['findings'][number]

/** What is not heard as it should be among the band, with the least move that makes room. */
export function RoomFindings() {
  const { rig } = useChosen()
  const { query, work } = useRoom()
  if (!rig || !query || work.refused) return null
  return (
    <>
      {work.busy && !work.latest && <Muted style={{ minHeight: 150 }}>Listening…</Muted>}
      {work.latest && work.latest.findings.length === 0 && (
        <Muted>Every sound has room among {work.latest.name}.</Muted>
      )}
      <PlainCards
        rig={rig}
        findings={work.latest?.findings ?? []}
        more={(f) => <Mend key={f.id} finding={f} query={query} />}
      />
    </>
  )
}

function Mend({ finding, query }: { finding: Finding; query: object }) {
  const { report, go } = useChosen()
  const [asked, ask] = useState(false)
  const work = useWork<RoomMending>('/api/room/mend', asked ? { ...query, finding: finding.id } : undefined)
  const first = finding.positions[0]
  const section = first === undefined ? undefined : report?.sections[first]
  return (
    <>
      <Row>
        {section && (
          <Button aria-label={`Show: ${finding.title}`} onPress={() => go(section.position)}>
            {finding.positions.length > 1 ? `Show the first of ${finding.positions.length}` : 'Show'}
          </Button>
        )}
        {!asked && (
          <Button $strong aria-label={`What makes room: ${finding.title}`} onPress={() => ask(true)}>
            What makes room
          </Button>
        )}
      </Row>
      {work.busy && <Progress label="Trying moves" share={work.progress} cancel={work.cancel} />}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {work.result && (
        <Moves aria-label={`Moves for: ${finding.title}`}>
          {work.result.moves.map((m) => (
            <li key={m.words}>
              <OneMove move={m} finding={finding} fresh={work.fresh} from={work.from} />
            </li>
          ))}
        </Moves>
      )}
      {work.result?.words && <Muted>{work.result.words}</Muted>}
    </>
  )
}

function OneMove(p: {
  move: RoomMending['moves'][number]
  finding: Finding
  fresh: boolean
  from: string | undefined
}) {
  const { move: m } = p
  const { rig } = useChosen()
  const edit = useEdit()
  const notes = [
    m.brings.length > 0 && `brings: ${m.brings.join(', ')}`,
    m.breaks.length > 0 && `out of their targets: ${m.breaks.join(', ')}`,
    m.ends.length > 0 && `puts right too: ${m.ends.join(', ')}`,
  ].filter((x) => x !== false)
  const rigAfter = m.rig
  const bandAfter = m.band
  return (
    <>
      {rigAfter && rig ? (
        <TakeButton
          fresh={p.fresh}
          onPress={() => void edit.change('rigs', rig.id, m.words, () => rigAfter, p.from)}
        >
          {m.words}
        </TakeButton>
      ) : bandAfter ? (
        <TakeButton
          fresh={p.fresh}
          onPress={() => void edit.change('bands', bandAfter.id, m.words, () => bandAfter, p.from)}
        >
          {m.words}
        </TakeButton>
      ) : (
        <span>{m.words}. No setting: it is up to the hands.</span>
      )}{' '}
      {m.values && (
        <ListenButton title={m.words} query={{ sound: p.finding.sound, values: JSON.stringify(m.values) }} />
      )}{' '}
      <Muted as="span">
        {Math.round(m.figure)} instead of {Math.round(p.finding.figure)}
        {notes.length > 0 && `; ${notes.join('; ')}`}
      </Muted>
    </>
  )
}

const Moves = styled.ol`margin: 0; padding: 0 0 0 16px; display: grid; gap: 6px;`
