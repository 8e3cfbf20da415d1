import { useState } from 'react'
import type { DialChannels } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { signed } from '../../ui/figures'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

/** The channels of the amp at the levels they stand at, the gain they keep in reserve, and the leads above the others. */
export function ChannelsLevel({ query }: { query: object }) {
  const [asked, ask] = useState(false)
  const work = useWork<DialChannels>('/api/dial/channels', asked ? query : undefined)
  const found = work.latest
  return (
    <Panel aria-label="Channels and leads" role="region">
      <Row $gap={12}>
        <Heading>Channels level, leads above</Heading>
        {!asked && <Button onPress={() => ask(true)}>Compare channels and leads</Button>}
      </Row>
      {work.busy && <Progress label="Playing each channel" share={work.progress} cancel={work.cancel} />}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {found?.words && <Muted>{found.words}</Muted>}
      {found && (found.channels.length > 0 || found.leads.length > 0) && (
        <Wide style={{ maxHeight: 'none' }}>
          <Grid aria-label="Channels and leads">
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">Level</th>
                <th scope="col">Dirt</th>
                <th scope="col">Gain in reserve</th>
                <th scope="col">What makes it so</th>
              </tr>
            </thead>
            <tbody>
              {found.channels.map((c) => (
                <tr key={c.name}>
                  <th scope="row">
                    {found.name}, {c.name}
                  </th>
                  <td>
                    <Figure>{signed(c.over_lu)} LU</Figure> over {found.reference}
                  </td>
                  <td>
                    <Figure>{Math.round(c.dirt_pct)} %</Figure>
                  </td>
                  <td>
                    <Figure>{Math.round(c.reserve_pct)} points</Figure>
                  </td>
                  <td>
                    <Way words={c.words} row={c} fresh={work.fresh} from={work.from} />
                  </td>
                </tr>
              ))}
              {found.leads.map((l) => (
                <tr key={l.sound}>
                  <th scope="row">{l.name}</th>
                  <td>
                    <Figure>{signed(l.over_lu)} LU</Figure> over the loudest other, {signed(l.wanted_lu)}{' '}
                    wanted
                  </td>
                  <td />
                  <td />
                  <td>
                    <Way words={l.words} row={l} fresh={work.fresh} from={work.from} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
    </Panel>
  )
}

function Way(p: {
  words: string
  row: Pick<DialChannels['channels'][number], 'level' | 'rig'>
  fresh: boolean
  from: string | undefined
}) {
  const { rig } = useChosen()
  const edit = useEdit()
  const { level, rig: next } = p.row
  if (!level || !next || !rig) return p.words
  return (
    <>
      {p.words}{' '}
      <TakeButton
        fresh={p.fresh}
        onPress={() => void edit.change('rigs', rig.id, `${level.name} to ${level.at}`, () => next, p.from)}
      >
        Set {level.name} to {level.at}
      </TakeButton>
    </>
  )
}
