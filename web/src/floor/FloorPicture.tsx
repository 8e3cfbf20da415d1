import { createContext, type RefObject, useContext, useEffect, useRef, useState } from 'react'
import { useMove } from 'react-aria/useMove'
import styled from 'styled-components'
import type { BoardLead, BoardPlug, FloorBox, FloorPlan } from '../api/types'
import { tape } from '../theme/tokens'
import { inkOn } from './standing'

/** What a picture of the floor shows besides boards, boxes and switches. */
export interface Shown {
  floor: FloorPlan
  /** What boxes stand on, by board, as far edges and depths. */
  slats?: Map<string, { y_mm: number; depth_mm: number }[]>
  leads?: BoardLead[]
  plugs?: BoardPlug[]
  /** Boxes that something is wrong with. */
  wrong?: Set<string>
  /** The switches of one change, in the order they are pressed. */
  walk?: string[]
  /** The colour of the sound that the change leads to. */
  tape?: string
  /** How often each switch is pressed in the night. */
  heat?: Map<string, number>
  /** What hangs beneath is to the fore. */
  beneath?: boolean
}

/** What a hand can do to the boxes of a picture. */
export interface Handled {
  picked: string | undefined
  pick: (gear: string) => void
  /** A box is moved by so much from where it stands; done where it is let go. */
  drag: (box: FloorBox, x: number, y: number, by: 'hand' | 'keys') => void
  drop: (box: FloorBox) => void
}

const pad = 40

/** The least size of letters, in px on the screen. */
const leastPx = 12

/** How many px of the screen a mm of the floor is; letters are never under the least that is read. */
const Scale = createContext(1)
const useLetters = (mm: number) => Math.max(mm, leastPx / useContext(Scale))

/** Of a picture that shows so many mm. */
function useScaleOf(svg: RefObject<SVGSVGElement | null>, width: number, height: number): number {
  const [size, setSize] = useState<{ width: number; height: number }>()
  useEffect(() => {
    const at = svg.current
    if (!at) return
    const measure = () => setSize({ width: at.clientWidth, height: at.clientHeight })
    measure()
    const seen = new ResizeObserver(measure)
    seen.observe(at)
    return () => seen.disconnect()
  }, [svg])
  return size?.width ? Math.min(size.width / width, size.height / height) : 1
}

/** A name inside a box: along it, or from top to bottom where it is too long for that, and cut where it is too long for
 * both. The letters are condensed: under half as wide as they are high. */
export function nameIn(name: string, width: number, depth: number, letters: number) {
  const long = (text: string) => text.length * letters * 0.4
  if (long(name) <= width - 1) return { text: name, upright: false }
  const upright = depth > width
  const room = Math.floor(((upright ? depth : width) - 4) / (letters * 0.4))
  if (name.length <= room) return { text: name, upright }
  return { text: room > 2 ? `${name.slice(0, room - 1)}…` : '', upright }
}

/** The part of the floor that a picture shows, in mm: all boards and boxes, and a margin. */
export function frameOf(floor: FloorPlan) {
  const all = [...floor.boards, ...floor.boxes]
  const left = Math.min(...all.map((b) => b.x_mm)) - pad
  const top = Math.min(...all.map((b) => b.y_mm)) - pad
  const right = Math.max(...all.map((b) => b.x_mm + b.width_mm)) + pad
  const bottom = Math.max(...all.map((b) => b.y_mm + b.depth_mm)) + pad + (floor.boards.length > 0 ? 24 : 0)
  return { left, top, width: right - left, height: bottom - top }
}

/** The floor from above, to scale: the boards, the boxes in their colours, their switches, plugs and leads,
 * and the foot's way through a change. */
export function FloorPicture({ shown, hands, label }: { shown: Shown; hands?: Handled; label: string }) {
  const svg = useRef<SVGSVGElement>(null)
  const { floor } = shown
  const { left, top, width, height } = frameOf(floor)
  const scale = useScaleOf(svg, width, height)
  const at = new Map(floor.switches.map((s) => [s.key, s]))
  const walk = (shown.walk ?? [])
    .filter((key, i, keys) => key !== keys[i - 1])
    .flatMap((key) => at.get(key) ?? [])
  const pressed = new Set(shown.walk)
  const most = Math.max(1, ...(shown.heat?.values() ?? []))
  // What is beneath is drawn first, or last where it is looked at.
  const order = [...floor.boxes].sort((a, b) => Number(a.under ?? false) - Number(b.under ?? false))
  if (!shown.beneath) order.reverse()
  const fore = (b: FloorBox) => !floor.boards.length || Boolean(b.under) === Boolean(shown.beneath)
  return (
    <Scale value={scale}>
      <Ground
        ref={svg}
        viewBox={`${left} ${top} ${width} ${height}`}
        role={hands ? 'group' : 'img'}
        aria-label={label}
      >
        {floor.boards.map((b) => (
          <g key={b.board} pointerEvents="none">
            <rect
              x={b.x_mm}
              y={b.y_mm}
              width={b.width_mm}
              height={b.depth_mm}
              rx={8}
              fill="var(--panel)"
              stroke="var(--edge)"
              strokeWidth={2}
            />
            {shown.slats?.get(b.board)?.map((s) => (
              <rect
                key={s.y_mm}
                x={b.x_mm + 4}
                y={b.y_mm + s.y_mm}
                width={b.width_mm - 8}
                height={s.depth_mm}
                fill="var(--raised)"
              />
            ))}
            <Ruler x={b.x_mm} y={b.y_mm + b.depth_mm + 6} length={b.width_mm} />
          </g>
        ))}
        <g pointerEvents="none">
          {shown.leads?.map((l) => (
            <Lead key={`${l.from} ${l.to} ${l.from_x_mm} ${l.to_y_mm}`} lead={l} />
          ))}
          {shown.plugs?.map((p) => (
            <rect
              key={`${p.gear} ${p.jack}`}
              x={p.x_mm}
              y={p.y_mm}
              width={p.width_mm}
              height={p.depth_mm}
              rx={3}
              fill="var(--sunk)"
              stroke="var(--wire)"
              strokeWidth={1.5}
              strokeDasharray={p.assumed ? '3 3' : undefined}
            />
          ))}
        </g>
        {order
          .filter((b) => !fore(b))
          .map((b) => (
            <BoxShape key={b.gear} box={b} faint svg={svg} scale={width} hands={hands} />
          ))}
        {order.filter(fore).map((b) => (
          <BoxShape
            key={b.gear}
            box={b}
            wrong={shown.wrong?.has(b.gear)}
            svg={svg}
            scale={width}
            hands={hands}
          />
        ))}
        <g pointerEvents="none">
          {floor.switches.map((s) => {
            const times = shown.heat?.get(s.key) ?? 0
            return (
              <g key={s.key}>
                {times > 0 && (
                  <circle
                    cx={s.x_mm}
                    cy={s.y_mm}
                    r={14 + 16 * (times / most)}
                    fill="var(--red)"
                    opacity={0.45}
                  />
                )}
                <circle
                  cx={s.x_mm}
                  cy={s.y_mm}
                  r={12}
                  fill={pressed.has(s.key) ? tape(shown.tape) : 'var(--switch)'}
                  stroke={pressed.has(s.key) ? 'var(--onTape)' : 'var(--switchRim)'}
                  strokeWidth={3}
                />
                {times > 0 && (
                  <text
                    x={s.x_mm}
                    y={s.y_mm + 5}
                    textAnchor="middle"
                    fontSize={Math.max(15, leastPx / scale)}
                    fontWeight={700}
                    fill="#ffffff"
                  >
                    {times}
                  </text>
                )}
              </g>
            )
          })}
          {order.map((b) => (
            <BoxName key={b.gear} box={b} faint={!fore(b)} />
          ))}
          <path
            d={curve(walk)}
            fill="none"
            stroke="var(--onTape)"
            strokeWidth={7}
            strokeDasharray="3 9"
            strokeLinecap="round"
          />
          <path
            d={curve(walk)}
            fill="none"
            stroke={tape(shown.tape)}
            strokeWidth={4}
            strokeDasharray="3 9"
            strokeLinecap="round"
          />
          {walk.map((s, i) => (
            <text
              key={s.key + String(i)}
              x={s.x_mm}
              y={s.y_mm + 6}
              textAnchor="middle"
              fontSize={Math.max(18, leastPx / scale)}
              fontWeight={700}
              fill="var(--onTape)"
            >
              {i + 1}
            </text>
          ))}
        </g>
      </Ground>
    </Scale>
  )
}

/** One box, in its colour. Arrow keys move it by 1 mm, with Shift by 10. */
function BoxShape(p: {
  box: FloorBox
  faint?: boolean
  wrong?: boolean
  svg: RefObject<SVGSVGElement | null>
  scale: number
  hands: Handled | undefined
}) {
  const b = p.box
  const { hands } = p
  const { moveProps } = useMove({
    onMoveStart: () => hands?.pick(b.gear),
    onMove: (e) => {
      const keys = e.pointerType === 'keyboard'
      const by = keys ? (e.shiftKey ? 10 : 1) : p.scale / (p.svg.current?.getBoundingClientRect().width ?? 1)
      hands?.drag(b, e.deltaX * by, e.deltaY * by, keys ? 'keys' : 'hand')
    },
    onMoveEnd: () => hands?.drop(b),
  })
  const turned = b.rotation_deg % 180 !== 0
  const w = turned ? b.depth_mm : b.width_mm
  const d = turned ? b.width_mm : b.depth_mm
  const ink = inkOn(b.colour)
  const picked = hands?.picked === b.gear
  const held = hands
    ? {
        ...moveProps,
        role: 'button',
        tabIndex: 0,
        'aria-label': `${b.name}, ${Math.round(b.x_mm)} mm from the left, ${Math.round(b.y_mm)} mm from the back${b.under ? ', beneath' : ''}`,
        'aria-pressed': picked,
        onFocus: () => hands.pick(b.gear),
        'data-keys': 'own',
        style: { cursor: b.pinned ? 'default' : 'grab', touchAction: 'none' },
      }
    : {}
  return (
    <g {...held} opacity={p.faint ? 0.35 : 1}>
      <title>{b.name}</title>
      <g transform={facing(b)}>
        <rect
          width={w}
          height={d}
          rx={5}
          fill={b.colour}
          stroke={p.wrong ? 'var(--red)' : picked ? 'var(--focus)' : 'var(--edge)'}
          strokeWidth={picked || p.wrong ? 5 : 1.5}
          strokeDasharray={b.placed ? undefined : '8 6'}
        />
        {knobs(b.knobs, w, d).map(([x, y]) => (
          <g key={`${x} ${y}`}>
            <circle cx={x} cy={y} r={8} fill={ink} opacity={0.85} />
            <path d={`M${x} ${y}V${y - 8}`} stroke={b.colour} strokeWidth={2} />
          </g>
        ))}
      </g>
      {b.pinned && <circle cx={b.x_mm + 9} cy={b.y_mm + 9} r={4.5} fill={ink} />}
    </g>
  )
}

/** The name of a box, over its knobs and switches: the colour of the box around the letters keeps them apart. */
function BoxName({ box: b, faint }: { box: FloorBox; faint: boolean }) {
  const letters = useLetters(19)
  const name = nameIn(b.name, b.width_mm, b.depth_mm, letters)
  const [x, y] = [b.x_mm + b.width_mm / 2, b.y_mm + b.depth_mm * (name.upright ? 0.5 : 0.55)]
  return (
    <text
      x={x}
      y={y}
      dy="0.3em"
      transform={name.upright ? `rotate(-90 ${x} ${y})` : undefined}
      textAnchor="middle"
      fontSize={letters}
      fill={inkOn(b.colour)}
      stroke={name.upright ? b.colour : undefined}
      strokeWidth={6}
      strokeLinejoin="round"
      paintOrder="stroke"
      opacity={faint ? 0.35 : 1}
      style={{ fontFamily: 'var(--face-label)', fontWeight: 600 }}
    >
      {name.text}
    </text>
  )
}

/** Carries what is drawn of a box as it faces the player to where it is and how it is turned. */
function facing(b: FloorBox): string {
  const corner = {
    0: [b.x_mm, b.y_mm],
    90: [b.x_mm + b.width_mm, b.y_mm],
    180: [b.x_mm + b.width_mm, b.y_mm + b.depth_mm],
    270: [b.x_mm, b.y_mm + b.depth_mm],
  }[b.rotation_deg as 0] ?? [b.x_mm, b.y_mm]
  return `translate(${corner[0]} ${corner[1]}) rotate(${b.rotation_deg})`
}

/** Where knobs are drawn: in rows at the far edge. */
function knobs(count: number, w: number, d: number): [number, number][] {
  const row = Math.max(1, Math.floor((w - 8) / 22))
  return Array.from({ length: Math.min(count, row * 2) }, (_, i) => {
    const in_row = Math.min(row, count - Math.floor(i / row) * row)
    const x = (w / (in_row + 1)) * ((i % row) + 1)
    return [x, Math.min(18 + Math.floor(i / row) * 22, d / 2)]
  })
}

/** A lead from jack to jack, in the stroke of its level, with arrows the way the signal goes. */
function Lead({ lead: l }: { lead: BoardLead }) {
  const corners = l.route_mm
  const path = corners.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('')
  const from = corners[corners.length - 2]
  const tip = corners[corners.length - 1]
  if (!from || !tip) return null
  const turn = (Math.atan2((tip[1] ?? 0) - (from[1] ?? 0), (tip[0] ?? 0) - (from[0] ?? 0)) * 180) / Math.PI
  return (
    <g>
      <path d={path} fill="none" stroke="var(--sunk)" strokeWidth={6} strokeLinejoin="round" />
      <path
        d={path}
        fill="none"
        stroke="var(--text)"
        strokeWidth={l.level === 'speaker' ? 4 : 2.5}
        strokeDasharray={l.level === 'line' ? '9 4' : undefined}
        strokeLinejoin="round"
      />
      <path
        d="M0 0l-9 -5.5v11z"
        transform={`translate(${tip[0]} ${tip[1]}) rotate(${turn})`}
        fill="var(--text)"
      />
    </g>
  )
}

function Ruler({ x, y, length }: { x: number; y: number; length: number }) {
  const letters = useLetters(15)
  const marks = Array.from({ length: Math.floor(length / 50) + 1 }, (_, i) => i * 50)
  const every = letters > 30 ? 200 : 100 // figures that do not touch
  return (
    <g stroke="var(--wire)" strokeWidth={1.5} fill="var(--muted)">
      {marks.map((m) => (
        <g key={m}>
          <path d={`M${x + m} ${y}v${m % 100 === 0 ? 9 : 5}`} />
          {m % every === 0 && (
            <text
              x={x + m}
              y={y + 11 + letters}
              textAnchor="middle"
              fontSize={letters}
              stroke="none"
              style={{ fontFamily: 'var(--face-figures)' }}
            >
              {m}
            </text>
          )}
        </g>
      ))}
    </g>
  )
}

/** The foot's way, bowed towards the player so that there and back do not lie on each other. */
function curve(points: { x_mm: number; y_mm: number }[]): string {
  return points
    .map((q, i) => {
      const before = points[i - 1]
      if (!before) return `M${q.x_mm} ${q.y_mm}`
      const dx = q.x_mm - before.x_mm
      const dy = q.y_mm - before.y_mm
      return `Q${(q.x_mm + before.x_mm) / 2 - dy * 0.2} ${(q.y_mm + before.y_mm) / 2 + Math.abs(dx) * 0.2} ${q.x_mm} ${q.y_mm}`
    })
    .join(' ')
}

const Ground = styled.svg`
  width: 100%; max-height: var(--floorMost, 410px); background: var(--sunk); border: 1px solid var(--line); display: block; margin-bottom: 8px;
  --switch: #15191a; --switchRim: #d9d4c5;
  [role='button']:focus-visible rect { stroke: var(--focus); stroke-width: 5; }
  [role='button'] { outline: none; }
`
