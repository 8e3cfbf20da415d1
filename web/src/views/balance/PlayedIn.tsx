import { useEffect, useState } from 'react'
import { useLookup } from '../../api/plan'
import type { Otherwise } from '../../api/types'
import { usePlace } from '../../state/place'
import { Button } from '../../ui/controls'
import { Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

const chain = { id: '', name: 'the chain as it stands' }

/** What figures are of, where songs of the set are played with another box or recipe: the chain, until a song is chosen. The
 * song is told to whoever asks for the figures, which are not drawn anew when the cursor moves. */
export function PlayedIn({ ways: all, use }: { ways: Otherwise[]; use: (song: string | undefined) => void }) {
  const { plan, section } = usePlace()
  const find = useLookup(plan)
  const [asked, ask] = useState(chain.id)
  const ways = all.map((w) => ({
    id: w.songs[0] ?? '',
    songs: w.songs,
    name: `${w.songs.map((s) => find('songs', s)?.title ?? s).join(', ')} (${w.words})`,
  }))
  const song = ways.find((w) => w.id === asked)?.id
  const here = ways.find((w) => w.songs.includes(section?.song_id ?? ''))
  useEffect(() => use(song), [song, use])
  if (ways.length === 0) return null
  return (
    <Row>
      <Select label="Figures of" value={song ?? chain.id} options={[chain, ...ways]} onChange={ask} />
      {here && here.id !== song && <Button onPress={() => ask(here.id)}>As {section?.song} is played</Button>}
    </Row>
  )
}
