import { useLayers } from '../../api/plan'
import type { LayersHeard, Song } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { layersOf } from './looped'

/** When a looper's switch is pressed in a song, and what becomes of its layers under other sounds. */
export function SongLayers({ song }: { song: Song }) {
  const { rig, destination, setList } = useChosen()
  const asks = layersOf(song).length > 0
  const { data } = useLayers(asks ? rig?.id : undefined, setList?.id, destination?.id)
  const mine = data?.songs.find((s) => s.song === song.id)
  const heard = useWork<LayersHeard>(
    '/api/layers/heard',
    rig && setList && mine?.under.length
      ? { rig: rig.id, destination: destination?.id, set_list: setList.id, dry: undefined }
      : undefined,
  )
  if (!asks) return null
  return (
    <section aria-label={`Layers of ${song.title}`}>
      <Heading>Layers</Heading>
      {!mine && <Muted>The set does not have this song, so nothing is pressed for its layers.</Muted>}
      {data?.findings
        .filter((f) => !f.entry || f.entry === mine?.entry)
        .map((f) => (
          <p key={f.id} role="note">
            <b>{f.title}.</b> {f.words}
          </p>
        ))}
      {mine && (
        <Wide>
          <Grid $tight aria-label="Presses of the looper">
            <thead>
              <tr>
                <th scope="col">Section</th>
                <th scope="col">Bar</th>
                <th scope="col">At</th>
                <th scope="col">Press</th>
              </tr>
            </thead>
            <tbody>
              {mine.presses.map((p) => (
                <tr key={`${p.at_s} ${p.act}`}>
                  <td>{p.label}</td>
                  <td>{p.bar}</td>
                  <td>
                    <Figure>{p.at_s.toFixed(2)} s</Figure>
                  </td>
                  <td>{p.words}</td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
      {mine?.under.map((u) => {
        const change = heard.result?.heard.find(
          (h) => h.entry === mine.entry && h.section === u.section && h.layer === u.layer,
        )
        return (
          <Row key={`${u.section} ${u.layer}`} $gap={10}>
            <span>
              {u.label}: {u.words}{' '}
              {change && (
                <Figure>
                  {signed(change.louder_lu)} LU, {signed(change.dirtier_pct)} points of dirt
                </Figure>
              )}
            </span>
            <ListenButton
              title={`${u.layer} in ${u.label}`}
              query={{ sound: u.recorded, recipe: u.recipe, values: JSON.stringify(u.over) }}
            />
          </Row>
        )
      })}
      {data?.assumed.map((a) => (
        <Muted key={a}>{a}</Muted>
      ))}
    </section>
  )
}

const signed = (x: number) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(1)}`
