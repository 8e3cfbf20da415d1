import { useRef } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { NumberField as AriaNumberField } from 'react-aria-components/NumberField'
import { Text } from 'react-aria-components/Text'
import { TextArea as AriaTextArea } from 'react-aria-components/TextArea'
import { TextField as AriaTextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { Clash } from './Clash'
import { fieldCSS, type HideLabel, onlyNarrow } from './fieldStyle'
import { useDraft } from './useDraft'

const TextBox = styled(AriaTextField)`${fieldCSS}`

const asIs = (text: string) => text

/** Text that is kept when it is left or Enter is pressed, and put back on Escape. An edit that onCommit
 * returns is watched: what is refused comes back. */
export function TextField(p: {
  label: string
  value: string
  onCommit: (value: string) => unknown
  placeholder?: string
  hideLabel?: HideLabel
}) {
  const draft = useDraft({ ...p, words: asIs })
  return (
    <TextBox
      value={draft.shown}
      onChange={draft.type}
      isInvalid={draft.clash || draft.trouble !== undefined}
      aria-label={p.hideLabel === true ? p.label : undefined}
    >
      {p.hideLabel !== true && <Label {...onlyNarrow(p.hideLabel)}>{p.label}</Label>}
      <Input
        placeholder={p.placeholder}
        title={p.value}
        onBlur={draft.commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') draft.commit()
          if (e.key === 'Escape') draft.drop()
        }}
      />
      <Clash draft={draft} theirs={p.value} />
    </TextBox>
  )
}

/** Lines of text, kept when they are left and put back on Escape. */
export function TextArea(p: {
  label: string
  value: string
  onCommit: (value: string) => unknown
  rows?: number
}) {
  const draft = useDraft({ ...p, words: asIs })
  return (
    <TextBox value={draft.shown} onChange={draft.type} isInvalid={draft.clash || draft.trouble !== undefined}>
      <Label>{p.label}</Label>
      <AriaTextArea
        rows={p.rows ?? 3}
        onBlur={draft.commit}
        onKeyDown={(e) => e.key === 'Escape' && draft.drop()}
      />
      <Clash draft={draft} theirs={p.value} />
    </TextBox>
  )
}

const NumberBox = styled(AriaNumberField)<{ $width?: number }>`
  ${fieldCSS}
  width: ${(p) => (p.$width ? `${p.$width}px` : 'auto')};
  input { font-family: var(--face-figures); }
`

const Note = styled(Text)`font-size: 12px; font-style: italic; color: var(--muted);`

// One object for all, since a new one would have the field write its text anew.
const figures = { maximumFractionDigits: 3, useGrouping: false }

const written = (n: number | undefined) => (n === undefined ? '' : String(n))

/** A number that may be absent; emptied, it becomes undefined. */
export function NumberField(p: {
  label: string
  value: number | undefined
  onCommit: (value: number | undefined) => unknown
  min?: number
  max?: number
  step?: number
  width?: number
  hideLabel?: HideLabel
  placeholder?: string
  /** What is to be said of the number that stands, such as that it is assumed. */
  note?: string
}) {
  const draft = useDraft<number | undefined>({ ...p, words: written })
  // While the field is typed into it holds to the number that was there when that began.
  const typing = useRef<{ base: number | undefined } | undefined>(undefined)
  const shown = typing.current ? typing.current.base : draft.shown
  return (
    <NumberBox
      $width={p.width}
      value={shown ?? Number.NaN}
      minValue={p.min}
      maxValue={p.max}
      step={p.step}
      isInvalid={draft.clash || draft.trouble !== undefined}
      aria-label={p.hideLabel === true ? p.label : undefined}
      formatOptions={figures}
      onChange={(v) => {
        const next = Number.isNaN(v) ? undefined : v
        typing.current = undefined
        if (draft.clash) draft.type(next)
        else draft.send(next)
      }}
    >
      {p.hideLabel !== true && <Label {...onlyNarrow(p.hideLabel)}>{p.label}</Label>}
      <Input
        placeholder={p.placeholder}
        onInput={(e) => {
          if (!typing.current) typing.current = { base: p.value }
          const text = e.currentTarget.value.trim().replace(',', '.')
          const n = text === '' ? undefined : Number(text)
          if (n === undefined || Number.isFinite(n)) draft.type(n)
        }}
        onBlur={() => {
          typing.current = undefined
          queueMicrotask(draft.commit) // after the field has kept what it read, if that was a change
        }}
      />
      {p.note && <Note slot="description">{p.note}</Note>}
      <Clash draft={draft} theirs={written(p.value)} />
    </NumberBox>
  )
}
