import styled from 'styled-components'
import { useHistory } from '../../api/plan'
import { useEdit } from '../../edits/useEdit'
import { Button } from '../../ui/controls'
import { moment } from '../../ui/dates'
import { Figure, Heading, Muted, Panel } from '../../ui/layout'

const states = { done: '', undone: 'undone', dropped: 'undone, then left behind' } as const

/** Everything that was done, newest first. Any of it can be taken back while what it
 * touched has not moved on; undo goes past what cannot. */
export function History() {
  const { data } = useHistory()
  const edit = useEdit()
  return (
    <Panel aria-label="History">
      <Heading>History</Heading>
      {data?.transactions.length === 0 && <Muted>Nothing was done yet.</Muted>}
      <List>
        {data?.transactions.map((t) => (
          <li key={t.id}>
            <Figure>{moment(t.at)}</Figure>
            <span title={t.label}>{t.label}</span>
            <Muted as="span">{t.state === 'done' && t.moved ? 'changed since' : states[t.state]}</Muted>
            {t.state === 'done' && !t.moved && (
              <Button $plain aria-label={`Undo from the history: ${t.label}`} onPress={() => edit.undo(t.id)}>
                Undo
              </Button>
            )}
          </li>
        ))}
      </List>
    </Panel>
  )
}

const List = styled.ol`
  display: grid; gap: 1px; max-height: 420px; overflow: auto;
  li { display: grid; grid-template-columns: 120px minmax(0, 1fr) 170px 90px; gap: 10px; align-items: center; min-height: 32px; }
  li > span:nth-child(2) { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`
