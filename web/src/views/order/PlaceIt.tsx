import { useState } from 'react'
import { usePlacing } from '../../api/plan'
import type { Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { withPath } from '../../state/there'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Figure, Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { TakeButton } from '../../ui/TakeButton'
import { spare } from './chain'
import { useChain } from './useChain'

/** Where a box of the pile would best stand among those in the chain. */
export function PlaceIt({ rig }: { rig: Rig }) {
  const { plan, destination } = useChosen()
  const { path } = useChain()
  const [gear, choose] = useState<string | undefined>()
  const boxes = [...new Map(spare(plan, path).map((s) => [s.id.split('/')[0] ?? '', s])).entries()].map(
    ([id]) => ({ id, name: plan.gear.find((g) => g.value.id === id)?.value.name ?? id }),
  )
  if (boxes.length === 0) return null
  const shown = boxes.some((b) => b.id === gear) ? gear : undefined
  return (
    <Fold title="Place a box of the pile">
      <Stack $gap={8}>
        <Select
          label="Box"
          value={shown ?? ''}
          options={[{ id: '', name: 'choose one' }, ...boxes]}
          onChange={(id) => choose(id || undefined)}
        />
        {shown && <Places rig={rig} gear={shown} destination={destination?.id} />}
      </Stack>
    </Fold>
  )
}

function Places({ rig, gear, destination }: { rig: Rig; gear: string; destination: string | undefined }) {
  const edit = useEdit()
  const { path } = useChain()
  const [all, showAll] = useState(false)
  const { data, fresh, from } = usePlacing(rig.id, gear, destination)
  if (!data) return <Muted>Trying every place.</Muted>
  const places = all ? data.places : data.places.slice(0, 3)
  return (
    <>
      {places.map((p) => (
        <div key={p.words}>
          <Row>
            <TakeButton
              fresh={fresh}
              onPress={() =>
                edit.change(
                  'rigs',
                  rig.id,
                  `Put ${data.name} ${p.words}`,
                  (r) => withPath(r, destination, path, () => p.path),
                  from,
                )
              }
            >
              Put {data.name} {p.words}
            </TakeButton>
            <Muted as="span">
              the order then costs <Figure>{p.cost}</Figure>, now <Figure>{data.now}</Figure>
            </Muted>
          </Row>
          {p.against.map((s) => (
            <Muted key={s}>{s}</Muted>
          ))}
        </div>
      ))}
      {data.places.length > 3 && (
        <Button onPress={() => showAll(!all)}>
          {all ? 'Show the best three' : `Show all ${data.places.length} places`}
        </Button>
      )}
      {data.places.length === 0 && <Muted>{data.name} finds no place in this chain.</Muted>}
    </>
  )
}
