import styled from 'styled-components'

export const Title = styled.h1`
  font: 600 24px/1.1 var(--face-label); letter-spacing: 0.02em; text-transform: uppercase;
`

export const Heading = styled.h2`
  font: 600 14px/1.2 var(--face-label); letter-spacing: 0.06em; text-transform: uppercase; color: var(--muted);
`

export const Name = styled.h3`
  font: 600 17px/1.2 var(--face-label); letter-spacing: 0.02em; overflow: hidden; text-overflow: ellipsis;
`

export const Muted = styled.p`color: var(--muted);`

export const Panel = styled.section`
  background: var(--panel); border: 1px solid var(--line); padding: 14px 16px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 10px; align-content: start; min-width: 0;
`

export const Row = styled.div<{ $gap?: number; $top?: boolean }>`
  display: flex; flex-wrap: wrap; gap: ${(p) => p.$gap ?? 8}px; align-items: ${(p) => (p.$top ? 'flex-start' : 'end')};
`

export const Stack = styled.div<{ $gap?: number }>`
  display: grid; grid-template-columns: minmax(0, 1fr); gap: ${(p) => p.$gap ?? 12}px; align-content: start; min-width: 0;
`

export const Figure = styled.span`font-family: var(--face-figures); font-variant-numeric: tabular-nums;`

export const Caution = styled.p`
  border-left: 4px solid var(--tape-yellow); padding: 4px 10px; font-size: 13px; background: var(--panel);
`

export const Tape = styled.span<{ $small?: boolean }>`
  display: inline-block; padding: 1px 6px; font: 600 ${(p) => (p.$small ? 12 : 14)}px/1.4 var(--face-label);
  color: var(--onTape); letter-spacing: 0.03em; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; max-width: 100%;
`

/** The parts of a view, as links. */
export const Tabs = styled.nav`
  display: flex; flex-wrap: wrap; gap: 4px;
  a { padding: 6px 12px; color: var(--muted); text-decoration: none; border-bottom: 2px solid transparent; }
  a[aria-current='page'] { color: var(--text); border-color: var(--tape-yellow); }
`
