import styled from 'styled-components'
import type { Comparison, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { VerdictMark, verdictWords } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Figure, Heading, Muted, Panel, Row, Tape } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'
import { useSoundTape } from './useSoundTape'

/** The same set on another rig: which sounds survive, which changes fail, what would mend it. */
export function Compared({ rig, other }: { rig: Rig; other: Rig }) {
  const { setList, destination, go } = useChosen()
  const edit = useEdit()
  const tapeOf = useSoundTape()
  const work = useWork<Comparison>(
    '/api/compare',
    setList && { rig: rig.id, set_list: setList.id, destination: destination?.id, with: other.id },
  )
  const c = work.result
  return (
    <Panel aria-label={`Compared with ${other.name}`} role="region">
      <Row $gap={16}>
        <Heading>
          {rig.name} and {other.name}
        </Heading>
        {c && (
          <p>
            Reach{' '}
            <Figure>
              {c.reach.reached}/{c.reach.total}
            </Figure>{' '}
            and{' '}
            <Figure>
              {c.other.reached}/{c.other.total}
            </Figure>
            .
          </p>
        )}
      </Row>
      {work.busy && !c && (
        <Progress label="Playing the set on both" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {c && (
        <Columns>
          <Grid aria-label="Sounds there">
            <thead>
              <tr>
                <th scope="col">Sound</th>
                <th scope="col">On {other.name}</th>
              </tr>
            </thead>
            <tbody>
              {c.sounds.map((s) => (
                <tr key={s.sound}>
                  <td>
                    <Tape $small style={{ background: tapeOf(s.sound) }}>
                      {s.name}
                    </Tape>
                  </td>
                  <td>{s.words}</td>
                </tr>
              ))}
            </tbody>
          </Grid>
          <div>
            <Heading>Smallest additions</Heading>
            {c.additions.length === 0 && <Muted>Nothing is needed, or nothing found a place.</Muted>}
            <List>
              {c.additions.map((a) => (
                <li key={a.words}>
                  {a.words}: reach{' '}
                  <Figure>
                    {a.reach.reached}/{a.reach.total}
                  </Figure>{' '}
                  <TakeButton
                    aria-label={`${a.words} in ${other.name}`}
                    fresh={work.fresh}
                    onPress={() =>
                      edit.carryOut(
                        { rig: other.id, label: `${a.words} in ${other.name}`, edits: a.edits },
                        work.from,
                      )
                    }
                  >
                    Do it there
                  </TakeButton>
                </li>
              ))}
            </List>
          </div>
          <div>
            <Heading>Changes that differ ({c.changes.length})</Heading>
            {c.changes.length === 0 && <Muted>Every change is the same on both rigs.</Muted>}
            <Wide>
              <List>
                {c.changes.map((d) => (
                  <li key={d.place.position}>
                    <Go type="button" onClick={() => go(d.place.position)}>
                      {d.place.song}, {d.place.section}
                    </Go>
                    : <VerdictMark verdict={d.here} /> {verdictWords(d.here)} here,{' '}
                    <VerdictMark verdict={d.there} /> {verdictWords(d.there)} there. <small>{d.words}</small>
                  </li>
                ))}
              </List>
            </Wide>
          </div>
        </Columns>
      )}
    </Panel>
  )
}

const Columns = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(300px, 1fr)); gap: 14px 28px; align-items: start;`
const List = styled.ul`display: grid; gap: 6px; font-size: 13px; small { color: var(--muted); font-size: 12px; }`
const Go = styled.button`border: 0; background: none; padding: 0; text-decoration: underline; cursor: pointer;`
