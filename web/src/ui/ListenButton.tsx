import { useListen, type Wish } from '../state/listen'
import { useChosen } from '../state/place'
import { Button } from './controls'

/** Plays something of the rig as it stands here. */
export function ListenButton({
  title,
  query,
  label,
}: {
  title: string
  query: Wish['query']
  label?: string
}) {
  const listen = useListen()
  const { rig, destination } = useChosen()
  if (!rig) return null
  return (
    <Button
      aria-label={label ?? `Listen to ${title}`}
      onPress={() => listen({ title, query: { rig: rig.id, destination: destination?.id, ...query } })}
    >
      Listen
    </Button>
  )
}
