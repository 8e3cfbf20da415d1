import { useSetOrder } from '../../api/plan'
import type { Gear, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Fold } from '../../ui/Fold'
import { Muted, Row, Stack } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

/** The presets of a device in the order in which the set first calls for them, copied in one step. */
export function InSetOrder({ rig, gear }: { rig: Rig; gear: Gear }) {
  return (
    <Fold title="Presets in the order of the set">
      <Moves rig={rig} gear={gear} />
    </Fold>
  )
}

function Moves({ rig, gear }: { rig: Rig; gear: Gear }) {
  const { setList } = useChosen()
  const edit = useEdit()
  const { data, error, fresh, from } = useSetOrder(rig.id, setList?.id, gear.id)
  if (!setList) return <Muted>Make a set list first.</Muted>
  if (error) return <Muted role="alert">{error.message}</Muted>
  if (!data) return null
  return (
    <Stack $gap={8}>
      <Muted role="status">{data.words}</Muted>
      {data.moves.length > 0 && (
        <>
          <Wide>
            <Grid aria-label={`Presets of ${gear.name} that change places`}>
              <thead>
                <tr>
                  <th scope="col">From</th>
                  <th scope="col">To</th>
                  <th scope="col">Name</th>
                  <th scope="col">First called for in</th>
                </tr>
              </thead>
              <tbody>
                {data.moves.map((m) => (
                  <tr key={m.from}>
                    <td>{m.from}</td>
                    <td>{m.to}</td>
                    <td>{m.name ?? ''}</td>
                    <td>{m.song ?? 'not in this set'}</td>
                  </tr>
                ))}
              </tbody>
            </Grid>
          </Wide>
          <Muted>Recipes, programs and names go along. Switches stay on the presets they are for.</Muted>
          <Row>
            <TakeButton
              fresh={fresh}
              onPress={() =>
                edit.change(
                  'rigs',
                  rig.id,
                  `Presets of ${gear.name} in the order of the set`,
                  () => data.rig,
                  from,
                )
              }
            >
              Copy them into this order
            </TakeButton>
          </Row>
        </>
      )}
    </Stack>
  )
}
