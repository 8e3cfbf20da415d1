import { useState } from 'react'
import styled from 'styled-components'
import type { components } from '../../api/schema.gen'
import { useWork } from '../../api/work'
import { useKept } from '../../state/kept'
import { Caution, Figure, Muted } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import type { NightDesk } from './nightDesk'
import { Over, Typed } from './Sheets'
import { eventsOf, type Held, type Tonight } from './tonight'

type Report = components['schemas']['SoundcheckReport']
type Check = Report['checks'][number]

/** What is checked in the minutes there are, ticked off one by one. */
export function Soundcheck({
  desk,
  night,
  held,
  onClose,
}: {
  desk: NightDesk
  night: Tonight
  held: Held
  onClose: () => void
}) {
  const [kept, keep] = useKept('soundcheck.minutes', '10')
  const minutes = Math.min(240, Math.max(0.5, Number(kept.replace(',', '.')) || 0))
  const sane = Number(kept.replace(',', '.')) >= 0.5
  const work = useWork<Report>(
    '/api/night/soundcheck',
    sane ? { show: night.evening.show.id, rig: night.evening.rig.id, minutes } : undefined,
  )
  const events = eventsOf(held)
  const undone = new Set(events.filter((e) => e.kind === 'undone').map((e) => e.of))
  const ticks = new Map(
    events.filter((e) => e.kind === 'check' && !undone.has(e.id)).map((e) => [e.of ?? '', e.id]),
  )
  const tick = (c: Check) => {
    const done = ticks.get(c.id)
    desk.happen(done ? { kind: 'undone', of: done } : { kind: 'check', of: c.id, text: c.title })
  }
  const found = work.latest
  return (
    <Over title="Soundcheck" onClose={onClose}>
      <Typed>
        Minutes there are
        <input inputMode="decimal" value={kept} onChange={(e) => keep(e.target.value)} />
      </Typed>
      {!sane && <p role="alert">Say how many minutes there are: half a minute at least.</p>}
      {work.busy && !found && (
        <Progress label="Metering the sounds" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && (
        <>
          <p>
            <Figure>{found.checks.filter((c) => ticks.has(c.id)).length}</Figure> of{' '}
            <Figure>{found.checks.length}</Figure> done, <Figure>{found.takes}</Figure> min in all
          </p>
          <List aria-label="Checks">
            {found.checks.map((c) => (
              <li key={c.id}>
                <label>
                  <input type="checkbox" checked={ticks.has(c.id)} onChange={() => tick(c)} />
                  <b>{c.title}</b>
                  <Figure>{c.minutes} min</Figure>
                </label>
                <p>{c.do}</p>
                <Muted>{c.why}</Muted>
                <NoteOn check={c} desk={desk} />
              </li>
            ))}
          </List>
          {found.left.length > 0 && (
            <Muted>No time for: {found.left.map((c) => `${c.title} (${c.minutes} min)`).join('; ')}.</Muted>
          )}
          <Muted>{found.assumed}</Muted>
          <Caution>Loudness harms hearing, at side-stage too: begin low.</Caution>
        </>
      )}
    </Over>
  )
}

/** A word on a check, for the log of the show. */
function NoteOn({ check, desk }: { check: Check; desk: NightDesk }) {
  const [words, write] = useState('')
  const put = () => {
    if (words.trim()) desk.happen({ kind: 'note', text: `${check.title}: ${words.trim()}` })
    write('')
  }
  return (
    <Typed>
      Note on {check.title}
      <input
        value={words}
        maxLength={1500}
        onChange={(e) => write(e.target.value)}
        onBlur={put}
        onKeyDown={(e) => e.key === 'Enter' && put()}
      />
    </Typed>
  )
}

const List = styled.ol`
  display: grid; gap: 14px;
  li { border-top: 1px solid var(--line); padding-top: 10px; display: grid; gap: 4px; }
  li > label:first-child { display: flex; gap: 12px; align-items: center; min-height: 48px; cursor: pointer; }
  li > label:first-child > input { width: 26px; height: 26px; flex: none; accent-color: var(--lit); }
  b { font: 600 21px/1.15 var(--face-label); flex: 1; }
  p { font-size: 17px; margin: 0; }
`
