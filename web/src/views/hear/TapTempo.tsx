import { useRef, useState } from 'react'
import { Button } from '../../ui/controls'

/** Gives the tempo of the taps of one hand: the median of the gaps, so that one early tap
 * does not spoil it. Taps more than two seconds apart begin anew. */
export function TapTempo({ onTempo }: { onTempo: (bpm: number) => void }) {
  const taps = useRef<number[]>([])
  const [shown, show] = useState<number | undefined>()
  const tap = (at: number) => {
    const last = taps.current.at(-1)
    taps.current = last !== undefined && at - last < 2000 ? [...taps.current.slice(-8), at] : [at]
    const gaps = taps.current.slice(1).map((t, i) => t - (taps.current[i] ?? t))
    const middle = gaps.sort((a, b) => a - b)[Math.floor(gaps.length / 2)]
    if (middle === undefined) {
      show(undefined)
      return
    }
    const bpm = Math.round(60000 / middle)
    show(bpm)
    if (gaps.length >= 3 && bpm >= 20 && bpm <= 400) onTempo(bpm)
  }
  return <Button onPressStart={() => tap(performance.now())}>Tap{shown ? ` ${shown}` : ''}</Button>
}
