import type { Gear } from '../../api/types'
import { Icon } from '../../marks/marks'
import { Button, IconButton } from '../../ui/controls'
import { NumberField } from '../../ui/fields'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import type { Change } from './GearSheet'

type Spec = NonNullable<Gear['board']>

const measures: { of: keyof Omit<Spec, 'standing' | 'slats'>; label: string; max: number }[] = [
  { of: 'slope_deg', label: 'Slope, degrees', max: 45 },
  { of: 'beneath_mm', label: 'Clearance underneath, mm', max: 500 },
  { of: 'lid_mm', label: 'Clearance under the lid, mm', max: 1000 },
  { of: 'most_g', label: 'Maximum load, g', max: 200000 },
]

/** What a board is besides its size: clearances, slope, and the slats boxes stand on. */
export function BoardSheet({ gear, change }: { gear: Gear; change: Change }) {
  const spec = gear.board ?? {}
  const slats = spec.slats ?? []
  const put = (what: string, update: (s: Spec) => Spec) =>
    change(what, (g) => ({ ...g, board: update(g.board ?? {}) }))
  const slat = (at: number, patch: Partial<(typeof slats)[number]>) =>
    put('Slats', (s) => ({ ...s, slats: (s.slats ?? []).map((x, i) => (i === at ? { ...x, ...patch } : x)) }))
  return (
    <Panel role="region" aria-label="Board">
      <Heading>Board</Heading>
      <Row>
        {measures.map((m) => (
          <NumberField
            key={m.of}
            label={m.label}
            width={150}
            value={spec[m.of]}
            min={0}
            max={m.max}
            onCommit={(v) => put(m.label, (s) => ({ ...s, [m.of]: v }))}
          />
        ))}
      </Row>
      {slats.length === 0 && (
        <Muted>It is solid. Give it slats, from the far one to the near one, if it is not.</Muted>
      )}
      {slats.map((s, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a slat is told by its place in the row
        <Row key={i} role="group" aria-label={`Slat ${i + 1}`}>
          <NumberField
            label={`Slat ${i + 1} from the far edge, mm`}
            width={190}
            value={s.y_mm}
            min={0}
            max={3000}
            onCommit={(v) => v !== undefined && slat(i, { y_mm: v })}
          />
          <NumberField
            label={`Slat ${i + 1} deep, mm`}
            width={130}
            value={s.depth_mm}
            min={1}
            max={3000}
            onCommit={(v) => v && slat(i, { depth_mm: v })}
          />
          <IconButton
            label={`Remove slat ${i + 1}`}
            onPress={() => put('Slats', (x) => ({ ...x, slats: (x.slats ?? []).filter((_, k) => k !== i) }))}
          >
            <Icon name="cross" />
          </IconButton>
        </Row>
      ))}
      <Row>
        <Button
          onPress={() =>
            put('Slats', (s) => {
              const last = s.slats?.at(-1)
              const from = last ? last.y_mm + last.depth_mm + 30 : 0
              return { ...s, slats: [...(s.slats ?? []), { y_mm: from, depth_mm: 60 }] }
            })
          }
        >
          <Icon name="plus" /> Add a slat
        </Button>
      </Row>
    </Panel>
  )
}
