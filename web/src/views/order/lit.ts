import type { Recipe, Rig, Value, VariableInfo } from '../../api/types'

/** What a variable is set to for a recipe, and where that is said. */
export function settingOf(
  rig: Rig,
  recipe: Recipe | undefined,
  v: VariableInfo,
): { value: Value; from: 'sound' | 'base' | 'gear' } {
  const own = recipe?.values?.[v.key]
  if (own !== undefined) return { value: own, from: 'sound' }
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

/** The preset a box is on for a recipe, when it has any. */
export function presetOf(
  rig: Rig,
  recipe: Recipe | undefined,
  v: VariableInfo,
  all: VariableInfo[],
): string | undefined {
  if (v.access !== 'memory') return undefined
  const preset = all.find((x) => x.gear === v.gear && x.kind === 'preset')
  const value = preset && settingOf(rig, recipe, preset).value
  return typeof value === 'string' ? value : undefined
}

/** The rig with one setting of one preset changed. */
export function withPreset(rig: Rig, gear: string, preset: string, key: string, value: Value): Rig {
  const mine = rig.presets?.[gear] ?? {}
  return {
    ...rig,
    presets: { ...rig.presets, [gear]: { ...mine, [preset]: { ...mine[preset], [key]: value } } },
  }
}
