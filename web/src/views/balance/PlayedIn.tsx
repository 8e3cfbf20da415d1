import { useEffect, useState } from 'react'
import { useLookup, usePlayedOtherwise } from '../../api/plan'
import { usePlace } from '../../state/place'
import { Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

const chain = { id: '', name: 'the chain as it stands' }

/** What figures are of, where songs of the set are played with another box or recipe: it follows the cursor until one is
 * chosen. The song is told to whoever asks for the figures, which are not drawn anew while it stays. */
export function PlayedIn({ use }: { use: (song: string | undefined) => void }) {
  const { plan, rig, setList, destination, section } = usePlace()
  const { data } = usePlayedOtherwise(rig?.id, setList?.id, destination?.id)
  const find = useLookup(plan)
  const [asked, ask] = useState<string | undefined>()
  const ways = (data?.ways ?? []).map((w) => ({
    id: w.songs[0] ?? '',
    songs: w.songs,
    name: `${w.songs.map((s) => find('songs', s)?.title ?? s).join(', ')} (${w.words})`,
  }))
  const way = ways.find((w) =>
    asked === undefined ? w.songs.includes(section?.song_id ?? '') : w.id === asked,
  )
  const song = way && (asked ?? section?.song_id)
  useEffect(() => use(song), [song, use])
  if (ways.length === 0) return null
  return (
    <Row>
      <Select label="Figures of" value={way?.id ?? chain.id} options={[chain, ...ways]} onChange={ask} />
    </Row>
  )
}
