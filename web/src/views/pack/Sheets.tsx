import { useRef } from 'react'
import { Link, useSearchParams } from 'react-router'
import styled from 'styled-components'
import { nightPage, type SheetKind, sheetFile, useSheets, useSheetTrouble } from '../../api/pack'
import { values } from '../../api/plan'
import { useKept } from '../../state/kept'
import { useNotices } from '../../state/notices'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { showName } from './names'
import { ReadyStandIns } from './ReadyStandIns'
import { Seen } from './Seen'
import { useShow } from './useShow'

const night = 'night'
const ready = 'standins'
const papers = [
  { id: 'a4', name: 'A4' },
  { id: 'letter', name: 'Letter' },
]

/** Every sheet of a show as it will print. What is seen is what is printed: the same file. */
export function Sheets() {
  const { plan } = useChosen()
  const { data } = useSheets()
  const { say } = useNotices()
  const [show, pick] = useShow()
  const [query, setQuery] = useSearchParams()
  const frame = useRef<HTMLIFrameElement>(null)
  const list = [
    ...(data?.sheets.map((s) => ({ id: s.kind as string, name: s.title, drawn: s.drawn })) ?? []),
    { id: 'all', name: 'Every sheet', drawn: false },
    { id: night, name: 'Page for the night', drawn: false },
  ]
  // What the address asks for may be no sheet and no paper: then it is the first of each.
  const asked = query.get('sheet') ?? 'set'
  const kind = !data || list.some((s) => s.id === asked) ? asked : 'set'
  const sheet = list.find((s) => s.id === kind)
  const [usual, keepPaper] = useKept('paper', 'a4')
  const paper = (query.get('paper') ?? usual) === 'letter' ? 'letter' : 'a4'
  // The page for the night and the file of all stand on the set. What is metered first says itself what went wrong.
  const trouble = useSheetTrouble(
    kind === ready ? undefined : data && show?.id,
    kind === 'all' || kind === night ? 'set' : (kind as SheetKind),
  )
  const set = (name: string, value: string) => {
    if (name === 'paper') keepPaper(value)
    setQuery(
      (q) => {
        q.set(name, value)
        return q
      },
      { replace: true },
    )
  }
  if (!show)
    return (
      <Stack>
        <Muted>
          The sheets for the bench, the load-in and the music stand are made for a show: a set list on a date,
          with a rig and where it plugs in.
        </Muted>
        <div>
          <Go to="/pack/shows">Add a show</Go>
        </div>
      </Stack>
    )
  const address = kind === night ? nightPage(show.id) : sheetFile(show.id, kind, 'html', paper)
  // What the plan says now is in the address, so that an edit is seen at once.
  const seen = `${address}&of=${plan.undo?.id ?? 0}-${plan.redo?.id ?? 0}`
  const print = () => {
    const page = frame.current?.contentWindow
    if (!page) return say('The sheet is not ready yet: try again in a moment.')
    page.focus()
    page.print()
  }
  const paperOf = (
    <Seen
      src={seen}
      title={`${sheet?.name ?? 'Sheet'} of ${show.name}`}
      paper={kind === night ? undefined : paper}
      frame={frame}
    />
  )
  const forms =
    kind === night ? [] : kind === 'all' ? ['html'] : ['html', 'csv', 'md', ...(sheet?.drawn ? ['svg'] : [])]
  return (
    <Columns>
      <nav aria-label="Sheets">
        <Select
          label="Show"
          value={show.id}
          options={values(plan, 'shows').map((s) => ({ id: s.id, name: showName(s) }))}
          onChange={pick}
        />
        <Narrow>
          <Select label="Sheet" value={kind} options={list} onChange={(id) => set('sheet', id)} />
        </Narrow>
        <ul>
          {list.map((s) => (
            <li key={s.id}>
              <Pick
                type="button"
                aria-current={s.id === kind ? 'true' : undefined}
                onClick={() => set('sheet', s.id)}
              >
                {s.name}
              </Pick>
            </li>
          ))}
        </ul>
      </nav>
      <Stack $gap={10}>
        <Row>
          {kind !== night && (
            <>
              <Button $strong onPress={print}>
                Print
              </Button>
              <Select label="Paper" value={paper} options={papers} onChange={(p) => set('paper', p)} />
            </>
          )}
          {forms.map((f) => (
            <Save key={f} href={sheetFile(show.id, kind, f, paper, true)} download>
              Save <small>{f === 'md' ? 'Markdown' : f.toUpperCase()}</small>
            </Save>
          ))}
          {kind === night && (
            <>
              <Save $strong href={nightPage(show.id, true)} download>
                Save <small>one file, for the phone</small>
              </Save>
              <Muted>
                It opens with no network. Tap right for the next section, left for the last, or use a
                page-turn pedal.
              </Muted>
            </>
          )}
        </Row>
        {trouble ? (
          <Muted role="alert">
            {sheet?.name} cannot be made: {trouble} Nothing was changed.
          </Muted>
        ) : (
          data && (kind === ready ? <ReadyStandIns show={show}>{paperOf}</ReadyStandIns> : paperOf)
        )}
        {kind === 'failure' && (
          <Muted>
            How near a spare comes, and where its knobs stand then, is metered for{' '}
            <Link to={`/pack/sheets?${new URLSearchParams({ show: show.id, sheet: ready })}`}>Stand-ins</Link>
            .
          </Muted>
        )}
      </Stack>
    </Columns>
  )
}

const Columns = styled.div`
  display: grid; grid-template-columns: 190px minmax(0, 1fr); gap: 18px; align-items: start;
  > nav { display: grid; gap: 10px; }
  @media (max-width: 700px) { grid-template-columns: minmax(0, 1fr); > nav ul { display: none; } }
`
const Narrow = styled.div`@media (min-width: 701px) { display: none; }`
const Pick = styled.button`
  width: 100%; padding: 7px 10px; border: 0; background: none; cursor: pointer; text-align: left; min-height: 34px;
  &:hover { background: var(--panel); }
  &[aria-current] { background: var(--lit); color: var(--onLit); }
`
const Save = styled.a<{ $strong?: boolean }>`
  padding: 5px 12px; border: 1px solid var(--edge); background: var(--raised); color: var(--text); text-decoration: none; min-height: 32px;
  ${(p) => p.$strong && 'background: var(--lit); color: var(--onLit); border-color: var(--lit);'}
  &:hover { border-color: var(--text); }
  small { color: inherit; opacity: 0.8; font-size: 12px; }
`
const Go = styled(Link)`
  display: inline-block; padding: 7px 14px; background: var(--lit); color: var(--onLit); text-decoration: none;
`
