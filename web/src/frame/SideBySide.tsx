import { Fragment, type ReactNode } from 'react'
import styled from 'styled-components'
import { useLookup } from '../api/plan'
import type { BesideColumn, BesideReport } from '../api/types'
import { useWork } from '../api/work'
import { useChosen } from '../state/place'
import { tape } from '../theme/tokens'
import { Fold } from '../ui/Fold'
import { signed } from '../ui/figures'
import { Muted, Tape } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { Grid, Wide } from '../ui/Table'

/** The set of the screen in several ways, as columns: what differs from the first is marked. */
export function SideBySide(p: {
  title: string
  rig: string
  query: { slot?: string; into?: string[]; own?: boolean; tempo?: number[] }
}) {
  return (
    <Fold title={p.title}>
      <Columns {...p} />
    </Fold>
  )
}

function Columns({ title, rig, query }: Parameters<typeof SideBySide>[0]) {
  const { setList, destination } = useChosen()
  const work = useWork<BesideReport>(
    '/api/beside',
    setList && { ...query, rig, set_list: setList.id, destination: destination?.id },
  )
  if (!setList) return <Muted>Make a set list first: it is what is played in each way.</Muted>
  const found = work.latest
  return (
    <>
      {work.busy && <Progress label="Playing the set each way" share={work.progress} cancel={work.cancel} />}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && <Compared label={title} columns={found.columns} />}
      {found && <Assumed list={found.assumed} />}
    </>
  )
}

/** What was taken where nobody has said: behind a line that says how much it is. */
export function Assumed({ list }: { list: string[] }) {
  if (list.length === 0) return null
  return (
    <Fold title={`What was assumed (${list.length})`}>
      <Muted>{list.join(' ')}</Muted>
    </Fold>
  )
}

/** Ways side by side, once they are worked out. */
export function Compared({ label, columns }: { label: string; columns: BesideColumn[] }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const first = columns[0]
  if (!first) return null
  const row = (
    name: ReactNode,
    key: string,
    cell: (c: BesideColumn) => ReactNode,
    same?: (c: BesideColumn) => string,
  ) => (
    <tr key={key}>
      <th scope="row">{name}</th>
      {columns.map((c) => (
        <Cell key={c.name} $differs={same !== undefined && same(c) !== same(first)}>
          {cell(c)}
        </Cell>
      ))}
    </tr>
  )
  const plain = (name: string, cell: (c: BesideColumn) => string) => row(name, name, cell, cell)
  return (
    <Wide style={{ maxHeight: 'none' }}>
      <Grid aria-label={label}>
        <thead>
          <tr>
            <td />
            {columns.map((c) => (
              <th key={c.name} scope="col">
                {c.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plain('Reach', (c) => `${c.outcome.reached}/${c.outcome.total}`)}
          {plain('Presses', (c) => String(c.outcome.presses))}
          {plain('By hand', (c) => String(c.outcome.by_hand))}
          {plain('Within targets', (c) => `${c.within}/${c.sounds.length}`)}
          {first.sounds.map((s, i) =>
            row(
              <Tape $small style={{ background: tape(find('sounds', s.sound)?.tape) }}>
                {s.name}
              </Tape>,
              s.sound,
              (c) => <SoundCell sound={c.sounds[i]} />,
              (c) => soundWords(c.sounds[i]),
            ),
          )}
          {plain('Power', (c) => `${Math.round(c.drawn_ma)} mA`)}
          {plain('Leads', (c) => `${c.leads}, ${c.cable_m.toFixed(1)} m`)}
          {plain('On the board', (c) =>
            c.stands === undefined
              ? `${(c.weight_g / 1000).toFixed(2)} kg`
              : `${(c.weight_g / 1000).toFixed(2)} kg, ${c.stands ? 'everything stands' : 'not everything stands'}`,
          )}
          {row('Wrong', 'wrong', (c) =>
            c.findings.length === 0 ? (
              <Muted as="span">{c === first ? 'nothing' : 'nothing more'}</Muted>
            ) : (
              c.findings.map((f) => <div key={f.title}>{f.title}.</div>)
            ),
          )}
        </tbody>
      </Grid>
    </Wide>
  )
}

type BesideSound = BesideColumn['sounds'][number]

const figures = (s: BesideSound) =>
  `${signed(s.over_home_lu)} LU, ${Math.round(s.dirt_pct)} % dirt, ${signed(-s.treble_db)} dB at 5 kHz`

const soundWords = (s: BesideSound | undefined) => (s?.made ? `${figures(s)} ${s.within}` : 'not made')

function SoundCell({ sound: s }: { sound: BesideSound | undefined }) {
  if (!s?.made) return <>not made</>
  const missed = s.checks.filter((c) => !c.met)
  return (
    <>
      {figures(s)}
      {missed.map((c) => (
        <Fragment key={c.what + c.words}>
          <br />
          <small>{c.words}</small>
        </Fragment>
      ))}
    </>
  )
}

const Cell = styled.td<{ $differs: boolean }>`
  font-variant-numeric: tabular-nums; max-width: 300px; ${(p) => p.$differs && 'font-weight: 600;'}
  small { color: var(--muted); font-weight: 400; }
`
