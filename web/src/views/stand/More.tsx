import { useState } from 'react'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { useNotices } from '../../state/notices'
import { Button, Switch } from '../../ui/controls'
import { Muted } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { NightDesk } from './nightDesk'
import { Over, Typed } from './Sheets'
import type { Follow } from './Stand'
import { ago, indexOf, type Place, type Position, type Step, type Tonight } from './tonight'
import { simulated } from './useDevices'

/** What moves this page on, where the others are, what is still to come, and a note for the log. */
export function More(p: {
  desk: NightDesk
  night: Tonight
  steps: Step[]
  positions: Position[]
  place: Place
  /** The last step of the song that is played. */
  here: number
  follow: Follow
  onFollow: (f: Follow) => void
  leads: boolean
  onLeads: (on: boolean) => void
  onCheck: () => void
  onDevices: () => void
  input: string
  inputs: { id: string; name: string }[]
  onInput: (id: string) => void
  onLines: () => void
  clock: boolean
  onClock: (on: boolean) => void
  onClose: () => void
}) {
  const [note, write] = useState('')
  const navigate = useNavigate()
  const { say } = useNotices()
  const { desk, night, steps, place } = p
  const others = p.positions.filter((x) => x.page !== desk.page.id)
  const rest = steps.filter((s, i) => i > p.here && s.entry !== steps[i - 1]?.entry)
  return (
    <Over title={night.evening.show.name} onClose={p.onClose}>
      {night.evening.rigs.length > 1 && (
        <Select
          label="Rig on this page"
          value={night.evening.rig.id}
          options={night.evening.rigs}
          onChange={(id) => navigate(`/stand/${night.evening.show.id}?rig=${encodeURIComponent(id)}`)}
        />
      )}
      <Select
        label="This page goes on by"
        value={p.follow}
        options={[
          { id: 'own', name: 'My taps, or a page-turn pedal' },
          { id: 'leader', name: 'The page that leads' },
          { id: 'midi', name: 'MIDI clock and program changes' },
        ]}
        onChange={(id) => p.onFollow(id === 'leader' || id === 'midi' ? id : 'own')}
      />
      {p.follow === 'midi' && (
        <>
          <Select
            label="MIDI from"
            value={p.input}
            options={[{ id: simulated, name: 'Simulated clock of the songs' }, ...p.inputs]}
            onChange={p.onInput}
          />
          {p.input === simulated ? (
            <Switch label="Simulated clock runs" value={p.clock} onChange={p.onClock} />
          ) : null}
          <Button onPress={p.onLines}>Look for MIDI lines of this browser</Button>
        </>
      )}
      <Switch label="This page leads: others follow it" value={p.leads} onChange={p.onLeads} />
      <Button onPress={p.onCheck}>Soundcheck</Button>
      <Button onPress={p.onDevices}>Send to devices</Button>
      <h3>Note</h3>
      <Typed>
        For the log of the show
        <textarea value={note} maxLength={2000} onChange={(e) => write(e.target.value)} />
      </Typed>
      <Button
        isDisabled={note.trim() === ''}
        onPress={() => {
          desk.happen({ kind: 'note', text: note.trim(), ...place })
          write('')
          say('Written down.')
        }}
      >
        Write it down
      </Button>
      <h3>Other pages</h3>
      {others.length === 0 && <Muted>No other page is open.</Muted>}
      <List aria-label="Other pages">
        {others.map((o) => {
          const at = steps[indexOf(steps, o)]
          return (
            <li key={o.page}>
              <b>{o.name || 'A page'}</b> {at ? `${at.title}, ${at.label}` : ''} {o.leads && <em>leads</em>}{' '}
              <em>{ago(desk.now() - o.since)} ago</em>
            </li>
          )
        })}
      </List>
      <h3>Still to come</h3>
      <List aria-label="Still to come">
        {rest.map((s) => (
          <li key={s.entry}>
            <b>{s.title}</b>
            <Button
              aria-label={`Drop ${s.title}`}
              onPress={() => {
                const id = desk.happen({ kind: 'dropped', drops: s.entry, ...place })
                say(`${s.title} is not played.`, {
                  label: 'Undo',
                  act: () => desk.happen({ kind: 'undone', of: id, ...place }),
                })
              }}
            >
              Drop
            </Button>
          </li>
        ))}
      </List>
      {rest.length === 0 && <Muted>Nothing.</Muted>}
      <h3>The end</h3>
      {night.evening.ended ? (
        <Muted>The show has ended. What it tells is under Pack, Shows.</Muted>
      ) : (
        <Button
          onPress={() => {
            const id = desk.happen({ kind: 'over', ...place })
            say('The show has ended.', { label: 'Undo', act: () => desk.happen({ kind: 'undone', of: id }) })
          }}
        >
          End the show
        </Button>
      )}
    </Over>
  )
}

const List = styled.ul`
  display: grid; gap: 6px;
  li { display: flex; gap: 10px; align-items: center; justify-content: space-between; font-size: 16px; }
  b { font: 600 19px/1.2 var(--face-label); }
  em { font-style: normal; color: var(--muted); }
`
