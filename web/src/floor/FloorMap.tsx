import { type ReactNode, useRef, useState } from 'react'
import type { FloorBox, Rig } from '../api/types'
import { later } from '../ui/later'
import { Muted } from '../ui/layout'
import { FloorPicture, type Shown } from './FloorPicture'
import { nowOn, snapped } from './standing'
import { useFloor } from './useFloor'

const BoxSheet = later(() => import('./BoxSheet').then((m) => m.BoxSheet))

/** The floor as the player sees it, on which boxes are moved by drag, by arrow keys, or by numbers. */
export function FloorMap({
  rig,
  shown,
  label,
  children,
}: {
  rig: Rig
  shown: Shown
  label: string
  /** What stands right below the picture. */
  children?: ReactNode
}) {
  const { place } = useFloor(rig)
  const [picked, pick] = useState<string | undefined>()
  // A key press starts, moves and ends in one go, before the state below is drawn.
  const way = useRef<{ gear: string; x: number; y: number; by: 'hand' | 'keys' } | undefined>(undefined)
  const [drag, setDrag] = useState<typeof way.current>()
  const floor = nowOn(shown.floor, rig)
  if (floor.boxes.length === 0 && floor.boards.length === 0)
    return <Muted>No box of this rig stands on the floor yet.</Muted>
  const there = (b: FloorBox, d: NonNullable<typeof drag>) => {
    const to = { x: b.x_mm + d.x, y: b.y_mm + d.y }
    return d.by === 'hand' ? snapped(b, to.x, to.y, floor) : to
  }
  const moving = drag && floor.boxes.find((b) => b.gear === drag.gear)
  const to = moving && drag ? there(moving, drag) : undefined
  const seen = !moving
    ? floor
    : {
        ...floor,
        boxes: floor.boxes.map((b) => (b === moving && to ? { ...b, x_mm: to.x, y_mm: to.y } : b)),
        switches: floor.switches.map((s) =>
          to && s.key.startsWith(`${moving.gear}/`)
            ? { ...s, x_mm: s.x_mm + to.x - moving.x_mm, y_mm: s.y_mm + to.y - moving.y_mm }
            : s,
        ),
      }
  const chosen = floor.boxes.find((b) => b.gear === picked)
  return (
    <div>
      <FloorPicture
        label={label}
        shown={{
          ...shown,
          floor: seen,
          plugs: moving ? undefined : shown.plugs,
          leads: moving ? undefined : shown.leads,
        }}
        hands={{
          picked,
          pick,
          drag: (b, x, y, by) => {
            const so = way.current?.gear === b.gear ? way.current : { gear: b.gear, x: 0, y: 0 }
            way.current = { gear: b.gear, x: so.x + x, y: so.y + y, by }
            setDrag(way.current)
          },
          drop: (b) => {
            const old = floor.boxes.find((o) => o.gear === b.gear)
            const by = way.current
            if (by && old && (by.x !== 0 || by.y !== 0)) {
              const end = there(old, by)
              void place(old, `Move ${old.name} on the floor`, (now) => ({
                x_mm: Math.round(now.x_mm + end.x - old.x_mm),
                y_mm: Math.round(now.y_mm + end.y - old.y_mm),
              }))
            }
            way.current = undefined
            setDrag(undefined)
          },
        }}
      />
      {children}
      {chosen ? (
        <BoxSheet box={chosen} rig={rig} floor={floor} />
      ) : (
        <Muted>
          Choose a box to move it: drag, arrow keys (with Shift by 10 mm), or numbers. Boxes nobody has placed
          stand in a row in chain order.
        </Muted>
      )}
    </div>
  )
}
