import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { components } from '../../api/schema.gen'
import type { SetList } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Figure, Muted, Stack } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

type Report = components['schemas']['SetOrderReport']
type Evening = Report['now']

/** What a set asks of guitars, tunings and capos between its songs, and the order with the fewest changes. */
export function SongOrder({ list }: { list: SetList }) {
  const { plan, rig, destination } = useChosen()
  const edit = useEdit()
  const find = useLookup(plan)
  const work = useWork<Report>(
    '/api/set-order',
    rig && { rig: rig.id, set_list: list.id, destination: destination?.id },
  )
  const found = work.latest
  const offered = found?.offered
  if (!rig) return <Muted>It needs a rig.</Muted>
  const title = (entry: string) =>
    find('songs', list.entries.find((e) => e.id === entry)?.song ?? '')?.title ?? entry
  const take = () =>
    edit.change('set-lists', list.id, `Reorder ${list.name} by guitar`, (l) => ({
      ...l,
      entries: l.entries.toSorted(
        (a, b) => (offered?.order.indexOf(a.id) ?? 0) - (offered?.order.indexOf(b.id) ?? 0),
      ),
    }))
  return (
    <Stack>
      {work.busy && !found && (
        <Progress label="Looking through the orders" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && <Changes name="As it is" evening={found.now} />}
      {found && !offered && (
        <Muted>
          {found.exact ? 'No order has fewer changes, proven.' : 'No order with fewer was found.'}
        </Muted>
      )}
      {offered && (
        <>
          <Changes name="Offered" evening={offered} />
          <Order aria-label="Offered order">
            {offered.order.map((id) => (
              <li key={id}>{title(id)}</li>
            ))}
          </Order>
          <div>
            <TakeButton $strong fresh={work.fresh} onPress={take}>
              Take this order
            </TakeButton>
          </div>
          {!found.exact && (
            <Muted>There are more orders than were looked through: another may be better.</Muted>
          )}
        </>
      )}
      <Muted>
        What is pinned, goes straight on, or has wished places stays so. How long a change takes is set under
        Step, Foot timing; a guitar that is taken up first is set up before the show.
      </Muted>
    </Stack>
  )
}

function Changes({ name, evening }: { name: string; evening: Evening }) {
  const n = evening.changes.length
  const late = evening.late > 0 ? `, ${evening.late} without the time` : ''
  return (
    <section aria-label={name}>
      <p>
        <Strong>{name}</Strong>: {n} {n === 1 ? 'change' : 'changes'},{' '}
        <Figure>{Math.round(evening.seconds)} s</Figure>
        {late}; reach{' '}
        <Figure>
          {evening.reach.reached}/{evening.reach.total}
        </Figure>
      </p>
      {n > 0 && (
        <Wide>
          <Grid aria-label={`Guitar changes, ${name.toLowerCase()}`}>
            <thead>
              <tr>
                <th scope="col">Before</th>
                <th scope="col">What</th>
                <th scope="col">Takes</th>
                <th scope="col">There is</th>
              </tr>
            </thead>
            <tbody>
              {evening.changes.map((c) => (
                <tr key={c.entry}>
                  <th scope="row">{c.title}</th>
                  <td>{c.words}</td>
                  <td>
                    <Figure>{Math.round(c.seconds)} s</Figure>
                  </td>
                  <td>
                    {c.segue ? 'straight on' : <Figure>{Math.round(c.gap_s)} s</Figure>}
                    {!c.fits && <Late> too short</Late>}
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
    </section>
  )
}

const Order = styled.ol`list-style: decimal inside; columns: 3 200px; line-height: 1.6;`
const Strong = styled.b`font: 600 16px/1.2 var(--face-label);`
const Late = styled.b`color: var(--red); font-weight: 600;`
