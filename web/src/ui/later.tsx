import { type ComponentType, lazy, Suspense, useState } from 'react'
import { idle } from '../state/idle'

/** A source that waits until the page has nothing else to do: for what stands beneath what is looked at first. */
export const whenIdle =
  <T,>(source: () => Promise<T>): (() => Promise<T>) =>
  async () => {
    await idle()
    return source()
  }

const waiting: (() => Promise<unknown>)[] = []

/** What has not been fetched yet, taken off the list of those: in the order in which it was said to be needed. */
export const nextAhead = () => waiting.shift()

/** A component that is fetched when it is first drawn, or when nothing else is to be done, and takes no room until it is
 * there. */
export function later<P extends object>(source: () => Promise<ComponentType<P>>): ComponentType<P> {
  let there: ComponentType<P> | undefined
  const fetched = async () => {
    there ??= await source()
    return there
  }
  waiting.push(fetched)
  const Fetched = lazy(async () => ({ default: await fetched() })) as unknown as ComponentType<P>
  // biome-ignore lint/correctness/noComponentHookFactories: it is made once for each module, not while drawing
  return function Later(p: P) {
    // What is there already is drawn at once: one that has to be waited for comes a third of a second later at the earliest.
    const [Now] = useState(() => there ?? Fetched)
    return (
      <Suspense>
        <Now {...p} />
      </Suspense>
    )
  }
}
