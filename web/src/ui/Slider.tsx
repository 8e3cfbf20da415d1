import { Label } from 'react-aria-components/Label'
import { Slider as AriaSlider, SliderOutput, SliderThumb, SliderTrack } from 'react-aria-components/Slider'
import styled from 'styled-components'

/** A value that is slid, by mouse or by keyboard; its text stands in for the number. */
export function Slider(p: {
  label: string
  value: number
  min: number
  max: number
  step: number
  text?: string
  onChange: (value: number) => void
}) {
  return (
    <Box
      value={p.value}
      minValue={p.min}
      maxValue={p.max}
      step={p.step}
      onChange={(v) => p.onChange(v as number)}
    >
      <Label>{p.label}</Label>
      <SliderOutput>{({ state }) => p.text ?? state.getThumbValueLabel(0)}</SliderOutput>
      <SliderTrack>
        <SliderThumb />
      </SliderTrack>
    </Box>
  )
}

const Box = styled(AriaSlider)`
  display: grid; grid-template-columns: auto 1fr; gap: 0 10px; width: 230px; font-size: 12px; color: var(--muted);
  output { justify-self: end; color: var(--text); font-family: var(--face-figures); }
  .react-aria-SliderTrack { grid-column: 1 / -1; height: 24px; position: relative; cursor: pointer; }
  .react-aria-SliderTrack::before { content: ''; position: absolute; left: 0; right: 0; top: 11px; height: 2px; background: var(--edge); }
  .react-aria-SliderThumb { width: 12px; height: 20px; top: 12px; background: var(--lit); }
  .react-aria-SliderThumb[data-focus-visible] { outline: 2px solid var(--focus); outline-offset: 2px; }
`
