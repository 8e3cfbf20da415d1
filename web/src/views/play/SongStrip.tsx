import styled from 'styled-components'
import type { PlaySong } from '../../api/types'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'

/** The whole song as tape, each section as long as it lasts, and where one is. */
export function SongStrip({ song, at }: { song: PlaySong; at: number }) {
  const { plan } = useChosen()
  const share = Math.max(0, Math.min(1, song.length_s > 0 ? at / song.length_s : 0))
  return (
    <Strip role="img" aria-label={`${Math.round(share * 100)} % of ${song.title}`}>
      {song.sections.map((s) => (
        <span
          key={s.position}
          title={s.label}
          style={{
            flexGrow: s.length_s,
            background: tape(plan.sounds.find((x) => x.value.id === s.sound)?.value.tape),
          }}
        >
          {s.label}
        </span>
      ))}
      <i style={{ left: `${share * 100}%` }} />
    </Strip>
  )
}

const Strip = styled.div`
  position: relative; display: flex; gap: 2px; height: 30px;
  span { flex-basis: 0; min-width: 0; overflow: hidden; white-space: nowrap; text-overflow: ellipsis; font: 600 14px/30px var(--face-label); color: var(--onTape); padding: 0 6px; }
  i { position: absolute; top: -4px; bottom: -4px; width: 3px; background: var(--text); border: 1px solid var(--bg); }
`
