import { memo, useState } from 'react'
import styled from 'styled-components'
import { useOrder } from '../../api/plan'
import type { OrderMove, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Fresh, TakeButton } from '../../ui/TakeButton'
import { useLatest } from '../../ui/useLatest'
import { taken } from './taken'

/** The best order there is and the moves that lead to it, each to be looked at first, and to be
 * taken all or some. */
export function BestOrder({
  rig,
  looked,
  look,
}: {
  rig: Rig
  looked: OrderMove | undefined
  look: (m: OrderMove | undefined) => void
}) {
  const { destination } = useChosen()
  const edit = useEdit()
  const { data, fresh, from } = useOrder(rig.id, destination?.id)
  // What is pressed is done with the answer that is there then: no line is drawn anew for another.
  const latest = useLatest({ rig: rig.id, at: destination?.id, path: data?.path, from })
  const [does] = useState(() => ({
    look,
    take: (m: OrderMove, words?: string) => {
      const { rig, at, path, from } = latest.now()
      look(undefined)
      if (path) void edit.change('rigs', rig, words ?? m.words, (r) => taken(r, at, path, m), from)
    },
  }))
  if (!data)
    return (
      <Panel aria-label="Best order" role="region" style={{ minHeight: 198 }}>
        <Heading>Best order</Heading>
      </Panel>
    )
  if (data.best.order.length < 2) return null
  const { best } = data
  const last = best.moves.at(-1)
  return (
    <Panel aria-label="Best order" role="region">
      <Row>
        <Heading>Best order</Heading>
        <Muted>{data.words}</Muted>
      </Row>
      {last && (
        <Fresh value={fresh}>
          <List>
            {best.moves.map((m, i) => (
              <Step key={m.words} move={m} at={i} looked={looked?.words === m.words} does={does} />
            ))}
          </List>
          <Row>
            <TakeButton $strong onPress={() => does.take(last, 'Best order')}>
              Take the best order
            </TakeButton>
          </Row>
        </Fresh>
      )}
      {data.estimated?.map((e) => (
        <Muted key={e}>{e}</Muted>
      ))}
    </Panel>
  )
}

interface Does {
  look: (m: OrderMove | undefined) => void
  take: (m: OrderMove, words?: string) => void
}

/** One of the moves that lead there. */
const Step = memo(function Step(p: { move: OrderMove; at: number; looked: boolean; does: Does }) {
  const { move, at, looked, does } = p
  return (
    <li>
      <Figure>{at + 1}</Figure>
      <span>{move.words}</span>
      <Muted as="span">
        then <Figure>{move.cost}</Figure>
      </Muted>
      <Button
        aria-label={`Look at: ${move.words}`}
        aria-pressed={looked}
        onPress={() => does.look(looked ? undefined : move)}
      >
        {looked ? 'Back' : 'Look'}
      </Button>
      <TakeButton
        onPress={() => does.take(move)}
        aria-label={at === 0 ? `Take: ${move.words}` : `Take the first ${at + 1} moves`}
      >
        {at === 0 ? 'Take this' : `Take ${at + 1}`}
      </TakeButton>
    </li>
  )
})

const List = styled.ol`
  display: grid; gap: 3px;
  li { display: grid; grid-template-columns: 24px minmax(0, 1fr) 90px 70px 90px; gap: 8px; align-items: center; }
`
