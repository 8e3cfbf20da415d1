import type { Press, VariableInfo } from '../api/types'

export interface Doing {
  id: string
  name: string
  press: Press | undefined
}

/** Everything one gesture on a footswitch could do to some variables. Targets are within
 * the gear for a box's own switches, whole for a rig's assignments. */
export function doings(keys: VariableInfo[], target: (key: string) => string): Doing[] {
  const list: Doing[] = [{ id: 'nothing', name: 'nothing', press: undefined }]
  for (const v of keys) {
    const to = target(v.key)
    const add = (id: string, name: string, action: Press['actions'][number]) =>
      list.push({ id: `${id} ${to}`, name, press: { actions: [action] } })
    if (v.switch) add('toggle', `${v.label} on and off`, { kind: 'toggle', target: to })
    else if (v.kind === 'knob') {
      if (v.unit === 'ms') add('tap', `tap ${v.label}`, { kind: 'tap', target: to })
    } else {
      add('step', `next ${v.label}`, { kind: 'step', target: to, wrap: true })
      add('back', `previous ${v.label}`, { kind: 'step', target: to, by: -1, wrap: true })
      for (const o of v.options ?? [])
        add(`set ${o}`, `${v.label} to ${o}`, { kind: 'set', target: to, value: o })
    }
  }
  return list
}

/** What a switch of a controller could do with its programs. */
export const recalls: Doing[] = [
  ...Array.from({ length: 10 }, (_, i) => String(i + 1)).map((slot) => ({
    id: `recall ${slot}`,
    name: `slot ${slot}`,
    press: { actions: [{ kind: 'recall' as const, value: slot }] },
  })),
  { id: 'bank up', name: 'next bank', press: { actions: [{ kind: 'bank', wrap: true }] } },
  { id: 'bank down', name: 'previous bank', press: { actions: [{ kind: 'bank', by: -1, wrap: true }] } },
  { id: 'bank on', name: 'next bank, stopping at the last', press: { actions: [{ kind: 'bank' }] } },
  {
    id: 'bank back',
    name: 'previous bank, stopping at the first',
    press: { actions: [{ kind: 'bank', by: -1 }] },
  },
  ...['A', 'B', 'C', 'D', '1', '2', '3', '4', '5', '6', '7', '8'].map((bank) => ({
    id: `bank ${bank}`,
    name: `bank ${bank}`,
    press: { actions: [{ kind: 'bank' as const, value: bank }] },
  })),
]

function plain(p: Press | undefined): string {
  return JSON.stringify(
    p?.actions.map((x) => [
      x.kind,
      x.target ?? '',
      x.value ?? '',
      x.by ?? 1,
      (x.kind === 'step' || x.kind === 'bank') && Boolean(x.wrap),
    ]) ?? [],
  )
}

/** The entry a press is, and the list to choose from: with an entry of its own for a press
 * that does several things. */
export function chosen(press: Press | undefined, list: Doing[]): { id: string; list: Doing[] } {
  const now = list.find((o) => plain(o.press) === plain(press))
  return now
    ? { id: now.id, list }
    : { id: 'own', list: [...list, { id: 'own', name: 'several things', press }] }
}
