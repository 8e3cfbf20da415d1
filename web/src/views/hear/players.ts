import { values } from '../../api/plan'
import type { Section, WholePlan } from '../../api/types'

/** A player of a band who has a rig. */
export interface Player {
  id: string
  name: string
  band: string
  part: string
}

/** A section in which nothing is said of a player. */
export const asWritten = 'as-written'

/** The players of rigs, each once. */
export function playersOf(plan: WholePlan): Player[] {
  const list: Player[] = []
  for (const rig of values(plan, 'rigs')) {
    const { band, part } = rig.player ?? {}
    const name = values(plan, 'bands')
      .find((b) => b.id === band)
      ?.parts?.find((x) => x.id === part)?.name
    if (band && part && name && !list.some((x) => x.id === `${band}/${part}`))
      list.push({ id: `${band}/${part}`, name, band, part })
  }
  return list
}

/** What a player plays in a section, where that is said. */
export const otherIn = (s: Section, p: Player) =>
  s.others?.find((o) => o.band === p.band && o.part === p.part)

/** What other players play in a section, with a sound for one; or without, where it is as the song says. */
export function withOther(s: Section, p: Player, sound: string): Section['others'] {
  const others = (s.others ?? []).filter((o) => o.band !== p.band || o.part !== p.part)
  if (sound !== asWritten) others.push({ band: p.band, part: p.part, sound, singing: otherIn(s, p)?.singing })
  return others.length > 0 ? others : undefined
}
