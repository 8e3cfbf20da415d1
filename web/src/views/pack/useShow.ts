import { useSearchParams } from 'react-router'
import { values } from '../../api/plan'
import type { Show } from '../../api/types'
import { useChosen } from '../../state/place'

/** The show that the bar at the top is on: what is looked at is its set, its rig and where that plugs in. */
export function useShowAbove(): Show | undefined {
  const { plan, rig, setList, destination } = useChosen()
  return values(plan, 'shows').find(
    (s) =>
      s.set_list === setList?.id && s.rig === rig?.id && (s.destination ?? '') === (destination?.id ?? ''),
  )
}

/** The show whose paper is looked at: the one the address names, else the one the bar at the top is on,
 * else the first. Picking one takes the bar along. */
export function useShow(): [Show | undefined, (id: string) => void] {
  const { plan, pickShow } = useChosen()
  const [query, setQuery] = useSearchParams()
  const shows = values(plan, 'shows')
  const named = shows.find((s) => s.id === query.get('show'))
  const above = useShowAbove()
  const pick = (id: string) => {
    const show = shows.find((s) => s.id === id)
    if (!show) return
    pickShow(show.set_list, show.rig, show.destination)
    setQuery(
      (q) => {
        q.set('show', id)
        return q
      },
      { replace: true },
    )
  }
  return [named ?? above ?? shows[0], pick]
}
