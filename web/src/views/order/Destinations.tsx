import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useOrder, values } from '../../api/plan'
import type { Destination, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { SideBySide } from '../../frame/SideBySide'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { TextField } from '../../ui/fields'
import { Caution, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { HiredAmp } from './HiredAmp'

const kinds: Record<Destination['kind'], string> = {
  'own-amp': 'own amp',
  'hired-amp': 'hired amp',
  'any-amp': 'any amp: unknown',
  'two-amps': 'two amps',
  'stereo-di': 'stereo DI',
  'mono-di': 'one mono line',
  headphones: 'headphones',
}

const monoLines = {
  'external-sum': 'both sides, summed outside',
  'left-sums': 'both sides: the left jack sums',
  'left-alone': 'the left side alone',
} as const

/** Where the rig plugs in: overlays that a show chooses between. */
export function Destinations({
  rig,
  change,
}: {
  rig: Rig
  change: (what: string, update: (r: Rig) => Rig) => unknown
}) {
  const { plan, destination, pickDestination } = useChosen()
  const { data: order } = useOrder(rig.id, destination?.id)
  const edit = useEdit()
  const amps = values(plan, 'gear').filter((g) => g.kind === 'amp')
  const set = (d: Destination, patch: Partial<Destination>, what: string) =>
    change(`${what} of ${d.name}`, (r) => ({
      ...r,
      destinations: r.destinations?.map((x) => (x.id === d.id ? { ...x, ...patch } : x)),
    }))
  const add = async () => {
    const id = freshId()
    pickDestination(id)
    await edit.change('rigs', rig.id, 'Add a destination', (r) => {
      const others = r.destinations ?? []
      const made: Destination = { id, name: `Destination ${others.length + 1}`, kind: 'hired-amp' }
      return { ...r, destinations: [...others, made] }
    })
  }
  return (
    <Fold title={`Destinations (${(rig.destinations ?? []).length})`}>
      <List>
        {(rig.destinations ?? []).map((d) => (
          <Panel key={d.id} aria-label={d.name}>
            <Row>
              <TextField label="Plugs into" value={d.name} onCommit={(name) => set(d, { name }, 'Name')} />
              <Select
                label="Kind"
                value={d.kind}
                options={Object.entries(kinds).map(([id, name]) => ({ id, name }))}
                onChange={(kind) => set(d, { kind: kind as Destination['kind'] }, 'Kind')}
              />
              {(d.kind === 'hired-amp' || d.kind === 'own-amp') && (
                <Select
                  label="Amp"
                  value={d.amp ?? 'own'}
                  options={[
                    { id: 'own', name: "the rig's own" },
                    ...amps.map((a) => ({ id: a.id, name: a.name })),
                  ]}
                  onChange={(id) => set(d, { amp: id === 'own' ? undefined : id }, 'Amp')}
                />
              )}
              {d.kind === 'mono-di' && (
                <Select
                  label="The line carries"
                  value={d.mono_line}
                  placeholder="not known"
                  options={Object.entries(monoLines).map(([id, name]) => ({ id, name }))}
                  onChange={(id) => set(d, { mono_line: id as Destination['mono_line'] }, 'Line')}
                />
              )}
              <Button
                aria-pressed={destination?.id === d.id}
                onPress={() => pickDestination(destination?.id === d.id ? '' : d.id)}
              >
                {destination?.id === d.id ? 'Back to the rig as it stands' : 'Plug in here'}
              </Button>
              <IconButton
                label={`Remove ${d.name}`}
                onPress={() =>
                  change(`Remove ${d.name}`, (r) => ({
                    ...r,
                    destinations: r.destinations?.filter((x) => x.id !== d.id),
                  }))
                }
              >
                <Icon name="cross" />
              </IconButton>
            </Row>
            <Row>
              {d.path?.length ? (
                <>
                  <Muted>It has a chain of its own, so changes of the rig's chain do not reach it.</Muted>
                  <Button onPress={() => set(d, { path: undefined }, 'Chain')}>Follow the rig's chain</Button>
                </>
              ) : (
                <Muted>It follows the rig's chain; moving a stop here gives it a chain of its own.</Muted>
              )}
            </Row>
            {destination?.id === d.id && order?.differs?.length ? (
              <Muted>Against the rig: {order.differs.join(', ')}.</Muted>
            ) : null}
            {(d.kind === 'stereo-di' || d.kind === 'mono-di') && (
              <Caution>
                Phantom power stays off unbalanced outputs; a DI with a transformer stands it.
              </Caution>
            )}
            {d.kind === 'headphones' && <Caution>Loudness harms hearing: begin with the level down.</Caution>}
          </Panel>
        ))}
        {(rig.destinations ?? []).length === 0 && (
          <Muted>
            The same board into a hired amp, two amps, or a line to the house. Reach, findings and cables are
            worked out for the one that is plugged in.
          </Muted>
        )}
        {(rig.destinations ?? []).length > 0 && (
          <SideBySide
            title="Side by side"
            rig={rig.id}
            query={{ into: (rig.destinations ?? []).map((d) => d.id), own: true }}
          />
        )}
        <HiredAmp rig={rig} />
        <div>
          <Button onPress={() => void add()}>
            <Icon name="plus" /> Add a destination
          </Button>
        </div>
      </List>
    </Fold>
  )
}

const List = styled.div`display: grid; gap: 10px; margin-top: 6px;`
