import { type FormEvent, useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextField } from 'react-aria-components/TextField'
import { useLocation } from 'react-router'
import styled from 'styled-components'
import { ownName, type Session, useEnter } from '../api/access'
import { Button } from '../ui/controls'
import { fieldCSS } from '../ui/fieldStyle'
import { Caution, Heading, Muted } from '../ui/layout'

/** The page of a device that has not been let in: the code of the owner's screen, or the passphrase. */
export function Enter({ session }: { session: Session }) {
  const { hash } = useLocation()
  const { pair, enter } = useEnter()
  const [name, setName] = useState(ownName)
  const [code, setCode] = useState(() => decodeURIComponent(hash.slice(1)))
  const [passphrase, setPassphrase] = useState('')
  const busy = pair.isPending || enter.isPending || pair.isSuccess || enter.isSuccess
  const trouble = pair.error ?? enter.error
  const send = (e: FormEvent, act: () => void) => {
    e.preventDefault()
    pair.reset()
    enter.reset()
    act()
  }
  return (
    <Page id="main" tabIndex={-1}>
      <Mark>ENVEX</Mark>
      <h1>This device has not been let in</h1>
      <Muted>
        On the device that Envex runs on, the owner opens Pack, Devices, lets this network in, and shows a
        code. Point the camera at it, or type it here.
      </Muted>
      {trouble && <Trouble role="alert">{trouble.message}</Trouble>}
      <Field value={name} onChange={setName}>
        <Label>Name of this device</Label>
        <Input maxLength={60} />
      </Field>
      <form aria-label="Pair by a code" onSubmit={(e) => send(e, () => pair.mutate({ code, name }))}>
        <Field value={code} onChange={setCode}>
          <Label>Code</Label>
          <Code autoCapitalize="characters" autoComplete="off" spellCheck="false" maxLength={20} />
        </Field>
        <Button $strong type="submit" isDisabled={busy || code.trim() === ''}>
          Pair this device
        </Button>
      </form>
      {session.passphrase && (
        <form
          aria-label="Enter with the passphrase"
          onSubmit={(e) => send(e, () => enter.mutate({ passphrase, name }))}
        >
          <Heading>Or as an owner</Heading>
          <Field value={passphrase} onChange={setPassphrase} type="password">
            <Label>Passphrase</Label>
            <Input autoComplete="current-password" />
          </Field>
          <Button type="submit" isDisabled={busy || passphrase === ''}>
            Come in
          </Button>
        </form>
      )}
      {!session.secure && (
        <Caution>
          This page came by plain HTTP: others on this network can overhear what is sent, a passphrase too.
        </Caution>
      )}
    </Page>
  )
}

const Page = styled.main`
  max-width: 420px; margin: 0 auto; padding: 28px 20px; display: grid; gap: 16px; align-content: start; outline: none;
  h1 { font: 600 24px/1.1 var(--face-label); letter-spacing: 0.02em; }
  form { display: grid; gap: 10px; }
  button, input { min-height: 44px; font-size: 16px; }
`
const Mark = styled.p`font: 400 28px/1 var(--face-mark); letter-spacing: 0.02em;`
const Field = styled(TextField)`${fieldCSS}`
const Code = styled(
  Input,
)`font-family: var(--face-figures); letter-spacing: 0.1em; text-transform: uppercase;`
const Trouble = styled.p`border-left: 6px solid var(--red); padding: 6px 12px; background: var(--panel);`
