import { css } from 'styled-components'
import { narrow } from '../theme/tokens'

/** The box of anything that is typed into or pressed. */
export const box = css`
  min-height: var(--target, 32px); padding: 4px 10px; border: 1px solid var(--edge); background: var(--raised);
  color: var(--text); border-radius: 2px;
`

/** Of a label that is drawn on narrow screens alone: elsewhere it is only read out. */
export const wideHidden = css`
  [data-narrow] {
    position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap;
    ${narrow} { position: static; width: auto; height: auto; overflow: visible; clip-path: none; white-space: normal; }
  }
`

/** A field with its label above it. */
export const fieldCSS = css`
  display: grid; gap: 3px; min-width: 0;
  label, .react-aria-Label { font-size: 12px; color: var(--muted); }
  ${wideHidden}
  input, textarea { ${box} width: 100%; }
`

/** Whether a field shows its label: not where columns have a head, which a narrow screen has no room for. */
export type HideLabel = boolean | 'wide'

/** How a label is marked that shows on narrow screens alone. It is read out on all. */
export const onlyNarrow = (hide: HideLabel | undefined) => ({
  'data-narrow': hide === 'wide' ? '' : undefined,
})
