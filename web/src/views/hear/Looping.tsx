import type { Section } from '../../api/types'
import { Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Row } from '../../ui/layout'
import { lasting, renamed, running } from './looped'

/** What a looper does in a section: the layer it records, and those that run. */
export function Looping({
  section: s,
  layers,
  onChange,
}: {
  section: Section
  layers: string[]
  onChange: (update: (list: Section[]) => Section[]) => unknown
}) {
  const own = s.looping?.records
  return (
    <Row $gap={16} style={{ alignItems: 'end' }}>
      {own && (
        <>
          <TextField
            label={`Layer recorded in ${s.label}`}
            value={own}
            onCommit={(name) =>
              name && !layers.includes(name) && onChange((list) => renamed(list, own, name))
            }
          />
          <NumberField
            width={96}
            label={`Bars of ${own}`}
            placeholder={s.bars === undefined ? 'say how many' : `${s.bars}`}
            value={s.looping?.bars}
            min={0.25}
            max={s.bars ?? 1000}
            onCommit={(bars) => onChange((list) => lasting(list, s.id, bars))}
          />
        </>
      )}
      {layers
        .filter((name) => name !== own)
        .map((name) => (
          <Switch
            key={name}
            label={`${name} runs in ${s.label}`}
            value={s.looping?.plays?.includes(name) ?? false}
            onChange={(on) => onChange((list) => running(list, s.id, name, on))}
          />
        ))}
    </Row>
  )
}
