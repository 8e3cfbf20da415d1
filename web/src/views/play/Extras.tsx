import styled from 'styled-components'
import { useNotes } from '../../api/plan'
import type { PlayResult, PlayScript, PlaySong } from '../../api/types'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Figure, Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'
import { FitToMe } from './FitToMe'
import { Latency } from './Latency'
import { ProgressOver } from './ProgressOver'
import type { usePedals } from './usePedals'

/** What stands beside a rehearsal: drills, feet, pedals, the monitor, times. */
export function Extras({
  script,
  song,
  pedals,
  result,
  latency,
  onLatency,
  onDrill,
  onSong,
}: {
  script: PlayScript
  song: PlaySong
  pedals: ReturnType<typeof usePedals>
  result: PlayResult | undefined
  latency: number
  onLatency: (s: number) => void
  onDrill: (position: number) => void
  onSong: (entry: string) => void
}) {
  const { data: notes } = useNotes(song.tempo)
  const name = (key: string) => {
    const s = script.switches.find((x) => x.key === key)
    return s ? (s.label === s.gear || s.label === 'on' ? s.gear : `${s.gear} ${s.label}`) : key
  }
  return (
    <div>
      <Fold level={2} title="Progress and drills">
        <ProgressOver
          song={song}
          onDrill={onDrill}
          onSong={(position) => {
            const to = script.songs.find((s) => s.sections.some((x) => x.position === position))
            if (to) onSong(to.entry)
          }}
        />
      </Fold>
      <Fold level={2} title="Fit to me">
        <FitToMe script={script} pedals={pedals} />
      </Fold>
      <Fold level={2} title="Pedals and keys">
        <Muted>
          The switches that this set presses answer to the key written on them, and all to a touch. A foot
          pedal that types keys, or one that sends MIDI, is learnt: choose its switch, then press the pedal.
        </Muted>
        <Row>
          <Select
            label="Learn a pedal for"
            value={pedals.learning}
            placeholder="a switch"
            options={script.switches.map((s) => ({ id: s.key, name: name(s.key) }))}
            onChange={pedals.learn}
          />
          {pedals.midi === 'off' && <Button onPress={() => void pedals.openMidi()}>Listen to MIDI</Button>}
          {Object.keys(pedals.learnt).length > 0 && (
            <Button onPress={pedals.forget}>Forget all pedals</Button>
          )}
        </Row>
        <p role="status">
          {pedals.learning
            ? `Press the pedal for ${name(pedals.learning)}.`
            : pedals.midi === 'refused'
              ? 'The browser allows no MIDI; use the switches on the screen instead.'
              : pedals.midi === 'on'
                ? 'Listening to MIDI.'
                : ''}
        </p>
        <ul aria-label="Learnt pedals">
          {Object.entries(pedals.learnt).map(([sign, to]) => (
            <li key={sign}>
              {sign.replace('key:', 'key ').replace('midi:', 'MIDI ')}: {name(to)}
            </li>
          ))}
        </ul>
        <Latency latency={latency} onLatency={onLatency} />
      </Fold>
      <Fold level={2} title="Monitor">
        {(result?.events ?? []).length === 0 && (
          <Muted>What presses do, and what is sent, is listed here.</Muted>
        )}
        <Log aria-label="What presses did">
          {(result?.events ?? [])
            .slice(-40)
            .reverse()
            .map((e, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a log is in its order
              <li key={i}>
                <Figure>{e.at_s.toFixed(2)} s</Figure> {e.words}
                {e.message?.bytes && <Figure> [{e.message.bytes}]</Figure>}
              </li>
            ))}
        </Log>
      </Fold>
      <Fold level={2} title={`Times at ${song.tempo.bpm} bpm`}>
        <Wide>
          <Grid aria-label="Lengths of notes">
            <tbody>
              {(notes?.table ?? []).map((l) => (
                <tr key={l.note}>
                  <th scope="row">{l.words}</th>
                  <td>
                    <Figure>{l.ms.toFixed(0)} ms</Figure>
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      </Fold>
    </div>
  )
}

const Log = styled.ul`font-size: 13px; display: grid; gap: 2px; max-height: 260px; overflow: auto;`
