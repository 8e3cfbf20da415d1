import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { Gear, Rig, StandInOffer, StandInReport } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { copyOf } from '../../frame/copyOf'
import { useListen } from '../../state/listen'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { signed } from '../../ui/figures'
import { Caution, Figure, Muted, Name, Row, Stack, Tape } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { TakeButton } from '../../ui/TakeButton'
import { useShow } from '../pack/useShow'

interface Asked {
  rig: Rig
  gear: Gear
  /** Where the rig plugs in; as it stands where that is undefined. */
  destination: string | undefined
  setList: string | undefined
}

/** What to play when a box is not there: opened on its stop. */
export function StandIn(p: Asked & { level?: 2 | 3 }) {
  return (
    <Fold title={`Stand in for ${p.gear.name}`} level={p.level}>
      <Offers {...p} />
    </Fold>
  )
}

function Offers({ rig, gear, destination, setList }: Asked) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const work = useWork<StandInReport>('/api/stand-ins', {
    rig: rig.id,
    destination,
    box: gear.id,
    set_list: setList,
  })
  const found = work.result
  return (
    <Stack style={{ paddingTop: 10 }}>
      {work.busy && (
        <Progress label={`Trying boxes for ${gear.name}`} share={work.progress} cancel={work.cancel} />
      )}
      {work.cancelled && (
        <Row>
          <Button onPress={work.again}>Try boxes for {gear.name}</Button>
        </Row>
      )}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && (
        <>
          {found.sounds.length === 0 ? (
            <p>No sound of {rig.name} has it on: nothing changes without it.</p>
          ) : (
            <Row $gap={10} style={{ alignItems: 'center' }}>
              With {gear.name}:
              {found.sounds.map((s) => (
                <Row key={s.sound} $gap={6} style={{ alignItems: 'center' }}>
                  <Tape $small style={{ background: tape(find('sounds', s.sound)?.tape) }}>
                    {s.name}
                  </Tape>
                  <Figure>
                    {signed(s.loudness_lu)} LU, {Math.round(s.dirt_pct)} % dirt
                  </Figure>
                </Row>
              ))}
            </Row>
          )}
          {found.sounds.some((s) => s.as_it_is) && (
            <Muted>
              Compared with what they are now, since they have no targets:{' '}
              {found.sounds
                .filter((s) => s.as_it_is)
                .map((s) => s.name)
                .join(', ')}
              .
            </Muted>
          )}
          {found.offers.length === 0 && <p role="status">Nothing you own, and no kind, does its job.</p>}
          <List aria-label={`What stands in for ${gear.name}`}>
            {found.offers.map((o, i) => (
              <li key={o.gear}>
                <Offer
                  first={i === 0}
                  offer={o}
                  found={found}
                  rig={rig}
                  gear={gear}
                  destination={destination}
                  fresh={work.fresh}
                  from={work.from}
                />
              </li>
            ))}
          </List>
          {found.left.length > 0 && <Muted>{found.left.map((l) => `${l.name}: ${l.why}`).join(' ')}</Muted>}
          <Caution>
            Wrong voltage or polarity kills pedals: check the label first. The figures are of models of kinds
            of circuit.
          </Caution>
        </>
      )}
    </Stack>
  )
}

function Offer(p: {
  first: boolean
  offer: StandInOffer
  found: StandInReport
  rig: Rig
  gear: Gear
  destination: string | undefined
  fresh: boolean
  from: string | undefined
}) {
  const { offer: o, rig, gear } = p
  const { plan, pickShow } = useChosen()
  const find = useLookup(plan)
  const edit = useEdit()
  const listen = useListen()
  const [show] = useShow()
  const tonight = show?.rig === rig.id ? show : undefined
  const added = o.new_gear ? [{ kind: 'gear' as const, value: o.new_gear }] : []
  const values = JSON.stringify(settingsOf(o))
  const forGood = () =>
    edit.amend(
      `${o.name} stands in for ${gear.name}`,
      added,
      [{ kind: 'rigs' as const, id: rig.id, update: () => o.rig }],
      p.from,
    )
  const forTonight = async () => {
    if (!tonight) return
    const other = copyOf(o.rig, `${rig.name}, ${o.name} for ${gear.name}`.slice(0, 80))
    const at = rig.destinations?.findIndex((d) => d.id === tonight.destination) ?? -1
    const there = at >= 0 ? other.destinations?.[at]?.id : undefined
    const outcome = await edit.amend(
      `${o.name} stands in for ${gear.name} at ${tonight.name}`,
      [...added, { kind: 'rigs' as const, value: other }],
      [
        {
          kind: 'shows',
          id: tonight.id,
          update: (s) => ({
            ...s,
            rig: other.id,
            destination: there,
            fixes: [...(s.fixes ?? []), { text: `${o.name} stood in for ${gear.name}`, gear: o.gear }],
          }),
        },
      ],
      p.from,
    )
    if (!outcome.problem) pickShow(tonight.set_list, other.id, there)
  }
  return (
    <Card aria-label={`${o.name} for ${gear.name}`} role="group">
      <Row $gap={12} style={{ alignItems: 'center' }}>
        <Name as="h4" style={{ margin: 0 }}>
          {o.name}
        </Name>
        <Muted>{o.kind ? 'a kind, not owned' : 'owned'}</Muted>
        <span>
          <Figure>
            {o.within}/{o.sounds.length}
          </Figure>{' '}
          within {o.sounds.length === 1 ? 'its targets' : 'their targets'}
        </span>
      </Row>
      {o.sounds.map((s) => (
        <Row key={s.sound} $gap={10} style={{ alignItems: 'center' }}>
          <Tape $small style={{ background: tape(find('sounds', s.sound)?.tape) }}>
            {s.name}
          </Tape>
          <Figure>
            {signed(s.loudness_lu)} LU, {Math.round(s.dirt_pct)} % dirt
          </Figure>
          <span>
            {s.within
              ? 'within'
              : s.checks
                  .filter((c) => !c.met)
                  .map((c) => c.words)
                  .join(' ')}
          </span>
          <Button
            aria-label={`Listen to ${s.name} with ${gear.name} and with ${o.name}`}
            onPress={() =>
              listen({
                title: s.name,
                path: '/api/stand-ins/listen',
                query: {
                  rig: rig.id,
                  destination: p.destination,
                  box: gear.id,
                  sound: s.sound,
                  gear: o.gear,
                  kind: o.kind,
                  values,
                },
              })
            }
          >
            Listen
          </Button>
        </Row>
      ))}
      {o.knobs.length > 0 && <p>Set it to: {o.knobs.map(placed).join(', ')}.</p>}
      {o.held.map((h) => (
        <p key={h.preset}>
          Preset {h.preset}: {h.knobs.map(placed).join(', ')}.
        </p>
      ))}
      {(o.costs.length > 0 || o.also.length > 0) && (
        <Muted>
          {o.costs.length > 0 && `Over the set: ${o.costs.join(', ')}. `}
          {o.also.join(' ')}
        </Muted>
      )}
      <Row $gap={10}>
        <TakeButton
          $strong={p.first}
          fresh={p.fresh}
          aria-label={`Take ${o.name} for good`}
          onPress={() => void forGood()}
        >
          For good
        </TakeButton>
        {tonight && (
          <TakeButton
            fresh={p.fresh}
            aria-label={`Take ${o.name} for ${tonight.name} alone`}
            onPress={() => void forTonight()}
          >
            For {tonight.name} alone
          </TakeButton>
        )}
      </Row>
    </Card>
  )
}

const List = styled.ul`display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 330px), 1fr)); gap: 10px; align-items: start;`
const Card = styled.div`border: 1px solid var(--line); background: var(--bg); padding: 10px 12px; display: grid; gap: 8px; font-size: 14px; min-width: 0;`

const placed = (k: StandInOffer['knobs'][number]) =>
  `${k.name} ${k.clock ? `${k.clock} (${k.at})` : `${k.at} ${k.unit ?? ''}`.trim()}`

/** Where everything of the box that stands in is set. */
const settingsOf = (o: StandInOffer) =>
  Object.fromEntries(Object.entries(o.rig.base ?? {}).filter(([key]) => key.startsWith(`${o.gear}/`)))
