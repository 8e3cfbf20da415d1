import styled from 'styled-components'
import { Button, Switch } from '../../ui/controls'
import { Caution, Figure, Muted } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { news } from './midi'
import { Over } from './Sheets'
import type { Step } from './tonight'
import { type Devices, simulated } from './useDevices'

/** What the laptop sends in the place of the switcher: seen before, armed, and answered. */
export function DeviceSheet({
  devices,
  steps,
  onClose,
}: {
  devices: Devices
  steps: Step[]
  onClose: () => void
}) {
  const d = devices
  const before = new Map<string, string>()
  const dry = d.cues.map((c) => [...news(before, c.sends), ...news(before, c.ready)])
  const count = dry.reduce((n, sends) => n + sends.length, 0)
  const channels = [...new Set(d.cues.flatMap((c) => c.sends.map((s) => s.channel ?? 0)))].sort(
    (a, b) => a - b,
  )
  return (
    <Over title="Send to devices" onClose={onClose}>
      {count === 0 ? (
        <Muted>No device of this rig listens to MIDI: nothing is sent.</Muted>
      ) : (
        <>
          <Select
            label="To"
            value={d.to}
            options={[{ id: simulated, name: 'Simulated devices' }, ...d.outputs]}
            onChange={d.pick}
          />
          <Button onPress={d.ask}>Look for MIDI lines of this browser</Button>
          {d.refused && <p role="alert">{d.refused}</p>}
          {d.to === simulated && (
            <Select
              label="To try out a fault"
              value={String(d.wrong)}
              options={[
                { id: '0', name: 'Every device answers rightly' },
                ...channels.map((c) => ({ id: String(c), name: `Channel ${c} answers wrongly` })),
              ]}
              onChange={(c) => d.answerWrongly(Number(c))}
            />
          )}
          <Switch label="Armed: what each section needs is sent" value={d.armed} onChange={d.arm} />
          <Muted>
            It is disarmed when the show ends, when this page is left, and when another line is chosen.
          </Muted>
          <Caution>
            A program change can make a device much louder. Arm with the amps down, then bring them up.
          </Caution>
          <h3>Sent</h3>
          {d.lines.length === 0 && <Muted>Nothing yet.</Muted>}
          <ol aria-label="Sent">
            {d.lines.map((l, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: one message can be sent twice
              <Row key={i}>
                <Figure>{l.bytes}</Figure> {l.words}
                {l.answer === 'wrong' && (
                  <Wrong>
                    {l.to} answered {l.said}
                  </Wrong>
                )}
                {!l.answer && l.said && <Wrong>{l.said}</Wrong>}
                {l.answer === 'right' && <Muted as="span">answered</Muted>}
              </Row>
            ))}
          </ol>
          <h3>Dry run: {count} messages in the order of the show</h3>
          <ol aria-label="Dry run">
            {dry.map((sends, i) => {
              const s = steps[i]
              if (!s || sends.length === 0) return null
              return (
                <Row key={`${s.entry} ${s.section}`}>
                  <b>
                    {s.title}, {s.label}
                  </b>
                  {sends.map((x) => (
                    <span key={x.moves}>
                      <Figure>{x.bytes}</Figure> {x.words}
                    </span>
                  ))}
                </Row>
              )
            })}
          </ol>
        </>
      )}
    </Over>
  )
}

const Row = styled.li`
  display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: baseline; border-top: 1px solid var(--line); padding: 6px 0;
  b { font: 600 17px/1.2 var(--face-label); flex: 1 1 100%; }
`
const Wrong = styled.strong`color: var(--red);`
