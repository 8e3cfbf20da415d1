import type { ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { Disclosure, DisclosurePanel } from 'react-aria-components/Disclosure'
import { Heading } from 'react-aria-components/Heading'
import styled from 'styled-components'

/** Something that is opened when it is wanted; `level` is its heading's, under what it stands beneath. */
export function Fold(p: { title: string; children: ReactNode; open?: boolean; level?: 2 | 3 }) {
  return (
    <Disclosure defaultExpanded={p.open ?? false}>
      <Heading level={p.level ?? 3}>
        <Toggle slot="trigger">{p.title}</Toggle>
      </Heading>
      <DisclosurePanel>{p.children}</DisclosurePanel>
    </Disclosure>
  )
}

const Toggle = styled(
  AriaButton,
)`border: 0; background: none; padding: 4px 0; text-decoration: underline; cursor: pointer; font-size: 14px;`
