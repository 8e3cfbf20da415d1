import { leastIndex } from 'd3-array'
import type { ElectricReport, ElectricSound } from '../../api/types'
import type { Curve } from './Curves'

/** The cursor's sound, what it is compared with, and the sound that loses most. */
export function curvesOf(
  report: ElectricReport,
  now: ElectricReport,
  here: ElectricSound,
  tried: string | undefined,
  colour: (sound: string) => string,
): Curve[] {
  const list: Curve[] = [
    { id: 'reference', name: 'on full, 3 m', points: here.reference, colour: 'var(--wire)', dash: '2 4' },
  ]
  const worst = report.sounds.find((s) => s.recipe === report.worst)
  if (worst && worst.recipe !== here.recipe)
    list.push({
      id: 'worst',
      name: `${worst.name}, the worst`,
      points: worst.points,
      colour: colour(worst.sound),
      dash: '8 4',
    })
  const other = [report.jump?.from_recipe, report.jump?.to_recipe].includes(here.recipe)
    ? report.sounds.find(
        (s) =>
          s.recipe !== here.recipe &&
          [report.jump?.from_recipe, report.jump?.to_recipe].includes(s.recipe) &&
          s.recipe !== worst?.recipe,
      )
    : undefined
  if (other)
    list.push({
      id: 'other',
      name: `${other.name}, its biggest jump`,
      points: other.points,
      colour: colour(other.sound),
      dash: '8 4',
    })
  const was = now.sounds.find((s) => s.recipe === here.recipe)
  if (tried && was)
    list.push({
      id: 'was',
      name: `${here.name} without the buffer`,
      points: was.points,
      colour: 'var(--edge)',
    })
  list.push({ id: 'here', name: here.name, points: here.points, colour: colour(here.sound), width: 3 })
  return list
}

/** The point of a grid that is nearest to a frequency, as an ear tells them apart. */
export const nearest = (grid: { f_hz: number }[], hz: number) =>
  leastIndex(grid, (p) => Math.abs(Math.log(p.f_hz / hz))) ?? -1
