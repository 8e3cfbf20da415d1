import { useLayoutEffect, useState } from 'react'

/** Holds what was drawn last, for what happens later: a drop, a menu that is opened. */
export class Latest<T> {
  private value: T
  constructor(value: T) {
    this.value = value
  }
  /** What was drawn last. */
  now(): T {
    return this.value
  }
  put(value: T) {
    this.value = value
  }
}

/** The same holder for as long as the component is there. */
export function useLatest<T>(value: T): Latest<T> {
  const [holder] = useState(() => new Latest(value))
  useLayoutEffect(() => holder.put(value))
  return holder
}
