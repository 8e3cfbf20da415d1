import { type ReactNode, useId } from 'react'
import styled from 'styled-components'
import { useNamedCard } from './useChosenFinding'

/** A finding: one sentence with a figure, and what can be done about it. Its title is a link to it. */
export function Card(p: {
  id: string
  title: ReactNode
  here?: boolean
  settled?: boolean
  children: ReactNode
}) {
  const { ref, named, choose } = useNamedCard(p.id)
  const title = useId()
  return (
    <Box
      ref={ref}
      role="group"
      aria-labelledby={title}
      $here={p.here || named}
      $settled={p.settled}
      aria-current={named ? 'true' : undefined}
    >
      <h3 id={title}>
        <Title
          href={`?finding=${encodeURIComponent(p.id)}`}
          onClick={(e) => {
            if (e.metaKey || e.ctrlKey || e.shiftKey) return // in another tab
            e.preventDefault()
            choose()
          }}
        >
          {p.title}
        </Title>
      </h3>
      {p.children}
    </Box>
  )
}

const Title = styled.a`
  display: flex; gap: 6px; align-items: flex-start; padding: 3px 0; color: inherit; text-decoration: none; min-width: 0; overflow-wrap: anywhere;
  &:hover { text-decoration: underline; }
`
const Box = styled.section<{ $here?: boolean; $settled?: boolean }>`
  border: 1px ${(p) => (p.$settled ? 'dashed' : 'solid')} ${(p) => (p.$here ? 'var(--text)' : 'var(--line)')}; background: var(--panel);
  padding: 10px 12px; display: grid; gap: 6px; font-size: 13px;
  h3 { font: 600 14px/1.25 var(--face-body); }
  svg { flex: none; margin-top: 2px; }
  button { font-size: 13px; text-align: left; }
`
