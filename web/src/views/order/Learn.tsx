import { Link } from 'react-router'
import styled from 'styled-components'
import { useLessons } from '../../api/plan'
import type { Lesson } from '../../api/types'
import { OnThisRig } from '../../frame/OnThisRig'
import { useChosen } from '../../state/place'
import { Fold } from '../../ui/Fold'
import { Muted, Row, Stack, Title } from '../../ui/layout'

/** Every rule of order on a page of a few lines: why, who sees it otherwise, both ways on this rig, and what to listen for. */
export function Learn() {
  const { rig, destination } = useChosen()
  const { data } = useLessons(rig?.id, destination?.id)
  return (
    <Stack>
      <Row $gap={16}>
        <Title>Learn</Title>
        <Link to="/order">Back to Order</Link>
      </Row>
      <Muted>
        The rules of order, as they hold on {rig ? rig.name : 'a rig'}. What stands the other way round here
        comes first. A rule is a habit of good players, not a law: listen to both ways.
      </Muted>
      {data?.lessons.map((l) => (
        <Fold key={l.rule} level={2} title={`${l.title}${standing(l)}`}>
          <Rule lesson={l} />
        </Fold>
      ))}
    </Stack>
  )
}

const standing = (l: Lesson) => {
  const pair = l.pairs[0]
  if (!pair) return ''
  return pair.kept
    ? `: ${pair.names.join(' before ')}`
    : `: here ${pair.names[1]} stands before ${pair.names[0]}`
}

function Rule({ lesson: l }: { lesson: Lesson }) {
  const pair = l.pairs[0]
  return (
    <Body>
      <p>
        <b>Why</b> {l.reason}.
      </p>
      {l.question && (
        <p>
          <b>Who sees it otherwise</b> {l.question.sides.map((s) => `${s.name}: ${s.gains}`).join('; ')}.
        </p>
      )}
      <p>
        <b>Listen for</b> {l.listen}
      </p>
      {!pair && <Muted>No two boxes of this rig are about it.</Muted>}
      {l.pairs.slice(1).map((x) => (
        <Muted key={x.stops.join()}>
          Also {x.kept ? x.names.join(' before ') : `${x.names[1]}, which stands before ${x.names[0]}`}.
        </Muted>
      ))}
      {pair && pair.path.length > 0 && <OnThisRig path={pair.path} stops={pair.stops} />}
      {pair && pair.path.length === 0 && <Muted>The other way round cannot be wired here.</Muted>}
    </Body>
  )
}

const Body = styled.div`
  display: grid; gap: 6px; padding: 8px 12px; background: var(--panel); border: 1px solid var(--line);
  b { font: 600 14px/1.4 var(--face-label); color: var(--muted); margin-right: 8px; text-transform: uppercase; letter-spacing: 0.03em; }
`
