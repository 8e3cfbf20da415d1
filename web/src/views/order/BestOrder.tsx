import styled from 'styled-components'
import { useOrder } from '../../api/plan'
import type { OrderMove, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button, TakeButton } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
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
  if (!data)
    return (
      <Panel aria-label="Best order" role="region" style={{ minHeight: 198 }}>
        <Heading>Best order</Heading>
      </Panel>
    )
  if (data.best.order.length < 2) return null
  const { best } = data
  const take = (m: OrderMove, words?: string) => {
    look(undefined)
    void edit.change('rigs', rig.id, words ?? m.words, (r) => taken(r, destination?.id, data.path, m), from)
  }
  const last = best.moves.at(-1)
  return (
    <Panel aria-label="Best order" role="region">
      <Row>
        <Heading>Best order</Heading>
        <Muted>{data.words}</Muted>
      </Row>
      {last && (
        <>
          <List>
            {best.moves.map((m, i) => (
              <li key={m.words}>
                <Figure>{i + 1}</Figure>
                <span>{m.words}</span>
                <Muted as="span">
                  then <Figure>{m.cost}</Figure>
                </Muted>
                <Button
                  aria-label={`Look at: ${m.words}`}
                  aria-pressed={looked?.words === m.words}
                  onPress={() => look(looked?.words === m.words ? undefined : m)}
                >
                  {looked?.words === m.words ? 'Back' : 'Look'}
                </Button>
                <TakeButton
                  fresh={fresh}
                  onPress={() => take(m)}
                  aria-label={i === 0 ? `Take: ${m.words}` : `Take the first ${i + 1} moves`}
                >
                  {i === 0 ? 'Take this' : `Take ${i + 1}`}
                </TakeButton>
              </li>
            ))}
          </List>
          <Row>
            <TakeButton $strong fresh={fresh} onPress={() => take(last, 'Best order')}>
              Take the best order
            </TakeButton>
          </Row>
        </>
      )}
      {data.estimated?.map((e) => (
        <Muted key={e}>{e}</Muted>
      ))}
    </Panel>
  )
}

const List = styled.ol`
  display: grid; gap: 3px;
  li { display: grid; grid-template-columns: 24px minmax(0, 1fr) 90px 70px 90px; gap: 8px; align-items: center; }
`
