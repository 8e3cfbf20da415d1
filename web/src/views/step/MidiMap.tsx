import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { answer, client, Problem } from '../../api/client'
import { useMidi, values } from '../../api/plan'
import type { MidiMonitor, MidiSlot, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Figure, Heading, Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'

/** What every program sends and to whom, with a monitor that plays it to simulated devices. */
export function MidiMap({ rig }: { rig: Rig }) {
  const { destination } = useChosen()
  const { data } = useMidi(rig.id, destination?.id)
  const [sent, setSent] = useState<MidiSlot[]>([])
  if (!data || (data.devices.length === 0 && data.programs.length === 0)) return null
  const send = (controller: string, bank: string, slot: string) =>
    setSent((all) => [...all, { controller, bank, slot }].slice(-50))
  return (
    <Fold title={`MIDI map (${data.programs.length})`}>
      {data.findings.map((f) => (
        <p key={f.id} role="note">
          <b>{f.title}.</b> {f.words}
        </p>
      ))}
      <Channels rig={rig} />
      <Wide>
        <Grid aria-label="MIDI map">
          <thead>
            <tr>
              <th scope="col">Program</th>
              <th scope="col">Loops on</th>
              <th scope="col">Sends</th>
              <th scope="col">To</th>
              <th scope="col">Channel</th>
              <th scope="col">Bytes</th>
              <th scope="col">Display</th>
              <th scope="col">Monitor</th>
            </tr>
          </thead>
          <tbody>
            {data.programs.flatMap((p) => {
              const rows = p.sends.length > 0 ? p.sends : [undefined]
              return rows.map((s, i) => (
                <tr key={`${p.controller} ${p.bank}/${p.slot} ${s?.moves ?? ''}`}>
                  <th scope="row">{i === 0 && `${p.bank}/${p.slot} ${p.label}`}</th>
                  <td>
                    <Figure>
                      {i === 0 &&
                        (p.loops
                          .filter((l) => l.on)
                          .map((l) => l.loop)
                          .join(' ') ||
                          'none')}
                    </Figure>
                  </td>
                  <td>{s ? s.words : <Muted as="span">no message</Muted>}</td>
                  <td>{s?.to}</td>
                  <td>
                    <Figure>{s?.channel}</Figure>
                  </td>
                  <td>
                    <Figure>{s?.bytes}</Figure>
                  </td>
                  <td>
                    <Figure>{s?.kind === 'program change' ? s.shown : ''}</Figure>
                  </td>
                  <td>
                    {i === 0 && (
                      <Button
                        aria-label={`Send ${p.bank}/${p.slot} ${p.label}`}
                        onPress={() => send(p.controller, p.bank, p.slot)}
                      >
                        Send
                      </Button>
                    )}
                  </td>
                </tr>
              ))
            })}
          </tbody>
        </Grid>
      </Wide>
      <Monitor rig={rig} sent={sent} clear={() => setSent([])} />
    </Fold>
  )
}

/** The channel each device listens on, and the one each controller sends on to it. */
function Channels({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const { destination } = useChosen()
  const { data } = useMidi(rig.id, destination?.id)
  const edit = useEdit()
  const gear = values(plan, 'gear')
  const senders = gear.filter(
    (g) =>
      g.midi &&
      (g.kind === 'controller' || g.midi.sends) &&
      (rig.programs?.[g.id] || JSON.stringify(rig.path ?? []).includes(`"switcher":"${g.id}"`)),
  )
  return (
    <Row $gap={16}>
      {data?.devices.map((d) => (
        <Row key={d.gear}>
          <NumberField
            label={`${d.name} listens on`}
            width={130}
            value={d.channel}
            min={1}
            max={16}
            onCommit={(channel) =>
              channel &&
              edit.change('gear', d.gear, `MIDI channel of ${d.name}`, (g) => ({
                ...g,
                midi: { ...g.midi, channel },
              }))
            }
          />
          {senders.map((c) => (
            <Select
              key={c.id}
              label={`${c.name} sends to it on`}
              value={String(
                rig.midi?.find((l) => l.controller === c.id && l.gear === d.gear)?.channel ?? 'its own',
              )}
              options={[
                { id: 'its own', name: 'its own channel' },
                ...Array.from({ length: 16 }, (_, i) => ({ id: String(i + 1), name: String(i + 1) })),
              ]}
              onChange={(to) =>
                edit.change('rigs', rig.id, `MIDI channel from ${c.name} to ${d.name}`, (r) => {
                  const others = (r.midi ?? []).filter((l) => l.controller !== c.id || l.gear !== d.gear)
                  const own =
                    to === 'its own' ? [] : [{ controller: c.id, gear: d.gear, channel: Number(to) }]
                  return { ...r, midi: [...others, ...own] }
                })
              }
            />
          ))}
        </Row>
      ))}
    </Row>
  )
}

/** Simulated devices at the end of the line: what reached them and where they stand. */
function Monitor({ rig, sent, clear }: { rig: Rig; sent: MidiSlot[]; clear: () => void }) {
  const { destination } = useChosen()
  const [seen, setSeen] = useState<MidiMonitor | undefined>()
  const [refused, refuse] = useState<string | undefined>()
  useEffect(() => {
    if (sent.length === 0) {
      setSeen(undefined)
      return
    }
    let current = true
    answer(
      client.POST('/api/midi/monitor', {
        body: { rig: rig.id, destination: destination?.id, recalls: sent },
      }),
    )
      .then((m) => current && setSeen(m))
      .catch((e: unknown) => current && refuse(e instanceof Problem ? e.message : 'It could not be sent.'))
    return () => {
      current = false
    }
  }, [sent, rig, destination])
  return (
    <section aria-label="Monitor">
      <Row>
        <Heading>Monitor</Heading>
        <Muted>Simulated devices; nothing leaves this machine.</Muted>
        {sent.length > 0 && <Button onPress={clear}>Clear</Button>}
      </Row>
      {refused && <Muted role="alert">{refused}</Muted>}
      {!seen ? (
        <Muted>Send a program to see every message arrive and what it moves.</Muted>
      ) : (
        <Both>
          <ol aria-label="Messages">
            {seen.heard.slice(-12).map((h, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a message is its place in the order
              <li key={i}>
                <Figure>{h.bytes}</Figure> {h.words.join(', ') || 'nobody reacts'}
              </li>
            ))}
            {seen.heard.length === 0 && (
              <li>The program sends no message; its loops are the controller’s own.</li>
            )}
          </ol>
          <ul aria-label="Devices">
            {seen.shown.map((s) => (
              <li key={s.variable}>
                {s.label}: <b>{s.value}</b>
              </li>
            ))}
          </ul>
        </Both>
      )}
    </section>
  )
}

const Both = styled.div`display: grid; grid-template-columns: 1fr 1fr; gap: 16px; font-size: 13px; ol, ul { display: grid; gap: 2px; align-content: start; }`
