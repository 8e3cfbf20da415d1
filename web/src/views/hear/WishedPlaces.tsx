import type { SetEntry } from '../../api/types'
import { Plain } from '../../ui/dialogs'
import { NumberField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'

/** Where in the evening a song may be played, when an order is looked for. */
export function WishedPlaces(p: {
  title: string
  entry: SetEntry
  of: number
  onChange: (patch: Partial<SetEntry>) => unknown
  onClose: () => void
}) {
  return (
    <Plain title={`Places of ${p.title}`} onClose={p.onClose}>
      <Muted>An order that is looked for keeps the song between these places. Empty is anywhere.</Muted>
      <Row>
        <NumberField
          label="Not before place"
          value={p.entry.from}
          min={1}
          max={p.of}
          step={1}
          onCommit={(from) => p.onChange({ from })}
        />
        <NumberField
          label="Not after place"
          value={p.entry.to}
          min={1}
          max={p.of}
          step={1}
          onCommit={(to) => p.onChange({ to })}
        />
      </Row>
    </Plain>
  )
}

/** What is wished for the place of a song, in few words. */
export function wishOf(e: SetEntry): string {
  if (e.pinned) return 'pinned'
  if (e.from && e.to) return e.from === e.to ? `place ${e.from}` : `places ${e.from} to ${e.to}`
  if (e.from) return `from place ${e.from}`
  return e.to ? `up to place ${e.to}` : ''
}
