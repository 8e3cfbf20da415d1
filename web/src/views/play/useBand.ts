import { useCallback, useEffect, useRef, useState } from 'react'
import type { PlaySong } from '../../api/types'
import { type Click, clicksOf } from './beats'
import { ClockMap } from './clock'

// Clicks are put on the audio clock this far ahead, so that a picture that stutters never moves a beat.
const aheadS = 0.25
const everyMS = 50

/** The band: a clock that runs, and the clicks of a song on it. */
export interface Band {
  running: boolean
  /** Seconds of the song at this moment, for the picture. */
  now: () => number
  /** Seconds of the song at a time stamp of the page, for judging. */
  at: (stamp: number) => number
  start: (song: PlaySong, from?: number) => Promise<void>
  stop: () => void
}

/** Runs songs on the audio clock. The click can be silent; the clock is the same. */
export function useBand(loud: boolean, latency: number): Band {
  const audio = useRef<AudioContext | undefined>(undefined)
  const map = useRef(new ClockMap())
  const begun = useRef<{ at: number; clicks: Click[]; next: number } | undefined>(undefined)
  const volume = useRef(loud)
  const [running, run] = useState(false)
  volume.current = loud

  const look = useCallback(() => {
    const a = audio.current
    if (!a) return
    const out = a.getOutputTimestamp?.()
    // What is heard now left the clock a little ago: where the browser says when, that is what counts.
    if (out?.performanceTime && out.contextTime) map.current.look(out.performanceTime, out.contextTime)
    else map.current.look(performance.now(), a.currentTime)
  }, [])

  useEffect(() => {
    if (!running) return
    const timer = setInterval(() => {
      look()
      const a = audio.current
      const b = begun.current
      if (!a || !b) return
      for (;;) {
        const c = b.clicks[b.next]
        if (!c || b.at + c.at > a.currentTime + aheadS) break
        if (volume.current && b.at + c.at >= a.currentTime) sound(a, b.at + c.at, c)
        b.next += 1
      }
    }, everyMS)
    return () => clearInterval(timer)
  }, [running, look])

  useEffect(() => () => void audio.current?.close(), [])

  const audioNow = useCallback(
    (stamp: number) => map.current.audioAt(stamp) ?? audio.current?.currentTime ?? 0,
    [],
  )

  return {
    running,
    now: useCallback(() => (begun.current ? audioNow(performance.now()) - begun.current.at : 0), [audioNow]),
    at: useCallback(
      (stamp) => (begun.current ? audioNow(stamp) - begun.current.at - latency : 0),
      [audioNow, latency],
    ),
    start: useCallback(
      async (song, from) => {
        audio.current ??= new AudioContext({ latencyHint: 'interactive' })
        const a = audio.current
        if (a.state === 'suspended') await a.resume()
        map.current = new ClockMap()
        look()
        const clicks = clicksOf(song)
        const first = song.sections[0]
        const bar = first ? song.beats * first.beat_s : 0
        const at = a.currentTime + 0.3 - ((from ?? 0) - bar)
        begun.current = { at, clicks, next: clicks.findIndex((c) => c.at >= (from ?? 0) - bar - 1e-9) }
        run(true)
      },
      [look],
    ),
    stop: useCallback(() => {
      begun.current = undefined
      run(false)
    }, []),
  }
}

/** A short tone: higher on the first of a bar. */
function sound(a: AudioContext, at: number, c: Click) {
  const tone = a.createOscillator()
  const level = a.createGain()
  tone.frequency.value = c.first ? 1600 : 1000
  level.gain.setValueAtTime(0.0001, at)
  level.gain.exponentialRampToValueAtTime(c.first ? 0.4 : 0.25, at + 0.002)
  level.gain.exponentialRampToValueAtTime(0.0001, at + 0.05)
  tone.connect(level).connect(a.destination)
  tone.start(at)
  tone.stop(at + 0.06)
}
