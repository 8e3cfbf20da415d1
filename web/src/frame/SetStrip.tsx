import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { values } from '../api/plan'
import type { ReachSection, Sound, Verdict } from '../api/types'
import { gravity, VerdictMark, verdictWords } from '../marks/marks'
import { usePlace } from '../state/place'
import { tape } from '../theme/tokens'
import { type SongRun, songs } from './songRuns'

/** The whole set across the top. The song under the cursor is wide; the others shrink to
 * their title, tape colours and marks. Anything in it moves the cursor. */
export function SetStrip() {
  const { plan, report, position, section, change } = usePlace()
  const at = useRef<HTMLDivElement>(null)
  const here = section?.entry
  useEffect(() => {
    if (here) at.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [here])
  if (!report || report.sections.length === 0) {
    return (
      <Strip as="section" aria-label="The set">
        <Line>
          {plan.songs.length === 0
            ? 'No songs yet. '
            : plan.rigs.length === 0
              ? 'No rig yet. '
              : 'The set is empty. Put songs in it under Hear, or '}
          <Link to="/begin">
            {plan.songs.length === 0
              ? 'Type your set'
              : plan.rigs.length === 0
                ? 'Type your chain'
                : 'type a set'}
          </Link>
        </Line>
      </Strip>
    )
  }
  const sounds = new Map(values(plan, 'sounds').map((s) => [s.id, s]))
  const runs = songs(report.sections)
  const verdicts = new Map(report.changes.map((c) => [c.position, c.verdict]))
  const crowded = report.sections.length > 100
  return (
    <Strip as="section" aria-label="The set">
      <Songs>
        {runs.map((run) => {
          const current = run.key === section?.entry
          return (
            <SongBox
              key={run.key}
              ref={current ? at : undefined}
              $current={current}
              $n={run.sections.length}
              $crowded={crowded}
              aria-label={run.title}
              role="group"
            >
              <SongTitle $current={current} title={`${run.title}, ${run.bpm} bpm`}>
                <span>{run.title}</span> {current && <small>{run.bpm}</small>}
              </SongTitle>
              <Cells>
                {run.sections.map((s) => (
                  <SectionCell
                    key={s.position}
                    section={s}
                    sound={sounds.get(s.sound)}
                    verdict={verdicts.get(s.position)}
                    here={s.position === position}
                    letters={current || !crowded}
                  />
                ))}
              </Cells>
              <Marks aria-hidden="true">
                {current || !crowded ? (
                  run.sections.map((s) => {
                    const v = verdicts.get(s.position)
                    return <i key={s.position}>{v && <VerdictMark verdict={v} size={current ? 14 : 12} />}</i>
                  })
                ) : (
                  <Worst run={run} verdicts={verdicts} />
                )}
              </Marks>
            </SongBox>
          )
        })}
      </Songs>
      <Line aria-live="polite">
        {section && (
          <>
            {section.song}, {section.section}.{' '}
            {change ? (
              <>
                {change.from.name} to {change.to.name}: {change.reason}
              </>
            ) : (
              'The first sound of the night; setting up is not counted.'
            )}
          </>
        )}
      </Line>
    </Strip>
  )
}

function Worst({ run, verdicts }: { run: SongRun; verdicts: Map<number, Verdict> }) {
  let worst: Verdict = 'in_time'
  for (const s of run.sections) {
    const v = verdicts.get(s.position)
    if (v && gravity(v) > gravity(worst)) worst = v
  }
  return (
    <i>
      <VerdictMark verdict={worst} size={12} />
    </i>
  )
}

function SectionCell(p: {
  section: ReachSection
  sound: Sound | undefined
  verdict: Verdict | undefined
  here: boolean
  letters: boolean
}) {
  const { go } = usePlace()
  const { section: s, sound, verdict } = p
  const label = `${s.song}, ${s.section}, ${sound?.name ?? 'no sound'}${verdict ? `, ${verdictWords(verdict)}` : ''}`
  return (
    <Cell
      type="button"
      $here={p.here}
      style={{ background: tape(sound?.tape) }}
      aria-label={label}
      aria-current={p.here ? 'step' : undefined}
      tabIndex={p.here ? 0 : -1}
      title={label}
      onClick={() => go(s.position)}
    >
      {p.letters && <span>{sound?.short}</span>}
    </Cell>
  )
}

const Strip = styled.div`border-bottom: 1px solid var(--line); padding: 8px 16px 6px; min-width: 0; background: var(--panel);`
const Songs = styled.div`display: flex; gap: 7px; overflow-x: auto; padding: 2px 2px 4px; scrollbar-width: thin;`
const SongBox = styled.div<{ $current: boolean; $n: number; $crowded: boolean }>`
  flex: ${(p) => (p.$current ? `0 0 ${Math.max(150, p.$n * 32)}px` : `${p.$n} 1 ${p.$n * 4}px`)};
  min-width: ${(p) => (p.$current ? `${Math.max(150, p.$n * 32)}px` : p.$crowded ? '38px' : '50px')};
`
const SongTitle = styled.div<{ $current: boolean }>`
  font: 600 ${(p) => (p.$current ? 16 : 12.5)}px/18px var(--face-label); letter-spacing: 0.02em; text-transform: uppercase; display: flex; justify-content: space-between; gap: 6px;
  color: ${(p) => (p.$current ? 'var(--text)' : 'var(--muted)')};
  span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  small { font: 400 13px/18px var(--face-figures); color: var(--muted); }
`
const Cells = styled.div`display: flex; gap: 1px;`
const Cell = styled.button<{ $here: boolean }>`
  flex: 1 1 0; min-width: 2px; height: 26px; border: 0; padding: 0; cursor: pointer; overflow: hidden; position: relative;
  font: 600 13px/26px var(--face-label); color: var(--onTape); letter-spacing: 0; text-align: center; container-type: inline-size;
  ${(p) => p.$here && 'box-shadow: inset 0 0 0 2px var(--text), inset 0 0 0 4px var(--bg); z-index: 1;'}
  @container (max-width: 15px) { span { visibility: hidden; } }
`
const Marks = styled.div`display: flex; gap: 1px; height: 18px; margin-top: 3px; i { flex: 1 1 0; display: grid; place-items: center; min-width: 0; overflow: visible; }`
const Line = styled.p`font-size: 13px; padding: 2px 0 1px; min-height: 22px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis;`
