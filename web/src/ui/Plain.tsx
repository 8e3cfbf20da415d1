import type { ReactNode } from 'react'
import { Heading } from 'react-aria-components/Heading'
import { Modal } from 'react-aria-components/Modal'
import { Sheet, Veil } from './AskName'

/** A dialog with a title and whatever it asks. */
export function Plain(p: { title: string; onClose: () => void; children: ReactNode }) {
  return (
    <Veil isOpen isDismissable onOpenChange={(open) => !open && p.onClose()}>
      <Modal>
        <Sheet>
          <form onSubmit={(e) => e.preventDefault()}>
            <Heading slot="title">{p.title}</Heading>
            {p.children}
          </form>
        </Sheet>
      </Modal>
    </Veil>
  )
}
