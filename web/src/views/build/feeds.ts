import type { Power, PowerChoice, PowerFeed, Rig } from '../../api/types'

/** The rig with a box taken off whatever feeds it; a feed with nothing left on it goes. */
export function unplugged(rig: Rig, gear: string): Rig {
  return {
    ...rig,
    power: (rig.power ?? [])
      .map((f) => ({ ...f, gear: f.gear.filter((g) => g !== gear) }))
      .filter((f) => f.gear.length > 0),
    batteries: rig.batteries?.filter((b) => b.gear !== gear),
  }
}

/** The rig with a box on an output, beside what hangs there already, switched and led as the choice says. */
export function plugged(rig: Rig, gear: string, to: PowerChoice, switchable: boolean): Rig {
  const next = unplugged(rig, gear)
  const on = (f: PowerFeed) => f.supply === to.supply && (f.output === to.output || f.second === to.output)
  if (next.power?.some(on))
    return { ...next, power: next.power.map((f) => (on(f) ? { ...f, gear: [...f.gear, gear] } : f)) }
  const feed: PowerFeed = {
    supply: to.supply,
    output: to.output,
    gear: [gear],
    ...(switchable ? { voltage_v: to.voltage_v } : {}),
    ...(to.lead ? { lead: to.lead as PowerFeed['lead'] } : {}),
  }
  return { ...next, power: [...(next.power ?? []), feed] }
}

/** The rig with a box on its battery, fresh. */
export function onBattery(rig: Rig, gear: string): Rig {
  const next = unplugged(rig, gear)
  return { ...next, batteries: [...(next.batteries ?? []), { gear }] }
}

/** The rig with the output of a feed switched to a voltage. */
export function switched(rig: Rig, supply: string, output: string, volts: number): Rig {
  return {
    ...rig,
    power: rig.power?.map((f) =>
      f.supply === supply && f.output === output ? { ...f, voltage_v: volts } : f,
    ),
  }
}

/** An output in words. */
export function outputName(data: Power, supply: string, output: string): string {
  const s = data.supplies.find((x) => x.supply === supply)
  return `${s?.name ?? supply} ${s?.outputs.find((o) => o.output === output)?.name ?? output}`
}
