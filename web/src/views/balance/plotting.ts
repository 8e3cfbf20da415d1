import type { GainPoint, GainTarget } from '../../api/types'

/** A point of the map that is drawn, and which it is. */
export interface Shown {
  p: GainPoint
  i: number
}

/** The range of both axes: what is drawn, with a little room. */
export function rangeOf(points: Shown[], targets: GainTarget[]) {
  const louds = [
    ...points.map(({ p }) => p.over_home_lu),
    ...targets.flatMap((t) => [t.loud_min, t.loud_max].filter((x): x is number => x !== undefined)),
  ]
  const low = Math.max(Math.min(...louds, -1) - 0.8, -30)
  return {
    low,
    high: Math.max(...louds, 1) + 0.8,
    dirt: Math.max(...points.map(({ p }) => p.dirt_pct), 60) + 6,
  }
}

/** How many regions before this one have their name where it would stand. */
export function crowding(
  targets: GainTarget[],
  n: number,
  top: (t: GainTarget) => number,
  x: (v: number) => number,
): number {
  const t = targets[n]
  if (!t) return 0
  return targets
    .slice(0, n)
    .filter((o) => Math.abs(x(o.dirt_min) - x(t.dirt_min)) < 60 && Math.abs(top(o) - top(t)) < 15).length
}

/** Which points have room for their letters: those of sounds and the one picked first. */
export function placed(
  points: Shown[],
  x: (v: number) => number,
  y: (v: number) => number,
  picked: number | undefined,
): Set<number> {
  const kept: { x: number; y: number }[] = []
  const shown = new Set<number>()
  const rank = ({ p, i }: Shown) => (i === picked ? 0 : p.sounds.length ? 1 : p.name.length + 1)
  for (const s of [...points].sort((a, b) => rank(a) - rank(b))) {
    const at = { x: x(s.p.dirt_pct), y: y(s.p.over_home_lu) }
    if (kept.some((k) => Math.abs(k.x - at.x) < 44 && Math.abs(k.y - at.y) < 14)) continue
    kept.push(at)
    shown.add(s.i)
  }
  return shown
}
