import { freshId } from '../../api/client'

/** Which page this is: the same after it was loaded anew. */
export function pageId(): string {
  const key = 'envex.page'
  const known = sessionStorage.getItem(key)
  if (known) return known
  const made = freshId()
  sessionStorage.setItem(key, made)
  return made
}
