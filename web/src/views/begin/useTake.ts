import { Problem, sendAsItIs } from '../../api/client'
import type { ImportResult } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useNotices } from '../../state/notices'

/** Takes in what was made of typed words, as one step that can be undone. It is false where it was refused. */
export function useTake() {
  const edit = useEdit()
  const { tell } = useNotices()
  return async (file: string, label: string): Promise<boolean> => {
    try {
      await sendAsItIs<ImportResult>(
        `/api/import?resolve=replace&label=${encodeURIComponent(label)}`,
        'application/json',
        file,
      )
      return true
    } catch (e) {
      tell(e instanceof Problem ? e : new Problem(0, undefined))
      return false
    } finally {
      await edit.settle()
    }
  }
}
