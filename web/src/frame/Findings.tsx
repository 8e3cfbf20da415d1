import { memo } from 'react'
import { Link, useLocation } from 'react-router'
import styled from 'styled-components'
import type { Report } from '../api/types'
import { useAhead } from '../api/work'
import { VerdictMark } from '../marks/marks'
import { useChosen, usePlace } from '../state/place'
import { narrow } from '../theme/tokens'
import { Button } from '../ui/controls'
import { later } from '../ui/later'
import { Heading, Muted, Row } from '../ui/layout'
import { Card } from './Card'
import { repairsAt } from './repairsAt'
import { useKeep } from './useKeep'

type FoundChange = Report['findings'][number]

// Those of a view are fetched with it.
const Repairs = later(() => import('./Repairs').then((m) => m.Repairs))
const OrderFindings = later(() => import('./OrderFindings').then((m) => m.OrderFindings))
const BalanceFindings = later(() => import('./BalanceFindings').then((m) => m.BalanceFindings))
const RoomFindings = later(() => import('./RoomFindings').then((m) => m.RoomFindings))
const ElectricFindings = later(() => import('./ElectricFindings').then((m) => m.ElectricFindings))
const PowerFindings = later(() => import('./ElectricFindings').then((m) => m.PowerFindings))
const BoardFindings = later(() => import('./BoardFindings').then((m) => m.BoardFindings))
const TempoFindings = later(() => import('./TempoFindings').then((m) => m.TempoFindings))

/** What is to be said about the view one is on, worst first; what belongs to Step is one line elsewhere. */
export function Findings() {
  const { pathname } = useLocation()
  return (
    <Side aria-label="Findings">
      <Heading>Findings</Heading>
      {pathname.startsWith('/order') && <OrderFindings />}
      {pathname.startsWith('/balance/room') && <RoomFindings />}
      {pathname.startsWith('/balance') && !pathname.startsWith('/balance/room') && (
        <>
          <BalanceFindings />
          <ElectricFindings />
        </>
      )}
      {pathname.startsWith('/hear') && <TempoFindings />}
      {pathname.startsWith('/build/power') && <PowerFindings />}
      {pathname.startsWith('/build') && !pathname.startsWith('/build/power') && <BoardFindings />}
      {pathname.startsWith('/step') ? <ChangeFindings /> : <ChangesElsewhere />}
    </Side>
  )
}

/** What is to be said of changes, in one line, on views that are about something else. */
function ChangesElsewhere() {
  const { report } = useChosen()
  const open = report?.findings.filter((f) => !f.settled) ?? []
  if (open.length === 0) return null
  const waiting = open.filter((f) => f.verdict === 'not_set')
  const failing = open.length - waiting.length
  const words = [
    failing > 0 && `${failing} ${failing === 1 ? 'change fails' : 'changes fail'}`,
    waiting.length > 0 &&
      `${waiting.length} ${waiting.length === 1 ? 'sound waits' : 'sounds wait'} for a recipe`,
  ].filter(Boolean)
  return (
    <Muted>
      {words.join(', ')}: <Link to="/step">Step</Link>
    </Muted>
  )
}

function ChangeFindings() {
  const { report, rig, setList, destination, go, position } = usePlace()
  const failing = report?.findings.filter((f) => !f.settled).flatMap((f) => f.positions) ?? []
  const ahead = failing.filter((p) => p > position)
  const next = ahead.length > 0 ? Math.min(...ahead) : undefined
  useAhead(
    '/api/repairs',
    rig && setList && next !== undefined ? repairsAt(rig.id, setList.id, destination?.id, next) : undefined,
  )
  const { keep, reopen, dialog } = useKeep(rig)
  if (!report || !rig) return null
  const open = report.findings.filter((f) => !f.settled)
  const settled = report.findings.filter((f) => f.settled)
  return (
    <>
      {open.length === 0 && <Muted>Every change of the set can be made in time.</Muted>}
      {open.map((f) => (
        <OpenChange
          key={f.id}
          f={f}
          at={f.positions.includes(position) ? position : undefined}
          go={go}
          keep={keep}
        />
      ))}
      {settled.map((f) => (
        <Card key={f.id} id={f.id} settled title={f.title}>
          <p>Kept: {f.settled}</p>
          <Row>
            <Button aria-label={`Reopen: ${f.title}`} onPress={() => reopen(f.title, f.findings)}>
              Reopen
            </Button>
          </Row>
        </Card>
      ))}
      {dialog}
    </>
  )
}

/** A change that fails, at the section the cursor is on or elsewhere. One elsewhere is not drawn anew when that moves. */
const OpenChange = memo(function OpenChange({
  f,
  at,
  go,
  keep,
}: {
  f: FoundChange
  at: number | undefined
  go: (position: number) => void
  keep: (title: string, findings: string[]) => void
}) {
  return (
    <Card
      id={f.id}
      here={at !== undefined}
      title={
        <>
          <VerdictMark verdict={f.verdict} /> <Clamp title={f.title}>{f.title}</Clamp>
        </>
      }
    >
      <p>{f.reason}</p>
      {at !== undefined && <Repairs position={at} />}
      <Row>
        {at === undefined && (
          <Button
            $strong
            aria-label={`${f.positions.length > 1 ? 'Show the first' : 'Show'}: ${f.title}`}
            onPress={() => go(f.positions[0] ?? 0)}
          >
            {f.positions.length > 1 ? 'Show the first' : 'Show'}
          </Button>
        )}
        <Button aria-label={`Keep: ${f.title}`} onPress={() => keep(f.title, f.findings)}>
          Keep
        </Button>
      </Row>
    </Card>
  )
})

const Side = styled.aside`
  width: 272px; border-left: 1px solid var(--line); padding: 18px 14px; overflow: auto; display: grid; gap: 10px; align-content: start;
  @media (max-width: 1100px) { width: 220px; }
  ${narrow} { width: auto; border: 0; border-top: 1px solid var(--line); padding: 14px 12px; }
`
const Clamp = styled.span`display: -webkit-box; -webkit-line-clamp: 3; -webkit-box-orient: vertical; overflow: hidden;`
