import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { useEdit } from '../edits/useEdit'
import { useKept } from '../state/kept'
import { usePlace } from '../state/place'
import { useIsStand } from '../state/role'
import { verbsOf } from './verbs'

/** Whether single keys are listened to; the player can switch them off. */
export function useKeysOn(): [boolean, (on: boolean) => void] {
  const [kept, keep] = useKept('keys', 'on')
  return [kept !== 'off', (next) => keep(next ? 'on' : 'off')]
}

const own =
  'input, textarea, select, [contenteditable], [role=listbox], [role=menu], [role=grid], [role=dialog], [role=slider], [role=radiogroup], [role=tablist], [role=application]'

/** Number keys choose a verb, left and right walk through the night; only outside fields
 * and widgets. Undo and redo have their usual chords everywhere but in fields. */
export function useShortcuts() {
  const { go, position } = usePlace()
  const navigate = useNavigate()
  const edit = useEdit()
  const [on] = useKeysOn()
  const stand = useIsStand()
  const playing = useLocation().pathname.startsWith('/play') // there the keys are the player's switches
  useEffect(() => {
    const handle = (e: KeyboardEvent) => {
      const target = e.target instanceof Element ? e.target : document.body
      const typing = target.closest('input, textarea, [contenteditable]') !== null
      if (!stand && (e.ctrlKey || e.metaKey) && !e.altKey && e.key.toLowerCase() === 'z' && !typing) {
        e.preventDefault()
        void (e.shiftKey ? edit.redo() : edit.undo())
        return
      }
      if (!on || playing || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || target.closest(own))
        return
      const verb = verbsOf(stand).find((v) => v.key === e.key)
      if (verb) navigate(verb.path)
      else if (e.key === 'ArrowRight') go(position + 1)
      else if (e.key === 'ArrowLeft') go(position - 1)
      else return
      e.preventDefault()
    }
    window.addEventListener('keydown', handle)
    return () => window.removeEventListener('keydown', handle)
  }, [go, position, navigate, edit, on, playing, stand])
}
