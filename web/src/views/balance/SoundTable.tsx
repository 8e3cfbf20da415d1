import styled from 'styled-components'
import type { SignalReport } from '../../api/types'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { signed } from '../../ui/figures'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Panel, Tape } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import type { HeardBy } from './heardBy'

const Tight = styled(Grid)`td > span, td div span { white-space: nowrap; } th, td { padding-right: 14px; }`

/** Every sound's figures: level, dirt by touch, squash, hiss, what rings, and what a mono sum costs. */
export function SoundTable({ report, heard }: { report: SignalReport; heard: HeardBy }) {
  const { plan, sound: here } = usePlace()
  const tapeOf = (id: string) => tape(plan.sounds.find((s) => s.value.id === id)?.value.tape)
  return (
    <Panel aria-label="Sounds metered" role="region">
      <Heading>Sounds metered</Heading>
      <Wide>
        <Tight aria-label="Sounds metered">
          <thead>
            <tr>
              <th scope="col">Sound</th>
              <th scope="col">Over home</th>
              <th scope="col">Dirt soft / normal / hard</th>
              <th scope="col">Squash</th>
              <th scope="col">Over hiss</th>
              <th scope="col">Peak</th>
              <th scope="col">What rings</th>
              <th scope="col">Mono sum</th>
              <th scope="col">Targets</th>
              <th scope="col">Hear</th>
            </tr>
          </thead>
          <tbody>
            {report.sounds.map((s) => {
              const f = s.figures
              return (
                <tr key={s.sound} aria-current={s.sound === here?.id ? 'true' : undefined}>
                  <td>
                    <Tape $small style={{ background: tapeOf(s.sound) }}>
                      {s.name}
                    </Tape>
                  </td>
                  <td>
                    <Figure>{signed(s.over_home_lu)} LU</Figure>
                  </td>
                  <td>
                    <Figure>
                      {f.dirt_soft_pct.toFixed(0)} / {f.dirt_pct.toFixed(0)} / {f.dirt_hard_pct.toFixed(0)} %
                    </Figure>
                  </td>
                  <td>
                    <Figure>{f.squash.toFixed(2)}</Figure>
                  </td>
                  <td>
                    <Figure>{f.noise_db.toFixed(0)} dB</Figure>
                  </td>
                  <td>
                    <Figure>{signed(f.peak_dbfs)} dBFS</Figure>
                  </td>
                  <td>
                    {f.times.map((t) => (
                      <div key={t.stop}>
                        {t.name} <Figure>{signed(t.first_db)} dB</Figure>
                        {t.audible ? `, ${t.audible} heard` : ''}
                        {t.mud_db > -30 && (
                          <>
                            , mud <Figure>{signed(t.mud_db, 0)} dB</Figure>
                          </>
                        )}
                      </div>
                    ))}
                    {f.tremolo_depth !== undefined && (
                      <div>tremolo {Math.round(100 * f.tremolo_depth)} % left</div>
                    )}
                    {f.chorus_left !== undefined && (
                      <div>chorus {Math.round(100 * f.chorus_left)} % left</div>
                    )}
                  </td>
                  <td>
                    {f.fold_down_lu === undefined ? (
                      <Muted as="span">mono</Muted>
                    ) : (
                      <>
                        <Figure>−{f.fold_down_lu.toFixed(1)} LU</Figure>
                        {(f.sides ?? 1) < -0.3 && ', upside down'}
                      </>
                    )}
                    {f.lanes.length > 1 &&
                      f.lanes.map((l) => (
                        <div key={l.name}>
                          {l.name} <Figure>{signed(l.loudness_lufs)} LUFS</Figure>
                        </div>
                      ))}
                    {f.mono_sums.map((m) => (
                      <div key={m.stop}>
                        summed in {m.name} <Figure>−{Math.max(0, m.cost_lu).toFixed(1)} LU</Figure>
                      </div>
                    ))}
                  </td>
                  <td>
                    {s.checks
                      .filter((c) => !c.met)
                      .map((c) => (
                        <div key={c.words}>{c.words}</div>
                      ))}
                    {s.checks.every((c) => c.met) && (
                      <Muted as="span">{s.checks.length ? 'met' : 'none set'}</Muted>
                    )}
                  </td>
                  <td>
                    <ListenButton title={s.name} query={{ sound: s.sound, ...heard }} />
                  </td>
                </tr>
              )
            })}
          </tbody>
        </Tight>
      </Wide>
      {report.assumed.map((a) => (
        <Muted key={a}>{a}</Muted>
      ))}
    </Panel>
  )
}
