import styled from 'styled-components'

/** A finding: one sentence with a figure, and what can be done about it. */
export const Card = styled.section<{ $here?: boolean; $settled?: boolean }>`
  border: 1px ${(p) => (p.$settled ? 'dashed' : 'solid')} ${(p) => (p.$here ? 'var(--text)' : 'var(--line)')}; background: var(--panel);
  padding: 10px 12px; display: grid; gap: 6px; font-size: 13px;
  h3 { font: 600 14px/1.25 var(--face-body); display: flex; gap: 6px; align-items: flex-start; }
  svg { flex: none; margin-top: 2px; }
  button { font-size: 13px; text-align: left; }
`
