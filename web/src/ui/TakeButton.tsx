import {
  type ComponentProps,
  createContext,
  memo,
  type ReactNode,
  useContext,
  useLayoutEffect,
  useRef,
  useState,
} from 'react'
import { Button } from './controls'

/** Whether the answer that something is drawn from is of the plan on the screen. */
class Freshness {
  private hearers = new Set<(fresh: boolean) => void>()
  constructor(private fresh: boolean) {}
  now = () => this.fresh
  set(fresh: boolean) {
    if (this.fresh === fresh) return
    this.fresh = fresh
    for (const h of this.hearers) h(fresh)
  }
  /** Tells how it is now, and whenever it changes. */
  follow(hear: (fresh: boolean) => void): () => void {
    this.hearers.add(hear)
    hear(this.fresh)
    return () => this.hearers.delete(hear)
  }
}

function useFreshness(fresh: boolean): Freshness {
  const [kept] = useState(() => new Freshness(fresh))
  useLayoutEffect(() => kept.set(fresh), [kept, fresh])
  return kept
}

const Around = createContext(new Freshness(true))

/** Says of all that takes up an answer within it whether that is of the plan on the screen. */
export function Fresh({ value, children }: { value: boolean; children: ReactNode }) {
  return <Around value={useFreshness(value)}>{children}</Around>
}

type Props = ComponentProps<typeof Button>

/** A button that takes up an answer: off, and not left by the focus, while the answer is older than the
 * plan on the screen. */
export function TakeButton({ fresh, ...p }: Props & { fresh?: boolean }) {
  const around = useContext(Around)
  const own = useFreshness(fresh ?? true)
  return <Taking {...p} of={fresh === undefined ? around : own} />
}

// Every edit turns every such button off and on again, a hundred of them on some screens: what is written of it is two
// attributes, and the button is not drawn anew.
const Taking = memo(function Taking({ of, onPress, ...p }: Props & { of: Freshness }) {
  const button = useRef<HTMLButtonElement>(null)
  useLayoutEffect(
    () =>
      of.follow((fresh) => {
        for (const name of ['aria-disabled', 'data-pending'])
          if (fresh) button.current?.removeAttribute(name)
          else button.current?.setAttribute(name, 'true')
      }),
    [of],
  )
  return <Button {...p} ref={button} onPress={(e) => of.now() && onPress?.(e)} />
})
