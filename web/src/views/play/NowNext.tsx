import styled from 'styled-components'
import type { PlayResult, PlaySong } from '../../api/types'
import { VerdictMark } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Figure } from '../../ui/layout'

/** What sounds now, what comes next and when, and what is pressed for it. */
export function NowNext({
  song,
  here,
  at,
  running,
  result,
}: {
  song: PlaySong
  here: number
  at: number
  running: boolean
  result: PlayResult | undefined
}) {
  const { plan } = useChosen()
  const now = song.sections[here]
  const next = song.sections[here + 1]
  const colour = (id: string | undefined) => tape(plan.sounds.find((s) => s.value.id === id)?.value.tape)
  if (!now) return null
  const counting = running && at < 0
  const beat =
    now.beat_s > 0 ? Math.floor((counting ? at + song.beats * now.beat_s : at - now.at_s) / now.beat_s) : 0
  const inBar = ((beat % song.beats) + song.beats) % song.beats
  const left = next ? next.at_s - at : now.at_s + now.length_s - at
  const takes = now.presses.length > 0 || now.hands.length > 0
  const due = at <= now.until_s && takes && here > 0 ? now : next
  return (
    <Board>
      <Block aria-label="Now" role="group">
        <small>{counting ? 'Count-in' : 'Now'}</small>
        <Sound style={{ background: colour(now.sound) }} title={now.name}>
          {now.name}
        </Sound>
        <b>{now.label}</b>
        <Lamps aria-hidden="true">
          {Array.from({ length: song.beats }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a beat is its number
            <i key={i} data-on={(running && i === inBar) || undefined} />
          ))}
        </Lamps>
        {result && result.pending.length > 0 && !counting && (
          <Off>Not as it has to be: {result.pending.join(', ')}</Off>
        )}
      </Block>
      <Block aria-label="Next" role="group">
        <small>Next</small>
        {next ? (
          <>
            <Sound style={{ background: colour(next.sound) }} title={next.name}>
              {next.name}
            </Sound>
            <b>{next.label}</b>
            {running && (
              <Figure>
                in {Math.max(0, Math.ceil(left / now.beat_s / song.beats - 0.001))} bars,{' '}
                {Math.max(0, left).toFixed(0)} s
              </Figure>
            )}
          </>
        ) : (
          <b>The end</b>
        )}
      </Block>
      <Block aria-label="Press" role="group">
        <small>
          Press{due && due !== next ? ' now' : ''} {due?.verdict && <VerdictMark verdict={due.verdict} />}
        </small>
        {due && (due.presses.length > 0 || due.hands.length > 0) ? (
          <ol>
            {due.presses.map((p, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: one switch can be pressed twice
              <li key={`${p.switch} ${i}`}>
                <strong>{p.label}</strong> {p.gesture !== 'press' && `(${p.gesture}) `}
                <span>{p.action}</span>
              </li>
            ))}
            {due.hands.map((h) => (
              <li key={h}>
                <strong>By hand</strong> <span>{h}</span>
              </li>
            ))}
          </ol>
        ) : (
          <b>Nothing</b>
        )}
        {now.on_bar.length > 0 && <em>On the bar: {now.on_bar.join('; ')}</em>}
        {now.early.length > 0 && <em>Early: {now.early.join('; ')}</em>}
      </Block>
    </Board>
  )
}

const Board = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1.3fr); gap: 12px;
  @media (max-width: 720px) { grid-template-columns: minmax(0, 1fr); }
`
const Block = styled.div`
  background: var(--panel); border: 1px solid var(--line); padding: 14px 16px; display: grid; gap: 8px; align-content: start; min-height: 168px;
  small { font: 600 15px/1 var(--face-label); letter-spacing: 0.06em; text-transform: uppercase; color: var(--muted); display: flex; gap: 8px; }
  b { font: 600 24px/1.1 var(--face-label); }
  em { font-style: normal; font-size: 14px; color: var(--muted); }
  ol { display: grid; gap: 6px; font-size: 18px; padding-left: 22px; margin: 0; list-style: decimal; }
  strong { font: 600 24px/1.1 var(--face-label); }
  li span { color: var(--muted); font-size: 15px; }
`
const Off = styled.span`font-size: 16px; font-weight: 600; color: var(--red);`
const Sound = styled.span`
  justify-self: start; padding: 4px 14px; font: 600 40px/1.1 var(--face-label); color: var(--onTape); max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap;
`
const Lamps = styled.span`
  display: flex; gap: 8px;
  i { width: 18px; height: 18px; border-radius: 50%; border: 2px solid var(--edge); }
  i[data-on] { background: var(--text); border-color: var(--text); }
`
