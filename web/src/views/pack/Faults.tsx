import { useState } from 'react'
import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { Fault, Show } from '../../api/types'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton, Switch } from '../../ui/controls'
import { AskName } from '../../ui/dialogs'
import { TextField } from '../../ui/fields'
import { Heading, Muted, Panel } from '../../ui/layout'
import { Select } from '../../ui/Select'
import type { ChangeShow } from './ShowSheet'
import { useBoxes } from './useBoxes'

/** What failed on the night, where in the chain, and how it was cured. */
export function Faults({ show, change }: { show: Show; change: ChangeShow }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const [asking, setAsking] = useState(false)
  const boxes = useBoxes(show)
  const list = show.faults ?? []
  const put = (i: number, patch: Partial<Fault>, what: string) =>
    change(what, (s) => ({
      ...s,
      faults: (s.faults ?? []).map((f, k) => (k === i ? { ...f, ...patch } : f)),
    }))
  return (
    <Panel aria-label="Faults">
      <Heading>Faults</Heading>
      {list.length === 0 && (
        <Muted>Nothing failed. What does is suspected first the next time no sound comes out.</Muted>
      )}
      {list.map((f, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a line of the log is known by its place
        <Line key={`${i} of ${list.length}`} role="group" aria-label={`Fault ${i + 1}: ${f.text}`}>
          <TextField label="What went wrong" value={f.text} onCommit={(text) => put(i, { text }, 'Fault')} />
          <Select
            label="Where in the chain"
            value={f.gear ?? 'unknown'}
            options={[
              { id: 'unknown', name: 'not known' },
              ...boxes,
              ...(f.gear && !boxes.some((b) => b.id === f.gear)
                ? [{ id: f.gear, name: find('gear', f.gear)?.name ?? f.gear }]
                : []),
            ]}
            onChange={(gear) =>
              put(
                i,
                gear === 'unknown' ? { gear: undefined, lead: undefined } : { gear },
                'Where a fault was',
              )
            }
          />
          <Switch
            label="The lead into it"
            value={Boolean(f.lead)}
            onChange={(on) => f.gear && put(i, { lead: on || undefined }, 'Where a fault was')}
          />
          <TextField
            label="Fix"
            placeholder="not fixed yet"
            value={f.cured ?? ''}
            onCommit={(v) => put(i, { cured: v || undefined }, 'Cure')}
          />
          <IconButton
            label={`Remove the fault: ${f.text}`}
            onPress={() =>
              change('Remove a fault', (s) => ({ ...s, faults: (s.faults ?? []).filter((_, k) => k !== i) }))
            }
          >
            <Icon name="cross" />
          </IconButton>
        </Line>
      ))}
      <div>
        <Button onPress={() => setAsking(true)}>
          <Icon name="plus" /> Write a fault down
        </Button>
      </div>
      {asking && (
        <AskName
          title="A fault"
          label="What went wrong"
          action="Write it down"
          onCancel={() => setAsking(false)}
          onDone={(text) => {
            setAsking(false)
            change('Fault', (s) => ({ ...s, faults: [...(s.faults ?? []), { text }] }))
          }}
        />
      )}
    </Panel>
  )
}

const Line = styled.div`
  display: grid; grid-template-columns: minmax(110px, 1fr) auto minmax(140px, 2fr) 34px; gap: 8px; align-items: end;
  border-bottom: 1px solid var(--line); padding-bottom: 10px;
  > :first-child { grid-column: 1 / 4; }
  > :last-child { grid-column: 4; grid-row: 1; }
`
