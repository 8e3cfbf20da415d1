import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'

/** The tape of a sound by its id. */
export function useSoundTape() {
  const { plan } = useChosen()
  return (id: string | undefined) => tape(plan.sounds.find((s) => s.value.id === id)?.value.tape)
}
