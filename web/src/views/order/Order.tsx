import { useState } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { useOrder, values } from '../../api/plan'
import type { OrderMove, PathNode } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen, usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Heading, Muted, Row, Stack, Tape, Title } from '../../ui/layout'
import { AddStop } from './AddStop'
import { BestOrder } from './BestOrder'
import { Cables } from './Cables'
import { find, idOf, moved, rowsOf, type Spot, type stopsOf } from './chain'
import { Destinations } from './Destinations'
import { Guitars } from './Guitars'
import { KeptOrders } from './KeptOrders'
import { LevelGuitars } from './LevelGuitars'
import { Loops } from './Loops'
import { MakeRecipe } from './MakeRecipe'
import { Nodes } from './Nodes'
import { PlaceIt } from './PlaceIt'
import { RecipeMenu } from './RecipeMenu'
import { Schools } from './Schools'
import { SplitSheet } from './SplitSheet'
import { StopSheet } from './StopSheet'
import { type Chain, ChainProvider, useChain } from './useChain'
import { usePathEdit } from './usePathEdit'
import { useSlots } from './useSlots'

/** The chain in rows, lit for the sound the cursor is on. */
export function Order() {
  const { rig, destination, here, section, sound, recipe } = usePlace()
  const { data: order } = useOrder(rig?.id, destination?.id)
  const [picked, pick] = useState<string | undefined>()
  const [looked, look] = useState<OrderMove | undefined>()
  const { path: own, stops, nameIn, change, changePath } = usePathEdit()
  const slots = useSlots(rig)
  if (!rig || !here) return <NoRig />
  const path = looked?.path ?? own
  const name = (id: string) => nameIn(path, id)
  const chain: Chain = {
    rig,
    path,
    stops,
    laneNames: new Map((looked ? [] : (order?.splits ?? [])).map((s) => [s.split, s.lanes])),
    traced: new Map((looked ? [] : (order?.stops ?? [])).map((t) => [t.stop, t])),
    picked,
    pick,
    name,
    gearName: slots.name,
    put: async (slot, gear) => {
      const stop = await slots.put(slot, gear)
      if (stop) pick(stop)
    },
    preview: looked !== undefined,
    marked: looked?.stop,
    change: changePath,
    move: (id, spot) => changePath(`Move ${name(id)}`, (p) => moved(p, id, spot)),
  }
  const at = find(own, picked ?? '')
  return (
    <ChainProvider value={chain}>
      <Stack $gap={14}>
        <Row $gap={16}>
          <Title>Order</Title>
          <Link to="/learn">Learn the rules</Link>
          <Where>
            {section ? (
              <>
                <span>
                  {section.section} of {section.song}
                </span>
                <Tape style={{ background: tape(sound?.tape) }} title={sound?.name}>
                  {sound?.name}
                </Tape>
              </>
            ) : (
              <Muted as="span">Base settings; no section is under the cursor.</Muted>
            )}
          </Where>
          <RecipeMenu />
          <AddStop label="Add a stop" spot={addSpot(path, picked, stops)} />
        </Row>
        {section && !recipe && <MakeRecipe />}
        <Guitars rig={rig} picked={picked} pick={pick} change={change} />
        {looked && (
          <Preview role="status">
            <span>
              Looking at: <b>{looked.words}</b>
            </span>
            <Button onPress={() => look(undefined)}>Back to the order as it stands</Button>
          </Preview>
        )}
        <Rows />
        {at?.split ? (
          <SplitSheet />
        ) : (
          <StopSheet key={picked} rig={rig} here={here} picked={picked} change={change} />
        )}
        <BestOrder rig={rig} looked={looked} look={look} />
        <PlaceIt rig={rig} />
        <Destinations rig={rig} change={change} />
        <LevelGuitars rig={rig} />
        <KeptOrders rig={rig} look={look} />
        <Schools rig={rig} change={change} />
        <Loops rig={rig} />
        <Cables rig={rig} />
      </Stack>
    </ChainProvider>
  )
}

/** Front of amp, loop and out; a chain without an amp is one line. */
function Rows() {
  const { path, stops } = useChain()
  const rows = rowsOf(path, stops)
  const amp = [...rows.front]
    .map((n) => stops.get(n.stop ?? ''))
    .find((s) => s?.effect === 'preamp' && s.gear.kind === 'amp')?.gear
  const loopNote = amp
    ? amp.loop
      ? 'Nothing here. Drop a stop, or add one.'
      : `${amp.name} has no effects loop.`
    : 'No amp in the chain yet.'
  const endOf = (row: PathNode[], otherwise: Spot): Spot => {
    const last = row.at(-1)
    return last ? { after: idOf(last) } : otherwise
  }
  const firstOut = rows.out[0]
  const preamp = rows.front.at(-1)
  const frontEnd: Spot = amp && preamp ? { before: idOf(preamp) } : endOf(rows.front, 'end')
  return (
    <>
      <section aria-label="Front of amp">
        <Heading>{amp ? 'Front of amp' : 'The chain'}</Heading>
        <Nodes
          label="Front of amp"
          nodes={rows.front}
          end={frontEnd}
          empty="Nothing yet. Add a stop, the first after the guitar."
        />
      </section>
      {(amp || firstOut) && (
        <Side $below={rows.out.some((n) => n.split)}>
          <section aria-label="In the loop">
            <Heading>In the loop</Heading>
            <Nodes
              label="In the loop"
              nodes={rows.loop}
              end={endOf(rows.loop, firstOut ? { before: idOf(firstOut) } : 'end')}
              empty={loopNote}
              add={Boolean(amp?.loop)}
            />
          </section>
          <section aria-label="Out">
            <Heading>Out</Heading>
            <Nodes label="Out" nodes={rows.out} end="end" empty="No power section." add />
          </section>
        </Side>
      )}
    </>
  )
}

/** Where a new stop goes: after the one picked, else at the end of the front of the amp. */
function addSpot(path: PathNode[], picked: string | undefined, stops: ReturnType<typeof stopsOf>): Spot {
  const rows = rowsOf(path, stops)
  const last = rows.front.at(-1)
  const at = find(path, picked ?? '')
  const effect = stops.get(picked ?? '')?.effect
  if (at && effect !== 'power' && !(at.split && at.split.kind !== 'tap' && !at.split.join))
    return { after: picked ?? '' }
  if (last && rows.loop.length + rows.out.length > 0) return { before: idOf(last) }
  return 'end'
}

function NoRig() {
  const { plan } = useChosen()
  const edit = useEdit()
  const guitars = values(plan, 'gear').filter((g) => g.kind === 'guitar')
  return (
    <Stack>
      <Title>Order</Title>
      <Muted>A rig is a chain of gear from the guitar on, and the settings of each sound.</Muted>
      <Row>
        <Button
          $strong
          onPress={() =>
            edit.add('rigs', 'Add a rig', {
              id: `rig-${Date.now().toString(36)}`,
              name: 'First board',
              guitars: guitars.slice(0, 1).map((g) => g.id),
              floor: {},
              profile: {},
            })
          }
        >
          Make a rig
        </Button>
        <Button onPress={() => void edit.loadDemo()}>Load the demo</Button>
      </Row>
    </Stack>
  )
}

const Where = styled.p`flex: 1 1 240px; min-width: 0; font-size: 14px; display: flex; flex-wrap: wrap; gap: 4px 8px; align-items: center;`
const Preview = styled.div`
  display: flex; gap: 14px; align-items: center; justify-content: space-between; padding: 6px 12px; border: 2px dashed var(--focus);
`
const Side = styled.div<{ $below: boolean }>`
  display: grid; grid-template-columns: minmax(0, 1fr) ${(p) => (p.$below ? '' : 'minmax(170px, max-content)')}; gap: 14px 28px; align-items: start;
  & > section:last-child { max-width: ${(p) => (p.$below ? 'none' : '420px')}; }
`
