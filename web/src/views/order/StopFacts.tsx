import styled from 'styled-components'
import { useTempo, useUses } from '../../api/plan'
import type { Block, Gear, Rig } from '../../api/types'
import { usePlace } from '../../state/place'
import { Muted } from '../../ui/layout'
import { settingOf } from './lit'
import { useChain } from './useChain'

const bypasses: Record<Block['bypass'], string> = {
  true: 'true bypass',
  buffered: 'buffered bypass',
  always: 'always on',
}

/** What a stop is: bypass, levels, jacks, power, and where it is used. */
export function StopFacts({ rig, gear, block }: { rig: Rig; gear: Gear; block: Block }) {
  const { plan, destination, setList, section, sound } = usePlace()
  const { data: night } = useTempo(setList?.id, rig.id, destination?.id)
  const { traced } = useChain()
  const { data } = useUses(gear.id)
  const key = `${gear.id}/${block.id}`
  const at = traced.get(key)
  const sw = plan.variables.find((v) => v.switch && v.key === `${key}/on`)
  const sounds = plan.sounds.filter((s) => {
    const recipe = rig.recipes?.find((r) => r.sound === s.value.id)
    return recipe && (!sw || settingOf(rig, recipe, sw).value === true)
  })
  const power = gear.power
  const sides = (n: number) => (n === 2 ? 'stereo' : 'mono')
  const facts: [string, string][] = [
    [
      'Bypass',
      [
        bypasses[block.bypass],
        block.trails && `trails ring on ${block.ring_s ?? 3} s`,
        block.inverts && 'inverts the polarity',
        block.latency_ms && `dry sound ${block.latency_ms} ms late`,
      ]
        .filter(Boolean)
        .join(', '),
    ],
    ['Jacks', (gear.jacks ?? []).map((j) => j.name ?? j.id).join(', ') || 'not entered'],
    [
      'Power',
      power
        ? [
            `${power.voltage_v} V`,
            power.current_ma !== undefined ? `${power.current_ma} mA` : 'draw not entered',
            power.polarity,
            power.battery && 'or a battery',
          ]
            .filter(Boolean)
            .join(', ')
        : gear.kind === 'amp'
          ? 'mains'
          : 'none entered',
    ],
    ['On in', sounds.map((s) => s.value.name).join(', ') || 'no sound of this rig'],
    ['Used by', [...new Set((data?.uses ?? []).map((u) => u.name))].join(', ') || 'nothing else'],
  ]
  const timed = night?.songs
    .find((s) => s.entry === section?.entry)
    ?.uses.find((u) => u.stop === key && u.sound === sound?.id)
  if (timed?.wanted_ms !== undefined)
    facts.splice(1, 0, [
      'Time',
      [
        `${timed.words} in ${section?.song}, ${timed.wanted_ms.toFixed(0)} ms`,
        timed.set_ms !== undefined && `set to ${timed.set_ms.toFixed(0)} ms`,
        timed.too_long && `its longest is ${timed.longest_ms?.toFixed(0)} ms`,
      ]
        .filter(Boolean)
        .join(', '),
    ])
  if (at)
    facts.splice(1, 0, [
      'Signal',
      `${sides(at.in)} in, ${sides(at.out)} out; ${at.level_in} level${at.level_out === at.level_in ? '' : ` in, ${at.level_out} level out`}`,
    ])
  return (
    <Facts>
      {facts.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>
            <Muted as="span">{value}</Muted>
          </dd>
        </div>
      ))}
    </Facts>
  )
}

const Facts = styled.dl`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(250px, 1fr)); gap: 4px 18px; margin: 0; font-size: 13px;
  div { display: flex; gap: 8px; }
  dt { font: 600 14px/1.4 var(--face-label); min-width: 52px; color: var(--text); }
  dd { margin: 0; }
`
