import styled from 'styled-components'
import type { PlaySong } from '../../api/types'

/** The controls that hands move in a song, one each, in the order of their first move. */
export function handsOf(song: PlaySong) {
  const seen = new Map(song.sections.flatMap((s) => s.by_hand).map((h) => [h.variable, h.label]))
  return [...seen].map(([variable, label]) => ({ variable, label }))
}

/** What hands move in a song, to be pressed at the moment it is moved: where hands are judged. */
export function HandPads({
  song,
  due,
  onMove,
}: {
  song: PlaySong
  due: string[]
  onMove: (variable: string, stamp: number) => void
}) {
  return (
    <Grid role="group" aria-label="By hand">
      {handsOf(song).map((h) => (
        <button
          key={h.variable}
          type="button"
          aria-label={`${h.label}, moved by hand`}
          data-todo={due.includes(h.variable) || undefined}
          onPointerDown={(e) => onMove(h.variable, e.timeStamp)}
          onKeyDown={(e) => {
            if ((e.key === 'Enter' || e.key === ' ') && !e.repeat) {
              e.preventDefault()
              onMove(h.variable, e.timeStamp)
            }
          }}
        >
          <small>Hand</small>
          {h.label}
        </button>
      ))}
    </Grid>
  )
}

const Grid = styled.div`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(124px, 1fr)); gap: 10px;
  button { min-height: 56px; padding: 8px 10px; display: grid; gap: 2px; justify-items: start; text-align: left; font: 600 16px/1.1 var(--face-label); background: var(--panel); border: 1px dashed var(--edge); color: var(--text); cursor: pointer; touch-action: manipulation; user-select: none; }
  small { font: 400 13px/1 var(--face-figures); color: var(--muted); }
  button[data-todo] { border: 3px solid var(--text); padding: 6px 8px; }
  button:active { background: var(--raised); }
  button:focus-visible { outline: 3px solid var(--focus); outline-offset: 2px; }
`
