import { useState } from 'react'
import styled from 'styled-components'
import { useBoard, values } from '../../api/plan'
import type { BoardReport, Gear, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { FloorMap } from '../../floor/FloorMap'
import { usePlace } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Caution, Figure, Heading, Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { TakeButton } from '../../ui/TakeButton'
import { Carrying } from './Carrying'
import { Fitting } from './Fitting'

const views = [
  { id: 'top', name: 'Top' },
  { id: 'under', name: 'Underside' },
  { id: 'heat', name: 'Presses of the night' },
]

/** One's own board from above, to scale: boxes, plugs and leads where they are, and what they come to. */
export function Board({ rig }: { rig: Rig }) {
  const { plan, setList, destination, change, sound } = usePlace()
  const { data, fresh, from } = useBoard(rig.id, setList?.id, destination?.id)
  const edit = useEdit()
  const [view, look] = useState('top')
  const [fitting, offer] = useState(false)
  if (!data) return null
  const boards = values(plan, 'gear').filter((g) => g.kind === 'board')
  const drawing = (how: string) =>
    `/api/floor/drawing?${new URLSearchParams({ rig: rig.id, ...(destination && { destination: destination.id }) })}&format=${how}`
  const onto = (id: string) =>
    edit.change(
      'rigs',
      rig.id,
      `Stand on ${boards.find((b) => b.id === id)?.name ?? 'the bare floor'}`,
      (r) => ({
        ...r,
        floor: { ...r.floor, board: id === 'none' ? undefined : id },
      }),
    )
  return (
    <Stack $gap={10}>
      <Row $gap={14}>
        <Heading style={{ paddingBottom: 9 }}>{data.name ?? 'The bare floor'}</Heading>
        <Select label="Seen from" value={view} options={views} onChange={look} />
        <Select
          label="Board"
          value={rig.floor.board ?? 'none'}
          options={[
            ...boards.map((b) => ({
              id: b.id,
              name: b.size ? `${b.name}, ${b.size.width_mm} × ${b.size.depth_mm} mm` : b.name,
            })),
            { id: 'none', name: 'the bare floor' },
          ]}
          onChange={onto}
        />
        <Button $strong onPress={() => offer(true)} isDisabled={fitting || !rig.floor.board}>
          Fit
        </Button>
      </Row>
      {!rig.floor.board && (
        <Muted>
          {boards.length > 0
            ? 'This rig stands on the bare floor. Choose a board it stands on.'
            : 'You own no board yet. Boards compared shows which plain size would carry this rig; Own adds one.'}
        </Muted>
      )}
      {fitting && <Fitting rig={rig} close={() => offer(false)} />}
      <FloorMap
        rig={rig}
        label="The board"
        shown={{
          floor: data.floor,
          slats: slatsOf(boards),
          leads: view === 'top' ? data.leads : undefined,
          plugs: view === 'top' ? data.plugs.filter((p) => !p.assumed) : undefined,
          wrong: new Set(data.findings.map((f) => f.gear[0] ?? '')),
          walk: view === 'heat' ? undefined : change?.presses.map((p) => p.switch),
          tape: sound?.tape,
          heat: view === 'heat' ? new Map(Object.entries(data.presses)) : undefined,
          beneath: view === 'under',
        }}
      >
        <Figures data={data} footwork={change?.footwork_s} />
      </FloorMap>
      {data.weight_g.total >= 20000 && (
        <Caution>
          Lift with straight back and bent knees, and two people for what is 20 kg or more. Local rules for
          lifting go before this.
        </Caution>
      )}
      <OwnedLeads rig={rig} owned={data.owned_leads} fresh={fresh} from={from} />
      <Carrying rig={rig} />
      {data.board && (
        <Row $gap={14} style={{ alignItems: 'baseline' }}>
          <Muted as="span">At 1:1, to drill or to fix by:</Muted>
          <a href={drawing('html&paper=a4')} target="_blank" rel="noreferrer">
            Print on A4
          </a>
          <a href={drawing('html&paper=letter')} target="_blank" rel="noreferrer">
            Print on Letter
          </a>
          <a href={drawing('svg&save=true')}>Save as SVG</a>
        </Row>
      )}
      {data.assumed.length > 0 && (
        <Fold title={`What is assumed (${data.assumed.length})`}>
          <ul aria-label="What is assumed">
            {data.assumed.map((a) => (
              <li key={a}>
                <Muted as="span">{a}</Muted>
              </li>
            ))}
          </ul>
        </Fold>
      )}
    </Stack>
  )
}

/** Made-up leads that lie about and would do for runs that are still to be cut. */
function OwnedLeads(p: {
  rig: Rig
  owned: BoardReport['owned_leads']
  fresh: boolean
  from: string | undefined
}) {
  const edit = useEdit()
  if (p.owned.length === 0) return null
  const one = p.owned.length === 1
  return (
    <Row role="group" aria-label="Leads you own" $gap={14} style={{ alignItems: 'center' }}>
      <Muted as="span">
        {p.owned.map((l) => `${l.name} (${l.length_m.toFixed(2)} m) would do for ${l.words}`).join('; ')}.
      </Muted>
      <TakeButton
        fresh={p.fresh}
        onPress={() =>
          void edit.change(
            'rigs',
            p.rig.id,
            one ? `Use ${p.owned[0]?.name}` : `Use ${p.owned.length} leads`,
            (r) => ({
              ...r,
              leads: [
                ...(r.leads ?? []),
                ...p.owned.map((l) => ({ from: l.from, to: l.to, cable: l.cable })),
              ],
            }),
            p.from,
          )
        }
      >
        {one ? 'Use it' : 'Use them'}
      </TakeButton>
    </Row>
  )
}

/** The totals of the board. */
function Figures({ data, footwork }: { data: BoardReport; footwork: number | undefined }) {
  const boxes = data.places.filter((p) => p.board).length
  const night = data.footwork_s
  return (
    <Line role="group" aria-label="Board totals">
      <Fact
        figure={`${(data.weight_g.total / 1000).toFixed(1)} kg`}
        label={`in the hand, ${boxes} boxes${data.weight_g.unknown.length > 0 ? `, ${data.weight_g.unknown.length} not weighed` : ''}`}
      />
      <Fact figure={`${data.cable_m.after.toFixed(2)} m`} label={`of cable, ${data.leads.length} leads`} />
      {footwork !== undefined && (
        <Fact figure={`${footwork.toFixed(2)} s`} label="of footwork, this change" />
      )}
      {night && <Fact figure={`${night.after.toFixed(1)} s`} label="of footwork, the night" />}
      {data.closest_hurried_mm !== undefined && (
        <Fact figure={`${data.closest_hurried_mm} mm`} label="closest hurried switches" />
      )}
    </Line>
  )
}

function Fact({ figure, label }: { figure: string; label: string }) {
  return (
    <div>
      <Large>{figure}</Large>
      <Muted>{label}</Muted>
    </div>
  )
}

const slatsOf = (boards: Gear[]) =>
  new Map(boards.flatMap((b) => (b.board?.slats ? [[b.id, b.board.slats] as const] : [])))

const Line = styled.div`margin: 4px 0 12px; display: flex; flex-wrap: wrap; gap: 10px 24px; p { font-size: 13px; }`
const Large = styled(Figure)`font-size: 22px;`
