import { css } from 'styled-components'

/** The box of anything that is typed into or pressed. */
export const box = css`
  min-height: 32px; padding: 4px 10px; border: 1px solid var(--edge); background: var(--raised);
  color: var(--text); border-radius: 2px;
`

/** A field with its label above it. */
export const fieldCSS = css`
  display: grid; gap: 3px; min-width: 0;
  label, .react-aria-Label { font-size: 12px; color: var(--muted); }
  input, textarea { ${box} width: 100%; }
`
