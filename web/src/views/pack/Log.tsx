import { useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { SearchField } from 'react-aria-components/SearchField'
import styled from 'styled-components'
import { type LineKind, useJournal } from '../../api/pack'
import { values } from '../../api/plan'
import { useChosen } from '../../state/place'
import { Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { LogTable } from './LogTable'

const kinds: { id: LineKind | 'all'; name: string }[] = [
  { id: 'all', name: 'Everything' },
  { id: 'fault', name: 'Faults' },
  { id: 'change', name: 'Changes of the night' },
  { id: 'battery', name: 'Fresh batteries' },
  { id: 'before', name: 'Notes before' },
  { id: 'after', name: 'Notes after' },
]

/** What was written down of every show, to be searched. */
export function Log() {
  const { plan } = useChosen()
  const [text, setText] = useState('')
  const [kind, setKind] = useState<LineKind | 'all'>('all')
  const [gear, setGear] = useState('all')
  const { data } = useJournal({
    text: text || undefined,
    kind: kind === 'all' ? undefined : kind,
    gear: gear === 'all' ? undefined : gear,
  })
  const asked = text !== '' || kind !== 'all' || gear !== 'all'
  return (
    <Stack>
      <Row>
        <Search value={text} onChange={setText}>
          <Label>Search the log</Label>
          <Input placeholder="crackle amber" />
        </Search>
        <Select
          label="What"
          value={kind}
          options={kinds}
          onChange={(k) => setKind(kinds.find((x) => x.id === k)?.id ?? 'all')}
        />
        <Select
          label="Box"
          value={gear}
          options={[
            { id: 'all', name: 'Any box' },
            ...values(plan, 'gear').map((g) => ({ id: g.id, name: g.name })),
          ]}
          onChange={setGear}
        />
      </Row>
      {data && data.lines.length > 0 && <LogTable lines={data.lines} label="Log" />}
      {data?.lines.length === 0 && (
        <Muted role="status">
          {asked
            ? 'The log has no such line.'
            : 'Nothing was written down yet. A show keeps its notes, faults and changes, and they are found here.'}
        </Muted>
      )}
    </Stack>
  )
}

const Search = styled(SearchField)`
  display: grid; gap: 3px; flex: 1 1 260px; max-width: 420px;
  label { font-size: 12px; color: var(--muted); }
  input { min-height: 32px; padding: 4px 10px; border: 1px solid var(--edge); background: var(--raised); width: 100%; }
`
