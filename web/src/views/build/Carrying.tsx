import { useState } from 'react'
import { values } from '../../api/plan'
import type { Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Muted, Name, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

const limits = [
  { of: 'width_mm', label: 'Maximum width, mm', max: 3000 },
  { of: 'depth_mm', label: 'Maximum depth, mm', max: 3000 },
  { of: 'height_mm', label: 'Maximum height, mm', max: 3000 },
  { of: 'weight_g', label: 'Maximum weight, g', max: 200000 },
] as const

/** Other boards of the rig, such as a small one at the microphone, and what the player carries at most. */
export function Carrying({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const [picked, pick] = useState<string | undefined>()
  const boards = values(plan, 'gear').filter((g) => g.kind === 'board')
  const others = rig.floor.boards ?? []
  const name = (id: string) => boards.find((b) => b.id === id)?.name ?? id
  const main = boards.find((b) => b.id === rig.floor.board)
  const free = boards.filter((b) => b.id !== rig.floor.board && !others.some((o) => o.board === b.id))
  const change = (what: string, update: (f: Rig['floor']) => Rig['floor']) =>
    edit.change('rigs', rig.id, what, (r) => ({ ...r, floor: update(r.floor) }))
  const move = (board: string, to: { x_mm?: number; y_mm?: number }) =>
    change(`Move ${name(board)}`, (f) => ({
      ...f,
      boards: (f.boards ?? []).map((b) => (b.board === board ? { ...b, ...to } : b)),
    }))
  return (
    <Fold title="Other boards and what you carry">
      {others.map((b) => (
        <Row key={b.board} role="group" aria-label={name(b.board)}>
          <Name>{name(b.board)}</Name>
          <NumberField
            label="Right of the main board's left edge, mm"
            width={250}
            value={b.x_mm}
            min={-10000}
            max={10000}
            onCommit={(v) => v !== undefined && move(b.board, { x_mm: v })}
          />
          <NumberField
            label="Nearer than its far edge, mm"
            width={190}
            value={b.y_mm}
            min={-10000}
            max={10000}
            onCommit={(v) => v !== undefined && move(b.board, { y_mm: v })}
          />
          <Button
            onPress={() =>
              change(`Take ${name(b.board)} away`, (f) => ({
                ...f,
                boards: (f.boards ?? []).filter((x) => x.board !== b.board),
                places: Object.fromEntries(
                  Object.entries(f.places ?? {}).filter(([, at]) => at.board !== b.board),
                ),
              }))
            }
          >
            Take away
          </Button>
        </Row>
      ))}
      {main && free.length > 0 ? (
        <Row>
          <Select
            label="Another board"
            value={picked}
            placeholder="choose a board"
            options={free.map((b) => ({ id: b.id, name: b.name }))}
            onChange={pick}
          />
          <Button
            isDisabled={!picked}
            onPress={() => {
              if (!picked) return
              void change(`Put ${name(picked)} beside ${main.name}`, (f) => ({
                ...f,
                boards: [
                  ...(f.boards ?? []),
                  { board: picked, x_mm: (main.size?.width_mm ?? 800) + 300, y_mm: 0 },
                ],
              }))
              pick(undefined)
            }}
          >
            Put it beside
          </Button>
        </Row>
      ) : (
        <Muted>{main ? 'You own no other board.' : 'Choose a main board first.'}</Muted>
      )}
      <Row>
        {limits.map((l) => (
          <NumberField
            key={l.of}
            label={l.label}
            width={140}
            value={rig.floor.limits?.[l.of]}
            min={1}
            max={l.max}
            onCommit={(v) => change('What I carry', (f) => ({ ...f, limits: { ...f.limits, [l.of]: v } }))}
          />
        ))}
      </Row>
    </Fold>
  )
}
