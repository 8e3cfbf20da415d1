import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Rig } from '../../api/types'
import { EffectMark, Icon } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { Actions } from '../../ui/Actions'
import { Heading } from '../../ui/layout'

/** The guitars that plug in, the one being played lit. */
export function Guitars(p: {
  rig: Rig
  picked: string | undefined
  pick: (key: string) => void
  change: (what: string, update: (r: Rig) => Rig) => unknown
}) {
  const { plan, report, position } = usePlace()
  const owned = values(plan, 'gear').filter((g) => g.kind === 'guitar')
  const inRig = (p.rig.guitars ?? []).flatMap((id) => owned.filter((g) => g.id === id))
  const free = owned.filter((g) => !p.rig.guitars?.includes(g.id))
  const row = report?.rows.find((r) => r.variable === 'guitar')
  const playing = row?.cells[position]?.value ?? inRig[0]?.name
  return (
    <Bar aria-label="Guitars">
      <Heading>Guitar</Heading>
      {inRig.map((g) => (
        <Chip
          key={g.id}
          type="button"
          $on={g.name === playing}
          aria-pressed={p.picked === g.id}
          onClick={() => p.pick(g.id)}
        >
          <EffectMark effect="guitar" /> <span title={g.name}>{g.name}</span>
        </Chip>
      ))}
      <Actions
        label="Guitars of this rig"
        plain
        acts={[
          ...free.map((g) => ({
            id: `in ${g.id}`,
            name: `Plug in ${g.name}`,
            run: () =>
              p.change(`Plug in ${g.name}`, (r) => ({ ...r, guitars: [...(r.guitars ?? []), g.id] })),
          })),
          ...inRig.map((g) => ({
            id: `out ${g.id}`,
            name: `Leave ${g.name} at home`,
            run: () =>
              p.change(`Leave ${g.name} at home`, (r) => ({
                ...r,
                guitars: (r.guitars ?? []).filter((x) => x !== g.id),
              })),
          })),
        ]}
      >
        <Icon name="more" />
      </Actions>
    </Bar>
  )
}

const Bar = styled.section`display: flex; flex-wrap: wrap; gap: 8px; align-items: center; min-width: 0;`
const Chip = styled.button<{ $on: boolean }>`
  display: flex; gap: 6px; align-items: center; padding: 4px 12px 4px 6px; cursor: pointer; min-height: 32px; max-width: min(100%, 320px);
  span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  font: 600 16px/1 var(--face-label); border: 1px solid ${(p) => (p.$on ? 'var(--lit)' : 'var(--line)')};
  background: ${(p) => (p.$on ? 'var(--lit)' : 'var(--raised)')}; color: ${(p) => (p.$on ? 'var(--onLit)' : 'var(--muted)')};
  &[aria-pressed='true'] { box-shadow: 0 0 0 2px var(--bg), 0 0 0 4px var(--focus); }
`
