import type { Rig, RoomScene } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { NumberField } from '../../ui/fields'
import { bandNames, signed } from '../../ui/figures'
import { Figure } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

type Levels = NonNullable<Rig['lane_levels']>

/** The places where the rig ends, each with its level in this sound: as it is, and as it is wished. */
export function Lanes({ scene, song, title }: { scene: RoomScene; song: string; title: string }) {
  const { rig } = usePlace()
  const edit = useEdit()
  if (scene.lanes.length < 2 || !rig) return null
  const levels = rig.lane_levels ?? []
  const wished = (lane: string, of?: string) =>
    levels.find((x) => x.lane === lane && x.sound === scene.sound && x.song === of)?.level_lu
  const wish = (lane: string, name: string, of: string | undefined, level_lu: number | undefined) =>
    edit.change('rigs', rig.id, `${name} in ${scene.name}`, (r) => ({
      ...r,
      lane_levels: put(r.lane_levels ?? [], lane, scene.sound, of, level_lu),
    }))
  return (
    <Wide style={{ maxHeight: 'none' }}>
      <Grid aria-label="Lanes here">
        <thead>
          <tr>
            <th scope="col">Lane</th>
            <th scope="col">Over home</th>
            {!scene.home && <th scope="col">Wished in {scene.name}, LU</th>}
            {!scene.home && <th scope="col">In {title} alone, LU</th>}
            <th scope="col">Of the whole</th>
            {bandNames.map((b) => (
              <th key={b} scope="col">
                {b}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {scene.lanes.map((l) => (
            <tr key={l.key}>
              <th scope="row">{l.name}</th>
              <td>
                <Figure>{signed(l.level_lu)} LU</Figure>
              </td>
              {!scene.home && (
                <>
                  <td>
                    <NumberField
                      label={`${l.name} wished in ${scene.name}, LU over home`}
                      hideLabel
                      width={90}
                      min={-40}
                      max={40}
                      step={0.5}
                      value={wished(l.key)}
                      onCommit={(v) => wish(l.key, l.name, undefined, v)}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`${l.name} wished in ${scene.name} in ${title}, LU over home`}
                      hideLabel
                      width={90}
                      min={-40}
                      max={40}
                      step={0.5}
                      value={wished(l.key, song)}
                      onCommit={(v) => wish(l.key, l.name, song, v)}
                    />
                  </td>
                </>
              )}
              <td>
                <Figure>{Math.round(l.share_pct)} %</Figure>
              </td>
              {(l.bands_db ?? []).map((x, i) => (
                <td key={bandNames[i]}>
                  <Figure>{signed(x, 0)} dB</Figure>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Grid>
    </Wide>
  )
}

/** Levels with one said anew, or no more where it is undefined. */
function put(levels: Levels, lane: string, sound: string, song: string | undefined, level_lu?: number) {
  const same = (x: Levels[number]) => x.lane === lane && x.sound === sound && x.song === song
  if (level_lu === undefined) return levels.filter((x) => !same(x))
  return levels.some(same)
    ? levels.map((x) => (same(x) ? { ...x, level_lu } : x))
    : [...levels, { lane, sound, ...(song ? { song } : {}), level_lu }]
}
