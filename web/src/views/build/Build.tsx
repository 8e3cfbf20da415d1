import { usePlace } from '../../state/place'
import { Muted, Stack, Title } from '../../ui/layout'
import { PowerPlan } from './PowerPlan'

/** The board as it is built: what feeds each box. */
export function Build() {
  const { rig } = usePlace()
  if (!rig || (rig.path ?? []).length === 0) {
    return (
      <Stack>
        <Title>Build</Title>
        <Muted>
          Here every box gets an output of a supply that fits it. It wants a rig with a chain: make one in
          Order.
        </Muted>
      </Stack>
    )
  }
  return <PowerPlan rig={rig} />
}
