import { useRef, useState } from 'react'
import { useMove } from 'react-aria/useMove'
import styled from 'styled-components'
import type { FloorBox, Report, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button, Select } from '../../ui/controls'
import { NumberField } from '../../ui/fields'
import { Muted, Name, Row } from '../../ui/layout'

type Placement = NonNullable<Rig['floor']['places']>[string]

/** The floor as the player sees it, with the foot's way through the cursor's change. Boxes
 * are moved by drag, by arrow keys, or by numbers. */
export function FloorMap({ report, rig }: { report: Report; rig: Rig }) {
  const { change, sound } = usePlace()
  const edit = useEdit()
  const svg = useRef<SVGSVGElement>(null)
  const [picked, pick] = useState<string | undefined>()
  // A key press starts, moves and ends in one go, before the state below is drawn.
  const way = useRef<{ gear: string; x: number; y: number } | undefined>(undefined)
  const [drag, setDrag] = useState<{ gear: string; x: number; y: number } | undefined>()
  // Boxes stand where the plan has them now; the report may still be on its way.
  const boxes = report.floor.boxes.map((b) => standing(b, rig.floor.places?.[b.gear]))
  const switches = report.floor.switches.map((s) => {
    const was = report.floor.boxes.find((b) => b.gear === s.key.split('/')[0])
    const now = boxes.find((b) => b.gear === was?.gear)
    return was && now ? { ...s, x_mm: s.x_mm + now.x_mm - was.x_mm, y_mm: s.y_mm + now.y_mm - was.y_mm } : s
  })
  if (boxes.length === 0) return <Muted>No box of this rig stands on the floor yet.</Muted>
  const shifted = (b: FloorBox) =>
    drag?.gear === b.gear ? { ...b, x_mm: b.x_mm + drag.x, y_mm: b.y_mm + drag.y } : b
  const pad = 40
  const left = Math.min(...boxes.map((b) => b.x_mm)) - pad
  const top = Math.min(...boxes.map((b) => b.y_mm)) - pad
  const right = Math.max(...boxes.map((b) => b.x_mm + b.width_mm)) + pad
  const bottom = Math.max(...boxes.map((b) => b.y_mm + b.depth_mm)) + pad
  // What is not placed yet is placed where the report stands it; what is, moves from where it is now.
  const place = (b: FloorBox, update: (now: Placement) => Partial<Placement>) =>
    edit.change('rigs', rig.id, `Move ${b.name} on the floor`, (r) => {
      const now = r.floor.places?.[b.gear] ?? placed(b)
      const next = { ...now, ...update(now) }
      return { ...r, floor: { ...r.floor, places: { ...r.floor.places, [b.gear]: next } } }
    })
  const lift = (b: FloorBox) =>
    edit.change('rigs', rig.id, `Take ${b.name} off its place`, (r) => {
      const { [b.gear]: _gone, ...places } = r.floor.places ?? {}
      return { ...r, floor: { ...r.floor, places } }
    })
  const scale = () => (right - left) / (svg.current?.getBoundingClientRect().width ?? 1)
  const shown = boxes.map(shifted)
  const byKey = new Map(
    switches.map((s) => {
      const gear = s.key.split('/')[0]
      const moved = drag && drag.gear === gear ? drag : { x: 0, y: 0 }
      return [s.key, { ...s, x: s.x_mm + moved.x, y: s.y_mm + moved.y }]
    }),
  )
  const walk = (change?.presses ?? [])
    .flatMap((p, i, all) => (i > 0 && all[i - 1]?.switch === p.switch ? [] : [byKey.get(p.switch)]))
    .filter((s) => s !== undefined)
  const pressed = new Set(change?.presses.map((p) => p.switch))
  const chosen = boxes.find((b) => b.gear === picked)
  return (
    <div>
      <Ground
        ref={svg}
        viewBox={`${left} ${top} ${right - left} ${bottom - top}`}
        role="group"
        aria-label="The floor"
      >
        {shown.map((b) => (
          <Box
            key={b.gear}
            box={b}
            picked={b.gear === picked}
            pick={() => pick(b.gear)}
            scale={scale}
            onDrag={(x, y) => {
              const so = way.current?.gear === b.gear ? way.current : { gear: b.gear, x: 0, y: 0 }
              way.current = { gear: b.gear, x: so.x + x, y: so.y + y }
              setDrag(way.current)
            }}
            onDrop={() => {
              const old = boxes.find((o) => o.gear === b.gear)
              const by = way.current
              if (by && old && (by.x !== 0 || by.y !== 0))
                void place(old, (now) => ({
                  x_mm: Math.round(now.x_mm + by.x),
                  y_mm: Math.round(now.y_mm + by.y),
                }))
              way.current = undefined
              setDrag(undefined)
            }}
          />
        ))}
        {[...byKey.values()].map((s) => (
          <g key={s.key} pointerEvents="none">
            <circle
              cx={s.x}
              cy={s.y}
              r={13}
              fill={pressed.has(s.key) ? tape(sound?.tape) : 'var(--sunk)'}
              stroke={pressed.has(s.key) ? 'var(--text)' : 'var(--edge)'}
              strokeWidth={2}
            />
          </g>
        ))}
        <path
          d={curve(walk)}
          fill="none"
          stroke="var(--text)"
          strokeWidth={4}
          strokeDasharray="3 9"
          strokeLinecap="round"
          pointerEvents="none"
        />
        {walk.map((s, i) => (
          <text
            key={s.key + String(i)}
            x={s.x}
            y={s.y + 6}
            textAnchor="middle"
            fontSize={18}
            fontWeight={700}
            fill="var(--onTape)"
            pointerEvents="none"
          >
            {i + 1}
          </text>
        ))}
      </Ground>
      {chosen ? (
        <Row>
          <Name>{chosen.name}</Name>
          <NumberField
            label="From left, mm"
            width={96}
            value={Math.round(chosen.x_mm)}
            min={-5000}
            max={5000}
            onCommit={(v) => v !== undefined && place(chosen, () => ({ x_mm: v }))}
          />
          <NumberField
            label="From back, mm"
            width={96}
            value={Math.round(chosen.y_mm)}
            min={-5000}
            max={5000}
            onCommit={(v) => v !== undefined && place(chosen, () => ({ y_mm: v }))}
          />
          <Select
            label="Turned"
            value={String(chosen.rotation_deg)}
            options={['0', '90', '180', '270'].map((d) => ({ id: d, name: `${d}°` }))}
            onChange={(d) => place(chosen, () => ({ rotation_deg: Number(d) as 0 }))}
          />
          {chosen.placed && <Button onPress={() => lift(chosen)}>Back to the row</Button>}
        </Row>
      ) : (
        <Muted>
          Choose a box to move it: drag, arrow keys, or numbers. Boxes nobody has placed stand in a row in
          chain order.
        </Muted>
      )}
    </div>
  )
}

const placed = (b: FloorBox): Placement => ({
  x_mm: Math.round(b.x_mm),
  y_mm: Math.round(b.y_mm),
  rotation_deg: b.rotation_deg as 0,
})

/** A box of the report where the plan has it. */
function standing(b: FloorBox, at: Placement | undefined): FloorBox {
  if (!at) return b
  const turned = ((at.rotation_deg ?? 0) - b.rotation_deg) % 180 !== 0
  return {
    ...b,
    placed: true,
    x_mm: at.x_mm,
    y_mm: at.y_mm,
    rotation_deg: at.rotation_deg ?? 0,
    width_mm: turned ? b.depth_mm : b.width_mm,
    depth_mm: turned ? b.width_mm : b.depth_mm,
  }
}

/** One box. Arrow keys move it by 5 mm. */
function Box(p: {
  box: FloorBox
  picked: boolean
  pick: () => void
  scale: () => number
  onDrag: (x: number, y: number) => void
  onDrop: () => void
}) {
  const b = p.box
  const { moveProps } = useMove({
    onMoveStart: p.pick,
    onMove: (e) => {
      const by = e.pointerType === 'keyboard' ? 5 : p.scale()
      p.onDrag(e.deltaX * by, e.deltaY * by)
    },
    onMoveEnd: p.onDrop,
  })
  return (
    <g
      {...moveProps}
      role="button"
      tabIndex={0}
      aria-label={`${b.name}, ${Math.round(b.x_mm)} mm from the left, ${Math.round(b.y_mm)} mm from the back`}
      aria-pressed={p.picked}
      onFocus={p.pick}
      data-keys="own"
      style={{ cursor: 'grab', touchAction: 'none' }}
    >
      <rect
        x={b.x_mm}
        y={b.y_mm}
        width={b.width_mm}
        height={b.depth_mm}
        rx={5}
        fill="var(--raised)"
        stroke={p.picked ? 'var(--focus)' : 'var(--edge)'}
        strokeWidth={p.picked ? 5 : 2}
        strokeDasharray={b.placed ? undefined : '8 6'}
      />
      <text
        x={b.x_mm + b.width_mm / 2}
        y={b.y_mm + 30}
        textAnchor="middle"
        fontSize={23}
        fill="var(--text)"
        style={{ fontFamily: 'var(--face-label)', fontWeight: 600 }}
      >
        {b.name.length * 11 > b.width_mm
          ? `${b.name.slice(0, Math.max(3, Math.floor(b.width_mm / 12)))}…`
          : b.name}
      </text>
    </g>
  )
}

/** The foot's way, bowed towards the player so that there and back do not lie on each other. */
function curve(points: { x: number; y: number }[]): string {
  return points
    .map((q, i) => {
      const before = points[i - 1]
      if (!before) return `M${q.x} ${q.y}`
      const dx = q.x - before.x
      const dy = q.y - before.y
      return `Q${(q.x + before.x) / 2 - dy * 0.2} ${(q.y + before.y) / 2 + Math.abs(dx) * 0.2} ${q.x} ${q.y}`
    })
    .join(' ')
}

const Ground = styled.svg`
  width: 100%; max-height: 380px; background: var(--panel); border: 1px solid var(--line); display: block; margin-bottom: 8px;
  [role='button']:focus-visible rect { stroke: var(--focus); stroke-width: 5; }
  [role='button'] { outline: none; }
`
