import { memo, type ReactNode } from 'react'
import styled from 'styled-components'
import type { OrderFinding, Rig } from '../api/types'
import { Button } from '../ui/controls'
import { Caution, Figure, Muted, Row } from '../ui/layout'
import { Fresh } from '../ui/TakeButton'
import { Card } from './Card'
import { useKeep } from './useKeep'

const marks: Record<OrderFinding['gravity'], string> = {
  danger: 'Danger',
  fault: 'Fault',
  preference: '',
  notice: 'Note',
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`

interface Sayings {
  more?: (f: OrderFinding, first: boolean) => ReactNode
  acts?: (f: OrderFinding) => ReactNode
}

/** Findings of a rig, worst first: what is so and by how much, the caution that goes with it, what can
 * be done, and Keep, which settles it. A danger cannot be kept. */
export function FindingCards({
  rig,
  findings,
  fresh,
  nothing,
  more,
  acts,
  isFirst,
}: Sayings & {
  rig: Rig
  findings: OrderFinding[]
  fresh: boolean
  nothing: string
  /** Of which findings the first is told so. */
  isFirst?: (f: OrderFinding) => boolean
}) {
  const { keep, reopen, dialog } = useKeep(rig)
  const open = findings.filter((f) => !f.settled)
  const first = isFirst && open.find(isFirst)?.id
  return (
    <Fresh value={fresh}>
      {open.length === 0 && <Muted>{nothing}</Muted>}
      {open.map((f) => (
        <OpenCard key={f.id} finding={f} first={f.id === first} more={more} acts={acts} keep={keep} />
      ))}
      {findings
        .filter((f) => f.settled)
        .map((f) => (
          <Card
            key={f.id}
            id={f.id}
            settled
            title={f.gravity === 'preference' && f.names[1] ? `${f.names[1]} before ${f.names[0]}` : f.title}
          >
            <p>Kept: {f.settled}</p>
            <Row>
              <Button aria-label={`Reopen: ${f.title}`} onPress={() => reopen(f.title, [f.id])}>
                Reopen
              </Button>
            </Row>
          </Card>
        ))}
      {dialog}
    </Fresh>
  )
}

/** It is drawn anew when it says something else, and not with every edit. */
const OpenCard = memo(function OpenCard({
  finding: f,
  first,
  more,
  acts,
  keep,
}: Sayings & {
  finding: OrderFinding
  first: boolean
  keep: (title: string, findings: string[]) => void
}) {
  return (
    <Card
      id={f.id}
      title={
        <>
          {marks[f.gravity] && <Mark $red={f.gravity === 'danger'}>{marks[f.gravity]}</Mark>} {f.title}
        </>
      }
    >
      <p>
        {sentence(f.reason)}
        {f.gravity === 'preference' &&
          `${f.school ? ' Players differ.' : ''} ${f.weight} ${f.weight === 1 ? 'point' : 'points'}.`}
      </p>
      {f.figures?.map((x) => (
        <p key={x.name}>
          {x.name}: <Figure>{`${x.value} ${x.unit}`.replace('-', '−')}</Figure>
        </p>
      ))}
      {more?.(f, first)}
      {f.caution && <Caution>{f.caution}</Caution>}
      <Row>
        {acts?.(f)}
        {f.gravity !== 'danger' && (
          <Button aria-label={`Keep: ${f.title}`} onPress={() => keep(f.title, [f.id])}>
            Keep
          </Button>
        )}
      </Row>
    </Card>
  )
})

const Mark = styled.span<{ $red: boolean }>`
  flex: none; padding: 0 6px; font: 600 13px/1.5 var(--face-label); letter-spacing: 0.04em; text-transform: uppercase;
  border: 1px solid ${(p) => (p.$red ? 'var(--red)' : 'var(--edge)')}; color: ${(p) => (p.$red ? 'var(--red)' : 'var(--muted)')};
`
