import { values } from '../api/plan'
import type { WholePlan } from '../api/types'
import { verbs } from './verbs'

const others: Record<string, string> = {
  begin: 'Type it in',
  about: 'About',
  learn: 'Learn',
  rescue: 'Rescue',
}

/** What the page is called in the browser: the thing it is about, the view, and the rig. */
export function titleOf(pathname: string, plan: WholePlan, rig: string | undefined): string {
  const [view = '', part = '', id = ''] = pathname.split('/').filter(Boolean)
  const name = verbs.find((v) => v.path === `/${view}`)?.name ?? others[view] ?? 'Envex'
  const gear = view === 'own' ? values(plan, 'gear').find((g) => g.id === part)?.name : undefined
  const show = part === 'shows' ? values(plan, 'shows').find((s) => s.id === id)?.name : undefined
  const thing = gear ?? show ?? (view === 'own' ? '' : part)
  return [thing, name, rig].filter(Boolean).join(', ') + (name === 'Envex' ? '' : ' · Envex')
}
