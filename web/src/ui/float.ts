import { Popover } from 'react-aria-components/Popover'
import styled, { css } from 'styled-components'

/** What floats over the page beside what opened it. It is drawn while it is open, and not before. */
export const Float = styled(Popover)`
  background: var(--raised); border: 1px solid var(--edge); max-height: 380px; overflow: auto; min-width: var(--trigger-width, 160px);
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.4); border-radius: 2px;
`

/** An entry of a list that floats. */
export const itemCSS = css`
  padding: 7px 12px; cursor: pointer; outline: none; display: flex; gap: 8px; align-items: center;
  &[data-focused] { background: var(--lit); color: var(--onLit); }
  &[data-selected] { font-weight: 600; }
  &[data-disabled] { color: var(--muted); cursor: default; }
`
