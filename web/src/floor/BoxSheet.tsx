import type { FloorBox, FloorPlan, Rig } from '../api/types'
import { Button, Switch } from '../ui/controls'
import { NumberField } from '../ui/fields'
import { Name, Row } from '../ui/layout'
import { Select } from '../ui/Select'
import { placed } from './standing'
import { useFloor } from './useFloor'

/** Where one box stands, in numbers and words. */
export function BoxSheet({ box, rig, floor }: { box: FloorBox; rig: Rig; floor: FloorPlan }) {
  const { place, lift } = useFloor(rig)
  const at = rig.floor.places?.[box.gear] ?? placed(box)
  const main = floor.boards[0]
  const stands = at.on ?? (at.board && at.board !== main?.board ? at.board : box.board ? 'main' : 'ground')
  const move = (update: Partial<typeof at>) => place(box, `Move ${box.name} on the floor`, () => update)
  const put = (where: string) => {
    const from = floor.boards.find((b) => b.board === (where === 'main' ? main?.board : where))
    const rest = { board: undefined, on: undefined, under: undefined }
    if (where === 'ground' || where === 'off') {
      return place(box, `Put ${box.name} ${where === 'off' ? 'off the floor' : 'on the bare floor'}`, () => ({
        ...rest,
        on: where,
        x_mm: Math.round(box.x_mm),
        y_mm: Math.round(box.y_mm),
      }))
    }
    const inside = (x: number, size: number, of: number) => Math.max(0, Math.min(Math.round(x), of - size))
    return place(box, `Put ${box.name} on ${from?.name ?? 'a board'}`, () => ({
      ...rest,
      board: where === 'main' ? undefined : where,
      x_mm: from ? inside(box.x_mm - from.x_mm, box.width_mm, from.width_mm) : Math.round(box.x_mm),
      y_mm: from ? inside(box.y_mm - from.y_mm, box.depth_mm, from.depth_mm) : Math.round(box.y_mm),
    }))
  }
  return (
    <Row role="group" aria-label={`Where ${box.name} stands`}>
      <Name>{box.name}</Name>
      <NumberField
        label="From left, mm"
        width={96}
        value={Math.round(at.x_mm)}
        min={-5000}
        max={5000}
        onCommit={(v) => v !== undefined && move({ x_mm: v })}
      />
      <NumberField
        label="From back, mm"
        width={96}
        value={Math.round(at.y_mm)}
        min={-5000}
        max={5000}
        onCommit={(v) => v !== undefined && move({ y_mm: v })}
      />
      <Select
        label="Turned"
        value={String(box.rotation_deg)}
        options={['0', '90', '180', '270'].map((d) => ({ id: d, name: `${d}°` }))}
        onChange={(d) => move({ rotation_deg: Number(d) as 0 })}
      />
      {main && (
        <>
          <Select
            label="Stands"
            value={stands}
            options={[
              { id: 'main', name: `on ${main.name}` },
              ...floor.boards.slice(1).map((b) => ({ id: b.board, name: `on ${b.name}` })),
              { id: 'ground', name: 'on the bare floor' },
              { id: 'off', name: 'off the floor' },
            ]}
            onChange={put}
          />
          {stands !== 'ground' && stands !== 'off' && (
            <Switch
              label="Beneath"
              value={at.under ?? false}
              onChange={(under) =>
                place(box, under ? `Send ${box.name} beneath` : `Bring ${box.name} on top`, () => ({
                  under: under || undefined,
                }))
              }
            />
          )}
          <Switch
            label="Pinned"
            value={at.pinned ?? false}
            onChange={(pinned) =>
              place(box, pinned ? `Pin ${box.name}` : `Unpin ${box.name}`, () => ({
                pinned: pinned || undefined,
              }))
            }
          />
        </>
      )}
      {box.placed && <Button onPress={() => lift(box)}>Back to the row</Button>}
    </Row>
  )
}
