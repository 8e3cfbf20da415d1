import { memo, useEffect, useMemo, useRef, useState } from 'react'
import styled from 'styled-components'
import { useBoard } from '../../api/plan'
import type { FloorPlan, PlayResult, PlaySwitch } from '../../api/types'
import { FloorPicture, frameOf } from '../../floor/FloorPicture'
import { useChosen } from '../../state/place'

interface Handled {
  switches: PlaySwitch[]
  result: PlayResult | undefined
  todo: string[]
  onPress: (key: string, stamp: number) => void
  learning: string | undefined
}

/** The switches of the rig, to be pressed on the screen; those that this set presses answer to keys too. They
 * stand where they stand on the floor, where the picture of it is large enough for a finger. */
export function Pads(p: Handled) {
  const { rig } = useChosen()
  const { data, error } = useBoard(rig?.id)
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(0)
  useEffect(() => {
    const at = room.current
    if (!at) return
    const seen = new ResizeObserver(() => setWidth(at.clientWidth))
    seen.observe(at)
    return () => seen.disconnect()
  }, [])
  const floor = data?.floor
  const stage = useMemo(() => floor && stageOf(floor, p.switches, width), [floor, p.switches, width])
  const loose = p.switches.filter((s) => !stage?.has(s.key))
  return (
    <div
      role="group"
      aria-label="Switches"
      ref={room}
      style={!data && !error ? { minHeight: tallest } : undefined}
    >
      {floor && stage && <Stage {...p} floor={floor} stage={stage} />}
      {loose.length > 0 && (
        <Grid>
          {loose.map((s) => (
            <PadButton key={s.key} {...p} pad={s} />
          ))}
        </Grid>
      )}
    </div>
  )
}

/** The least that a finger hits, and the most of a screen's height that the floor takes, in px. */
const finger = 44
const tallest = 460

/** Where switches stand in the picture, as shares of it; nothing where they would be too close for a finger. */
function stageOf(floor: FloorPlan, switches: PlaySwitch[], width: number) {
  if (floor.boxes.length === 0 || width === 0) return undefined
  const frame = frameOf(floor)
  const scale = Math.min(width / frame.width, tallest / frame.height)
  const keys = new Set(switches.map((s) => s.key))
  const shown = floor.switches.filter((s) => keys.has(s.key))
  const crowded = shown.some((a, i) =>
    shown.slice(i + 1).some((b) => Math.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm) * scale < finger),
  )
  if (crowded) return undefined
  return new Map(
    shown.map((s) => [
      s.key,
      { left: (s.x_mm - frame.left) / frame.width, top: (s.y_mm - frame.top) / frame.height },
    ]),
  )
}

function Stage(p: Handled & { floor: FloorPlan; stage: Map<string, { left: number; top: number }> }) {
  const frame = frameOf(p.floor)
  const many = new Set(p.switches.map((s) => s.gear).filter((gear, i, all) => all.indexOf(gear) !== i))
  return (
    <Floor style={{ maxWidth: (tallest / frame.height) * frame.width }}>
      <Ground floor={p.floor} />
      {p.switches.map((s) => {
        const at = p.stage.get(s.key)
        return (
          at && (
            <Spot
              key={s.key}
              data-named={many.has(s.gear) || undefined}
              style={{ left: `${at.left * 100}%`, top: `${at.top * 100}%` }}
            >
              <PadButton {...p} pad={s} />
            </Spot>
          )
        )
      })}
    </Floor>
  )
}

const Ground = memo(({ floor }: { floor: FloorPlan }) => (
  <FloorPicture label="The floor" shown={{ floor: { ...floor, switches: [] } }} />
))

function PadButton({ pad: s, result, todo, onPress, learning }: Handled & { pad: PlaySwitch }) {
  const [down, setDown] = useState(false)
  const lamp = s.lamp ? result?.now?.find((d) => d.variable === s.lamp) : undefined
  const order = todo.indexOf(s.key)
  return (
    <Pad
      type="button"
      aria-label={`${s.label}${lamp ? (lamp.on ? ', on' : ', off') : ''}${lamp?.wrong ? ', wrong' : ''}`}
      data-on={lamp?.on || undefined}
      data-wrong={lamp?.wrong || undefined}
      data-todo={order >= 0 || undefined}
      data-down={down || undefined}
      data-learning={learning === s.key || undefined}
      onPointerDown={(e) => {
        setDown(true)
        onPress(s.key, e.timeStamp)
      }}
      onPointerUp={() => setDown(false)}
      onPointerLeave={() => setDown(false)}
      onKeyDown={(e) => {
        if ((e.key === 'Enter' || e.key === ' ') && !e.repeat) {
          e.preventDefault()
          onPress(s.key, e.timeStamp)
        }
      }}
    >
      <i aria-hidden="true">{lamp?.wrong ? '!' : ''}</i>
      <b title={s.label}>{s.label}</b>
      {s.keyboard && <kbd>{s.keyboard.toUpperCase()}</kbd>}
      {order >= 0 && <u>{order + 1}</u>}
    </Pad>
  )
}

const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(124px, 1fr)); gap: 10px; margin-top: 10px;`
const Pad = styled.button`
  position: relative; min-height: 84px; padding: 10px; display: grid; gap: 6px; justify-items: start; align-content: space-between; text-align: left;
  background: var(--panel); border: 1px solid var(--edge); color: var(--text); cursor: pointer; touch-action: manipulation; user-select: none;
  i { width: 14px; height: 14px; border-radius: 50%; border: 2px solid var(--edge); font: 700 12px/10px var(--face-label); text-align: center; }
  b { font: 600 18px/1.1 var(--face-label); overflow: hidden; text-overflow: ellipsis; max-width: 100%; }
  kbd { position: absolute; top: 8px; right: 10px; font: 400 13px/1 var(--face-figures); color: var(--muted); }
  u { position: absolute; bottom: 8px; right: 10px; font: 600 24px/1 var(--face-label); text-decoration: none; }
  &[data-on] i { background: var(--text); border-color: var(--text); }
  &[data-wrong] i { border-color: var(--red); border-radius: 2px; color: var(--red); }
  &[data-wrong][data-on] i { background: var(--red); color: var(--bg); }
  &[data-todo] { border: 3px solid var(--text); padding: 8px; }
  &[data-down] { background: var(--raised); transform: translateY(1px); }
  &[data-learning] { outline: 3px dashed var(--focus); }
  &:focus-visible { outline: 3px solid var(--focus); outline-offset: 2px; }
`
const Floor = styled.div`
  position: relative; margin: 0 auto; --floorMost: ${tallest}px; line-height: 0;
`
const Spot = styled.div`
  position: absolute; width: ${finger}px; height: ${finger}px; margin: -${finger / 2}px 0 0 -${finger / 2}px;
  ${Pad} { width: 100%; height: 100%; min-height: 0; padding: 0; border-radius: 50%; border-width: 3px; justify-items: center; align-content: center; overflow: visible; }
  ${Pad}[data-todo] { background: var(--text); color: var(--bg); box-shadow: 0 0 0 4px var(--bg); }
  i { position: absolute; top: -5px; right: -5px; width: 16px; height: 16px; line-height: 12px; background: var(--bg); }
  b { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
  kbd, u { position: static; font-size: 16px; }
  u { font-size: 22px; }
  ${Pad}[data-todo] kbd { display: none; }
  &[data-named] b { width: auto; height: auto; top: 100%; clip-path: none; margin-top: 3px; padding: 1px 4px; background: var(--bg); color: var(--text); font-size: 13px; white-space: nowrap; max-width: 96px; text-overflow: ellipsis; }
`
