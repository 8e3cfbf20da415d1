import { useLookup } from '../../api/plan'
import type { Rig, Show } from '../../api/types'
import { useChosen } from '../../state/place'
import { Select } from '../../ui/Select'
import type { ChangeShow } from './ShowSheet'

/** Which box stands in each swap slot of the show's rig on its night; its sheets are made so. */
export function Picks({ show, rig, change }: { show: Show; rig: Rig | undefined; change: ChangeShow }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const name = (id: string) => find('gear', id)?.name ?? id
  const chain = JSON.stringify([rig?.path, rig?.destinations?.map((d) => d.path)])
  return (rig?.swaps ?? []).map((s) => {
    const there = s.boxes?.find((b) => chain.includes(`"stop":"${b.gear}/`))
    return (
      <Select
        key={s.id}
        label={s.name}
        value={show.picks?.find((x) => x.swap === s.id)?.gear ?? 'chain'}
        options={[
          { id: 'chain', name: `As the chain: ${there ? name(there.gear) : 'none'}` },
          ...(s.boxes ?? []).map((b) => ({ id: b.gear, name: name(b.gear) })),
        ]}
        onChange={(gear) =>
          change(`${s.name}`, (x) => {
            const others = (x.picks ?? []).filter((y) => y.swap !== s.id)
            const picks = gear === 'chain' ? others : [...others, { swap: s.id, gear }]
            return { ...x, picks: picks.length > 0 ? picks : undefined }
          })
        }
      />
    )
  })
}
