import styled from 'styled-components'

/** A table of figures: rows told apart by a line, headings in the label face. */
export const Grid = styled.table<{ $tight?: boolean }>`
  border-collapse: collapse; font-size: 13px;
  ${(p) => p.$tight && 'td { white-space: nowrap; }'}
  th { text-align: left; font: 600 14px/1.2 var(--face-label); color: var(--muted); }
  th[scope='row'] { color: var(--text); }
  th, td { padding: 4px 18px 4px 0; border-bottom: 1px solid var(--line); vertical-align: top; }
`

/** Room for a table that is wider than its place. */
export const Wide = styled.div`overflow-x: auto; max-height: 340px; overflow-y: auto;`
