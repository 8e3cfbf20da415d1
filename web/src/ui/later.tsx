import { type ComponentType, lazy, Suspense } from 'react'

/** A source that waits until the page has nothing else to do: for what stands beneath what is looked at first. */
export const whenIdle =
  <T,>(source: () => Promise<T>): (() => Promise<T>) =>
  async () => {
    await new Promise<void>((done) => {
      if (window.requestIdleCallback) window.requestIdleCallback(() => done(), { timeout: 1500 })
      else window.setTimeout(done, 200)
    })
    return source()
  }

/** A component that is fetched when it is first drawn, and takes no room until it is there. */
export function later<P extends object>(source: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Fetched = lazy(async () => ({ default: await source() })) as unknown as ComponentType<P>
  // biome-ignore lint/correctness/noComponentHookFactories: it is made once for each module, not while drawing
  return function Later(p: P) {
    return (
      <Suspense>
        <Fetched {...p} />
      </Suspense>
    )
  }
}
