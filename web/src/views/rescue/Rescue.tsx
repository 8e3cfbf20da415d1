import styled from 'styled-components'
import { useCondition, useCopies, useRepair } from '../../api/copies'
import { Button } from '../../ui/controls'
import { moment } from '../../ui/dates'
import { Figure, Heading, Muted, Panel, Row, Stack, Title } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { inWords } from '../pack/contents'

type Thing = NonNullable<NonNullable<ReturnType<typeof useCondition>['data']>['report']>['things'][number]

/** What of a thing is shown. */
function shown(t: Thing): string {
  if (t.state === 'lost') return 'nothing is left of it'
  if (t.version === t.newest) return `version ${t.version}, the latest`
  return `version ${t.version}; ${t.newest} was the newest`
}

/** What is wrong with a damaged database, what of it is sound, and the ways on. */
export function Rescue() {
  const { data } = useCondition(true)
  const copies = useCopies()
  const repair = useRepair()
  const report = data?.report
  if (!report) return <Muted>Nothing is wrong with this database.</Muted>
  const sound = copies.data?.copies.filter((c) => !c.problem) ?? []
  return (
    <Stack $gap={18}>
      <Title>Rescue</Title>
      <Panel aria-label="What is wrong">
        <Heading>What is wrong</Heading>
        <p>
          <Path>{report.path}</Path> is left as it is: nothing is written to it.
        </p>
        {report.wrong.length > 0 && (
          <ul>
            {report.wrong.map((w) => (
              <li key={w}>{w}.</li>
            ))}
          </ul>
        )}
        {report.things.length > 0 && (
          <Wide>
            <Grid aria-label="What is damaged">
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col">Why</th>
                  <th scope="col">What you see</th>
                </tr>
              </thead>
              <tbody>
                {report.things.map((t) => (
                  <tr key={t.id}>
                    <th scope="row">
                      {t.name} <Muted as="span">{t.kind.replace('_', ' ')}</Muted>
                    </th>
                    <td>{t.why}</td>
                    <td>{shown(t)}</td>
                  </tr>
                ))}
              </tbody>
            </Grid>
          </Wide>
        )}
        <p>Sound: {inWords(report.contents)}.</p>
      </Panel>
      <Panel aria-label="What to do">
        <Heading>What to do</Heading>
        <Row>
          <Button $strong isDisabled={repair.isPending} onPress={() => repair.mutate()}>
            Write what is sound into a new database
          </Button>
          <Save href="/api/export" download>
            Export what is sound
          </Save>
        </Row>
        {repair.data && (
          <p role="status">
            It was written to <Path>{repair.data.path}</Path>. Stop Envex, and start it with that:{' '}
            <Path>envex serve --db "{repair.data.path}"</Path>
          </p>
        )}
        {repair.error && <p role="alert">{repair.error.message}</p>}
        {sound.length > 0 && (
          <>
            <p>Or go back to a copy. It has everything as it was then.</p>
            <ul aria-label="Copies">
              {sound.map((c) => (
                <li key={c.name}>
                  <Figure>{moment(c.at)}</Figure>: {inWords(c.contents)}.{' '}
                  <Save href={`/api/copies/${encodeURIComponent(c.name)}/file`} download>
                    Save it as a file
                  </Save>
                </li>
              ))}
            </ul>
            <Muted>
              A copy becomes a database of its own with <Path>envex restore COPY --db NEW.db</Path>
            </Muted>
          </>
        )}
      </Panel>
    </Stack>
  )
}

const Path = styled.code`font-family: var(--face-figures); font-size: 13px; overflow-wrap: anywhere;`
const Save = styled.a`color: var(--text);`
