import type { Gear } from '../../api/types'
import { Button } from '../../ui/controls'
import type { Change } from './GearSheet'

/** What is said of the figures of a piece of gear, under its part of that path: which stand as they were taken from its
 * kind. */
export const assumedIn =
  (gear: Gear, part: string) =>
  (figure: string, value: number | undefined): string | undefined =>
    value !== undefined && gear.assumed?.[part + figure] === value ? 'assumed' : undefined

/** Says that the assumed figures of some parts are so, as they stand. */
export function TheyAreSo({ gear, parts, change }: { gear: Gear; parts: string[]; change: Change }) {
  const mine = Object.keys(gear.assumed ?? {}).filter((path) => parts.some((part) => path.startsWith(part)))
  if (mine.length === 0) return null
  return (
    <Button
      $plain
      onPress={() =>
        change('Figures', (g) => ({
          ...g,
          assumed: Object.fromEntries(
            Object.entries(g.assumed ?? {}).filter(([path]) => !mine.includes(path)),
          ),
        }))
      }
    >
      The assumed figures are right
    </Button>
  )
}
