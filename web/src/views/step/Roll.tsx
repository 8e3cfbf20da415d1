import { memo, useEffect, useMemo, useRef } from 'react'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Change, Report, Row as RollRow } from '../../api/types'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'

/** The set as the rig sees it: rows are what can be switched, columns the sections. Clicking
 * a column moves the cursor. */
export function Roll({ report }: { report: Report }) {
  const { plan, position, go } = usePlace()
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const el = box.current
    const column = el?.querySelector<HTMLElement>(`[data-at="${position}"]`)
    if (el && column) {
      const left = column.offsetLeft - 140
      if (left < el.scrollLeft || left + column.offsetWidth > el.scrollLeft + el.clientWidth - 150) {
        el.scrollTo({ left: left - el.clientWidth / 3 })
      }
    }
  }, [position])
  const tapes = useMemo(() => new Map(values(plan, 'sounds').map((s) => [s.id, tape(s.tape)])), [plan])
  const rows = report.rows.filter((r) => r.cells.some((c) => c.on || !r.switch))
  const idle = report.rows.filter((r) => r.switch && !r.cells.some((c) => c.on)).map((r) => r.label)
  const columns = useMemo(
    () => report.sections.map((s) => ({ at: s.position, starts: s.starts_song && s.position > 0 })),
    [report],
  )
  const pick = (e: React.MouseEvent) => {
    const at = (e.target as Element).closest('[data-at]')?.getAttribute('data-at')
    if (at) go(Number(at))
  }
  return (
    <>
      <Box
        ref={box}
        onClick={pick}
        tabIndex={0}
        role="region"
        aria-label={`Roll: ${rows.length} rows, ${columns.length} sections`}
      >
        <Line>
          <Label />
          {columns.map((c) => (
            <Head key={c.at} data-at={c.at} $starts={c.starts}>
              {report.sections[c.at]?.starts_song && (
                <span title={report.sections[c.at]?.song}>{report.sections[c.at]?.song}</span>
              )}
            </Head>
          ))}
        </Line>
        {rows.map((r) => (
          <RowLine
            key={r.variable}
            row={r}
            tapes={tapes}
            sounds={report.sections.map((s) => s.sound).join(' ')}
            starts={columns}
          />
        ))}
        <Line>
          <Label>Presses</Label>
          {columns.map((c) => {
            const change = report.changes[c.at - 1]
            const red = change?.fails
            const n = change ? change.presses.length : 0
            const warned = warningOf(change)
            return (
              <Dots
                key={c.at}
                data-at={c.at}
                $starts={c.starts}
                title={[change?.reason, warned].filter(Boolean).join(' ')}
              >
                {change?.verdict === 'impossible' && (
                  <i style={{ background: 'var(--red)', borderRadius: 0 }} />
                )}
                {Array.from({ length: Math.min(n, 6) }, (_, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the dots are all alike
                  <i key={i} style={{ background: red ? 'var(--red)' : 'var(--text)' }} />
                ))}
                {warned && <BetweenMark label={warned} />}
              </Dots>
            )
          })}
        </Line>
        <Cursor
          style={
            {
              '--at': position,
              '--songs': columns.filter((c) => c.starts && c.at <= position).length,
            } as React.CSSProperties
          }
          aria-hidden="true"
        />
      </Box>
      {idle.length > 0 && <Idle title={idle.join(', ')}>Never on in this set: {idle.join(', ')}.</Idle>}
    </>
  )
}

/** What is wrong between the two sounds of a change, in words. */
export function warningOf(change: Change | undefined): string | undefined {
  const words = [
    ...(change?.between.some((b) => b.loud) ? ['In between, the gain of both sounds is on at once.'] : []),
    ...(change?.cuts ?? []).map((c) => `${c}.`),
  ]
  return words.length > 0 ? words.join(' ') : undefined
}

/** A peak: something is heard between two sounds that belongs to neither, or is cut off. */
export function BetweenMark({ label }: { label: string }) {
  return (
    <svg width="13" height="9" viewBox="0 0 13 9" role="img" aria-label={label}>
      <path d="M0.500 8L4 8L6.500 1L9 8L12.500 8" fill="none" stroke="var(--text)" strokeWidth="1.500" />
    </svg>
  )
}

const RowLine = memo(function RowLine(p: {
  row: RollRow
  tapes: Map<string, string>
  sounds: string
  starts: { at: number; starts: boolean }[]
}) {
  const sounds = p.sounds.split(' ')
  return (
    <Line>
      <Label title={p.row.label}>{p.row.label}</Label>
      {p.row.cells.map((c, i) => {
        const on = p.row.switch ? c.on : !c.free
        return (
          <CellBox
            // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place in the night
            key={i}
            data-at={i}
            $starts={p.starts[i]?.starts ?? false}
            $moves={Boolean(c.moves)}
            style={p.row.switch && on ? { background: p.tapes.get(sounds[i] ?? '') } : undefined}
            title={`${p.row.label}: ${c.value}`}
          >
            {!p.row.switch && (on || c.moves) && <span>{brief(c.value)}</span>}
          </CellBox>
        )
      })}
    </Line>
  )
})

/** A value in the two letters a column has room for. */
const brief = (v: string) =>
  v.length <= 3
    ? v
    : v.includes('+')
      ? v
          .split('+')
          .map((w) => w[0])
          .join('')
      : v.slice(0, 2)

const w = 17
const Box = styled.div`
  position: relative; overflow-x: auto; padding-bottom: 6px; scrollbar-width: thin; cursor: pointer; isolation: isolate;
`
const Line = styled.div`display: flex; width: max-content;`
const Label = styled.span`
  position: sticky; left: 0; z-index: 2; flex: none; width: 132px; padding-right: 8px; background: var(--bg); font: 600 14px/17px var(--face-label);
  overflow: hidden; text-overflow: ellipsis; white-space: nowrap;
`
const gap = (p: { $starts: boolean }) => `margin-left: ${p.$starts ? 8 : 1}px;`
const Head = styled.span<{ $starts: boolean }>`
  flex: none; width: ${w}px; height: 20px; ${gap}
  span { position: absolute; font: 600 12px/20px var(--face-label); text-transform: uppercase; color: var(--muted); white-space: nowrap; max-width: ${w * 4.6}px; overflow: hidden; text-overflow: ellipsis; }
`
const CellBox = styled.span<{ $starts: boolean; $moves: boolean }>`
  flex: none; width: ${w}px; height: 15px; margin-bottom: 2px; ${gap} background: var(--raised); position: relative; text-align: center; overflow: hidden;
  font: 600 12px/15px var(--face-label); color: var(--text);
  ${(p) => p.$moves && "&::before { content: ''; position: absolute; left: 0; top: 0; bottom: 0; width: 2px; background: var(--text); }"}
`
const Dots = styled.span<{ $starts: boolean }>`
  flex: none; width: ${w}px; ${gap} display: flex; flex-direction: column; align-items: center; gap: 2px; padding-top: 4px; min-height: 44px;
  i { width: 5px; height: 5px; border-radius: 50%; flex: none; }
`
const Cursor = styled.div`
  position: absolute; top: 16px; bottom: 12px; width: ${w + 4}px; left: calc(132px + 1px + var(--at) * ${w + 1}px + var(--songs) * 7px - 2px);
  border: 2px solid var(--text); pointer-events: none; z-index: 1;
`
const Idle = styled.p`font-size: 12px; color: var(--muted); overflow: hidden; text-overflow: ellipsis; white-space: nowrap;`
