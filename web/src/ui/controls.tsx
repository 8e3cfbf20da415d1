import type { ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { ListBox, ListBoxItem } from 'react-aria-components/ListBox'
import { Menu, MenuItem, MenuTrigger } from 'react-aria-components/Menu'
import { NumberField as AriaNumberField } from 'react-aria-components/NumberField'
import { Popover } from 'react-aria-components/Popover'
import { Select as AriaSelect, SelectValue } from 'react-aria-components/Select'
import { Switch as AriaSwitch } from 'react-aria-components/Switch'
import { TextArea as AriaTextArea } from 'react-aria-components/TextArea'
import { TextField as AriaTextField } from 'react-aria-components/TextField'
import { Tooltip, TooltipTrigger } from 'react-aria-components/Tooltip'
import styled, { css } from 'styled-components'

const box = css`
  min-height: 32px; padding: 4px 10px; border: 1px solid var(--edge); background: var(--raised);
  color: var(--text); border-radius: 2px;
`

export const Button = styled(AriaButton)<{ $strong?: boolean; $plain?: boolean }>`
  ${box}
  display: inline-flex; align-items: center; justify-content: center; gap: 6px; cursor: pointer; font-size: 13px;
  ${(p) => p.$strong && 'background: var(--lit); color: var(--onLit); border-color: var(--lit);'}
  ${(p) => p.$plain && 'border-color: transparent; background: none; padding: 4px 6px;'}
  &[data-hovered] { border-color: var(--text); }
  &[data-disabled] { opacity: 0.5; cursor: default; }
`

/** A button that is only a picture; its label is read out and shown on hover. */
export function IconButton({
  label,
  children,
  onPress,
  isDisabled,
}: {
  label: string
  children: ReactNode
  onPress?: () => void
  isDisabled?: boolean
}) {
  return (
    <TooltipTrigger delay={500}>
      <Button $plain aria-label={label} onPress={onPress} isDisabled={isDisabled}>
        {children}
      </Button>
      <Tip>{label}</Tip>
    </TooltipTrigger>
  )
}

export const Tip = styled(Tooltip)`
  background: var(--lit); color: var(--onLit); padding: 4px 8px; font-size: 12px; max-width: 280px; border-radius: 2px;
`

const fieldCSS = css`
  display: grid; gap: 3px; min-width: 0;
  label, .react-aria-Label { font-size: 12px; color: var(--muted); }
  input, textarea { ${box} width: 100%; }
`

const TextBox = styled(AriaTextField)`${fieldCSS}`

/** Text that is kept when it is left or Enter is pressed, and put back on Escape. */
export function TextField(p: {
  label: string
  value: string
  onCommit: (value: string) => void
  placeholder?: string
  hideLabel?: boolean
}) {
  return (
    <TextBox key={p.value} defaultValue={p.value} aria-label={p.hideLabel ? p.label : undefined}>
      {!p.hideLabel && <Label>{p.label}</Label>}
      <Input
        placeholder={p.placeholder}
        title={p.value}
        onBlur={(e) => e.currentTarget.value !== p.value && p.onCommit(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') {
            e.currentTarget.value = p.value
            e.currentTarget.blur()
          }
        }}
      />
    </TextBox>
  )
}

/** Lines of text, kept when they are left and put back on Escape. */
export function TextArea(p: {
  label: string
  value: string
  onCommit: (value: string) => void
  rows?: number
}) {
  return (
    <TextBox key={p.value} defaultValue={p.value}>
      <Label>{p.label}</Label>
      <AriaTextArea
        rows={p.rows ?? 3}
        onBlur={(e) => e.currentTarget.value !== p.value && p.onCommit(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            e.currentTarget.value = p.value
            e.currentTarget.blur()
          }
        }}
      />
    </TextBox>
  )
}

const NumberBox = styled(AriaNumberField)<{ $width?: number }>`
  ${fieldCSS}
  width: ${(p) => (p.$width ? `${p.$width}px` : 'auto')};
  input { font-family: var(--face-figures); }
`

/** A number that may be absent; emptied, it becomes undefined. */
export function NumberField(p: {
  label: string
  value: number | undefined
  onCommit: (value: number | undefined) => void
  min?: number
  max?: number
  step?: number
  width?: number
  hideLabel?: boolean
  placeholder?: string
}) {
  return (
    <NumberBox
      $width={p.width}
      value={p.value ?? Number.NaN}
      minValue={p.min}
      maxValue={p.max}
      step={p.step}
      aria-label={p.hideLabel ? p.label : undefined}
      formatOptions={{ maximumFractionDigits: 3, useGrouping: false }}
      onChange={(v) => p.onCommit(Number.isNaN(v) ? undefined : v)}
    >
      {!p.hideLabel && <Label>{p.label}</Label>}
      <Input placeholder={p.placeholder} />
    </NumberBox>
  )
}

const SelectBox = styled(AriaSelect)`
  ${fieldCSS}
  button { ${box} display: flex; justify-content: space-between; gap: 8px; align-items: center; cursor: pointer; text-align: left; min-width: 0; width: 100%; }
  button > span:first-child { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  button > span:first-child > span { margin-right: 7px; }
`

export const Float = styled(Popover)`
  background: var(--raised); border: 1px solid var(--edge); max-height: 380px; overflow: auto; min-width: var(--trigger-width, 160px);
  box-shadow: 0 8px 24px rgb(0 0 0 / 0.4); border-radius: 2px;
`

const itemCSS = css`
  padding: 7px 12px; cursor: pointer; outline: none; display: flex; gap: 8px; align-items: center;
  &[data-focused] { background: var(--lit); color: var(--onLit); }
  &[data-selected] { font-weight: 600; }
  &[data-disabled] { color: var(--muted); cursor: default; }
`

const Choice = styled(ListBoxItem)`${itemCSS}`

export interface Option {
  id: string
  name: string
  tape?: string
}

export function Select(p: {
  label: string
  value: string | undefined
  options: Option[]
  onChange: (id: string) => void
  hideLabel?: boolean
  placeholder?: string
}) {
  return (
    <SelectBox
      value={p.value ?? null}
      onChange={(k) => k !== null && String(k) !== p.value && p.onChange(String(k))}
      aria-label={p.hideLabel ? p.label : undefined}
      placeholder={p.placeholder ?? 'choose'}
    >
      {!p.hideLabel && <Label>{p.label}</Label>}
      <AriaButton>
        <SelectValue />
        <span aria-hidden="true">▾</span>
      </AriaButton>
      <Float>
        <ListBox items={p.options}>
          {(o) => (
            <Choice id={o.id} textValue={o.name}>
              {o.tape && <Swatch style={{ background: o.tape }} />}
              {o.name}
            </Choice>
          )}
        </ListBox>
      </Float>
    </SelectBox>
  )
}

export const Swatch = styled.span`display: inline-block; width: 18px; height: 12px; flex: none;`

export interface Act {
  id: string
  name: string
  run: () => void
  disabled?: boolean
}

const Entry = styled(MenuItem)`${itemCSS}`

/** A button that opens a menu of things to do. */
export function Actions({
  label,
  acts,
  children,
  plain,
  onOpen,
}: {
  label: string
  acts: Act[]
  children: ReactNode
  plain?: boolean
  onOpen?: () => void
}) {
  return (
    <MenuTrigger onOpenChange={(open) => open && onOpen?.()}>
      <Button aria-label={label} $plain={plain}>
        {children}
      </Button>
      <Float>
        <Menu
          items={acts}
          disabledKeys={acts.filter((a) => a.disabled).map((a) => a.id)}
          onAction={(k) => acts.find((a) => a.id === k)?.run()}
        >
          {(a) => <Entry id={a.id}>{a.name}</Entry>}
        </Menu>
      </Float>
    </MenuTrigger>
  )
}

const SwitchBox = styled(AriaSwitch)`
  display: inline-flex; align-items: center; gap: 8px; cursor: pointer; min-height: 32px;
  .track { width: 34px; height: 18px; border: 1px solid var(--edge); background: var(--sunk); padding: 2px; flex: none; }
  .track::after { content: ''; display: block; width: 12px; height: 12px; background: var(--muted); transition: transform 120ms; }
  &[data-selected] .track { background: var(--lit); border-color: var(--lit); }
  &[data-selected] .track::after { transform: translateX(16px); background: var(--onLit); }
  &[data-focus-visible] .track { outline: 2px solid var(--focus); outline-offset: 2px; }
  &[data-focus-visible] { outline: none; }
`

export function Switch(p: {
  label: string
  value: boolean
  onChange: (on: boolean) => void
  hideLabel?: boolean
}) {
  return (
    <SwitchBox isSelected={p.value} onChange={p.onChange} aria-label={p.hideLabel ? p.label : undefined}>
      <span className="track" />
      {!p.hideLabel && p.label}
    </SwitchBox>
  )
}
