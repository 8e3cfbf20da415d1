import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { Show } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { longDate } from '../../ui/dates'
import { Heading, Muted, Panel, Stack } from '../../ui/layout'
import { Faults } from './Faults'
import { OnStage } from './OnStage'
import { type ChangeShow, ShowNotes } from './ShowSheet'

/** A show on a device that is paired as a stand: what is played on what, and its notes and faults to be
 * written. */
export function StandShow({ show }: { show: Show }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const find = useLookup(plan)
  const change: ChangeShow = (what, update) =>
    edit.change('shows', show.id, `${what} of ${show.name}`, update)
  const where = [longDate(show.date), show.place].filter(Boolean).join(', ')
  return (
    <Stack>
      <Panel aria-label={show.name}>
        <Name>{show.name}</Name>
        {where && <p>{where}</p>}
        <Muted>
          {find('set-lists', show.set_list)?.name} on {find('rigs', show.rig)?.name}
        </Muted>
        <OnStage show={show} />
        <ShowNotes show={show} change={change} />
      </Panel>
      <Faults show={show} change={change} />
      {(show.fixes ?? []).length > 0 && (
        <Panel aria-label="Changes of the night">
          <Heading>Changes of the night</Heading>
          <ul>
            {(show.fixes ?? []).map((f, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line of the log is known by its place
              <li key={i}>{f.text}</li>
            ))}
          </ul>
        </Panel>
      )}
    </Stack>
  )
}

const Name = styled.h2`font: 600 20px/1.2 var(--face-label); letter-spacing: 0.02em;`
