import { useLookup } from '../../api/plan'
import type { Show } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import type { ChangeShow } from './ShowSheet'

/** Fresh batteries of the night: each sets the hours its box has run to nothing. */
export function Batteries({ show, change }: { show: Show; change: ChangeShow }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const find = useLookup(plan)
  const run = find('rigs', show.rig)?.batteries ?? []
  const fresh = show.batteries ?? []
  const name = (id: string) => find('gear', id)?.name ?? id
  return (
    <Panel aria-label="Batteries">
      <Heading>Batteries</Heading>
      {run.length === 0 && <Muted>No box of this rig runs on a battery.</Muted>}
      {run.map((b) => (
        <Row key={b.gear}>
          <span>
            {name(b.gear)}: has run for {b.used_h ?? 0} hours
          </span>
          <Button onPress={() => edit.freshBattery(show.id, b.gear)}>Fresh battery in {name(b.gear)}</Button>
        </Row>
      ))}
      {fresh.length > 0 && (
        <ul aria-label="Fresh for this show">
          {fresh.map((id) => (
            <li key={id}>
              {name(id)} got a fresh battery.
              <IconButton
                label={`Strike the battery of ${name(id)}`}
                onPress={() =>
                  change('Strike a battery', (s) => ({
                    ...s,
                    batteries: (s.batteries ?? []).filter((x) => x !== id),
                  }))
                }
              >
                <Icon name="cross" />
              </IconButton>
            </li>
          ))}
        </ul>
      )}
    </Panel>
  )
}
