import styled from 'styled-components'
import { values } from '../../api/plan'
import { VerdictMark, verdictWords } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Panel, Tape } from '../../ui/layout'

/** The cursor's change: its presses against the free time, drawn to scale. */
export function ChangeCard() {
  const { plan, rig, setList, change, section } = usePlace()
  if (!change) {
    return (
      <Panel>
        <Heading>This change</Heading>
        <Muted>
          {section
            ? 'The night starts here. Setting up for the first sound is not counted.'
            : 'Nothing is under the cursor.'}
        </Muted>
      </Panel>
    )
  }
  const sounds = new Map(values(plan, 'sounds').map((s) => [s.id, s]))
  const span = Math.max(change.free_s, change.needed_s, 0.2)
  const pct = (s: number) => `${Math.max(0, Math.min(100, (100 * s) / span))}%`
  const late = change.slack_s < 0
  return (
    <Panel aria-label="This change" role="region">
      <Line>
        <Tape style={{ background: tape(sounds.get(change.from.id)?.tape) }}>{change.from.name}</Tape>
        <span aria-hidden="true">→</span>
        <Tape style={{ background: tape(sounds.get(change.to.id)?.tape) }}>{change.to.name}</Tape>
        <Verdict $bad={change.fails}>
          <VerdictMark verdict={change.verdict} /> {verdictWords(change.verdict)}
          {late && change.verdict === 'late' && <> by {(-change.slack_s).toFixed(2)} s</>}
        </Verdict>
      </Line>
      <Scale
        role="img"
        aria-label={`${change.needed_s.toFixed(2)} s needed, ${change.free_s.toFixed(2)} s free`}
      >
        <Free style={{ width: pct(change.free_s) }} />
        <Need $late={late} style={{ width: pct(change.needed_s) }} />
        {change.presses.map((p, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a press is its place in the order
          <Tick key={i} style={{ left: pct(p.at_s) }} />
        ))}
      </Scale>
      <Ends>
        <Figure>{change.needed_s.toFixed(2)} s needed</Figure>
        <Figure>{change.free_s.toFixed(2)} s free</Figure>
      </Ends>
      <p>{change.reason}</p>
      {rig && setList && (
        <div>
          <ListenButton
            title={`${change.from.name} to ${change.to.name}, as played`}
            query={{ sound: change.from.id, set_list: setList.id, position: change.position }}
          />
        </div>
      )}
      {change.settled && <Muted>Kept: {change.settled}</Muted>}
      {change.presses.length > 0 && (
        <List>
          {change.presses.map((p, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a press is its place in the order
            <li key={i}>
              <Figure>{p.at_s.toFixed(2)}</Figure>
              <span>
                {!p.action.startsWith(p.label) && <b>{p.label}: </b>}
                {p.gesture !== 'press' && `${p.gesture}, `}
                {p.action}
                {p.move_s > 0 && <small> move {p.move_s.toFixed(2)} s</small>}
              </span>
            </li>
          ))}
        </List>
      )}
      {change.hands.length > 0 && (
        <p>By hand: {change.hands.map((h) => `${h.action} (${h.seconds} s)`).join(', ')}.</p>
      )}
      {change.between.length > 0 && (
        <div>
          <Heading>In between</Heading>
          {change.between.map((b) => (
            <Muted key={b.at_s}>
              For {b.for_s.toFixed(2)} s: {b.words}.{b.loud && ' The gain of both sounds is on at once.'}
            </Muted>
          ))}
        </div>
      )}
      {change.cuts?.map((c) => (
        <Muted key={c}>{c}.</Muted>
      ))}
    </Panel>
  )
}

const Line = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: 8px;`
const Verdict = styled.b<{
  $bad: boolean
}>`margin-left: auto; display: inline-flex; gap: 6px; align-items: center; ${(p) => p.$bad && 'color: var(--red);'}`
const Scale = styled.div`position: relative; height: 26px; background: var(--sunk);`
const Free = styled.div`position: absolute; left: 0; top: 0; height: 100%; border-right: 2px solid var(--text); background: var(--raised);`
const Need = styled.div<{
  $late: boolean
}>`position: absolute; left: 0; top: 8px; height: 10px; background: ${(p) => (p.$late ? 'var(--red)' : 'var(--lit)')};`
const Tick = styled.i`position: absolute; top: 3px; width: 3px; height: 20px; background: var(--focus);`
const Ends = styled.div`display: flex; justify-content: space-between; font-size: 12px; color: var(--muted);`
const List = styled.ol`
  display: grid; gap: 4px;
  li { display: grid; grid-template-columns: 44px 1fr; gap: 8px; }
  small { color: var(--muted); font-size: 12px; }
`
