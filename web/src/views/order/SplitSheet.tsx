import { values } from '../../api/plan'
import type { Split } from '../../api/types'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { TextField } from '../../ui/fields'
import { Muted, Name, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Chosen } from './Chosen'
import { find, inLine, keysOf, laneName, lanesOf, withSplit } from './chain'
import { useChain, useLaneName } from './useChain'

const kinds: Record<Split['kind'], string> = {
  tap: 'tap: a lane from a jack, the main path goes on',
  copy: 'copy: every lane gets the whole signal',
  'left-right': 'left-right: the sides go different ways',
  crossfade: 'crossfade: a control fades between the lanes',
  AB: 'AB: a switch chooses the lane',
}

/** How a split divides and joins its lanes. */
export function SplitSheet() {
  const chain = useChain()
  const { plan } = useChosen()
  const called = useLaneName()
  const split = find(chain.path, chain.picked ?? '')?.split
  if (!split) return null
  const name = chain.name(split.id)
  const set = (what: string, update: (s: Split) => Split) =>
    chain.change(`${what} of ${name}`, (p) => withSplit(p, split.id, update))
  const used = new Set(keysOf(chain.path))
  const owned = values(plan, 'gear').flatMap((g) =>
    (g.blocks ?? []).map((b) => ({
      id: `${g.id}/${b.id}`,
      name: (g.blocks?.length ?? 0) > 1 ? `${g.name} ${b.name}` : g.name,
      effect: b.effect,
    })),
  )
  const dividers = owned.filter(
    (b) => (b.effect === 'splitter' || b.effect === 'mixer') && (!used.has(b.id) || b.id === split.from),
  )
  const mixers = owned.filter((b) => b.effect === 'mixer' && (!used.has(b.id) || b.id === split.to))
  const jacks = values(plan, 'gear').flatMap((g) =>
    (g.jacks ?? [])
      .filter((j) => !/^(in|return)/.test(j.id))
      .map((j) => ({ id: `${g.id}/${j.id}`, name: `${g.name} ${j.name ?? j.id}` })),
  )
  const inChain = new Set([...used].map((k) => k.split('/')[0]))
  const source = jacks.find((j) => inChain.has(j.id.split('/')[0]) && !j.id.includes('/out')) ?? jacks[0]
  return (
    <Panel aria-label={`Settings of ${name}`}>
      <Row $gap={14}>
        <Name>{name}</Name>
        <Select
          label="Divides as"
          value={split.kind}
          options={Object.entries(kinds)
            .filter(([id]) => id !== 'tap' || source)
            .map(([id, name]) => ({ id, name }))}
          onChange={(kind) => set('Kind', (s) => ofKind(s, kind as Split['kind'], source?.id))}
        />
        {split.kind === 'tap' ? (
          <Select
            label="Taken from"
            value={split.from}
            options={jacks}
            onChange={(from) => set('Source', (s) => ({ ...s, from }))}
          />
        ) : (
          <>
            <Select
              label="Divided by"
              value={split.from ?? 'lead'}
              options={[
                { id: 'lead', name: split.kind === 'left-right' ? 'the two outputs before it' : 'a Y lead' },
                ...dividers,
              ]}
              onChange={(id) => set('Splitter', (s) => ({ ...s, from: id === 'lead' ? undefined : id }))}
            />
            <Select
              label="Come together"
              value={split.join ?? 'none'}
              options={[
                { id: 'sum', name: 'summed' },
                { id: 'stereo', name: 'as left and right' },
                { id: 'crossfade', name: 'by a crossfade' },
                { id: 'none', name: 'never: each ends on its own' },
              ].filter((o) => o.id !== 'stereo' || lanesOf(split).length === 2)}
              onChange={(id) =>
                set('Join', (s) =>
                  id === 'none'
                    ? { ...s, join: undefined, to: undefined }
                    : { ...s, join: id as NonNullable<Split['join']> },
                )
              }
            />
            {split.join && (
              <Select
                label="Joined by"
                value={split.to ?? 'lead'}
                options={[
                  {
                    id: 'lead',
                    name: split.join === 'stereo' ? 'the two inputs after it' : 'a Y lead',
                  },
                  ...mixers,
                ]}
                onChange={(id) => set('Mixer', (s) => ({ ...s, to: id === 'lead' ? undefined : id }))}
              />
            )}
          </>
        )}
      </Row>
      <Row>
        {lanesOf(split).map((l, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a lane is its place
          <Row key={`${i} of ${lanesOf(split).length}`}>
            <TextField
              label={`Name of ${laneName({ ...split, lanes: [] }, i)}`}
              value={l.name ?? ''}
              placeholder={called(split, i)}
              onCommit={(text) =>
                set('Lane', (s) => ({
                  ...s,
                  lanes: lanesOf(s).map((x, k) => (k === i ? { ...x, name: text || undefined } : x)),
                }))
              }
            />
            {lanesOf(split).length > 2 && (l.nodes ?? []).length === 0 && (
              <IconButton
                label={`Remove ${laneName(split, i)}`}
                onPress={() => set('Lane', (s) => ({ ...s, lanes: lanesOf(s).filter((_, k) => k !== i) }))}
              >
                <Icon name="cross" />
              </IconButton>
            )}
          </Row>
        ))}
        {split.kind !== 'tap' && split.kind !== 'left-right' && split.join !== 'stereo' && (
          <Button onPress={() => set('Lane', (s) => ({ ...s, lanes: [...lanesOf(s), {}] }))}>
            <Icon name="plus" /> Add a lane
          </Button>
        )}
        <Button onPress={() => chain.change(`Undo ${name}`, (p) => inLine(p, split.id))}>
          Put its lanes in one line
        </Button>
      </Row>
      <Chosen split={split} set={set} laneName={(i) => called(split, i)} />
      {!split.join && split.kind !== 'tap' && (
        <Muted>Each lane ends in its own amp, speaker, line or tuner; nothing follows the split.</Muted>
      )}
    </Panel>
  )
}

/** A split of another kind, with as many lanes as that kind has. */
function ofKind(s: Split, kind: Split['kind'], jack: string | undefined): Split {
  const lanes = lanesOf(s)
  const rest = lanes.slice(kind === 'tap' ? 1 : 2).flatMap((l) => l.nodes ?? [])
  const some = lanes.length > 1 ? lanes : [...lanes, {}]
  if (kind === 'tap') {
    const first = { ...lanes[0], nodes: [...(lanes[0]?.nodes ?? []), ...rest] }
    return { ...s, kind, from: jack, lanes: [first], join: undefined, to: undefined }
  }
  const from = s.kind === 'tap' ? undefined : s.from
  if (kind === 'left-right') {
    const second = { ...some[1], nodes: [...(some[1]?.nodes ?? []), ...rest] }
    return { ...s, kind, from, lanes: [some[0] ?? {}, second] }
  }
  return { ...s, kind, from, lanes: some, join: s.kind === 'tap' ? 'sum' : s.join }
}
