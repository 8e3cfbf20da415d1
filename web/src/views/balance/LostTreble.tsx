import { useState } from 'react'
import styled from 'styled-components'
import { useElectric } from '../../api/plan'
import type { ElectricReport, ElectricSound, Rig } from '../../api/types'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button, Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { hertz, signed } from '../../ui/figures'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Slider } from '../../ui/Slider'
import { Grid, Wide } from '../../ui/Table'
import { BufferChain } from './BufferChain'
import { Curves } from './Curves'
import { curvesOf } from './curvesOf'

/** How much treble each sound loses to cables, pots and switched-off boxes, and where one buffer
 * would cure it. */
export function LostTreble({ rig }: { rig: Rig }) {
  const { destination, setList, recipe, go, plan } = usePlace()
  const [buffer, tryAt] = useState<string | undefined>()
  const [volume, turn] = useState<number | undefined>()
  const [asTable, showTable] = useState(false)
  const where = { setList: setList?.id, destination: destination?.id }
  const { data: now, fresh, from } = useElectric(rig.id, { ...where, volume })
  const tried = buffer && now?.places.some((p) => p.before === buffer) ? buffer : undefined
  const { data: with_ } = useElectric(tried && rig.id, { ...where, volume, buffer: tried })
  const report = tried ? (with_ ?? now) : now
  if (!now || !report || report.sounds.length === 0) return null
  const here = report.sounds.find((s) => s.recipe === recipe?.id) ?? report.sounds[0]
  if (!here) return null
  const jump = report.jump
  return (
    <Panel aria-label="Lost treble" role="region">
      <Row $gap={16} style={{ alignItems: 'center' }}>
        <Heading>Lost treble</Heading>
        <Switch label="As a table" value={asTable} onChange={showTable} />
        <Slider
          label="Guitar volume"
          value={volume ?? here.guitar_volume}
          text={volume === undefined ? `${here.guitar_volume}, as the recipe says` : undefined}
          min={0}
          max={10}
          step={0.5}
          onChange={turn}
        />
        {volume !== undefined && <Button onPress={() => turn(undefined)}>As the recipe says</Button>}
      </Row>
      <Says>
        <b>{here.name}</b> {here.tone5k_db > 0.05 ? 'loses' : 'is within'}{' '}
        <Figure>{Math.abs(here.tone5k_db).toFixed(1)} dB</Figure> of treble at 5 kHz, under the guitar on full
        through 3 m. Its level is <Figure>{signed(here.level_db)} dB</Figure>.{' '}
        {here.peak_hz !== null && here.peak_hz !== undefined
          ? `Its peak is ${signed(here.peak_db ?? 0)} dB at ${hertz(here.peak_hz)}.`
          : 'It has no peak.'}{' '}
        <Figure>{here.before_pf.toFixed(0)} pF</Figure> of cable and switched-off boxes hang on the guitar
        {here.first_buffer_name ? ` before ${here.first_buffer_name}.` : ', and no live buffer comes.'}
      </Says>
      {asTable ? (
        <SoundRows report={report} />
      ) : (
        <Curves
          label="Treble over frequency; read it with the arrow keys"
          curves={curvesOf(report, now, here, tried, (id) =>
            tape(plan.sounds.find((s) => s.value.id === id)?.value.tape),
          )}
        />
      )}
      <Says>
        {jump && Math.max(Math.abs(jump.jump_db), Math.abs(jump.most_db)) >= 0.1 ? (
          <>
            Biggest jump: {jump.from_name} to {jump.to_name}, <Figure>{signed(jump.jump_db)} dB</Figure> of
            treble at 5 kHz, most at <Figure>{(jump.most_hz / 1000).toFixed(1)} kHz</Figure>:{' '}
            <Figure>{signed(jump.most_db)} dB</Figure>
            {Math.abs(jump.level_db) >= 0.1 && (
              <>
                {' '}
                and <Figure>{signed(jump.level_db)} dB</Figure> of level
              </>
            )}
            {jump.position >= 0 && (
              <>
                {' '}
                ({jump.song}, {jump.section}){' '}
                <Button $plain onPress={() => go(jump.position)}>
                  Show
                </Button>
              </>
            )}
          </>
        ) : (
          'No two sounds that follow each other differ in treble.'
        )}
      </Says>
      <BufferChain report={now} fresh={fresh} from={from} tried={tried} onTry={tryAt} />
      {now.fuzzes.map((f) => (
        <Fold key={f.fuzz} title={`${f.name}: from the pickup, and behind a buffer`}>
          <Curves
            label={`What ${f.name} gets; read it with the arrow keys`}
            curves={[
              {
                id: 'as',
                name: f.buffered ? 'behind a buffer, as it stands' : 'from the pickup, as it stands',
                points: f.as_it_stands,
                colour: 'var(--text)',
                width: 3,
              },
              {
                id: 'other',
                name: f.buffered ? 'from the pickup' : 'behind a buffer',
                points: f.otherwise,
                colour: 'var(--wire)',
                dash: '6 4',
              },
            ]}
          />
        </Fold>
      ))}
      {report.assumed.length > 0 && (
        <Fold title={`Assumed (${report.assumed.length})`}>
          {report.assumed.map((a) => (
            <Muted key={a}>{a}</Muted>
          ))}
        </Fold>
      )}
    </Panel>
  )
}

function SoundRows({ report }: { report: ElectricReport }) {
  const at = (s: ElectricSound, hz: number) =>
    s.points.reduce((a, b) => (Math.abs(Math.log(b.f_hz / hz)) < Math.abs(Math.log(a.f_hz / hz)) ? b : a)).db
  return (
    <Wide>
      <Grid $tight aria-label="Treble of each sound">
        <thead>
          <tr>
            <th scope="col">Sound</th>
            <th scope="col">Treble lost</th>
            <th scope="col">Level</th>
            <th scope="col">Peak</th>
            <th scope="col">3 dB down</th>
            <th scope="col">1 kHz</th>
            <th scope="col">2 kHz</th>
            <th scope="col">5 kHz</th>
            <th scope="col">10 kHz</th>
            <th scope="col">First live buffer</th>
            <th scope="col">Before it</th>
          </tr>
        </thead>
        <tbody>
          {report.sounds.map((s) => (
            <tr key={s.recipe}>
              <th scope="row">{s.name}</th>
              <td>
                <Figure>{s.tone5k_db.toFixed(1)} dB</Figure>
              </td>
              <td>
                <Figure>{signed(s.level_db)} dB</Figure>
              </td>
              <td>
                {s.peak_hz !== null && s.peak_hz !== undefined ? (
                  <Figure>
                    {signed(s.peak_db ?? 0)} dB, {hertz(s.peak_hz)}
                  </Figure>
                ) : (
                  'no peak'
                )}
              </td>
              <td>
                {s.minus3_hz !== null && s.minus3_hz !== undefined ? (
                  <Figure>{hertz(s.minus3_hz)}</Figure>
                ) : (
                  'over 20 kHz'
                )}
              </td>
              {[1000, 2000, 5000, 10000].map((hz) => (
                <td key={hz}>
                  <Figure>{signed(at(s, hz))}</Figure>
                </td>
              ))}
              <td>{s.first_buffer_name ?? 'none'}</td>
              <td>
                <Figure>{s.before_pf.toFixed(0)} pF</Figure>
              </td>
            </tr>
          ))}
        </tbody>
      </Grid>
    </Wide>
  )
}

const Says = styled.p`font-size: 14px; button { font-size: 13px; }`
