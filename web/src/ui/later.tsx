import { type ComponentType, lazy, Suspense } from 'react'

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
