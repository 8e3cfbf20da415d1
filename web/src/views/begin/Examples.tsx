import { useQuery } from '@tanstack/react-query'
import styled from 'styled-components'
import { answer, client } from '../../api/client'
import type { ExampleRig } from '../../api/types'
import { EffectMark } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Muted } from '../../ui/layout'
import { useTake } from './useTake'

/** Eight ways to put a rig together, each to be taken as one's own. */
export function Examples() {
  const { pickRig, pickSet } = useChosen()
  const take = useTake()
  const { data } = useQuery({
    queryKey: ['examples'],
    queryFn: () => answer(client.GET('/api/examples')),
    staleTime: Number.POSITIVE_INFINITY,
  })
  const start = async (e: ExampleRig) => {
    const file = await answer(
      client.GET('/api/examples/{id}', { params: { path: { id: e.id } }, parseAs: 'text' }),
    )
    if (await take(String(file), `Start from ${e.name}`)) {
      pickRig(e.rig)
      pickSet(e.set_list)
    }
  }
  return (
    <Cards aria-label="Rigs to start from">
      {data?.examples.map((e) => (
        <li key={e.id}>
          <b>{e.name}</b>
          <Chain role="img" aria-label={e.stops.map((s) => s.is_a || s.name).join(', ')}>
            {e.stops.map((s) => (
              <span
                key={s.name}
                title={`${s.name}, ${s.is_a}`}
                style={{ borderTopColor: s.colour || undefined }}
              >
                <EffectMark effect={s.effect} />
              </span>
            ))}
          </Chain>
          <Muted>{e.line}</Muted>
          <Button onPress={() => void start(e)}>Start from {e.name}</Button>
        </li>
      ))}
    </Cards>
  )
}

const Cards = styled.ul`
  list-style: none; margin: 8px 0 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(290px, 1fr)); gap: 10px;
  li { background: var(--panel); border: 1px solid var(--line); padding: 12px; display: grid; gap: 8px; align-content: start; justify-items: start; }
  b { font: 600 18px/1.2 var(--face-label); }
`
const Chain = styled.div`
  display: flex; flex-wrap: wrap; gap: 4px;
  span { border: 1px solid var(--edge); border-top: 5px solid var(--edge); background: var(--bg); padding: 4px; display: grid; }
`
