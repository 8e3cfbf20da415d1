import { Label } from 'react-aria-components/Label'
import { Radio, RadioGroup } from 'react-aria-components/RadioGroup'
import styled from 'styled-components'
import { useOrder } from '../../api/plan'
import type { Rig } from '../../api/types'
import { useChosen } from '../../state/place'
import { withSide } from '../../state/there'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'

/** Where good players disagree: both sides with what each gives. The choice is the rig's. */
export function Schools({
  rig,
  change,
}: {
  rig: Rig
  change: (what: string, update: (r: Rig) => Rig) => unknown
}) {
  const { destination } = useChosen()
  const { data } = useOrder(rig.id, destination?.id)
  if (!data) return null
  const choose = (question: string, name: string, side: string) =>
    change(`School: ${name}`, (r) => withSide(r, question, side))
  return (
    <Fold title="Schools">
      <Muted>Good players disagree here. Your side decides what counts as out of order.</Muted>
      <Row>
        <NumberField
          label="Gain pedals on at once, at most"
          width={140}
          value={rig.most_gain_stages}
          min={1}
          max={20}
          placeholder="no limit"
          onCommit={(n) => change('Limit of gain stages', (r) => ({ ...r, most_gain_stages: n }))}
        />
      </Row>
      <Grid>
        {data.questions.map((q) => {
          const now = data.chosen.find((c) => c.question === q.id)
          return (
            <Group key={q.id} value={now?.side ?? ''} onChange={(side) => choose(q.id, q.name, side)}>
              <Label>
                {q.name}
                {!now?.by_player && ' (the commoner habit)'}
              </Label>
              {q.sides.map((s) => (
                <Radio key={s.id} value={s.id}>
                  <span>
                    <b>{s.name}</b>: {s.gains}
                  </span>
                </Radio>
              ))}
            </Group>
          )
        })}
      </Grid>
    </Fold>
  )
}

const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(290px, 1fr)); gap: 14px; margin-top: 8px;`
const Group = styled(RadioGroup)`
  display: grid; gap: 4px; align-content: start; padding: 10px 12px; border: 1px solid var(--line); background: var(--panel); font-size: 13px;
  & > .react-aria-Label { font: 600 15px/1.2 var(--face-label); letter-spacing: 0.02em; }
  label { display: grid; grid-template-columns: 14px 1fr; gap: 8px; cursor: pointer; min-height: 24px; align-items: start; }
  label::before { content: ''; width: 12px; height: 12px; margin-top: 3px; border: 1px solid var(--edge); border-radius: 50%; }
  label[data-selected]::before { background: var(--text); box-shadow: inset 0 0 0 2px var(--panel); }
  label[data-focus-visible] { outline: 2px solid var(--focus); }
  b { font-weight: 600; }
`
