import { useRef, useState } from 'react'
import { Button } from '../../ui/controls'
import { tapped } from './taps'

/** Gives the tempo of the taps of one hand. */
export function TapTempo({ onTempo }: { onTempo: (bpm: number) => void }) {
  const taps = useRef<number[]>([])
  const [shown, show] = useState<number | undefined>()
  const tap = () => {
    const { at, bpm, sure } = tapped(taps.current, performance.now())
    taps.current = at
    show(bpm)
    if (sure && bpm !== undefined) onTempo(bpm)
  }
  return <Button onPressStart={tap}>Tap{shown ? ` ${shown}` : ''}</Button>
}
