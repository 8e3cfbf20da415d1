import styled from 'styled-components'
import { useNotes, useTempo } from '../../api/plan'
import type { Song, TempoUse } from '../../api/types'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Fold } from '../../ui/Fold'
import { Figure, Heading, Muted, Tape } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

const ways: Record<TempoUse['way'], string> = {
  tap: 'tapped',
  stored: 'stored in a preset',
  remote: 'sent by MIDI',
  hand: 'set by hand',
  clock: 'by the clock',
  fixed: 'the same all night',
}

/** How long notes are in a song, and what the rig's delays are asked and set to there. */
export function SongTimes({ song }: { song: Song }) {
  const { plan, rig, destination, setList } = useChosen()
  const { data: notes } = useNotes(song.tempo)
  const { data: night } = useTempo(setList?.id, rig?.id, destination?.id)
  const uses = night?.songs.find((s) => s.song === song.id)?.uses ?? []
  const pairs = night?.songs.find((s) => s.song === song.id)?.pairs ?? []
  const presets = (night?.presets ?? []).filter((p) => p.times.some((t) => t.songs.includes(song.title)))
  if (!notes) return null
  return (
    <section aria-label={`Times of ${song.title}`}>
      <Heading>Times</Heading>
      <Notes aria-label="Lengths of notes">
        {notes.table.map((l) => (
          <li key={l.note}>
            <span>{l.words}</span>
            <Figure>{l.ms.toFixed(0)} ms</Figure>
          </li>
        ))}
      </Notes>
      {uses.length > 0 && (
        <Wide>
          <Grid $tight aria-label="What is timed">
            <thead>
              <tr>
                <th scope="col">Sound</th>
                <th scope="col">Box</th>
                <th scope="col">Asked</th>
                <th scope="col">Set to</th>
                <th scope="col">Off</th>
                <th scope="col">Repeats</th>
                <th scope="col">How</th>
              </tr>
            </thead>
            <tbody>
              {uses.map((u) => (
                <tr key={`${u.stop} ${u.recipe} ${u.wanted_ms ?? ''}`}>
                  <td>
                    <Tape
                      $small
                      style={{
                        background: tape(plan.sounds.find((s) => s.value.id === u.sound)?.value.tape),
                      }}
                    >
                      {u.sound_name}
                    </Tape>
                  </td>
                  <th scope="row">{u.name}</th>
                  <td>
                    {u.wanted_ms !== undefined ? (
                      <>
                        {u.words}, <Figure>{u.wanted_ms.toFixed(0)} ms</Figure>
                      </>
                    ) : (
                      'no note'
                    )}
                  </td>
                  <td>
                    {u.set_ms !== undefined && <Figure>{u.set_ms.toFixed(0)} ms</Figure>}
                    {u.wanted_ms === undefined && u.nearest && ` (near ${u.nearest.words})`}
                  </td>
                  <td>
                    {u.wanted_ms !== undefined && (
                      <Off $red={u.heard || u.too_long}>
                        {u.too_long
                          ? u.longest_ms === undefined
                            ? 'out of its knob’s range'
                            : `longest is ${u.longest_ms.toFixed(0)} ms`
                          : `${u.off_ms > 0 ? '+' : u.off_ms < 0 ? '−' : ''}${Math.abs(u.off_ms).toFixed(0)} ms`}
                      </Off>
                    )}
                  </td>
                  <td>
                    {u.effect === 'delay' && (
                      <>
                        <Figure>{u.repeats}</Figure>
                        {u.repeats_asked !== undefined && ` of ${u.repeats_asked} asked`}
                        {u.slapback && ', slapback'}
                        {u.clutter && ', clutters'}
                      </>
                    )}
                  </td>
                  <td>
                    {u.untimed ? 'its rate is not known' : ways[u.way]}
                    {u.clock && ` of ${u.clock}`}
                    {u.position !== undefined && `, knob at ${u.position.toFixed(1)}`}
                    {u.tap_s !== undefined && !u.tap_fits && ', no time for it'}
                    {u.strict && ', must lock'}
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
      {pairs.map((p) => (
        <div key={`${p.sound} ${p.names.join()}`}>
          <Muted>
            {p.sound_name}: {p.names.join(' and ')} over a bar, {p.together} repeats together.
          </Muted>
          <svg
            viewBox="0 0 400 40"
            width="100%"
            height="40"
            role="img"
            aria-label={`Repeats of ${p.names.join(' and ')} over a bar: ${p.hits.map((h) => `${p.names[h.delay]} at ${h.at_ms.toFixed(0)} ms`).join(', ')}`}
          >
            {p.names.map((n, i) => (
              <line key={n} x1="0" x2="400" y1={10 + 20 * i} y2={10 + 20 * i} stroke="var(--line)" />
            ))}
            {p.hits.map((h) => (
              <circle
                key={`${h.delay} ${h.n}`}
                cx={(h.at_ms / p.bar_ms) * 396 + 2}
                cy={10 + 20 * h.delay}
                r={h.with ? 6 : 4}
                fill={h.with ? 'var(--text)' : 'var(--edge)'}
              />
            ))}
          </svg>
        </div>
      ))}
      {presets.length > 0 && (
        <Fold title="Fewest presets for the whole set">
          {presets.map((p) => (
            <Muted key={`${p.variable} ${p.sounds?.join()}`}>
              {p.name} for {p.sounds?.join(', ')}: {p.times.length} {p.times.length === 1 ? 'time' : 'times'};{' '}
              {p.times
                .filter((t) => t.songs.includes(song.title))
                .map((t) => `${t.ms.toFixed(0)} ms serves this song and ${t.songs.length - 1} more`)
                .join('')}
              .
            </Muted>
          ))}
        </Fold>
      )}
    </section>
  )
}

const Notes = styled.ul`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(132px, 1fr)); gap: 0 18px; font-size: 13px; margin: 6px 0 10px;
  li { display: flex; justify-content: space-between; border-bottom: 1px solid var(--line); padding: 3px 0; }
  span:first-child { color: var(--muted); }
`
const Off = styled(Figure)<{ $red: boolean }>`color: ${(p) => (p.$red ? 'var(--red)' : 'inherit')};`
