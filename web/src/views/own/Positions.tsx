import type { Gear } from '../../api/types'
import { Fold } from '../../ui/Fold'
import { Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { Change } from './GearSheet'

type Position = NonNullable<Gear['positions']>[number]
type Way = 'off' | 'on' | 'reversed'

/** What each position of a guitar's pickup selector has on. */
export function Positions({ gear, change }: { gear: Gear; change: Change }) {
  const options = gear.controls?.find((c) => c.id === 'pickup')?.options ?? []
  const pickups = gear.pickups ?? []
  if (options.length === 0 || pickups.length === 0) return null
  const put = (is: string, update: (now: Position) => Position) =>
    change('Selector', (g) => {
      const now = g.positions?.find((p) => p.is === is) ?? { is, pickups: [] }
      return { ...g, positions: [...(g.positions ?? []).filter((p) => p.is !== is), update(now)] }
    })
  const way = (at: Position | undefined, id: string): Way => {
    if (at?.reversed?.includes(id)) return 'reversed'
    return at?.pickups?.includes(id) ? 'on' : 'off'
  }
  const turn = (is: string, id: string, to: Way) =>
    put(is, (now) => ({
      ...now,
      pickups: pickups
        .map((p) => p.id)
        .filter((p) => (p === id ? to !== 'off' : (now.pickups ?? []).includes(p))),
      reversed:
        to === 'reversed'
          ? [...(now.reversed ?? []).filter((p) => p !== id), id]
          : now.reversed?.filter((p) => p !== id),
    }))
  return (
    <Fold title="What each position of the selector has on">
      <Stack $gap={6}>
        <Muted>A position without an entry has the pickups on that its name gives, in parallel.</Muted>
        {options.map((is) => {
          const at = gear.positions?.find((p) => p.is === is)
          return (
            <Row key={is} role="group" aria-label={`Position ${is}`}>
              <span style={{ minWidth: 120 }}>{is}</span>
              {pickups.map((p) => (
                <Select
                  key={p.id}
                  label={p.name}
                  value={at ? way(at, p.id) : 'unsaid'}
                  options={[
                    ...(at ? [] : [{ id: 'unsaid', name: 'by its name' }]),
                    { id: 'off', name: 'off' },
                    { id: 'on', name: 'on' },
                    { id: 'reversed', name: 'on, out of phase' },
                  ]}
                  onChange={(v) => turn(is, p.id, v as Way)}
                />
              ))}
              {(at?.pickups?.length ?? 0) > 1 && (
                <Select
                  label="Wired"
                  value={at?.series ? 'series' : 'beside'}
                  options={[
                    { id: 'beside', name: 'side by side' },
                    { id: 'series', name: 'in series' },
                  ]}
                  onChange={(v) => put(is, (now) => ({ ...now, series: v === 'series' || undefined }))}
                />
              )}
            </Row>
          )
        })}
      </Stack>
    </Fold>
  )
}
