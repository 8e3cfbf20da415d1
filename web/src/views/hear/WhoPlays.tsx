import { useState } from 'react'
import styled from 'styled-components'
import { usePlaying, values } from '../../api/plan'
import type { Band, Playing } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'

/** Who plays in which section of a song, and how loud there. */
export function WhoPlays({ band }: { band: Band }) {
  return (
    <Fold level={2} title={`Where the parts of ${band.name} play`}>
      <SongOf band={band} />
    </Fold>
  )
}

function SongOf({ band }: { band: Band }) {
  const { plan, section } = usePlace()
  const songs = values(plan, 'songs')
  const [chosen, choose] = useState<string | undefined>()
  const song = songs.find((s) => s.id === (chosen ?? section?.song_id)) ?? songs[0]
  const edit = useEdit()
  const { data } = usePlaying(band.id, song?.id)
  if (!song) return <Muted>There are no songs yet.</Muted>
  const put = (part: string, sectionId: string, what: string, patch: Partial<Playing>) =>
    edit.change('bands', band.id, what, (b) => {
      const list = b.playing ?? []
      const at = (x: Playing) => x.part === part && x.song === song.id && x.section === sectionId
      const said = list.find(at)
      const whole = list.find((x) => x.part === part && x.song === song.id && !x.section)
      const next: Playing = { ...(said ?? whole), part, song: song.id, section: sectionId, ...patch }
      return { ...b, playing: said ? list.map((x) => (at(x) ? next : x)) : [...list, next] }
    })
  return (
    <>
      <Row style={{ padding: '10px 0' }}>
        <Select
          label="Song"
          value={song.id}
          options={songs.map((s) => ({ id: s.id, name: s.title }))}
          onChange={choose}
        />
        <Muted as="span">
          A voice rests where the guitar leads, until you say otherwise. Numbers are dB over how a part
          usually plays.
        </Muted>
      </Row>
      <Wide style={{ maxHeight: 'none' }}>
        <Tight aria-label={`Who plays in ${song.title}`}>
          <thead>
            <tr>
              <th scope="col">Section</th>
              {band.parts.map((p) => (
                <th key={p.id} scope="col">
                  {p.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {(data?.sections ?? []).map((s) => (
              <tr key={s.section}>
                <th scope="row">{s.label}</th>
                {s.parts.map((x, i) => {
                  const name = band.parts[i]?.name ?? ''
                  return (
                    <td key={x.part}>
                      <Switch
                        hideLabel
                        label={`${name} plays in ${s.label}`}
                        value={!x.rests}
                        onChange={(on) =>
                          void put(x.part, s.section, `${name} ${on ? 'plays' : 'rests'} in ${s.label}`, {
                            rests: !on || undefined,
                          })
                        }
                      />
                      {!x.rests && (
                        <NumberField
                          hideLabel
                          label={`Level of ${name} in ${s.label}, dB`}
                          placeholder="0"
                          width={64}
                          value={x.level_db || undefined}
                          min={-60}
                          max={40}
                          onCommit={(level_db) =>
                            put(x.part, s.section, `Level of ${name} in ${s.label}`, { level_db })
                          }
                        />
                      )}
                    </td>
                  )
                })}
              </tr>
            ))}
          </tbody>
        </Tight>
      </Wide>
    </>
  )
}

const Tight = styled(Grid)`th, td { padding-right: 10px; } td > * { margin-bottom: 4px; }`
