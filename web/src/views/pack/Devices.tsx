import { QRCodeSVG } from 'qrcode.react'
import { useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { type Devices as All, type Role, useDeviceActs, useDevices } from '../../api/access'
import { Problem } from '../../api/client'
import { useNotices } from '../../state/notices'
import { Button } from '../../ui/controls'
import { moment } from '../../ui/dates'
import { fieldCSS } from '../../ui/fieldStyle'
import { Caution, Figure, Heading, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'

/** Which other devices may reach the plan: the network, pairing, the passphrase, and who is in. */
export function Devices() {
  const { data, error } = useDevices()
  if (!data) return error ? <p role="alert">{error.message}</p> : <Muted>Looking for devices…</Muted>
  return (
    <Stack $gap={18}>
      <Network all={data} />
      {data.network.on && <Pair all={data} />}
      <Passphrase all={data} />
      <Paired all={data} />
    </Stack>
  )
}

function useShowError() {
  const { tell } = useNotices()
  return (e: unknown) => tell(e instanceof Problem ? e : new Problem(0, undefined))
}

function Network({ all }: { all: All }) {
  const { network } = useDeviceActs()
  const showError = useShowError()
  const set = (on: boolean, secure: boolean) => network.mutateAsync({ on, secure }).catch(showError)
  const n = all.network
  return (
    <Panel aria-label="This network">
      <Heading>This network</Heading>
      {n.on ? (
        <>
          <p>
            Devices on this network reach Envex at{' '}
            {n.addresses.map((a, i) => (
              <span key={a}>
                {i > 0 && ' or '}
                <Code>{a}</Code>
              </span>
            ))}
            {n.addresses.length === 0 && 'no address: this machine is in no network'}. Each is let in by a
            code or by the passphrase, and nobody else.
          </p>
          {n.secure ? (
            <>
              <p>
                What is sent is encrypted. A new device warns that nobody vouches for the certificate: compare
                its SHA-256 fingerprint with this one before you go on there.
              </p>
              <Print aria-label="Fingerprint of the certificate">{n.fingerprint}</Print>
            </>
          ) : (
            <Caution>
              This is plain HTTP. Others on this network can overhear what is sent, a passphrase too.
            </Caution>
          )}
          <Row>
            <Button isDisabled={network.isPending} onPress={() => void set(false, false)}>
              Let no device in
            </Button>
          </Row>
        </>
      ) : (
        <>
          <Muted>
            Envex is reached from this device alone. A phone on the stand or a tablet at the side can be let
            in: each is paired first. It stays so until Envex is stopped.
          </Muted>
          <Row>
            <Button $strong isDisabled={network.isPending} onPress={() => void set(true, true)}>
              Let devices in, encrypted
            </Button>
            <Button isDisabled={network.isPending} onPress={() => void set(true, false)}>
              Let devices in by plain HTTP
            </Button>
          </Row>
          <Caution>
            Plain HTTP on a shared network can be overheard: what is sent, and a passphrase too. Encrypted it
            cannot; a new device then warns once that nobody vouches for the certificate.
          </Caution>
        </>
      )}
    </Panel>
  )
}

const roles: { id: Role; name: string }[] = [
  { id: 'stand', name: 'Stand: reads, writes notes and faults of shows' },
  { id: 'owner', name: 'Owner: may do everything' },
]

function Pair({ all }: { all: All }) {
  const { offer } = useDeviceActs()
  const showError = useShowError()
  const [role, setRole] = useState<Role>('stand')
  const [at, setAt] = useState<string | undefined>()
  const p = offer.data
  const link = p?.links.find((l) => at && l.startsWith(`${at}/`)) ?? p?.links[0]
  return (
    <Panel aria-label="Pair a device">
      <Heading>Pair a device</Heading>
      <Row>
        <Select label="As" value={role} options={roles} onChange={(r) => setRole(r as Role)} />
        {all.network.addresses.length > 1 && (
          <Select
            label="By"
            value={at ?? all.network.addresses[0]}
            options={all.network.addresses.map((a) => ({ id: a, name: a }))}
            onChange={setAt}
          />
        )}
        <Button $strong isDisabled={offer.isPending} onPress={() => offer.mutateAsync(role).catch(showError)}>
          {p ? 'Show another code' : 'Show a code'}
        </Button>
      </Row>
      {p && (
        <Offer>
          {link && (
            <Picture>
              <QRCodeSVG value={link} size={188} marginSize={3} title={`Opens ${link}`} />
            </Picture>
          )}
          <Beside>
            <p>
              Point the camera of the device at this. Or open {link && <Code>{link.split('#')[0]}</Code>}{' '}
              there and type
            </p>
            <Big aria-label="Code">
              {p.code.slice(0, 4)}-{p.code.slice(4)}
            </Big>
            <Muted>
              It lets one device in, as {p.role === 'stand' ? 'a stand' : 'an owner'}, until {moment(p.until)}
              .
            </Muted>
          </Beside>
        </Offer>
      )}
    </Panel>
  )
}

function Passphrase({ all }: { all: All }) {
  const { passphrase } = useDeviceActs()
  const showError = useShowError()
  const { say } = useNotices()
  const [text, setText] = useState('')
  const set = () =>
    passphrase.mutateAsync(text).then(() => {
      setText('')
      say('The passphrase is set.')
    }, showError)
  return (
    <Panel aria-label="Passphrase">
      <Heading>Passphrase</Heading>
      <Muted>
        {all.passphrase
          ? 'A passphrase is set: whoever knows it comes in as an owner. A new one forgets the devices that came in by the old.'
          : 'With a passphrase a device comes in as an owner, without a code. None is set.'}
      </Muted>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          void set()
        }}
      >
        <Row>
          <Field type="password" value={text} onChange={setText}>
            <Label>{all.passphrase ? 'New passphrase' : 'Passphrase'}, ten characters at least</Label>
            <Input autoComplete="new-password" maxLength={200} />
          </Field>
          <Button type="submit" isDisabled={text.length < 10 || passphrase.isPending}>
            Set it
          </Button>
        </Row>
      </form>
    </Panel>
  )
}

function Paired({ all }: { all: All }) {
  const { forget } = useDeviceActs()
  const showError = useShowError()
  return (
    <Panel aria-label="Paired devices">
      <Heading>Paired devices</Heading>
      {all.devices.length === 0 && <Muted>No other device has been let in.</Muted>}
      {all.devices.length > 0 && (
        <Wide>
          <Grid aria-label="Devices that are let in">
            <thead>
              <tr>
                <th scope="col">Device</th>
                <th scope="col">As</th>
                <th scope="col">By</th>
                <th scope="col">Paired</th>
                <th scope="col">Last seen</th>
                <th scope="col">Do</th>
              </tr>
            </thead>
            <tbody>
              {all.devices.map((d) => (
                <tr key={d.id}>
                  <th scope="row">{d.name}</th>
                  <td>{d.role}</td>
                  <td>{d.by}</td>
                  <td>
                    <Figure>{moment(d.paired_at)}</Figure>
                  </td>
                  <td>
                    <Figure>{moment(d.seen_at)}</Figure>
                  </td>
                  <td>
                    <Button
                      aria-label={`Forget ${d.name}`}
                      onPress={() => forget.mutateAsync(d.id).catch(showError)}
                    >
                      Forget
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
    </Panel>
  )
}

const Code = styled.code`font-family: var(--face-figures); overflow-wrap: anywhere;`
const Print = styled.p`font-family: var(--face-figures); font-size: 13px; overflow-wrap: anywhere; max-width: 520px;`
const Big = styled.p`font: 400 40px/1.3 var(--face-figures); letter-spacing: 0.06em;`
const Offer = styled.div`display: flex; flex-wrap: wrap; gap: 20px; align-items: center;`
const Beside = styled.div`flex: 1 1 240px; min-width: 0;`
// A code is read as dark on light, in either theme.
const Picture = styled.div`background: #fff; line-height: 0;`
const Field = styled(TextField)`${fieldCSS} flex: 1 1 260px; max-width: 380px;`
