import { later, nextAhead } from '../ui/later'

/** The views by the first part of their address. Each is fetched when it is first gone to. */
export const views = {
  hear: later(() => import('./hear/Hear').then((m) => m.Hear)),
  own: later(() => import('./own/Own').then((m) => m.Own)),
  order: later(() => import('./order/Order').then((m) => m.Order)),
  balance: later(() => import('./balance/Balance').then((m) => m.Balance)),
  step: later(() => import('./step/Step').then((m) => m.Step)),
  build: later(() => import('./build/Build').then((m) => m.Build)),
  play: later(() => import('./play/Play').then((m) => m.Play)),
  side: later(() => import('./stand/Side').then((m) => m.Side)),
  stand: later(() => import('./stand/Stand').then((m) => m.Stand)),
  pack: later(() => import('./pack/Pack').then((m) => m.Pack)),
  begin: later(() => import('./begin/Begin').then((m) => m.Begin)),
  about: later(() => import('./about/About').then((m) => m.About)),
  learn: later(() => import('./order/Learn').then((m) => m.Learn)),
  rescue: later(() => import('./rescue/Rescue').then((m) => m.Rescue)),
}

/** How long a page is left alone before the others are fetched. */
const aloneMs = 3000

/** Fetches the other views and what they hold while nothing else is to be done, so that nothing waits for them. */
export function fetchAhead(): () => void {
  const idle = window.requestIdleCallback ?? ((done: () => void) => window.setTimeout(done, 200))
  let stopped = false
  const next = () => {
    const source = stopped ? undefined : nextAhead()
    // One that fails is asked for again when it is gone to.
    if (source)
      void source().then(
        () => idle(next),
        () => undefined,
      )
  }
  const begin = window.setTimeout(() => idle(next), aloneMs)
  return () => {
    stopped = true
    window.clearTimeout(begin)
  }
}
