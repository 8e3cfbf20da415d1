import type { ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { Disclosure, DisclosurePanel } from 'react-aria-components/Disclosure'
import { Heading } from 'react-aria-components/Heading'
import styled from 'styled-components'

/** Something that is opened when it is wanted. */
export function Fold({ title, children, open }: { title: string; children: ReactNode; open?: boolean }) {
  return (
    <Disclosure defaultExpanded={open ?? false}>
      <Heading>
        <Toggle slot="trigger">{title}</Toggle>
      </Heading>
      <DisclosurePanel>{children}</DisclosurePanel>
    </Disclosure>
  )
}

const Toggle = styled(
  AriaButton,
)`border: 0; background: none; padding: 4px 0; text-decoration: underline; cursor: pointer; font-size: 14px;`
