import { useState } from 'react'
import { useKinds, useLookup, usePlainBoards, values } from '../../api/plan'
import type { Choice } from '../../api/types'
import { useWork } from '../../api/work'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { Caution, Heading, Muted, Panel, Row, Stack, Title } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { Choices } from './Choices'
import { Earns } from './Earns'
import { OwnTabs } from './OwnTabs'

const none = 'none'
const counts = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight']

/** Which boxes to take: the fewest of the pile that make every sound of the set. */
export function Choose() {
  const { plan, rig, setList } = useChosen()
  const { data: kinds } = useKinds()
  const { data: plain } = usePlainBoards()
  const find = useLookup(plan)
  const [most, limit] = useState('0')
  const [board, standOn] = useState(none)
  const [supply, feedBy] = useState(none)
  const [allowed, allow] = useState<string[]>([])
  const [home, leave] = useState<string[]>([])
  const [asked, ask] = useState<object | undefined>()
  const work = useWork<Choice>('/api/choose', asked)
  const pedals = values(plan, 'gear').filter((g) => g.kind === 'pedal')
  const boards = [...values(plan, 'gear').filter((g) => g.kind === 'board'), ...(plain ?? [])]
  const supplies = values(plan, 'gear').filter((g) => g.kind === 'supply')
  const pedalKinds = (kinds?.kinds ?? []).filter((k) => k.gear.kind === 'pedal' && !allowed.includes(k.id))
  const nameOfKind = (id: string) => kinds?.kinds?.find((k) => k.id === id)?.name ?? id
  const begin = () =>
    ask({
      rig: rig?.id,
      set_list: setList?.id,
      most: Number(most) || undefined,
      board: board === none ? undefined : board,
      supply: supply === none ? undefined : supply,
      kinds: allowed.length > 0 ? allowed : undefined,
      pile: home.length > 0 ? pedals.map((g) => g.id).filter((id) => !home.includes(id)) : undefined,
    })
  const found = work.result
  const best = found?.sets[0]
  const made = best?.covers.length ?? 0
  const all = found?.sounds.length ?? 0
  return (
    <Stack>
      <Row $gap={16}>
        <Title>Own</Title>
        <OwnTabs />
      </Row>
      <Panel role="region" aria-label="What to choose from">
        <Muted>
          The fewest boxes you own that make every sound of {setList?.name ?? 'the plan'}, through the guitars
          and the amp of {rig?.name ?? 'your first guitar and amp'}. Every knob has one place for the whole
          night.
        </Muted>
        <Row $gap={14}>
          <Select
            label="At most"
            value={most}
            options={[
              { id: '0', name: 'as many as it takes' },
              ...counts.map((name, i) => ({
                id: String(i + 1),
                name: `${name} ${i === 0 ? 'box' : 'boxes'}`,
              })),
            ]}
            onChange={limit}
          />
          <Select
            label="On board"
            value={board}
            options={[{ id: none, name: 'any' }, ...boards.map((g) => ({ id: g.id, name: g.name }))]}
            onChange={standOn}
          />
          <Select
            label="Fed by"
            value={supply}
            options={[{ id: none, name: 'any' }, ...supplies.map((g) => ({ id: g.id, name: g.name }))]}
            onChange={feedBy}
          />
          <Select
            label="Also a kind you do not own"
            value={undefined}
            placeholder="add a kind"
            options={pedalKinds.map((k) => ({ id: k.id, name: k.name }))}
            onChange={(id) => allow([...allowed, id])}
          />
          <Select
            label="Leave at home"
            value={undefined}
            placeholder="add a box"
            options={pedals.filter((g) => !home.includes(g.id)).map((g) => ({ id: g.id, name: g.name }))}
            onChange={(id) => leave([...home, id])}
          />
          <Button
            $strong={!found}
            isDisabled={work.busy || pedals.length + allowed.length === 0}
            onPress={begin}
          >
            Choose boxes
          </Button>
        </Row>
        {allowed.length + home.length > 0 && (
          <Row $gap={14}>
            {allowed.map((id) => (
              <Row key={id} $gap={4} style={{ alignItems: 'center' }}>
                {nameOfKind(id)}, not owned
                <IconButton
                  label={`Do not allow ${nameOfKind(id)}`}
                  onPress={() => allow(allowed.filter((x) => x !== id))}
                >
                  <Icon name="cross" />
                </IconButton>
              </Row>
            ))}
            {home.map((id) => (
              <Row key={id} $gap={4} style={{ alignItems: 'center' }}>
                without {find('gear', id)?.name ?? id}
                <IconButton
                  label={`Take ${find('gear', id)?.name ?? id} into account`}
                  onPress={() => leave(home.filter((x) => x !== id))}
                >
                  <Icon name="cross" />
                </IconButton>
              </Row>
            ))}
          </Row>
        )}
        {pedals.length + allowed.length === 0 && (
          <Muted>There is no pedal to choose from: add gear, or allow a kind you do not own.</Muted>
        )}
        {work.busy && <Progress label="Metering boxes" share={work.progress} cancel={work.cancel} />}
        {work.refused && <p role="alert">{work.refused}</p>}
      </Panel>
      {found && (
        <>
          <p role="status">
            {best
              ? `${countOf(best.boxes.length)} ${best.boxes.length === 1 ? 'makes' : 'make'} ${made === all ? `all ${all}` : `${made} of ${all}`} sounds${
                  best.proven
                    ? ', and no smaller choice makes as many.'
                    : '; a smaller choice is not ruled out.'
                }`
              : 'Nothing of the pile makes any of these sounds.'}
            {found.partial && ' There are more settings than were tried.'}
          </p>
          {[...new Set(found.sounds.flatMap((x) => x.as_made_by ?? []))].map((name) => (
            <Muted key={name}>
              No target of dirt or loudness, so compared with {name}:{' '}
              {found.sounds
                .filter((x) => x.as_made_by === name)
                .map((x) => x.name)
                .join(', ')}
              .
            </Muted>
          ))}
          {found.unsaid.length > 0 && (
            <Muted>
              Left out, since they have no targets and no recipe:{' '}
              {found.unsaid.map((id) => find('sounds', id)?.name ?? id).join(', ')}.
            </Muted>
          )}
          {found.sets.length > 0 && <Choices found={found} fresh={work.fresh} from={work.from} />}
          <Panel role="region" aria-label="What each box earns">
            <Heading>What each box earns</Heading>
            <Earns found={found} />
            {found.further.length > 0 && (
              <Muted>
                By the quick meter alone:{' '}
                {found.further
                  .map((f) => `${countOf(f.boxes).toLowerCase()} ${f.covers} of ${all}`)
                  .join(', ')}
                .
              </Muted>
            )}
          </Panel>
          <Caution>
            The figures are of models of kinds of circuit. Check the label of the supply and of each box
            before anything is plugged in.
          </Caution>
        </>
      )}
    </Stack>
  )
}

const countOf = (n: number) =>
  n === 0
    ? 'No boxes'
    : n === 1
      ? 'One box'
      : `${n <= counts.length ? capital(counts[n - 1] ?? '') : n} boxes`
const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1)
