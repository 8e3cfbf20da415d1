import { type ReactNode, useRef } from 'react'
import { Dialog } from 'react-aria-components/Dialog'
import { Heading } from 'react-aria-components/Heading'
import { Modal, ModalOverlay } from 'react-aria-components/Modal'
import styled from 'styled-components'
import { Button } from '../../ui/controls'

/** A sheet that covers the page, with a way back. */
export function Over({
  title,
  onClose,
  children,
}: {
  title: string
  onClose: () => void
  children: ReactNode
}) {
  const top = useRef<HTMLDivElement>(null)
  return (
    <Cover isOpen onOpenChange={(open) => !open && onClose()}>
      <Modal>
        <Page ref={top}>
          <header>
            <Heading slot="title">{title}</Heading>
            <Button onPress={onClose}>Close</Button>
          </header>
          {children}
        </Page>
      </Modal>
    </Cover>
  )
}

const Cover = styled(
  ModalOverlay,
)`position: fixed; inset: 0; z-index: 40; background: var(--bg); overflow: auto; --target: 48px;`
const Page = styled(Dialog)`
  min-height: 100%; max-width: 720px; margin: 0 auto; padding: 12px 16px 40px; outline: none; display: grid; grid-template-columns: minmax(0, 1fr); gap: 12px; align-content: start;
  header { display: flex; justify-content: space-between; align-items: center; gap: 12px; position: sticky; top: 0; background: var(--bg); padding: 4px 0; z-index: 1; }
  h2 { font: 600 26px/1.1 var(--face-label); text-transform: uppercase; }
`

/** One thing of a long list, to be tapped. */
export const Choice = styled.button`
  width: 100%; min-height: 56px; padding: 8px 12px; display: grid; gap: 2px; text-align: left; cursor: pointer;
  background: var(--panel); border: 1px solid var(--line); color: var(--text);
  b { font: 600 21px/1.15 var(--face-label); display: flex; gap: 8px; align-items: center; }
  span { font-size: 15px; color: var(--muted); }
  &:disabled { opacity: 0.55; cursor: default; }
  &:focus-visible { outline: 3px solid var(--focus); outline-offset: 1px; }
`

/** A field with its label over it. */
export const Typed = styled.label`
  display: grid; gap: 4px; font-size: 14px; color: var(--muted);
  input, textarea { min-height: 48px; padding: 8px 12px; font: inherit; font-size: 18px; color: var(--text); background: var(--panel); border: 1px solid var(--edge); width: 100%; }
  textarea { min-height: 96px; }
`
