import { ticks } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import styled from 'styled-components'
import type { Ladder } from '../../api/types'
import { useWork } from '../../api/work'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { signed } from '../../ui/figures'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Progress, Waiting } from '../../ui/Progress'
import { useWidth } from '../../ui/useWidth'

const height = 190
const pad = { left: 34, right: 8, top: 10, bottom: 12 }

/** How the levels of the set step: each section at the level of its sound, against what was asked. */
export function LevelLadder({ dry }: { dry: string | undefined }) {
  const { plan, rig, destination, setList, report, position, go } = usePlace()
  const [box, width] = useWidth<HTMLDivElement>(820)
  const work = useWork<Ladder>(
    '/api/levels',
    rig && setList ? { rig: rig.id, destination: destination?.id, set_list: setList.id, dry } : undefined,
  )
  const l = work.latest
  if (!rig || !setList || !report) return null
  const rungs = new Map((l?.rungs ?? []).flatMap((r) => (r.positions ?? []).map((p) => [p, r])))
  const levels = (l?.rungs ?? []).flatMap((r) => [r.over_home_lu, r.wanted_lu ?? r.over_home_lu])
  const low = Math.min(-2, ...levels) - 1
  const high = Math.max(3, ...levels) + 1
  const sections = report.sections
  const x = scaleLinear([0, Math.max(sections.length, 1)], [pad.left, width - pad.right])
  const y = scaleLinear([low, high], [height - pad.bottom, pad.top])
  const jumps = new Map((l?.steps ?? []).map((s) => [s.position, s]))
  const here = jumps.get(position)
  const played = rungs.get(position)
  return (
    <Panel aria-label="Level ladder" role="region">
      <Row $gap={12}>
        <Heading>Level ladder</Heading>
        {l && (
          <Muted as="span">
            <Figure>{l.headroom_db.toFixed(1)} dB</Figure> of headroom in the loudest, {l.steps.length} jumps
            over 3 LU.
          </Muted>
        )}
      </Row>
      <div ref={box}>
        {work.busy && !l && (
          <Waiting style={{ minHeight: height + 32 }}>
            <Progress label="Metering the set" share={work.progress} cancel={work.cancel} />
          </Waiting>
        )}
      </div>
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {l && (
        <>
          <Field viewBox={`0 0 ${width} ${height}`} role="group" aria-label="Level of every section">
            {ticks(low, high, 5).map((t) => (
              <g key={t}>
                <line x1={pad.left} x2={width - pad.right} y1={y(t)} y2={y(t)} stroke="var(--line)" />
                <text x={pad.left - 6} y={y(t) + 4} textAnchor="end">
                  {signed(t, 0)}
                </text>
              </g>
            ))}
            {sections.map((s, i) => {
              const rung = rungs.get(s.position)
              if (!rung) return null
              const w = Math.max(x(1) - x(0) - 1, 1)
              const sound = plan.sounds.find((v) => v.value.id === s.sound)?.value
              return (
                // biome-ignore lint/a11y/noStaticElementInteractions: the strip above is the keyboard's way; this is the mouse's
                <g key={s.position} onClick={() => go(s.position)}>
                  <rect
                    x={x(i)}
                    y={pad.top}
                    width={w}
                    height={height - pad.top - pad.bottom}
                    fill="transparent"
                  />
                  <rect
                    x={x(i)}
                    y={Math.min(y(rung.over_home_lu), y(0)) - 2}
                    width={w}
                    height={Math.abs(y(rung.over_home_lu) - y(0)) + 4}
                    fill={tape(sound?.tape)}
                  />
                  {rung.wanted_lu !== undefined && (
                    <line
                      x1={x(i)}
                      x2={x(i) + w}
                      y1={y(rung.wanted_lu)}
                      y2={y(rung.wanted_lu)}
                      stroke="var(--text)"
                      strokeWidth={2}
                    />
                  )}
                  {jumps.has(s.position) && (
                    <path
                      d={`M${x(i)} ${height - 2}l3 -7l3 7z`}
                      fill={jumps.get(s.position)?.wanted ? 'var(--muted)' : 'var(--red)'}
                    />
                  )}
                  {s.position === position && (
                    <rect
                      x={x(i) - 1}
                      y={pad.top}
                      width={w + 2}
                      height={height - pad.top - pad.bottom}
                      fill="none"
                      stroke="var(--text)"
                      strokeWidth={2}
                    />
                  )}
                </g>
              )
            })}
          </Field>
          <Muted>
            {here
              ? `${here.song}, ${here.section}: a jump of ${signed(here.jump_lu)} LU${here.wanted ? ', as the targets ask' : ''}.`
              : played?.way
                ? `${played.name} (${played.way}): ${signed(played.over_home_lu)} LU over home.`
                : 'A bar is a section at the level of its sound, a line what was asked, a triangle a jump over 3 LU.'}
          </Muted>
        </>
      )}
    </Panel>
  )
}

const Field = styled.svg`width: 100%; display: block; cursor: pointer; text { font: 400 12px/1 var(--face-figures); fill: var(--muted); }`
