import { memo, type Ref, useEffect, useRef } from 'react'
import { Link } from 'react-router'
import styled, { css } from 'styled-components'
import { values } from '../api/plan'
import type { ReachSection, Sound, Verdict } from '../api/types'
import { VerdictMark, verdictWords } from '../marks/marks'
import { usePlace } from '../state/place'
import { narrow, tape } from '../theme/tokens'
import { type SongRun, songs } from './songRuns'

/** The whole set across the top. The song under the cursor is wide; the others shrink to
 * their title, tape colours and marks. Anything in it moves the cursor. */
export function SetStrip() {
  const { plan, rig, report, setList, position, section, change, go } = usePlace()
  const at = useRef<HTMLDivElement>(null)
  const here = section?.entry
  useEffect(() => {
    if (here) at.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [here])
  if (!report && rig && setList && setList.entries.length > 0)
    return <Strip as="section" aria-label="The set" $waits />
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
  const sounds = values(plan, 'sounds')
  const runs = songs(report.sections)
  const verdicts = new Map(report.changes.map((c) => [c.position, c.verdict]))
  const worst = new Map(report.songs.map((s) => [s.entry, s.worst]))
  const crowded = report.sections.length > 100
  const said =
    section &&
    `${section.song}, ${section.section}. ${
      change
        ? `${change.from.name} to ${change.to.name}: ${change.reason}`
        : 'The first sound of the night; setting up is not counted.'
    }`
  return (
    <Strip as="section" aria-label="The set">
      <Songs>
        {runs.map((run) => {
          const current = run.key === section?.entry
          return (
            <OneSong
              key={run.key}
              ref={current ? at : undefined}
              run={run}
              sounds={sounds}
              verdicts={run.sections.map((s) => verdicts.get(s.position))}
              worst={worst.get(run.key) ?? 'in_time'}
              current={current}
              position={current ? position : -1}
              crowded={crowded}
              go={go}
            />
          )
        })}
      </Songs>
      <Foot>
        <Step label="Section before" turned to={position > 0 ? () => go(position - 1) : undefined} />
        <Step
          label="Next section"
          to={position < report.sections.length - 1 ? () => go(position + 1) : undefined}
        />
        <Line aria-live="polite" title={said}>
          {said}
        </Line>
      </Foot>
    </Strip>
  )
}

/** A step of the cursor, for a thumb; keys and the sections themselves do the same. */
function Step(p: { label: string; turned?: boolean; to: (() => void) | undefined }) {
  return (
    <StepButton type="button" aria-label={p.label} title={p.label} aria-disabled={!p.to} onClick={p.to}>
      <svg viewBox="0 0 10 10" width="11" height="11" aria-hidden="true">
        <path
          d={p.turned ? 'M7 1L3 5L7 9' : 'M3 1L7 5L3 9'}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.6"
        />
      </svg>
    </StepButton>
  )
}

interface OneSongProps {
  run: SongRun
  sounds: Sound[]
  /** Of the change to each section. */
  verdicts: (Verdict | undefined)[]
  worst: Verdict
  current: boolean
  /** Of the cursor, where it is in this song; else -1. */
  position: number
  crowded: boolean
  go: (position: number) => void
  ref?: Ref<HTMLDivElement>
}

/** A song of the strip. A night has many, and an edit touches few: it is drawn anew when it looks different. */
const OneSong = memo(function OneSong(p: OneSongProps) {
  const { run, current } = p
  return (
    <SongBox
      ref={p.ref}
      $current={current}
      $n={run.sections.length}
      $crowded={p.crowded}
      aria-label={run.title}
      role="group"
    >
      <SongTitle
        type="button"
        $current={current}
        title={`${run.title}, ${run.bpm} bpm`}
        aria-label={`${run.title}, from the beginning`}
        tabIndex={-1}
        onClick={() => p.go(run.sections[0]?.position ?? 0)}
      >
        <span title={run.title}>{run.title}</span> {current && <small>{run.bpm}</small>}
      </SongTitle>
      <Cells>
        {run.sections.map((s, i) => (
          <SectionCell
            key={s.position}
            section={s}
            sound={p.sounds.find((x) => x.id === s.sound)}
            verdict={p.verdicts[i]}
            here={s.position === p.position}
            letters={current || !p.crowded}
            go={p.go}
          />
        ))}
      </Cells>
      <Marks aria-hidden="true">
        {current || !p.crowded ? (
          run.sections.map((s, i) => {
            const v = p.verdicts[i]
            return <i key={s.position}>{v && <VerdictMark verdict={v} size={current ? 14 : 12} />}</i>
          })
        ) : (
          <i>
            <VerdictMark verdict={p.worst} size={12} />
          </i>
        )}
      </Marks>
    </SongBox>
  )
}, looksTheSame)

/** Whether a song looks as it did. Of its sections only what is shown of them is compared. */
function looksTheSame(a: OneSongProps, b: OneSongProps): boolean {
  return (
    a.run.title === b.run.title &&
    a.run.bpm === b.run.bpm &&
    a.run.sections.length === b.run.sections.length &&
    a.run.sections.every((s, i) => {
      const t = b.run.sections[i]
      return t && s.position === t.position && s.section === t.section && s.sound === t.sound
    }) &&
    a.verdicts.every((v, i) => v === b.verdicts[i]) &&
    a.worst === b.worst &&
    a.sounds === b.sounds &&
    a.current === b.current &&
    a.position === b.position &&
    a.crowded === b.crowded &&
    a.ref === b.ref &&
    a.go === b.go
  )
}

function SectionCell(p: {
  section: ReachSection
  sound: Sound | undefined
  verdict: Verdict | undefined
  here: boolean
  letters: boolean
  go: (position: number) => void
}) {
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
      onClick={() => p.go(s.position)}
    >
      {p.letters && <span>{sound?.short}</span>}
    </Cell>
  )
}

const Strip = styled.div<{ $waits?: boolean }>`
  ${(p) => p.$waits && css`min-height: 118px; ${narrow} { min-height: 128px; }`}
  border-bottom: 1px solid var(--line); padding: 8px 16px 6px; min-width: 0; background: var(--panel);`
const Songs = styled.div`display: flex; gap: 7px; overflow-x: auto; padding: 2px 2px 4px; scrollbar-width: thin;`
const SongBox = styled.div<{ $current: boolean; $n: number; $crowded: boolean }>`
  flex: ${(p) => (p.$current ? `0 0 ${Math.max(150, p.$n * 32)}px` : `${p.$n} 1 ${p.$n * 4}px`)};
  min-width: ${(p) => (p.$current ? `${Math.max(150, p.$n * 32)}px` : p.$crowded ? '38px' : '50px')};
`
const SongTitle = styled.button<{ $current: boolean }>`
  width: 100%; min-height: 24px; padding: 0; border: 0; background: none; text-align: left; align-items: center; cursor: pointer;
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
const Foot = styled.div`display: flex; gap: 4px; align-items: center; min-width: 0;`
const StepButton = styled.button`
  flex: none; width: 28px; height: 26px; border: 0; background: none; color: var(--text); cursor: pointer;
  ${narrow} { width: 40px; height: 36px; }
  &:hover { color: var(--text); background: var(--raised); }
  &[aria-disabled='true'] { color: var(--edge); cursor: default; }
`
const Line = styled.p`min-width: 0; flex: 1; font-size: 13px; padding: 2px 0 1px; min-height: 22px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis;`
