import type { ReactNode, RefObject } from 'react'
import { ListBox, ListBoxItem } from 'react-aria-components/ListBox'
import { Menu, MenuItem } from 'react-aria-components/Menu'
import { Popover } from 'react-aria-components/Popover'
import styled, { css } from 'styled-components'
import type { Act } from './Actions'
import type { Option } from './Select'
import { Swatch } from './Swatch'

/** The list that a select opens. What is chosen already can be pressed too: the list lets go of it, and that closes it. */
export function OptionList(
  p: Opened & {
    options: Option[]
    value: string | undefined
    width: number
    choose: (id: string | undefined) => void
  },
) {
  return (
    <Under {...p}>
      <ListBox
        autoFocus
        shouldSelectOnPressUp // pressed down, the list would be gone before the hand is up
        shouldFocusOnHover
        aria-label={p.label}
        items={p.options}
        selectionMode="single"
        selectedKeys={p.value === undefined ? [] : [p.value]}
        onSelectionChange={(all) => {
          if (all === 'all') return
          p.hide()
          p.choose([...all].map(String)[0])
        }}
      >
        {(o) => (
          <Choice id={o.id} textValue={o.name}>
            {o.tape && <Swatch style={{ background: o.tape }} />}
            {o.name}
          </Choice>
        )}
      </ListBox>
    </Under>
  )
}

/** The menu that a button with things to do opens. */
export function ActMenu(p: Opened & { acts: Act[]; at: 'first' | 'last' }) {
  return (
    <Under {...p}>
      <Menu
        autoFocus={p.at}
        aria-label={p.label}
        items={p.acts}
        disabledKeys={p.acts.filter((a) => a.disabled).map((a) => a.id)}
        onAction={(k) => p.acts.find((a) => a.id === k)?.run()}
        onClose={p.hide}
      >
        {(a) => <Entry id={a.id}>{a.name}</Entry>}
      </Menu>
    </Under>
  )
}

interface Opened {
  label: string
  trigger: RefObject<HTMLButtonElement | null>
  hide: () => void
}

/** What floats under the button that opened it. */
function Under(p: Opened & { width?: number; children: ReactNode }) {
  return (
    <Float
      isOpen
      onOpenChange={(on) => !on && p.hide()}
      triggerRef={p.trigger}
      placement="bottom start"
      aria-label={p.label}
      style={{ minWidth: p.width }}
    >
      {p.children}
    </Float>
  )
}

const Float = styled(Popover)`
  background: var(--raised); border: 1px solid var(--edge); max-height: 380px; overflow: auto; min-width: 160px;
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.4); border-radius: 2px;
`
const itemCSS = css`
  padding: 7px 12px; cursor: pointer; outline: none; display: flex; gap: 8px; align-items: center;
  &[data-focused] { background: var(--lit); color: var(--onLit); }
  &[data-selected] { font-weight: 600; }
  &[data-disabled] { color: var(--muted); cursor: default; }
`
const Choice = styled(ListBoxItem)`${itemCSS}`
const Entry = styled(MenuItem)`${itemCSS}` as typeof MenuItem
