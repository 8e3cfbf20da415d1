import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { ownName } from '../../api/access'
import { NightDesk, server, storeOf } from './nightDesk'
import { pageId } from './pageId'

/** A show on this page. */
export function useNight(show: string, rig: string | undefined) {
  const desk = useMemo(
    () => new NightDesk(show, rig, server, storeOf(show, rig), { id: pageId(), name: ownName() }),
    [show, rig],
  )
  useEffect(() => desk.open(), [desk])
  return { desk, state: useSyncExternalStore(desk.subscribe, desk.snapshot) }
}

/** The moment, anew several times a second while it is asked for. */
export function useMoment(clock: () => number, running: boolean): number {
  const [now, setNow] = useState(clock)
  useEffect(() => {
    if (!running) return
    const timer = setInterval(() => setNow(clock()), 250)
    return () => clearInterval(timer)
  }, [clock, running])
  return now
}

/** Whether the screen stays on: asked of the browser as long as the page is seen; false where it cannot. */
export function useAwake(): boolean {
  const [awake, setAwake] = useState(false)
  useEffect(() => {
    let lock: WakeLockSentinel | undefined
    const ask = () => {
      if (document.visibilityState !== 'visible') return
      navigator.wakeLock?.request('screen').then(
        (l) => {
          lock = l
          setAwake(true)
          l.addEventListener('release', () => setAwake(false))
        },
        () => setAwake(false),
      )
    }
    ask()
    document.addEventListener('visibilitychange', ask)
    return () => {
      document.removeEventListener('visibilitychange', ask)
      void lock?.release()
    }
  }, [])
  return awake
}

/** Keeps the page itself in the browser, where it may, so that it opens without the network. */
export function useKeptPage(ready: boolean) {
  useEffect(() => {
    if (!ready || !('serviceWorker' in navigator)) return
    const keep = async () => {
      await navigator.serviceWorker.register('/stand-worker.js')
      const shell = await caches.open('envex-stand')
      const files = performance
        .getEntriesByType('resource')
        .map((e) => new URL(e.name))
        .filter((u) => u.origin === location.origin && u.pathname.startsWith('/assets/'))
        .map((u) => u.pathname)
      const wanted = new Set([...files, '/stand', '/mark.svg'])
      for (const kept of await shell.keys())
        if (!wanted.has(new URL(kept.url).pathname)) await shell.delete(kept)
      for (const path of wanted) if (path === '/stand' || !(await shell.match(path))) await shell.add(path)
    }
    // Without it the page works while it stays open.
    const timer = setTimeout(() => void keep().catch(() => undefined), 1500)
    return () => clearTimeout(timer)
  }, [ready])
}
