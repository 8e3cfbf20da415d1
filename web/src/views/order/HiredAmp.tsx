import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useLookup, values } from '../../api/plan'
import type { HireAnswer, HireAsk, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { Assumed, Compared } from '../../frame/SideBySide'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button, Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Caution, Heading, Muted, Row, Stack, Tape } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

/** An amp that somebody else brings: what to ask for, and the plan for the answer. */
export function HiredAmp({ rig }: { rig: Rig }) {
  return (
    <>
      <Fold title="What to ask for where an amp is hired">
        <Asking rig={rig} />
      </Fold>
      <Fold title="The answer came: plan for another amp">
        <Answering rig={rig} />
      </Fold>
    </>
  )
}

function Asking({ rig }: { rig: Rig }) {
  const { plan, setList, destination } = useChosen()
  const work = useWork<HireAsk>(
    '/api/ask',
    setList && { rig: rig.id, set_list: setList.id, destination: destination?.id },
  )
  const show = values(plan, 'shows').find((s) => s.rig === rig.id)
  if (!setList) return <Muted>Make a set list first: its sounds are what the amp has to make.</Muted>
  const found = work.latest
  return (
    <Stack style={{ paddingTop: 10 }}>
      {work.busy && (
        <Progress label="Metering what the amp gets" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && (
        <Wide style={{ maxHeight: 'none' }}>
          <Grid aria-label="What to ask for">
            <thead>
              <tr>
                <th scope="col">Of</th>
                <th scope="col">Needed</th>
                <th scope="col">Why</th>
              </tr>
            </thead>
            <tbody>
              {found.items.map((x, i) => (
                <tr key={`${x.of} ${x.need}`}>
                  {found.items[i - 1]?.of === x.of ? <td /> : <th scope="row">{x.of}</th>}
                  <td>{x.need}</td>
                  <td>{x.why}</td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
      {found && <Muted>{found.assumed.join(' ')}</Muted>}
      {found && <Caution>{found.cautions.join(' ')}</Caution>}
      <p>
        {show ? (
          <Link to={`/pack/sheets?sheet=ask&show=${encodeURIComponent(show.id)}`}>
            As a page to send, for {show.name}
          </Link>
        ) : (
          <Muted as="span">A show with this rig has it as a page to send, under Pack.</Muted>
        )}
      </p>
    </Stack>
  )
}

const lacks = {
  loop: 'It has no loop',
  channels: 'It has one channel',
  reverb: 'It has no effects of its own',
  'second-amp': 'There is one amp alone',
} as const
type Lack = keyof typeof lacks

function Answering({ rig }: { rig: Rig }) {
  const { plan, setList } = useChosen()
  const [without, lack] = useState<Lack[]>([])
  const [amp, stand] = useState('')
  const [asked, ask] = useState<object | undefined>()
  const work = useWork<HireAnswer>('/api/hired', asked)
  const chain = JSON.stringify(rig.path ?? [])
  const others = values(plan, 'gear').filter((g) => g.kind === 'amp' && !chain.includes(`"stop":"${g.id}/`))
  if (!setList) return <Muted>Make a set list first: its sounds are what the amp has to make.</Muted>
  return (
    <Stack style={{ paddingTop: 10 }}>
      <Row $gap={18}>
        {(Object.keys(lacks) as Lack[]).map((x) => (
          <Switch
            key={x}
            label={lacks[x]}
            value={without.includes(x)}
            onChange={(on) => {
              lack(on ? [...without, x] : without.filter((y) => y !== x))
              stand('')
            }}
          />
        ))}
        {others.length > 0 && (
          <Select
            label="Or it is an amp you know"
            value={amp || undefined}
            placeholder="choose one"
            options={others.map((g) => ({ id: g.id, name: g.name }))}
            onChange={(id) => {
              stand(id)
              lack([])
            }}
          />
        )}
        <Button
          $strong
          isDisabled={without.length === 0 && !amp}
          onPress={() =>
            ask({
              rig: rig.id,
              set_list: setList.id,
              without: amp ? undefined : without,
              amp: amp || undefined,
            })
          }
        >
          Plan for it
        </Button>
      </Row>
      {work.busy && <Progress label="Trying the set on it" share={work.progress} cancel={work.cancel} />}
      {work.refused && <p role="alert">{work.refused}</p>}
      {work.result && <Planned rig={rig} answer={work.result} fresh={work.fresh} from={work.from} />}
    </Stack>
  )
}

function Planned(p: { rig: Rig; answer: HireAnswer; fresh: boolean; from: string | undefined }) {
  const { plan, pickDestination } = useChosen()
  const find = useLookup(plan)
  const edit = useEdit()
  const a = p.answer
  const name = a.rig.destinations?.find((d) => d.id === a.destination)?.name ?? ''
  const take = async () => {
    const done = await edit.amend(
      `${name} as a destination`,
      a.new_gear ? [{ kind: 'gear' as const, value: a.new_gear }] : [],
      [{ kind: 'rigs' as const, id: p.rig.id, update: () => a.rig }],
      p.from,
    )
    if (!done.problem) pickDestination(a.destination)
  }
  const lines = (list: { sound: string; name: string; words: string }[]) =>
    list.map((x) => (
      <li key={x.sound + x.words}>
        <Tape $small style={{ background: tape(find('sounds', x.sound)?.tape) }}>
          {x.name}
        </Tape>{' '}
        {x.words}
      </li>
    ))
  return (
    <section aria-label={`Plan for ${name}`}>
      <Three>
        <div>
          <Heading>What moves</Heading>
          <ul>
            {a.moves.map((m) => (
              <li key={m}>{m}.</li>
            ))}
          </ul>
          {a.moves.length === 0 && <Muted>Nothing.</Muted>}
        </div>
        <div>
          <Heading>What is set otherwise</Heading>
          <ul>{lines(a.changes)}</ul>
          {a.changes.length === 0 && <Muted>Nothing has to be.</Muted>}
        </div>
        <div>
          <Heading>What is lost</Heading>
          <ul>{lines(a.lost)}</ul>
          {a.lost.length === 0 && <Muted>No sound.</Muted>}
        </div>
      </Three>
      <Row $gap={10} style={{ padding: '10px 0' }}>
        <TakeButton $strong fresh={p.fresh} onPress={() => void take()}>
          Take it as a destination
        </TakeButton>
      </Row>
      <Compared label={`As it stands, and ${name}`} columns={a.columns} />
      <Assumed list={a.assumed} />
      <Caution>{a.cautions.join(' ')}</Caution>
    </section>
  )
}

const Three = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 230px), 1fr)); gap: 10px 24px;
  ul { margin: 0; padding: 0; list-style: none; display: grid; gap: 6px; font-size: 14px; }`
