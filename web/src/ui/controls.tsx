import type { ReactNode } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { Switch as AriaSwitch } from 'react-aria-components/Switch'
import { Tooltip, TooltipTrigger } from 'react-aria-components/Tooltip'
import styled from 'styled-components'
import { box, type HideLabel, onlyNarrow, wideHidden } from './fieldStyle'

export const Button = styled(AriaButton)<{ $strong?: boolean; $plain?: boolean }>`
  ${box}
  display: inline-flex; align-items: center; justify-content: center; gap: 6px; cursor: pointer; font-size: 13px;
  ${(p) => p.$strong && 'background: var(--lit); color: var(--onLit); border-color: var(--lit);'}
  ${(p) => p.$plain && 'border-color: transparent; background: none; padding: 4px 6px;'}
  &[data-hovered] { border-color: var(--text); }
  &[data-disabled], &[data-pending] { opacity: 0.5; cursor: default; }
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

const SwitchBox = styled(AriaSwitch)`
  display: inline-flex; align-items: center; gap: 8px; cursor: pointer; min-height: var(--target, 32px);
  .track {
    display: grid; grid-template-columns: 8px 1fr; align-items: center; width: 46px; height: 20px; border: 1px solid var(--edge); padding: 0 5px; flex: none;
    font: 600 13px/1 var(--face-label); letter-spacing: 0.04em; text-transform: uppercase; color: var(--muted);
  }
  .track::before { content: ''; width: 8px; height: 12px; border: 1px solid var(--edge); }
  .track::after { content: 'off'; justify-self: end; }
  &[data-selected] .track { grid-template-columns: 1fr 8px; background: var(--lit); border-color: var(--lit); color: var(--onLit); }
  &[data-selected] .track::before { order: 1; background: var(--onLit); border-color: var(--onLit); }
  &[data-selected] .track::after { content: 'on'; justify-self: start; }
  &[data-focus-visible] .track { outline: 2px solid var(--focus); outline-offset: 2px; }
  &[data-focus-visible] { outline: none; }
  ${wideHidden}
`

export function Switch(p: {
  label: string
  value: boolean
  onChange: (on: boolean) => void
  hideLabel?: HideLabel
}) {
  return (
    <SwitchBox
      isSelected={p.value}
      onChange={p.onChange}
      aria-label={p.hideLabel === true ? p.label : undefined}
    >
      <span className="track" aria-hidden="true" />
      {p.hideLabel !== true && <span {...onlyNarrow(p.hideLabel)}>{p.label}</span>}
    </SwitchBox>
  )
}
