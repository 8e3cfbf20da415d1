import { useState } from 'react'
import type { RoomHalls } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row, Tape } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { useHall } from './useRoom'

/** What is heard of each sound in the open air and in halls, side by side; one of them is looked at. */
export function Halls() {
  const { plan, rig, destination, setList } = useChosen()
  const [asked, ask] = useState(false)
  const [hall, choose] = useHall()
  const work = useWork<RoomHalls>(
    '/api/room/halls',
    asked && rig && setList ? { rig: rig.id, destination: destination?.id, set_list: setList.id } : undefined,
  )
  const found = work.latest
  return (
    <Panel aria-label="Halls side by side" role="region">
      <Row $gap={12}>
        <Heading>Halls side by side</Heading>
        {hall > 0 && (
          <Muted as="span">
            Looked at in a hall that rings for <Figure>{hall} s</Figure>.
          </Muted>
        )}
        {hall > 0 && <Button onPress={() => choose(0)}>Back to the open air</Button>}
        {!asked && <Button onPress={() => ask(true)}>Compare halls</Button>}
      </Row>
      {work.busy && <Progress label="Listening in each hall" share={work.progress} cancel={work.cancel} />}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {found && (
        <Wide style={{ maxHeight: 'none' }}>
          <Grid aria-label="Halls side by side">
            <thead>
              <tr>
                <th scope="col" style={{ minWidth: 190 }}>
                  Heard of
                </th>
                {found.halls.map((h) => (
                  <th key={h.name} scope="col">
                    {h.name}
                    {h.reverb_s > 0 && `, ${h.reverb_s} s`}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {found.sounds.map((s, i) => (
                <tr key={`${s.sound} ${s.title} ${s.section}`}>
                  <th scope="row">
                    <Tape
                      $small
                      style={{
                        background: tape(plan.sounds.find((x) => x.value.id === s.sound)?.value.tape),
                      }}
                      title={s.name}
                    >
                      {s.name}
                    </Tape>{' '}
                    {s.tuned ?? s.title}
                  </th>
                  {found.halls.map((h) => (
                    <td key={h.name}>
                      <Figure>{Math.round(h.heard[i]?.heard_pct ?? 0)} %</Figure>
                    </td>
                  ))}
                </tr>
              ))}
              <tr>
                <th scope="row">Wrong there</th>
                {found.halls.map((h, i) => (
                  <td key={h.name}>
                    {h.findings.join(', ') || (i === 0 ? 'nothing' : 'nothing more')}
                    {h.reverb_s !== hall && (
                      <div>
                        <Button aria-label={`Look at it in: ${h.name}`} onPress={() => choose(h.reverb_s)}>
                          Look at it
                        </Button>
                      </div>
                    )}
                  </td>
                ))}
              </tr>
            </tbody>
          </Grid>
        </Wide>
      )}
    </Panel>
  )
}
