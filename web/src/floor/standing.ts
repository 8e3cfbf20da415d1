import type { FloorBox, FloorPlan, Rig } from '../api/types'

export type Placement = NonNullable<Rig['floor']['places']>[string]

/** Where a board of the rig stands on the floor; the main one at nought. */
function origin(floor: FloorPlan, id: string | undefined): { x: number; y: number } {
  const board = floor.boards.find((b) => b.board === id)
  return { x: board?.x_mm ?? 0, y: board?.y_mm ?? 0 }
}

/** The floor of an answer with every box where the plan has it now: the answer may still be on its way. */
export function nowOn(floor: FloorPlan, rig: Rig): FloorPlan {
  const boxes = floor.boxes.map((b) => standing(floor, b, rig.floor.places?.[b.gear]))
  const switches = floor.switches.map((s) => {
    const gear = s.key.split('/')[0]
    const was = floor.boxes.find((b) => b.gear === gear)
    const now = boxes.find((b) => b.gear === gear)
    return was && now ? { ...s, x_mm: s.x_mm + now.x_mm - was.x_mm, y_mm: s.y_mm + now.y_mm - was.y_mm } : s
  })
  return { ...floor, boxes, switches }
}

function standing(floor: FloorPlan, b: FloorBox, at: Placement | undefined): FloorBox {
  if (!at) return b
  const turned = ((at.rotation_deg ?? 0) - b.rotation_deg) % 180 !== 0
  const from = at.on ? { x: 0, y: 0 } : origin(floor, at.board)
  return {
    ...b,
    placed: true,
    x_mm: at.x_mm + from.x,
    y_mm: at.y_mm + from.y,
    rotation_deg: at.rotation_deg ?? 0,
    under: at.under,
    pinned: at.pinned,
    width_mm: turned ? b.depth_mm : b.width_mm,
    depth_mm: turned ? b.width_mm : b.depth_mm,
  }
}

/** The place of a box that nobody has placed: where the answer stands it. */
export const placed = (b: FloorBox): Placement => ({
  x_mm: Math.round(b.x_mm),
  y_mm: Math.round(b.y_mm),
  rotation_deg: b.rotation_deg as 0,
})

/** A place that is dragged, drawn to the edges of others that are close by. */
export function snapped(box: FloorBox, x: number, y: number, floor: FloorPlan): { x: number; y: number } {
  const near = 6
  const others = [
    ...floor.boxes.filter((o) => o.gear !== box.gear),
    ...floor.boards.map((b) => ({ ...b, gear: b.board })),
  ]
  const best = (at: number, to: number[]) => {
    const close = to
      .filter((t) => Math.abs(t - at) <= near)
      .sort((a, b) => Math.abs(a - at) - Math.abs(b - at))
    return close[0] ?? at
  }
  return {
    x: best(
      x,
      others.flatMap((o) => [
        o.x_mm,
        o.x_mm + o.width_mm - box.width_mm,
        o.x_mm + o.width_mm,
        o.x_mm - box.width_mm,
      ]),
    ),
    y: best(
      y,
      others.flatMap((o) => [
        o.y_mm,
        o.y_mm + o.depth_mm - box.depth_mm,
        o.y_mm + o.depth_mm,
        o.y_mm - box.depth_mm,
      ]),
    ),
  }
}

/** Black or white, whichever is read better on a colour. */
export function inkOn(colour: string): string {
  const part = (at: number) => Number.parseInt(colour.slice(at, at + 2), 16) / 255
  const linear = (c: number) => (c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)
  const light = 0.2126 * linear(part(1)) + 0.7152 * linear(part(3)) + 0.0722 * linear(part(5))
  return light > 0.179 ? '#0e1112' : '#ffffff'
}
