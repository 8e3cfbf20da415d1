import { useNavigate, useParams } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { useIsStand } from '../../state/role'
import { Button } from '../../ui/controls'
import { longDate } from '../../ui/dates'
import { Muted, Stack } from '../../ui/layout'
import { ShowSheet } from './ShowSheet'
import { StandShow } from './StandShow'
import { useShow } from './useShow'

/** Shows, the latest first, and the sheet of one. */
export function Shows() {
  const { id } = useParams()
  const { plan, rig, setList } = useChosen()
  const edit = useEdit()
  const stand = useIsStand()
  const navigate = useNavigate()
  const [above] = useShow()
  const shows = values(plan, 'shows').toSorted((a, b) => (b.date ?? '').localeCompare(a.date ?? ''))
  const shown = shows.find((s) => s.id === id) ?? above
  const add = async () => {
    if (!rig || !setList) return
    const made = { id: freshId(), name: `Show ${shows.length + 1}`, set_list: setList.id, rig: rig.id }
    void edit.add('shows', `Add ${made.name}`, made)
    navigate(`/pack/shows/${made.id}`)
  }
  return (
    <Columns>
      <nav aria-label="Shows">
        {!stand && (
          <Button $strong={shows.length === 0} isDisabled={!rig || !setList} onPress={() => void add()}>
            <Icon name="plus" /> Add a show
          </Button>
        )}
        <ul>
          {shows.map((s) => (
            <li key={s.id}>
              <Pick
                type="button"
                aria-current={s.id === shown?.id ? 'true' : undefined}
                onClick={() => navigate(`/pack/shows/${s.id}`)}
              >
                <b title={s.name}>{s.name}</b>
                <small>{longDate(s.date) || 'no date yet'}</small>
              </Pick>
            </li>
          ))}
        </ul>
      </nav>
      {shown && stand ? (
        <StandShow key={shown.id} show={shown} />
      ) : shown ? (
        <ShowSheet key={shown.id} show={shown} />
      ) : (
        <Stack>
          <Muted>
            A show is a set list on a date, with a rig and where it plugs in. It carries what to know before
            and what happened on the night.
          </Muted>
          {(!rig || !setList) && <Muted>It needs a rig and a set list first.</Muted>}
        </Stack>
      )}
    </Columns>
  )
}

const Columns = styled.div`
  display: grid; grid-template-columns: 190px minmax(0, 1fr); gap: 18px; align-items: start;
  > nav { display: grid; gap: 10px; }
  @media (max-width: 700px) { grid-template-columns: minmax(0, 1fr); }
`
const Pick = styled.button`
  width: 100%; padding: 6px 10px; border: 0; background: none; cursor: pointer; text-align: left; min-height: 34px; display: grid;
  b { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font-weight: 600; }
  small { font-size: 12px; color: var(--muted); }
  &:hover { background: var(--panel); }
  &[aria-current] { background: var(--lit); color: var(--onLit); small { color: inherit; } }
`
