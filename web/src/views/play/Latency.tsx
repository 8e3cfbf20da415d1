import { useEffect, useRef, useState } from 'react'
import type { PlaySong } from '../../api/types'
import { Button } from '../../ui/controls'
import { Figure, Muted, Row } from '../../ui/layout'
import { clicksOf } from './beats'
import { latencyOf } from './clock'
import { useBand } from './useBand'

const beatS = 0.6
const along = {
  beats: 4,
  sections: [{ at_s: 0, length_s: 16 * beatS, beat_s: beatS }],
} as unknown as PlaySong
const beats = clicksOf(along).map((c) => c.at)

/** How late the player hears: taps along with a click, since wireless headphones add a tenth of a second
 * and more. */
export function Latency({ latency, onLatency }: { latency: number; onLatency: (s: number) => void }) {
  const band = useBand(true, 0)
  const taps = useRef<number[]>([])
  const [said, say] = useState('')
  const { running, now, stop } = band
  useEffect(() => {
    if (!running) return
    const timer = setInterval(() => {
      if (now() < 16 * beatS) return
      stop()
      const found = latencyOf(taps.current, beats)
      if (found === undefined) say('Too few taps, or too uneven, to tell. Try again.')
      else {
        onLatency(Math.max(0, found))
        say(`You hear and tap ${Math.round(found * 1000)} ms late; that is subtracted from now on.`)
      }
    }, 100)
    return () => clearInterval(timer)
  }, [running, now, stop, onLatency])
  return (
    <div>
      <Row style={{ alignItems: 'center' }}>
        {running ? (
          <button
            type="button"
            onPointerDown={(e) => taps.current.push(band.at(e.timeStamp))}
            onKeyDown={(e) => !e.repeat && taps.current.push(band.at(e.timeStamp))}
            style={{ minWidth: 120, minHeight: 44 }}
          >
            Tap along
          </button>
        ) : (
          <Button
            onPress={() => {
              taps.current = []
              say('')
              void band.start(along)
            }}
          >
            Measure the latency
          </Button>
        )}
        <Muted as="span">
          Subtracted from presses: <Figure>{Math.round(latency * 1000)} ms</Figure>
        </Muted>
        {latency > 0 && !running && <Button onPress={() => onLatency(0)}>Take nothing off</Button>}
      </Row>
      <p role="status">{said}</p>
    </div>
  )
}
