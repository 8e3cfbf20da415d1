import { useCallback, useEffect, useRef, useState } from 'react'
import type { PlaySwitch } from '../../api/types'
import { useKeptJSON } from '../../state/kept'

/** Where a press came from. Only what is under a foot tells of the foot. */
export type Source = 'screen' | 'number' | 'pedal'

const areSwitches = (x: unknown): x is Record<string, string> =>
  typeof x === 'object' && x !== null && Object.values(x).every((key) => typeof key === 'string')
const none: Record<string, string> = {}

const taken = (e: Event) => {
  e.preventDefault()
  e.stopPropagation()
}

/** Pedals that type keys or send MIDI, each learnt to a switch; and the keys that stand in for switches. */
export function usePedals(
  switches: PlaySwitch[],
  onPress: (key: string, stamp: number, source: Source) => void,
) {
  const [learnt, learn, forget] = useKeptJSON('pedals', none, areSwitches)
  const [learning, setLearning] = useState<string | undefined>()
  const [midi, setMidi] = useState<'off' | 'on' | 'refused'>('off')
  const state = useRef({ learnt, learning, switches, onPress })
  state.current = { learnt, learning, switches, onPress }

  const heard = useCallback(
    (sign: string, stamp: number) => {
      const s = state.current
      if (s.learning) {
        const next = { ...s.learnt, [sign]: s.learning }
        learn(next)
        setLearning(undefined)
        return true
      }
      const to = s.learnt[sign]
      if (!to || !s.switches.some((x) => x.key === to)) return false
      s.onPress(to, stamp, 'pedal')
      return true
    },
    [learn],
  )

  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.repeat || e.ctrlKey || e.metaKey || e.altKey || e.key === 'Tab' || e.key === 'Escape') return
      if (
        e.target instanceof Element &&
        e.target.closest('input, textarea, select, [role=listbox], [role=menu]')
      )
        return
      const s = state.current
      const to = s.switches.find((x) => x.keyboard === e.key.toLowerCase())
      if (to && !s.learning && !(`key:${e.key}` in s.learnt)) {
        s.onPress(to.key, e.timeStamp, 'number')
        taken(e)
        return
      }
      // A key that works a button keeps its work, unless a pedal was learnt to it, or is being learnt.
      const onButton = e.target instanceof Element && e.target.closest('button, [role=button], [role=switch]')
      if (onButton && (e.key === 'Enter' || e.key === ' ') && !s.learning && !(`key:${e.key}` in s.learnt))
        return
      if (heard(`key:${e.key}`, e.timeStamp)) taken(e)
    }
    // Before the button that has the focus: what a pedal types presses nothing else.
    window.addEventListener('keydown', down, true)
    return () => window.removeEventListener('keydown', down, true)
  }, [heard])

  const openMidi = useCallback(async () => {
    if (!navigator.requestMIDIAccess) return setMidi('refused')
    try {
      const access = await navigator.requestMIDIAccess()
      for (const input of access.inputs.values())
        input.onmidimessage = (e) => {
          const [status = 0, number = 0, value = 0] = e.data ?? []
          const kind = status & 0xf0
          // Program changes, control changes that press, and notes that begin.
          if (kind === 0xc0 || (kind === 0xb0 && value >= 64) || (kind === 0x90 && value > 0))
            heard(`midi:${status}:${number}`, e.timeStamp)
        }
      setMidi('on')
    } catch {
      setMidi('refused')
    }
  }, [heard])

  return {
    learnt,
    learning,
    learn: setLearning,
    forget,
    midi,
    openMidi,
  }
}
