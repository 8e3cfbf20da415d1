import type { Gear } from '../../api/types'

/** Gear without what was said of controls, positions and pickups that it has no more. */
export function fitting(gear: Gear): Gear {
  const has = (id: string, is: string) =>
    (gear.controls ?? []).some((c) => c.id === id && (c.options ?? []).includes(is))
  const pickups = new Set((gear.pickups ?? []).map((p) => p.id))
  return {
    ...gear,
    positions: filled(
      gear.positions
        ?.filter((p) => has('pickup', p.is))
        .map((p) => ({
          ...p,
          pickups: (p.pickups ?? []).filter((id) => pickups.has(id)),
          reversed: filled(p.reversed?.filter((id) => pickups.has(id))),
        }))
        .filter((p) => p.pickups.length > 0),
    ),
    blocks: gear.blocks?.map((b) => ({
      ...b,
      model_at: filled(
        b.model_at?.filter(
          (m) =>
            has(m.control, m.is) ||
            (b.controls ?? []).some((c) => c.id === m.control && (c.options ?? []).includes(m.is)),
        ),
      ),
    })),
  }
}

const filled = <T>(list: T[] | undefined) => (list && list.length > 0 ? list : undefined)
