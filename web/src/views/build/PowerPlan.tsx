import { useState } from 'react'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useKinds, usePower } from '../../api/plan'
import type { Power, PowerLoad, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button, Switch } from '../../ui/controls'
import { NumberField } from '../../ui/fields'
import { Caution, Figure, Heading, Muted, Panel, Row, Stack } from '../../ui/layout'
import { TakeButton } from '../../ui/TakeButton'
import { onBattery, outputName, plugged, unplugged } from './feeds'
import { Drop, LoadTag } from './LoadTag'
import { OutputCard } from './OutputCard'

const leads = [
  { id: 'daisy-chain', name: 'Daisy chains' },
  { id: 'current-doubling', name: 'Current-doubling leads' },
  { id: 'voltage-doubling', name: 'Voltage-doubling leads' },
  { id: 'reversing', name: 'Polarity-reversing leads' },
]

/** What an act came to that somebody should read: refused, or done with a reservation. */
interface Said {
  refused: boolean
  text: string
}

/** Outputs and loads: boxes are dragged to outputs, or sent there by their menu, or all assigned at once. */
export function PowerPlan({ rig }: { rig: Rig }) {
  const { destination } = useChosen()
  const { data, fresh, from } = usePower(rig.id, destination?.id)
  const edit = useEdit()
  const [lifted, lift] = useState<string | undefined>()
  const [said, say] = useState<Said | undefined>()
  if (!data) return null
  const loads = new Map(data.loads.map((l) => [l.gear, l]))
  const change = (what: string, update: (r: Rig) => Rig, computed?: string) => {
    say(undefined)
    return edit.change('rigs', rig.id, what, update, computed)
  }
  const plug = (gear: string, supply: string, output: string) => {
    const load = loads.get(gear)
    const to = load?.choices.find((c) => c.supply === supply && c.output === output)
    const state = data.supplies.find((s) => s.supply === supply)?.outputs.find((o) => o.output === output)
    lift(undefined)
    if (!load || !to || !state || state.loads.includes(gear)) return
    if (to.verdict === 'danger') {
      say({ refused: true, text: `Not plugged: ${to.why}.` })
      return
    }
    void change(`Feed ${load.name} from ${outputName(data, supply, output)}`, (r) =>
      plugged(r, gear, to, state.voltages_v.length > 1),
    )
    if (to.verdict === 'fault') say({ refused: false, text: `Plugged, but ${to.why}.` })
  }
  const take = (gear: string) => {
    lift(undefined)
    void change(`Unplug ${loads.get(gear)?.name ?? gear}`, (r) => unplugged(r, gear))
  }
  const battery = (gear: string) => {
    lift(undefined)
    void change(`${loads.get(gear)?.name ?? gear} on its battery`, (r) => onBattery(r, gear))
  }
  const tag = (l: PowerLoad) => (
    <LoadTag
      key={l.gear}
      load={l}
      data={data}
      onLift={lift}
      onPlug={(s, o) => plug(l.gear, s, o)}
      onTake={() => take(l.gear)}
      onBattery={() => battery(l.gear)}
    />
  )
  const unfed = data.loads.filter((l) => l.fed === 'nothing')
  const batteries = data.loads.filter((l) => l.fed === 'battery')
  const up = lifted ? loads.get(lifted) : undefined
  return (
    <Stack $gap={14}>
      <Row $gap={16}>
        <Muted>
          <Figure>{data.loads.length}</Figure> boxes draw <Figure>{data.drawn_ma.toFixed(0)} mA</Figure>,{' '}
          <Figure>{data.drawn_w.toFixed(1)} W</Figure>.
        </Muted>
      </Row>
      {said && (
        <div role={said.refused ? 'alert' : 'status'}>
          <Caution>
            {said.text}
            {said.refused && ' Wrong voltage or polarity kills pedals: check the label of the box itself.'}
          </Caution>
        </div>
      )}
      <Panel role="region" aria-label="Power">
        <Row $gap={18} style={{ alignItems: 'center' }}>
          <Heading>Power</Heading>
          <TakeButton
            $strong
            fresh={fresh}
            onPress={() => change('Assign all power', (r) => ({ ...r, power: data.assignment.feeds }), from)}
          >
            Assign all
          </TakeButton>
        </Row>
        <Best data={data} />
        <Muted as="p">Leads you allow:</Muted>
        <Leads>
          {leads.map((l) => (
            <Switch
              key={l.id}
              label={l.name}
              value={data.leads.includes(l.id)}
              onChange={(on) =>
                change(on ? `Allow ${l.name.toLowerCase()}` : `No ${l.name.toLowerCase()}`, (r) => ({
                  ...r,
                  power_leads: [...(r.power_leads ?? []).filter((x) => x !== l.id), ...(on ? [l.id] : [])],
                }))
              }
            />
          ))}
        </Leads>
        <Waiting>
          <Drop label="Not fed" accepts={() => true} onDrop={take}>
            <Heading as="h3">Not fed</Heading>
            {unfed.length === 0 && <Muted as="span">Every box is fed.</Muted>}
            {unfed.map(tag)}
          </Drop>
          <Drop label="On battery" accepts={(g) => Boolean(loads.get(g)?.battery)} onDrop={battery}>
            <Heading as="h3">On battery</Heading>
            {batteries.length === 0 && <Muted as="span">None.</Muted>}
            {batteries.map((l) => (
              <Cell key={l.gear}>
                {tag(l)}
                <Figure>{(l.hours_left ?? 0).toFixed(0)} h left, run for</Figure>
                <NumberField
                  label={`Hours run by the battery of ${l.name}`}
                  hideLabel
                  width={64}
                  value={rig.batteries?.find((b) => b.gear === l.gear)?.used_h}
                  placeholder="0"
                  min={0}
                  max={10000}
                  onCommit={(v) =>
                    change(`Hours of the battery of ${l.name}`, (r) => ({
                      ...r,
                      batteries: r.batteries?.map((b) => (b.gear === l.gear ? { ...b, used_h: v } : b)),
                    }))
                  }
                />
                <Figure>h</Figure>
              </Cell>
            ))}
          </Drop>
        </Waiting>
        {data.supplies.length === 0 && <NoSupply />}
        {data.supplies.map((s) => (
          <Supply key={s.supply} role="group" aria-label={s.name}>
            <Row $gap={14}>
              <Heading as="h3">{s.name}</Heading>
              <Muted as="span">
                <Figure>
                  {s.drawn_ma.toFixed(0)} of {s.total_ma.toFixed(0)} mA
                </Figure>
                {s.mains_v && (
                  <>
                    , for mains of <Figure>{s.mains_v} V</Figure>
                  </>
                )}
                {!s.used && ', not in use on this rig'}
              </Muted>
            </Row>
            <Outputs>
              {s.outputs.map((o) => (
                <OutputCard
                  key={o.output}
                  supply={s}
                  output={o}
                  up={up}
                  onDrop={(g) => plug(g, s.supply, o.output)}
                  change={change}
                >
                  {o.loads.map((g) => loads.get(g)).map((l) => l && tag(l))}
                </OutputCard>
              ))}
            </Outputs>
          </Supply>
        ))}
        {data.assumed.map((a) => (
          <Muted key={a}>{a}</Muted>
        ))}
        {data.cautions.map((c) => (
          <Caution key={c}>{c}</Caution>
        ))}
      </Panel>
    </Stack>
  )
}

/** What the best assignment comes to, and what would still be missing. */
function Best({ data }: { data: Power }) {
  const a = data.assignment
  return (
    <div>
      <Muted>
        The best assignment feeds <Figure>{a.served}</Figure>
        {a.shared > 0 && (
          <>
            , <Figure>{a.shared}</Figure> of them beside another
          </>
        )}
        {a.leads > 0 && (
          <>
            , by <Figure>{a.leads}</Figure> special {a.leads === 1 ? 'lead' : 'leads'}
          </>
        )}
        {a.served > 0 && (
          <>
            , and leaves at least <Figure>{(a.least_headroom * 100).toFixed(0)} %</Figure> of each output
          </>
        )}
        ; {a.proven ? 'proven the best' : 'the best found, not proven'}.
      </Muted>
      {a.unserved.length > 0 && (
        <Missing aria-label="What is missing">
          {a.unserved.map((m) => (
            <li key={m.gear}>
              <b>{m.name}</b> cannot be fed: {m.why}. What would: {m.would_serve.join('; ')}.
            </li>
          ))}
        </Missing>
      )}
    </div>
  )
}

function NoSupply() {
  const { data } = useKinds()
  const edit = useEdit()
  const navigate = useNavigate()
  const kind = data?.kinds.find((k) => k.id === 'supply')
  const add = () => {
    if (!kind) return
    const id = freshId()
    void edit.add('gear', `Add ${kind.name}`, { ...kind.gear, id, name: kind.name, circuit: kind.name })
    navigate(`/own/${id}`)
  }
  return (
    <Row>
      <Muted>No supply with outputs is owned yet.</Muted>
      <Button $strong onPress={add}>
        Add a supply
      </Button>
    </Row>
  )
}

const Leads = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr)); gap: 4px 18px;`
const Waiting = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 260px), 1fr)); gap: 10px;`
const Supply = styled.div`display: grid; gap: 8px; border-top: 1px solid var(--line); padding-top: 10px;`
const Outputs = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(186px, 1fr)); gap: 8px;`
const Missing = styled.ul`font-size: 13px; display: grid; gap: 4px; margin-top: 6px; border-left: 3px solid var(--red); padding-left: 10px;`
const Cell = styled.span`min-width: 0; max-width: 100%; display: inline-flex; flex-wrap: wrap; align-items: center; gap: 4px 8px; font-size: 13px;`
