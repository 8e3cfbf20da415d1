import { useState } from 'react'
import styled from 'styled-components'
import type { PlayResult, PlaySwitch } from '../../api/types'

/** The switches of the rig, to be pressed on the screen; those that this set presses answer to keys too. */
export function Pads({
  switches,
  result,
  todo,
  onPress,
  learning,
}: {
  switches: PlaySwitch[]
  result: PlayResult | undefined
  todo: string[]
  onPress: (key: string, stamp: number) => void
  learning: string | undefined
}) {
  const [down, setDown] = useState<string | undefined>()
  const device = new Map((result?.now ?? []).map((d) => [d.variable, d]))
  return (
    <Grid role="group" aria-label="Switches">
      {switches.map((s) => {
        const lamp = s.lamp ? device.get(s.lamp) : undefined
        const order = todo.indexOf(s.key)
        const name = s.label
        return (
          <Pad
            key={s.key}
            type="button"
            aria-label={`${name}${lamp ? (lamp.on ? ', on' : ', off') : ''}`}
            data-on={lamp?.on || undefined}
            data-wrong={lamp?.wrong || undefined}
            data-todo={order >= 0 || undefined}
            data-down={down === s.key || undefined}
            data-learning={learning === s.key || undefined}
            onPointerDown={(e) => {
              setDown(s.key)
              onPress(s.key, e.timeStamp)
            }}
            onPointerUp={() => setDown(undefined)}
            onPointerLeave={() => setDown(undefined)}
            onKeyDown={(e) => {
              if ((e.key === 'Enter' || e.key === ' ') && !e.repeat) {
                e.preventDefault()
                onPress(s.key, e.timeStamp)
              }
            }}
          >
            <i aria-hidden="true" />
            <b>{name}</b>
            {s.keyboard && <kbd>{s.keyboard.toUpperCase()}</kbd>}
            {order >= 0 && <u>{order + 1}</u>}
          </Pad>
        )
      })}
    </Grid>
  )
}

const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(124px, 1fr)); gap: 10px;`
const Pad = styled.button`
  position: relative; min-height: 84px; padding: 10px; display: grid; gap: 6px; justify-items: start; align-content: space-between; text-align: left;
  background: var(--panel); border: 1px solid var(--edge); color: var(--text); cursor: pointer; touch-action: manipulation; user-select: none;
  i { width: 12px; height: 12px; border-radius: 50%; border: 2px solid var(--edge); }
  b { font: 600 18px/1.1 var(--face-label); overflow: hidden; text-overflow: ellipsis; max-width: 100%; }
  kbd { position: absolute; top: 8px; right: 10px; font: 400 13px/1 var(--face-figures); color: var(--muted); }
  u { position: absolute; bottom: 8px; right: 10px; font: 600 24px/1 var(--face-label); text-decoration: none; }
  &[data-on] i { background: var(--text); border-color: var(--text); }
  &[data-wrong] i { border-color: var(--red); }
  &[data-wrong][data-on] i { background: var(--red); }
  &[data-todo] { border: 3px solid var(--text); padding: 8px; }
  &[data-down] { background: var(--raised); transform: translateY(1px); }
  &[data-learning] { outline: 3px dashed var(--focus); }
  &:focus-visible { outline: 3px solid var(--focus); outline-offset: 2px; }
`
