import { type KeyboardEvent, useId, useRef, useState } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import styled from 'styled-components'
import { box, fieldCSS, type HideLabel, onlyNarrow } from './fieldStyle'
import { OptionList } from './floats'
import { Swatch } from './Swatch'

export interface Option {
  id: string
  name: string
  tape?: string
}

/** One of several: a button that says which, and opens the list of them. The list is drawn while it is open, since a screen
 * may hold a hundred of these. */
export function Select(p: {
  label: string
  value: string | undefined
  options: Option[]
  onChange: (id: string) => void
  hideLabel?: HideLabel
  placeholder?: string
}) {
  const trigger = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState<{ width: number } | undefined>()
  const show = () => setOpen({ width: trigger.current?.offsetWidth ?? 0 })
  const hide = () => setOpen(undefined)
  const id = useId()
  const chosen = p.options.find((o) => o.id === p.value)
  const labelled = p.hideLabel !== true
  const choose = (next: string | undefined) => {
    if (next !== undefined && next !== p.value) p.onChange(next)
  }
  const typed = useTyped((text) => {
    const found = p.options.find((o) => o.name.toLowerCase().startsWith(text))
    choose(found?.id)
    return found !== undefined
  })
  const keys = (e: KeyboardEvent) => {
    const at = p.options.findIndex((o) => o.id === p.value)
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') show()
    else if (e.key === 'ArrowLeft') choose(p.options[Math.max(0, at - 1)]?.id)
    else if (e.key === 'ArrowRight') choose(p.options[Math.min(p.options.length - 1, at + 1)]?.id)
    else if (!typed(e)) return goOn(e) // it is somebody else's key
    e.preventDefault()
  }
  return (
    <Box>
      {labelled && (
        <span className="react-aria-Label" id={`${id}-label`} {...onlyNarrow(p.hideLabel)}>
          {p.label}
        </span>
      )}
      <Face
        ref={trigger}
        id={`${id}-button`}
        aria-label={labelled ? undefined : p.label}
        aria-labelledby={`${id}-value ${id}-${labelled ? 'label' : 'button'}`}
        aria-haspopup="listbox"
        aria-expanded={open !== undefined}
        onPress={() => show()}
        onKeyDown={keys}
      >
        <span id={`${id}-value`} title={chosen?.name} data-empty={chosen ? undefined : ''}>
          {chosen?.tape && <Swatch style={{ background: chosen.tape }} />}
          {chosen?.name ?? p.placeholder ?? 'choose'}
        </span>
        <span aria-hidden="true">▾</span>
      </Face>
      {open && (
        <OptionList
          label={p.label}
          options={p.options}
          value={chosen?.id}
          width={open.width}
          trigger={trigger}
          choose={choose}
          hide={hide}
        />
      )}
    </Box>
  )
}

/** Lets a key go on to whoever else listens: a button keeps what it hears to itself. */
export const goOn = (e: KeyboardEvent) => {
  if ('continuePropagation' in e && typeof e.continuePropagation === 'function') e.continuePropagation()
}

/** Hears letters typed at a closed list, and forgets them after a pause; what begins no name is somebody else's key. */
function useTyped(find: (text: string) => boolean): (e: KeyboardEvent) => boolean {
  const heard = useRef({ text: '', at: 0 })
  return (e) => {
    if (e.key.length !== 1 || e.key === ' ' || e.ctrlKey || e.metaKey || e.altKey) return false
    const now = e.timeStamp
    const before = now - heard.current.at < 700 ? heard.current.text : ''
    heard.current = { text: before + e.key.toLowerCase(), at: now }
    return find(heard.current.text)
  }
}

const Box = styled.div`${fieldCSS}`
const Face = styled(AriaButton)`
  ${box}
  display: flex; justify-content: space-between; gap: 8px; align-items: center; cursor: pointer; text-align: left; min-width: 0; width: 100%;
  > span:first-child { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  [data-empty] { color: var(--muted); }
`
