import { floating } from '../ui/floats'
import { later } from '../ui/later'

const sources = {
  hear: () => import('./hear/Hear').then((m) => m.Hear),
  own: () => import('./own/Own').then((m) => m.Own),
  order: () => import('./order/Order').then((m) => m.Order),
  balance: () => import('./balance/Balance').then((m) => m.Balance),
  step: () => import('./step/Step').then((m) => m.Step),
  build: () => import('./build/Build').then((m) => m.Build),
  play: () => import('./play/Play').then((m) => m.Play),
  pack: () => import('./pack/Pack').then((m) => m.Pack),
  begin: () => import('./begin/Begin').then((m) => m.Begin),
  about: () => import('./about/About').then((m) => m.About),
  learn: () => import('./order/Learn').then((m) => m.Learn),
  rescue: () => import('./rescue/Rescue').then((m) => m.Rescue),
}

/** The views by the first part of their address. Each is fetched when it is first gone to. */
export const views = {
  hear: later(sources.hear),
  own: later(sources.own),
  order: later(sources.order),
  balance: later(sources.balance),
  step: later(sources.step),
  build: later(sources.build),
  play: later(sources.play),
  pack: later(sources.pack),
  begin: later(sources.begin),
  about: later(sources.about),
  learn: later(sources.learn),
  rescue: later(sources.rescue),
}

/** How long a page is left alone before the others are fetched. */
const aloneMs = 3000

/** Fetches the other views while nothing else is to be done, so that going to one does not wait. */
export function fetchAhead(): () => void {
  const waiting: (() => Promise<unknown>)[] = [floating, ...Object.values(sources)]
  const idle = window.requestIdleCallback ?? ((done: () => void) => window.setTimeout(done, 200))
  let stopped = false
  const next = () => {
    const source = waiting.shift()
    // One that fails is asked for again when it is gone to.
    if (!stopped && source)
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
