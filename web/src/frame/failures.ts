import type { Change } from '../api/types'
import { gravity, verdictWords } from '../marks/marks'

export interface Finding {
  key: string
  title: string
  reason: string
  worst: Change
  changes: Change[]
  settled: string | undefined
}

/** Failed changes, worst first. Those that fail for the same reason are one finding. */
export function findings(changes: Change[]): Finding[] {
  const groups = new Map<string, Change[]>()
  for (const c of changes) {
    if (!c.finding) continue
    const key = c.verdict === 'impossible' ? `${c.reason} ${c.settled ?? ''}` : c.finding
    groups.set(key, [...(groups.get(key) ?? []), c])
  }
  const list = [...groups.entries()].map(([key, group]): Finding => {
    const worst = group[0] as Change
    return {
      key,
      changes: group,
      worst,
      reason: worst.reason,
      settled: worst.settled,
      title:
        group.length > 1
          ? `${worst.to.name}: ${group.length} changes ${verdictWords(worst.verdict)}`
          : `${worst.song}, ${worst.section}: ${verdictWords(worst.verdict)}${worst.verdict === 'late' ? ` by ${(-worst.slack_s).toFixed(2)}\u00a0s` : ''}`,
    }
  })
  return list.sort(
    (a, b) => gravity(b.worst.verdict) - gravity(a.worst.verdict) || a.worst.slack_s - b.worst.slack_s,
  )
}
