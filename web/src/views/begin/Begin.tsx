import type { ReactNode } from 'react'
import { Link, useNavigate } from 'react-router'
import styled from 'styled-components'
import { useEdit } from '../../edits/useEdit'
import { useTour } from '../../frame/Tour'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Figure, Muted, Row, Stack, Title } from '../../ui/layout'
import { Examples } from './Examples'
import { Proposals } from './Proposals'
import { TypeChain } from './TypeChain'
import { TypeSet } from './TypeSet'

/** The way in: a chain, a set and recipes, each in a few words, one after the other. Whatever is there already is said,
 * and can be added to. */
export function Begin() {
  const { plan, rig, setList, report } = useChosen()
  const edit = useEdit()
  const navigate = useNavigate()
  const tour = useTour()
  const empty = plan.gear.length === 0 && plan.sounds.length === 0 && plan.songs.length === 0
  const missing = plan.sounds.filter((s) => !rig?.recipes?.some((r) => r.sound === s.value.id)).length
  const next = plan.rigs.length === 0 ? 1 : plan.set_lists.length === 0 ? 2 : 3
  return (
    <Page>
      <header>
        <Title>{empty ? 'Every sound of the night, within reach of the feet' : 'Type it in'}</Title>
        {empty && (
          <>
            <Muted>
              Type what you play through and what you play. Envex works out which changes your feet make in
              time, which they do not, and why.
            </Muted>
            <Row>
              <Button onPress={() => void edit.loadDemo().then(tour)}>Load the demo</Button>
              <Button onPress={() => navigate('/hear/sounds')}>Name your first sound</Button>
              <Button onPress={() => navigate('/own')}>Add gear one by one</Button>
            </Row>
          </>
        )}
      </header>
      <Fold title="Start like someone" level={2}>
        <Examples />
      </Fold>
      <Step number={1} title="Chain" at={next} done={rig && `${rig.name}: ${rig.path?.length ?? 0} stops`}>
        <TypeChain onMade={() => undefined} />
      </Step>
      <Step
        number={2}
        title="Set"
        at={next}
        done={setList && `${setList.name}: ${setList.entries.length} songs`}
      >
        <TypeSet onMade={() => undefined} />
      </Step>
      <Step
        number={3}
        title="Recipes"
        at={next}
        done={
          rig && setList && missing === 0 && plan.sounds.length > 0
            ? `a recipe for each of ${plan.sounds.length} sounds`
            : undefined
        }
      >
        {plan.sounds.length === 0 ? (
          <Muted>
            A recipe says what of your rig is on for a sound. Type a set first: it names the sounds.
          </Muted>
        ) : (
          <Proposals />
        )}
      </Step>
      {report && report.sections.length > 0 && (
        <Answer role="status" aria-label="Where it stands">
          <Figure>
            {report.reach.reached} of {report.reach.total}
          </Figure>
          <span>
            changes are in reach
            {report.reach.not_set > 0 ? `; ${report.reach.not_set} wait for a recipe` : ''}.
          </span>
          <Link to="/step">See every change in Step</Link>
        </Answer>
      )}
    </Page>
  )
}

function Step(p: {
  number: number
  title: string
  at: number
  done: string | undefined
  children: ReactNode
}) {
  return (
    <Section aria-label={p.title} data-now={p.at === p.number || undefined}>
      <h2>
        <i aria-hidden="true">{p.number}</i> {p.title} {p.done && <small>{p.done}</small>}
      </h2>
      <Stack>{p.children}</Stack>
    </Section>
  )
}

const Page = styled.div`
  max-width: 980px; display: grid; gap: 14px;
  > header { display: grid; gap: 10px; }
`
const Section = styled.section`
  border-left: 4px solid var(--line); padding: 4px 0 10px 18px; display: grid; gap: 10px;
  &[data-now] { border-left-color: var(--lit); }
  h2 { font: 600 20px/1.2 var(--face-label); display: flex; gap: 10px; align-items: baseline; margin: 0; }
  i { font-style: normal; color: var(--muted); } small { font: 400 14px/1.2 inherit; color: var(--muted); }
`
const Answer = styled.div`
  display: flex; gap: 12px; align-items: baseline; flex-wrap: wrap; padding: 12px 18px; background: var(--panel); border: 1px solid var(--edge);
  > :first-child { font-size: 26px; }
`
