import { useListen, type Wish } from '../state/listen'
import { useChosen } from '../state/place'
import { Button } from './controls'

type Heard = Pick<Wish, 'title' | 'query'>

/** Plays something of the rig as it stands here; where `wish` is given, what that says when it is pressed. */
export function ListenButton(p: (Heard & { label?: string }) | { wish: () => Heard; label: string }) {
  const listen = useListen()
  const { rig, destination } = useChosen()
  if (!rig) return null
  const press = () => {
    const { title, query } = 'wish' in p ? p.wish() : p
    listen({ title, query: { rig: rig.id, destination: destination?.id, ...query } })
  }
  return (
    <Button aria-label={'wish' in p ? p.label : (p.label ?? `Listen to ${p.title}`)} onPress={press}>
      Listen
    </Button>
  )
}
