import { CalendarDate, parseDate } from '@internationalized/date'
import { useState } from 'react'
import { DateField, DateInput, DateSegment, type DateValue } from 'react-aria-components/DateField'
import { I18nProvider } from 'react-aria-components/I18nProvider'
import { Label } from 'react-aria-components/Label'
import { Link, useNavigate } from 'react-router'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Show } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useLed } from '../../frame/LeadStands'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { TextArea, TextField } from '../../ui/fields'
import { Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { AfterShow } from './AfterShow'
import { Batteries } from './Batteries'
import { Faults } from './Faults'
import { Fixes } from './Fixes'
import { OnStage } from './OnStage'
import { OtherRigs } from './OtherRigs'
import { Picks } from './Picks'

/** How a part of a show's sheet changes the show: an update, and what it does in words. */
export type ChangeShow = (what: string, update: (s: Show) => Show) => unknown

/** One show: when and where, what is played on what, and what happened. */
export function ShowSheet({ show }: { show: Show }) {
  const { plan, pickShow } = useChosen()
  const edit = useEdit()
  const navigate = useNavigate()
  const rigs = values(plan, 'rigs')
  const change: ChangeShow = (what, update) =>
    edit.change('shows', show.id, `${what} of ${show.name}`, update)
  const set = (patch: Partial<Show>, what: string) => change(what, (s) => ({ ...s, ...patch }))
  const print = () => {
    pickShow(show.set_list, show.rig, show.destination)
    navigate(`/pack/sheets?show=${encodeURIComponent(show.id)}`)
  }
  const remove = async () => {
    if ((await edit.remove('shows', show.id, show.name)).ok) navigate('/pack/shows')
  }
  const [led, lead] = useLed()
  return (
    <Stack>
      <Panel aria-label={show.name}>
        <Row>
          <Grow>
            <TextField label="Name" value={show.name} onCommit={(name) => set({ name }, 'Name')} />
          </Grow>
          <Day value={show.date} onChange={(date) => set({ date }, 'Date')} />
          <Grow>
            <TextField
              label="Place"
              value={show.place ?? ''}
              onCommit={(v) => set({ place: v || undefined }, 'Place')}
            />
          </Grow>
        </Row>
        <Row>
          <Select
            label="Set list"
            value={show.set_list}
            options={values(plan, 'set-lists').map((l) => ({ id: l.id, name: l.name }))}
            onChange={(set_list) => set({ set_list }, 'Set list')}
          />
          <Select
            label="Rig"
            value={show.rig}
            options={rigs.map((r) => ({ id: r.id, name: r.name }))}
            onChange={(rig) => set({ rig, destination: undefined, picks: undefined }, 'Rig')}
          />
          <Select
            label="Plugs into"
            value={show.destination ?? 'own'}
            options={[
              { id: 'own', name: 'As it stands' },
              ...(rigs.find((r) => r.id === show.rig)?.destinations ?? []).map((d) => ({
                id: d.id,
                name: d.name,
              })),
            ]}
            onChange={(d) => set({ destination: d === 'own' ? undefined : d }, 'Destination')}
          />
          <Picks show={show} rig={rigs.find((r) => r.id === show.rig)} change={change} />
          <OnStage show={show} />
          <Button onPress={() => lead(led === show.id ? '' : show.id)}>
            {led === show.id ? 'Stop leading the stands' : 'Lead the stands'}
          </Button>
          <Button onPress={print}>Its sheets</Button>
          <Button onPress={() => void remove()}>Remove</Button>
        </Row>
        <ShowNotes show={show} change={change} />
      </Panel>
      <OtherRigs show={show} change={change} />
      <Faults show={show} change={change} />
      <Fixes show={show} change={change} />
      <Batteries show={show} change={change} />
      <AfterShow show={show} />
      <p>
        <Plain to="/pack/log">The log of every show</Plain>
      </p>
    </Stack>
  )
}

/** What to know before a show, and what to remember of it. */
export function ShowNotes({ show, change }: { show: Show; change: ChangeShow }) {
  return (
    <Two>
      <TextArea
        label="Before: what to know"
        value={show.notes ?? ''}
        onCommit={(v) => change('Notes before', (s) => ({ ...s, notes: v || undefined }))}
      />
      <TextArea
        label="After: what to remember"
        value={show.after ?? ''}
        onCommit={(v) => change('Notes after', (s) => ({ ...s, after: v || undefined }))}
      />
    </Two>
  )
}

/** A date as year, month and day; emptied, it is none. What is half typed stays in the field alone. */
function Day(p: { value: string | undefined; onChange: (iso: string | undefined) => void }) {
  const [kept, setKept] = useState(p.value)
  const [date, setDate] = useState(() => read(p.value))
  if (kept !== p.value) {
    setKept(p.value)
    setDate(read(p.value))
  }
  return (
    <I18nProvider locale="en-GB">
      <When
        value={date}
        onChange={(d) => {
          setDate(d)
          const iso = d ? new CalendarDate(d.year, d.month, d.day).toString() : undefined
          // While a year is being typed it is 2, 20, 202: nothing is kept before it is one.
          if (iso !== p.value && (!d || d.year > 1900)) p.onChange(iso)
        }}
      >
        <Label>Date</Label>
        <DateInput>{(segment) => <DateSegment segment={segment} />}</DateInput>
      </When>
    </I18nProvider>
  )
}

/** A date of a file that is none is shown as no date, and stays as it is until one is entered. */
function read(iso: string | undefined): DateValue | null {
  try {
    return iso ? parseDate(iso) : null
  } catch {
    return null
  }
}

const Plain = styled(Link)`color: var(--text);`
const Grow = styled.div`flex: 1 1 180px; min-width: 140px;`
const Two = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(240px, 1fr)); gap: 10px;`
const When = styled(DateField)`
  display: grid; gap: 3px;
  .react-aria-Label, label { font-size: 12px; color: var(--muted); }
  .react-aria-DateInput { display: flex; gap: 1px; min-height: 32px; padding: 5px 10px; border: 1px solid var(--edge); background: var(--raised); font-family: var(--face-figures); white-space: nowrap; }
  .react-aria-DateSegment { padding: 0 1px; outline: none; }
  .react-aria-DateSegment:focus { background: var(--lit); color: var(--onLit); }
`
