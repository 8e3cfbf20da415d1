import { useJournal } from '../../api/pack'
import { Heading, Muted, Panel } from '../../ui/layout'
import { LogTable } from '../pack/LogTable'

/** What happened to one box at shows: its faults, its batteries, what was changed on it. */
export function GearHistory({ id, name }: { id: string; name: string }) {
  const { data } = useJournal({ gear: id })
  return (
    <Panel aria-label={`History of ${name}`}>
      <Heading>At shows</Heading>
      {data?.lines.length ? (
        <LogTable lines={data.lines} label={`Log of ${name}`} />
      ) : (
        <Muted>The log has nothing about it: no fault, battery or change.</Muted>
      )}
    </Panel>
  )
}
