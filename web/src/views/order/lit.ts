import type { Recipe, Rig, Value, VariableInfo } from '../../api/types'

/** Which guitar plays a recipe where nothing else says: its own, or the first that plugs in. */
const playedOn = (where: Rig, recipe: Recipe): string => recipe.guitar ?? where.guitars?.[0] ?? ''

/** What a variable is set to for a recipe, and where that is said. */
export function settingOf(
  rig: Rig,
  recipe: Recipe | undefined,
  v: VariableInfo,
): { value: Value; from: 'sound' | 'guitar' | 'base' | 'gear' } {
  const own = recipe?.values?.[v.key]
  if (own !== undefined) return { value: own, from: 'sound' }
  const held = recipe && rig.per_guitar?.[playedOn(rig, recipe)]?.[v.key]
  if (held !== undefined) return { value: held, from: 'guitar' }
  const base = rig.base?.[v.key]
  if (base !== undefined) return { value: base, from: 'base' }
  return { value: v.default, from: 'gear' }
}

export const isFree = (v: Value): boolean => typeof v === 'object' && v !== null && 'free' in v

export const syncOf = (v: Value): string | undefined =>
  typeof v === 'object' && v !== null && 'sync' in v ? v.sync : undefined

/** A setting in a word or two, for a stop's card. */
export function worded(v: Value, unit = ''): string {
  if (isFree(v)) return 'any'
  const sync = syncOf(v)
  if (sync) return sync
  if (typeof v === 'boolean') return v ? 'on' : 'off'
  return typeof v === 'number' ? `${Math.round(v * 10) / 10}${unit ? ` ${unit}` : ''}` : String(v)
}

/** The settings of a stop that say most about it: its preset, or its first control. */
export function gist(rig: Rig, recipe: Recipe | undefined, mine: VariableInfo[]): string {
  const telling =
    mine.find((v) => v.kind === 'preset') ??
    mine.find((v) => v.kind === 'selector' && v.access === 'foot') ??
    mine.find((v) => v.kind === 'knob')
  if (!telling) return ''
  const short = telling.label.split(' ').at(-1) ?? ''
  return `${short} ${worded(settingOf(rig, recipe, telling).value, telling.unit)}`
}

/** The memory a box is on for a recipe, when it has any: a preset, and a snapshot within it. */
export interface MemoryAt {
  preset: string
  snapshot?: string
}

export function memoryOf(
  rig: Rig,
  recipe: Recipe | undefined,
  v: VariableInfo,
  all: VariableInfo[],
): MemoryAt | undefined {
  if (v.access !== 'memory') return undefined
  const at = (kind: string) => {
    const control = all.find((x) => x.gear === v.gear && x.kind === kind)
    const value = control && settingOf(rig, recipe, control).value
    return typeof value === 'string' ? value : undefined
  }
  const preset = at('preset')
  return preset === undefined ? undefined : { preset, snapshot: at('snapshot') }
}

/** What a memory holds of a variable; a snapshot says it over its preset. */
export const heldIn = (rig: Rig, at: MemoryAt, v: VariableInfo): Value | undefined =>
  rig.snapshots?.[v.gear]?.[at.preset]?.[at.snapshot ?? '']?.[v.key] ??
  rig.presets?.[v.gear]?.[at.preset]?.[v.key]

export const memoryWords = (at: MemoryAt) =>
  at.snapshot === undefined ? `preset ${at.preset}` : `preset ${at.preset}, snapshot ${at.snapshot}`

/** The rig with one setting of one memory changed. */
export function withMemory(rig: Rig, gear: string, at: MemoryAt, key: string, value: Value): Rig {
  if (at.snapshot === undefined) {
    const mine = rig.presets?.[gear] ?? {}
    return {
      ...rig,
      presets: { ...rig.presets, [gear]: { ...mine, [at.preset]: { ...mine[at.preset], [key]: value } } },
    }
  }
  const mine = rig.snapshots?.[gear] ?? {}
  const shots = mine[at.preset] ?? {}
  return {
    ...rig,
    snapshots: {
      ...rig.snapshots,
      [gear]: { ...mine, [at.preset]: { ...shots, [at.snapshot]: { ...shots[at.snapshot], [key]: value } } },
    },
  }
}
