import { ticks } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { useMemo, useState } from 'react'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { GainPoint, GainMap as Mapped, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen, usePlace } from '../../state/place'
import { withRecipes } from '../../state/there'
import { tape } from '../../theme/tokens'
import { Switch } from '../../ui/controls'
import { signed } from '../../ui/figures'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Row, Tape } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'
import { useWidth } from '../../ui/useWidth'
import type { HeardBy } from './heardBy'
import { crowding, placed, rangeOf, type Shown } from './plotting'

const height = 380
const pad = { left: 46, right: 14, top: 14, bottom: 40 }

/** Every combination of the gain stages by dirt and loudness, with the wanted sounds as regions. */
export function GainMap({
  map,
  from,
  rig,
  heard,
  stale,
}: {
  map: Mapped
  from: string | undefined
  rig: Rig
  heard: HeardBy
  stale: boolean
}) {
  const { sound } = usePlace()
  const guitars = useMemo(() => [...new Set(map.points.map((p) => p.guitar ?? ''))], [map])
  const mine = map.points.find((p) => p.sounds.includes(sound?.id ?? ''))?.guitar ?? guitars[0]
  const [asTable, showTable] = useState(false)
  const [guitar, pickGuitar] = useState<string | undefined>()
  // A point is known by what is on in it: others may come and go around it.
  const [chosen, choose] = useState<string | undefined>()
  const nameOf = (p: GainPoint | undefined) => p && `${p.guitar} ${JSON.stringify(p.values)}`
  const pick = (i: number | undefined) => choose(i === undefined ? undefined : nameOf(map.points[i]))
  const shownGuitar = guitar && guitars.includes(guitar) ? guitar : mine
  const shown = map.points
    .map((p, i) => ({ p, i }))
    .filter(({ p }) => guitars.length < 2 || p.guitar === shownGuitar)
  const found = chosen === undefined ? -1 : map.points.findIndex((p) => nameOf(p) === chosen)
  const at = found < 0 ? undefined : found
  return (
    <section aria-label="Gain map" aria-busy={stale} style={{ filter: stale ? 'saturate(0.2)' : undefined }}>
      <Row $gap={16}>
        <Heading>Gain map</Heading>
        {guitars.length > 1 && (
          <Select
            label="With the guitar at"
            value={shownGuitar}
            options={guitars.map((g) => ({ id: g, name: g }))}
            onChange={pickGuitar}
          />
        )}
        <Switch label="As a table" value={asTable} onChange={showTable} />
        <Muted as="span">
          {map.points.length} combinations{map.whole ? '' : ' next to the sounds'}, {map.distinct.length} you
          could tell apart.
        </Muted>
      </Row>
      <Side>
        {asTable ? (
          <PointTable map={map} shown={shown} picked={at} pick={pick} />
        ) : (
          <Plot map={map} shown={shown} picked={at} pick={pick} />
        )}
        <div>
          {at === undefined ? (
            <>
              <Heading>Letters</Heading>
              <Letters>
                {map.letters.map((l) => (
                  <li key={`${l.letter} ${l.block}`}>
                    <b>{l.letter}</b> {l.name}
                  </li>
                ))}
              </Letters>
              <Muted>
                Choose a point to hear it, or to make a sound of it. Rings are the sounds you asked for.
              </Muted>
            </>
          ) : (
            <Picked map={map} from={from} point={map.points[at] as GainPoint} rig={rig} heard={heard} />
          )}
        </div>
      </Side>
    </section>
  )
}

function Plot({
  map,
  shown,
  picked,
  pick,
}: {
  map: Mapped
  shown: Shown[]
  picked: number | undefined
  pick: (i: number) => void
}) {
  const { plan } = useChosen()
  const [box, width] = useWidth<SVGSVGElement>(640)
  const tapeOf = (id: string) => tape(plan.sounds.find((s) => s.value.id === id)?.value.tape)
  const { low, high, dirt } = rangeOf(shown, map.targets)
  const x = scaleLinear([0, dirt], [pad.left, width - pad.right])
  const y = scaleLinear([low, high], [height - pad.bottom, pad.top])
  const order = [...shown].sort((a, b) => a.p.dirt_pct - b.p.dirt_pct || a.i - b.i)
  const step = (from: number, by: number) => {
    const k = order.findIndex((s) => s.i === from)
    const to = order[(k + by + order.length) % order.length]
    if (to) {
      pick(to.i)
      document.getElementById(`gain-${to.i}`)?.focus()
    }
  }
  const first = picked ?? order[0]?.i
  const labels = placed(order, x, y, picked)
  return (
    <Field
      ref={box}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label="Combinations by dirt and loudness"
    >
      {ticks(0, dirt, 6).map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={pad.top} y2={height - pad.bottom} stroke="var(--line)" />
          <text x={x(t)} y={height - pad.bottom + 16} textAnchor="middle">
            {t}
          </text>
        </g>
      ))}
      {ticks(low, high, 7).map((t) => (
        <g key={t}>
          <line x1={pad.left} x2={width - pad.right} y1={y(t)} y2={y(t)} stroke="var(--line)" />
          <text x={pad.left - 8} y={y(t) + 4} textAnchor="end">
            {signed(t, 0)}
          </text>
        </g>
      ))}
      <text x={(pad.left + width) / 2} y={height - 6} textAnchor="middle">
        dirt, per cent
      </text>
      <text x={13} y={height / 2} textAnchor="middle" transform={`rotate(-90 13 ${height / 2})`}>
        loudness over home, LU
      </text>
      {map.targets.map((t, n) => {
        const top = y(Math.min(t.loud_max ?? high, high))
        const foot = y(Math.max(t.loud_min ?? low, low))
        return (
          <g key={t.sound}>
            <rect
              x={x(t.dirt_min)}
              y={top}
              width={Math.max(x(Math.min(t.dirt_max, dirt)) - x(t.dirt_min), 4)}
              height={Math.max(foot - top, 4)}
              rx={12}
              fill={tapeOf(t.sound)}
              fillOpacity={0.13}
              stroke={tapeOf(t.sound)}
              strokeWidth={2}
              strokeDasharray={t.reached ? undefined : '6 5'}
            />
            <Name
              x={x(t.dirt_min) + 8}
              y={top + 17 + 16 * crowding(map.targets, n, (o) => y(Math.min(o.loud_max ?? high, high)), x)}
            >
              {t.name}
              {!t.reached && ' (nothing gets here)'}
            </Name>
          </g>
        )
      })}
      {order.map(({ p, i }) => (
        <g
          key={i}
          id={`gain-${i}`}
          role="button"
          tabIndex={i === first ? 0 : -1}
          data-keys="own"
          aria-pressed={i === picked}
          aria-label={`${p.name}: ${signed(p.over_home_lu)} LU, ${p.dirt_pct.toFixed(0)} % dirt${p.sounds.length ? `, ${p.sounds.map((s) => plan.sounds.find((v) => v.value.id === s)?.value.name).join(', ')}` : ''}`}
          onClick={() => pick(i)}
          onKeyDown={(e) => {
            if (e.key === 'ArrowRight' || e.key === 'ArrowDown') step(i, 1)
            else if (e.key === 'ArrowLeft' || e.key === 'ArrowUp') step(i, -1)
            else if (e.key === 'Enter' || e.key === ' ') pick(i)
            else return
            e.preventDefault()
          }}
        >
          <circle cx={x(p.dirt_pct)} cy={y(p.over_home_lu)} r={11} fill="transparent" />
          <circle
            className="dot"
            cx={x(p.dirt_pct)}
            cy={y(p.over_home_lu)}
            r={p.sounds.length ? 7 : 5}
            fill={
              p.sounds.length
                ? tapeOf(p.sounds[0] ?? '')
                : map.distinct.includes(i)
                  ? 'var(--text)'
                  : 'var(--edge)'
            }
            stroke={i === picked ? 'var(--focus)' : 'var(--bg)'}
            strokeWidth={i === picked ? 3 : 1}
          />
          {labels.has(i) && (
            <text x={x(p.dirt_pct) + 9} y={y(p.over_home_lu) + 4} className="name">
              {p.name}
            </text>
          )}
        </g>
      ))}
    </Field>
  )
}

function PointTable({
  map,
  shown,
  picked,
  pick,
}: {
  map: Mapped
  shown: Shown[]
  picked: number | undefined
  pick: (i: number) => void
}) {
  const { plan } = useChosen()
  const name = (id: string) => plan.sounds.find((s) => s.value.id === id)?.value.name ?? id
  return (
    <Wide>
      <Grid aria-label="Combinations">
        <thead>
          <tr>
            <th scope="col">On</th>
            <th scope="col">Over home</th>
            <th scope="col">Dirt</th>
            <th scope="col">Squash</th>
            <th scope="col">Over hiss</th>
            <th scope="col">Sounds</th>
            <th scope="col">Meets</th>
          </tr>
        </thead>
        <tbody>
          {[...shown]
            .sort((a, b) => b.p.over_home_lu - a.p.over_home_lu)
            .map(({ p, i }) => (
              <tr key={i} aria-current={i === picked ? 'true' : undefined}>
                <th scope="row">
                  <Pick type="button" onClick={() => pick(i)}>
                    {map.letters
                      .filter((l) => p.on.includes(l.block))
                      .map((l) => l.name)
                      .join(' + ') || 'nothing'}
                  </Pick>
                </th>
                <td>
                  <Figure>{signed(p.over_home_lu)} LU</Figure>
                </td>
                <td>
                  <Figure>{p.dirt_pct.toFixed(0)} %</Figure>
                </td>
                <td>
                  <Figure>{p.squash.toFixed(2)}</Figure>
                </td>
                <td>
                  <Figure>{p.noise_db.toFixed(0)} dB</Figure>
                </td>
                <td>{p.sounds.map(name).join(', ')}</td>
                <td>{p.reaches.map(name).join(', ')}</td>
              </tr>
            ))}
        </tbody>
      </Grid>
    </Wide>
  )
}

/** The point that is chosen: its figures, its sound, and making it the recipe of one. */
function Picked({
  map,
  from,
  point,
  rig,
  heard,
}: {
  map: Mapped
  from: string | undefined
  point: GainPoint
  rig: Rig
  heard: HeardBy
}) {
  const { plan, destination, here } = useChosen()
  const edit = useEdit()
  const sounds = values(plan, 'sounds').filter((s) => here?.recipes?.some((r) => r.sound === s.id))
  const home = here?.recipes?.find((r) => sounds.find((s) => s.id === r.sound)?.role === 'home')
  const assign = (id: string) => {
    const recipe = here?.recipes?.find((r) => r.sound === id)
    const name = sounds.find((s) => s.id === id)?.name ?? id
    if (!recipe) return
    void edit.change(
      'rigs',
      rig.id,
      `${name} is ${point.name}`,
      (r) =>
        withRecipes(r, destination?.id, recipe.id, (list) =>
          list.map((x) => (x.id === recipe.id ? { ...x, values: { ...x.values, ...point.values } } : x)),
        ),
      from,
    )
  }
  const on = map.letters.filter((l) => point.on.includes(l.block)).map((l) => l.name)
  const own = point.sounds[0] ?? home?.sound ?? sounds[0]?.id
  return (
    <>
      <Heading>{on.join(' + ') || 'No gain stage'}</Heading>
      <Letters>
        <li>
          <Figure>{signed(point.over_home_lu)} LU</Figure> over home
        </li>
        <li>
          <Figure>{point.dirt_pct.toFixed(0)} %</Figure> dirt
        </li>
        <li>
          <Figure>{point.squash.toFixed(2)}</Figure> squash
        </li>
        <li>
          <Figure>{point.noise_db.toFixed(0)} dB</Figure> over hiss
        </li>
      </Letters>
      {point.sounds.map((id) => (
        <Tape key={id} style={{ background: tape(sounds.find((s) => s.id === id)?.tape) }}>
          {sounds.find((s) => s.id === id)?.name}
        </Tape>
      ))}
      <Row>
        {own && (
          <ListenButton
            title={on.join(' + ') || 'No gain stage'}
            query={{ sound: own, values: JSON.stringify(point.values), ...heard }}
          />
        )}
        {heard.song === undefined ? (
          <Select
            label="Make it the recipe of"
            value={undefined}
            placeholder="a sound"
            options={sounds.map((s) => ({ id: s.id, name: s.name, tape: tape(s.tape) }))}
            onChange={assign}
          />
        ) : (
          <Muted as="span">A sound is made of the chain as it stands: choose that above.</Muted>
        )}
      </Row>
    </>
  )
}

const Side = styled.div`display: grid; grid-template-columns: minmax(0, 1fr) 210px; gap: 18px; margin-top: 8px; align-items: start; @media (max-width: 1100px) { grid-template-columns: minmax(0, 1fr); }`
const Field = styled.svg`
  width: 100%; max-height: 460px; background: var(--panel); border: 1px solid var(--line); display: block;
  text { font: 400 12px/1 var(--face-figures); fill: var(--muted); }
  text.name { font: 600 13px/1 var(--face-label); fill: var(--text); pointer-events: none; }
  [role='button'] { cursor: pointer; outline: none; }
  [role='button']:hover .dot { stroke: var(--text); stroke-width: 3; }
  [role='button']:focus-visible .dot { stroke: var(--focus); stroke-width: 4; }
`
const Name = styled.text`&& { font: 600 14px/1 var(--face-label); letter-spacing: 0.03em; text-transform: uppercase; fill: var(--text); }`
const Letters = styled.ul`display: grid; gap: 3px; font-size: 13px; margin: 6px 0 10px; b { display: inline-block; width: 20px; font-family: var(--face-label); }`
const Pick = styled.button`border: 0; background: none; padding: 0; text-align: left; text-decoration: underline; cursor: pointer; font: inherit;`
