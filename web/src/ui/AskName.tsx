import { useState } from 'react'
import { Dialog } from 'react-aria-components/Dialog'
import { Heading } from 'react-aria-components/Heading'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { Modal, ModalOverlay } from 'react-aria-components/Modal'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { Button } from './controls'
import { Row } from './layout'

/** A dialog that asks for one line of text. */
export function AskName(p: {
  title: string
  label?: string
  action?: string
  initial?: string
  onDone: (name: string) => void
  onCancel: () => void
}) {
  const [name, setName] = useState(p.initial ?? '')
  return (
    <Veil isOpen isDismissable onOpenChange={(open) => !open && p.onCancel()}>
      <Modal>
        <Sheet>
          <form
            onSubmit={(e) => {
              e.preventDefault()
              if (name.trim()) p.onDone(name.trim())
            }}
          >
            <Heading slot="title">{p.title}</Heading>
            <TextField value={name} onChange={setName} autoFocus>
              <Label>{p.label ?? 'Name'}</Label>
              <Input />
            </TextField>
            <Row>
              <Button $strong type="submit" isDisabled={!name.trim()}>
                {p.action ?? 'Done'}
              </Button>
              <Button onPress={p.onCancel}>Cancel</Button>
            </Row>
          </form>
        </Sheet>
      </Modal>
    </Veil>
  )
}

export const Veil = styled(ModalOverlay)`
  position: fixed; inset: 0; background: rgb(0 0 0 / 0.6); display: grid; place-items: start center; padding-top: 14vh; z-index: 50;
`

export const Sheet = styled(Dialog)`
  background: var(--raised); border: 1px solid var(--edge); padding: 20px; width: min(440px, 92vw); outline: none; max-height: 74vh; overflow: auto;
  h2 { font: 600 20px/1.2 var(--face-label); text-transform: uppercase; letter-spacing: 0.02em; }
  form { display: grid; gap: 14px; }
  label { display: block; font-size: 12px; color: var(--muted); }
  input { width: 100%; min-height: 34px; padding: 4px 10px; border: 1px solid var(--edge); background: var(--bg); }
`
