import { useQuery } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { answer, client, freshId } from '../../api/client'
import type { Show } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'

/** What a show tells after it: songs as they were played, tempos and gaps that were others, and the show that comes next. */
export function AfterShow({ show }: { show: Show }) {
  const edit = useEdit()
  const navigate = useNavigate()
  // What happened at a show is no part of the plan: it is asked for anew when the screen is come to.
  const { data, error, refetch } = useQuery({
    queryKey: ['night-review', show.id, show.set_list, show.rig],
    queryFn: () => answer(client.GET('/api/night/review', { params: { query: { show: show.id } } })),
    refetchOnMount: 'always',
  })
  const after = (what: Promise<unknown>) => void what.then(() => refetch())
  if (error) return <p role="alert">{error.message}</p>
  if (!data) return null
  const { order, tempos, gaps } = data
  const next = async () => {
    const made: Show = { ...data.next, id: freshId(), name: data.next.name.slice(0, 200) }
    await edit.add('shows', `Make ${made.name}`, made)
    navigate(`/pack/shows/${made.id}`)
  }
  return (
    <Panel aria-label="After the show">
      <Heading>After the show</Heading>
      {order && (
        <Line>
          <p>
            Played: {order.titles.join(', ')}.
            {order.called.length > 0 && ` Called: ${order.called.join(', ')}.`}
            {order.dropped.length > 0 && ` Not played: ${order.dropped.join(', ')}.`}
          </p>
          <Button
            onPress={() =>
              after(
                edit.change('set-lists', show.set_list, 'Set as it was played', (l) => ({
                  ...l,
                  entries: order.entries,
                })),
              )
            }
          >
            Keep this as the set
          </Button>
        </Line>
      )}
      {tempos.map((t) => (
        <Line key={t.song}>
          <p>
            {t.title} was played at <Figure>{t.played_bpm} bpm</Figure>, written{' '}
            <Figure>{t.written_bpm} bpm</Figure>.
          </p>
          <Button
            onPress={() =>
              after(
                edit.change('songs', t.song, `Tempo of ${t.title} as it was played`, (s) => ({
                  ...s,
                  tempo: { ...s.tempo, bpm: t.played_bpm },
                })),
              )
            }
          >
            Keep {t.played_bpm} bpm for {t.title}
          </Button>
        </Line>
      ))}
      {gaps.map((g) => (
        <Line key={g.entry}>
          <p>
            <Figure>{g.passed_s} s</Figure> passed before {g.title}, written <Figure>{g.written_s} s</Figure>.
          </p>
          <Button
            onPress={() =>
              after(
                edit.change('set-lists', show.set_list, `Gap before ${g.title} as it was`, (l) => ({
                  ...l,
                  entries: l.entries.map((e) => (e.id === g.entry ? { ...e, gap_s: g.passed_s } : e)),
                })),
              )
            }
          >
            Keep {g.passed_s} s before {g.title}
          </Button>
        </Line>
      ))}
      {(order || tempos.length > 0 || gaps.length > 0) && (
        <Muted>{data.assumed} What you do not keep stays as it is written.</Muted>
      )}
      {!order && tempos.length + gaps.length === 0 && (
        <Muted>
          Nothing to keep of its order, tempos or gaps. Faults and changes of the night are above, each to be
          cured, kept or left.
        </Muted>
      )}
      <Row>
        <Button $strong={Boolean(order) || data.broken.length > 0} onPress={() => void next()}>
          Next show from this one
        </Button>
        <Muted as="span">
          {data.broken.length === 0
            ? 'Nothing is left uncured.'
            : `${data.broken.length} not cured: it goes into its notes.`}
          {data.undecided > 0 &&
            ` ${data.undecided} ${data.undecided === 1 ? 'change' : 'changes'} of the night undecided.`}
          {data.checks > 0 && ` ${data.checks} ${data.checks === 1 ? 'check' : 'checks'} ticked off.`}
        </Muted>
      </Row>
    </Panel>
  )
}

const Line = styled.div`
  display: flex; gap: 14px; align-items: center; justify-content: space-between; border-bottom: 1px solid var(--line); padding: 6px 0;
  p { margin: 0; }
  @media (max-width: 700px) { flex-wrap: wrap; }
`
