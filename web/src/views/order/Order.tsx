import { useState } from 'react'
import styled from 'styled-components'
import { useEdit, values } from '../../api/plan'
import type { Rig } from '../../api/types'
import { Icon } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Actions, Button } from '../../ui/controls'
import { Muted, Row, Stack, Tape, Title } from '../../ui/layout'
import { BestOrder } from './BestOrder'
import { Cables } from './Cables'
import { pinned, placed, spare, stopsOf } from './chain'
import { Guitars } from './Guitars'
import { Lane } from './Lane'
import { MakeRecipe } from './MakeRecipe'
import { RecipeMenu } from './RecipeMenu'
import { Schools } from './Schools'
import { StopSheet } from './StopSheet'

const lanes = { front: 'Front of amp', loop: 'In the loop', out: 'Out' } as const

/** The chain in lanes, lit for the sound the cursor is on. */
export function Order() {
  const { plan, rig, section, sound, recipe } = usePlace()
  const edit = useEdit()
  const [picked, pick] = useState<string | undefined>()
  if (!rig) return <NoRig />
  const stops = stopsOf(plan, rig)
  const change = (what: string, update: (r: Rig) => Rig) => void edit.change('rigs', rig.id, what, update)
  const zones = plan.zones[rig.id] ?? []
  const name = (key: string) => stops.find((s) => s.key === key)?.name ?? key
  const move = (key: string, before: string | undefined, zone: string) =>
    change(`Move ${name(key)}`, (r) => placed(r, [key], before, zones, zone))
  const step = (key: string, by: number) =>
    change(`Move ${name(key)}`, (r) => {
      const path = [...(r.path ?? [])]
      const from = path.findIndex((n) => n.stop === key)
      const to = Math.max(0, Math.min(path.length - 1, from + by))
      const [node] = path.splice(from, 1)
      if (node) path.splice(to, 0, node)
      return { ...r, path }
    })
  const drop = (key: string) =>
    change(`Take ${name(key)} out of the chain`, (r) => {
      const gear = stops.find((s) => s.key === key)?.gear
      const out = gear?.kind === 'amp' ? (n: string) => n.startsWith(`${gear.id}/`) : (n: string) => n === key
      return { ...r, path: (r.path ?? []).filter((n) => !out(n.stop ?? '')) }
    })
  const free = spare(plan, rig)
  const amp = stops.find((s) => s.effect === 'preamp' && s.gear.kind === 'amp')?.gear
  const lane = (zone: keyof typeof lanes) => (
    <Lane
      zone={zone}
      title={lanes[zone]}
      stops={stops.filter((s) => s.zone === zone)}
      note={
        zone === 'loop' && amp && !amp.loop
          ? `${amp.name} has no effects loop.`
          : zone !== 'front' && !amp
            ? 'No amp in the chain yet.'
            : undefined
      }
      picked={picked}
      pick={pick}
      move={move}
      step={step}
      drop={drop}
      pin={(key, on) => change(`${on ? 'Pin' : 'Let go of'} ${name(key)}`, (r) => pinned(r, key, on))}
    />
  )
  return (
    <Stack $gap={14}>
      <Row $gap={16}>
        <Title>Order</Title>
        <Where>
          {section ? (
            <>
              {section.section} of {section.song}{' '}
              <Tape style={{ background: tape(sound?.tape) }}>{sound?.name}</Tape>
            </>
          ) : (
            <Muted as="span">Base settings; no section is under the cursor.</Muted>
          )}
        </Where>
        <RecipeMenu />
        <Actions
          label="Add a stop"
          acts={
            free.length > 0
              ? free.map((f) => ({
                  id: f.id,
                  name: f.name,
                  run: () => {
                    change(`Add ${f.name} to the chain`, (r) =>
                      f.keys.length > 1
                        ? { ...r, path: [...(r.path ?? []), ...f.keys.map((stop) => ({ stop }))] }
                        : placed(r, f.keys, picked ?? amp?.id.concat('/preamp'), zones, 'front'),
                    )
                    pick(f.keys[0])
                  },
                }))
              : [
                  {
                    id: 'none',
                    name: 'Everything owned is in the chain',
                    run: () => undefined,
                    disabled: true,
                  },
                ]
          }
        >
          <Icon name="plus" /> Add a stop
        </Actions>
      </Row>
      {section && !recipe && <MakeRecipe />}
      <Guitars rig={rig} picked={picked} pick={pick} change={change} />
      {lane('front')}
      <Side>
        {lane('loop')}
        {lane('out')}
      </Side>
      <StopSheet key={picked} rig={rig} picked={picked} change={change} />
      <BestOrder rig={rig} change={change} />
      <Schools rig={rig} change={change} />
      <Cables rig={rig} />
    </Stack>
  )
}

function NoRig() {
  const { plan } = usePlace()
  const edit = useEdit()
  const guitars = values(plan, 'gear').filter((g) => g.kind === 'guitar')
  return (
    <Stack>
      <Title>Order</Title>
      <Muted>
        A rig is how gear is put together: the chain from the guitar on, and how each sound is set.
      </Muted>
      <Row>
        <Button
          $strong
          onPress={() =>
            void edit.add('rigs', 'Add a rig', {
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

const Where = styled.p`flex: 1; font-size: 14px;`

const Side = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(170px, max-content); gap: 28px; align-items: start;
`
