import { type ReactNode, useState } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { Disclosure, DisclosurePanel } from 'react-aria-components/Disclosure'
import { Heading } from 'react-aria-components/Heading'
import styled from 'styled-components'

/** Something that is opened when it is wanted, and not drawn before; `level` is its heading's, under what it stands
 * beneath. */
export function Fold(p: { title: string; children: ReactNode; open?: boolean; level?: 2 | 3 }) {
  const [open, setOpen] = useState(p.open ?? false)
  return (
    <Disclosure isExpanded={open} onExpandedChange={setOpen}>
      <Heading level={p.level ?? 3}>
        <Toggle slot="trigger">
          <Mark aria-hidden="true" viewBox="0 0 10 10" width="10" height="10">
            <path d="M3 1l4 4-4 4" fill="none" stroke="currentColor" strokeWidth="1.6" />
          </Mark>
          {p.title}
        </Toggle>
      </Heading>
      <DisclosurePanel>{open && p.children}</DisclosurePanel>
    </Disclosure>
  )
}

const Toggle = styled(AriaButton)`
  display: flex; gap: 8px; align-items: center; width: 100%; min-height: var(--target, 32px); padding: 4px 0; border: 0; border-bottom: 1px solid var(--line); background: none; cursor: pointer;
  font: 600 15px/1.2 var(--face-label); letter-spacing: 0.03em; text-align: left;
  &[data-hovered] { border-color: var(--text); }
  &[aria-expanded='true'] svg { transform: rotate(90deg); }
`
const Mark = styled.svg`flex: none; color: var(--muted);`
