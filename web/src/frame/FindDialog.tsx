import { Autocomplete, useFilter } from 'react-aria-components/Autocomplete'
import { Dialog } from 'react-aria-components/Dialog'
import { Input } from 'react-aria-components/Input'
import { Menu, MenuItem } from 'react-aria-components/Menu'
import { Modal } from 'react-aria-components/Modal'
import { SearchField } from 'react-aria-components/SearchField'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { useSheets } from '../api/pack'
import { values } from '../api/plan'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { Veil } from '../ui/AskName'
import { useTour } from './Tour'
import { verbs } from './verbs'

/** Find anything, as it is opened. */
export function FindDialog({ close }: { close: () => void }) {
  return (
    <Veil isOpen isDismissable onOpenChange={(on) => !on && close()}>
      <Modal>
        <Box aria-label="Find anything">
          <Results close={close} />
        </Box>
      </Modal>
    </Veil>
  )
}

/** What can be done from anywhere. */
const commands: { name: string; path?: string; turn?: 'undo' | 'redo' | 'tour' }[] = [
  { name: 'Undo', turn: 'undo' },
  { name: 'Redo', turn: 'redo' },
  { name: 'Type a chain', path: '/begin' },
  { name: 'Type or paste a set', path: '/begin' },
  { name: 'Propose recipes', path: '/begin' },
  { name: 'Add a song', path: '/hear/songs' },
  { name: 'Say who plays beside the guitar', path: '/hear/band' },
  { name: 'Room among the band', path: '/balance/room' },
  { name: 'Dial a sound in', path: '/balance/dial' },
  { name: 'Add a sound', path: '/hear/sounds' },
  { name: 'Add gear', path: '/own' },
  { name: 'Best order', path: '/order' },
  { name: 'Learn the rules of order', path: '/learn' },
  { name: 'Fit the board', path: '/build/board' },
  { name: 'Compare boards', path: '/build/boards' },
  { name: 'Tour in seven steps', turn: 'tour' },
  { name: 'Rehearse', path: '/play' },
  { name: 'Print sheets', path: '/pack/sheets' },
]

function Results({ close }: { close: () => void }) {
  const { plan, report, go, pickRig } = useChosen()
  const navigate = useNavigate()
  const edit = useEdit()
  const tour = useTour()
  const { data: sheets } = useSheets()
  const { contains } = useFilter({ sensitivity: 'base' })
  const entries = [
    ...verbs.map((v) => ({
      id: `verb ${v.path}`,
      name: v.name,
      what: 'screen',
      run: () => navigate(v.path),
    })),
    ...commands.map((c) => ({
      id: `command ${c.name}`,
      name: c.name,
      what: 'do',
      run: () => {
        if (c.path) navigate(c.path)
        else if (c.turn === 'tour') tour()
        else void (c.turn === 'redo' ? edit.redo() : edit.undo())
      },
    })),
    ...(report?.sections ?? [])
      .filter((s, i, all) => s.entry !== all[i - 1]?.entry)
      .map((s) => ({
        id: `song ${s.entry}`,
        name: s.song,
        what: 'song',
        run: () => go(s.position),
      })),
    ...(report?.sections ?? []).map((s) => ({
      id: `section ${s.position}`,
      name: `${s.song}, ${s.section}`,
      what: 'section',
      run: () => go(s.position),
    })),
    ...values(plan, 'gear').map((g) => ({
      id: `gear ${g.id}`,
      name: g.name,
      what: g.kind,
      run: () => navigate(`/own/${g.id}`),
    })),
    ...values(plan, 'sounds').map((s) => ({
      id: `sound ${s.id}`,
      name: s.name,
      what: 'sound',
      run: () => navigate('/hear/sounds'),
    })),
    ...values(plan, 'shows').map((s) => ({
      id: `show ${s.id}`,
      name: s.name,
      what: 'show',
      run: () => navigate(`/pack/shows/${s.id}`),
    })),
    ...(sheets?.sheets ?? []).map((s) => ({
      id: `sheet ${s.kind}`,
      name: s.title,
      what: 'sheet',
      run: () => navigate(`/pack/sheets?sheet=${s.kind}`),
    })),
    ...values(plan, 'rigs').map((r) => ({
      id: `rig ${r.id}`,
      name: r.name,
      what: 'rig',
      run: () => pickRig(r.id),
    })),
  ]
  return (
    <Autocomplete filter={contains}>
      <SearchField aria-label="Find" autoFocus>
        <Input placeholder="A song, gear, a sound, a show, a sheet, a screen, something to do" />
      </SearchField>
      <List
        aria-label="Found"
        items={entries}
        onAction={(k) => {
          entries.find((e) => e.id === k)?.run()
          close()
        }}
        renderEmptyState={() => 'Nothing has that name.'}
      >
        {(e) => (
          <MenuItem id={e.id} textValue={e.name}>
            {e.name} <small>{e.what}</small>
          </MenuItem>
        )}
      </List>
    </Autocomplete>
  )
}

const Box = styled(Dialog)`
  background: var(--raised); border: 1px solid var(--edge); width: min(520px, 92vw); padding: 12px; outline: none;
  input { width: 100%; min-height: 38px; padding: 4px 10px; border: 1px solid var(--edge); background: var(--bg); }
`

const List = styled(Menu)`
  max-height: 50vh; overflow: auto; margin-top: 8px; padding: 0;
  [role='menuitem'] { padding: 7px 10px; display: flex; justify-content: space-between; cursor: pointer; outline: none; }
  [role='menuitem'][data-focused] { background: var(--lit); color: var(--onLit); }
  small { font-size: 12px; opacity: 0.75; }
` as typeof Menu
