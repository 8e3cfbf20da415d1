import { useCallback, useEffect, useRef, useState } from 'react'
import { answer, client, Problem } from '../../api/client'
import { answered, bytesOf, type Cue, Follower, hexOf, type Line, news, type Sent } from './midi'
import type { Step } from './tonight'

/** The devices that ship with the program; what is chosen until something else is. */
export const simulated = 'simulated'

/** How many messages are listed. */
const mostLines = 40

/** When something is made ready in a section that is open, in ms from its beginning. */
const openMs = 8000

export interface Devices {
  armed: boolean
  arm: (on: boolean) => void
  to: string
  pick: (id: string) => void
  outputs: { id: string; name: string }[]
  inputs: { id: string; name: string }[]
  /** Asks the browser for its MIDI lines. */
  ask: () => void
  refused: string | undefined
  lines: Line[]
  cues: Cue[]
  /** A channel on which simulated devices answer wrongly, to try that out; 0 for none. */
  wrong: number
  answerWrongly: (channel: number) => void
}

/** What the programs of a rig send, kept as long as the show is planned so. */
export function useCues(show: string, rig: string, version: string): Cue[] {
  const [cues, set] = useState<Cue[]>([])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version says that there are others
  useEffect(() => {
    let there = true
    answer(client.GET('/api/night/cues', { params: { query: { show, rig } } })).then(
      (found) => there && set(found.cues),
      () => undefined, // what was there stays, and the page says that it is its own copy
    )
    return () => {
      there = false
    }
  }, [show, rig, version])
  return cues
}

/** The MIDI lines of this browser, once it was asked for them. */
function useLines() {
  const [access, open] = useState<MIDIAccess | undefined>()
  const [refused, refuse] = useState<string | undefined>()
  const [, look] = useState(0)
  const ask = useCallback(() => {
    if (!navigator.requestMIDIAccess) {
      refuse('This browser has no MIDI, or gives it only to pages that came over TLS or from this machine.')
      return
    }
    navigator.requestMIDIAccess().then(
      (a) => {
        a.onstatechange = () => look((n) => n + 1)
        open(a)
        refuse(undefined)
      },
      () => refuse('The browser was not allowed to use MIDI.'),
    )
  }, [])
  return { access, refused, ask }
}

/** The laptop as the twin of a switcher: while it is armed, what a step needs is sent to the devices. */
export function useDevices(p: {
  show: string
  rig: string
  cues: Cue[]
  here: number
  /** How long the section lasts, in ms, where that is not open. */
  lastsMs: number | undefined
  ended: boolean
}): Devices {
  const { show, rig, cues, here, ended } = p
  const [armed, setArmed] = useState(false)
  const [to, setTo] = useState(simulated)
  const [lines, list] = useState<Line[]>([])
  const [wrong, answerWrongly] = useState(0)
  const { access, refused, ask } = useLines()
  const sent = useRef(new Map<string, string>())
  const named = (ports: Iterable<MIDIPort>) => [...ports].map((x) => ({ id: x.id, name: x.name ?? x.id }))
  const outputs = access ? named(access.outputs.values()) : []
  const inputs = access ? named(access.inputs.values()) : []

  const arm = useCallback(
    (on: boolean) => {
      sent.current.clear()
      setArmed(on && !ended)
      if (on) list([])
    },
    [ended],
  )
  const pick = useCallback(
    (id: string) => {
      arm(false)
      setTo(id)
    },
    [arm],
  )
  // The show is over: nothing is sent any more.
  useEffect(() => {
    if (ended) arm(false)
  }, [ended, arm])

  const cue = cues[here]
  const send = useCallback(
    (sendsOf: Sent[] | undefined) => {
      const fresh = sent.current.size === 0
      const sends = news(sent.current, sendsOf)
      if (sends.length === 0) return
      list((all) =>
        [...sends.map((s) => ({ to: s.to, words: s.words, bytes: s.bytes })), ...all].slice(0, mostLines),
      )
      if (to === simulated) {
        const body = {
          show,
          rig,
          fresh,
          bytes: sends.map((s) => s.bytes).join(' '),
          wrong: wrong || undefined,
        }
        answer(client.POST('/api/night/simulated', { body })).then(
          (said) => list((all) => said.answers.reduce((l, a) => (a.answer ? answered(l, a.answer) : l), all)),
          (e) =>
            list((all) =>
              all.map((l, i) =>
                i < sends.length ? { ...l, said: e instanceof Problem ? e.message : '' } : l,
              ),
            ),
        )
        return
      }
      const output = access?.outputs.get(to)
      for (const s of sends) output?.send(bytesOf(s.bytes))
    },
    [to, show, rig, wrong, access],
  )
  const lasts = p.lastsMs
  useEffect(() => {
    if (!armed || !cue) return
    send(cue.sends)
    // What is made ready waits until what rang before is over.
    const timer = setTimeout(() => send(cue.ready), lasts ? lasts / 2 : openMs)
    return () => clearTimeout(timer)
  }, [armed, cue, send, lasts])

  // A device that has both ways answers on the line of the same name.
  useEffect(() => {
    const name = access?.outputs.get(to)?.name
    const input = [...(access?.inputs.values() ?? [])].find((i) => i.name === name)
    if (!armed || !input) return
    const hear = (e: MIDIMessageEvent) => {
      const data = e.data
      if (data && (data[0] ?? 0) < 0xf8) list((all) => answered(all, hexOf(data)))
    }
    input.addEventListener('midimessage', hear)
    return () => input.removeEventListener('midimessage', hear)
  }, [armed, access, to])

  return { armed, arm, to, pick, outputs, inputs, ask, refused, lines, cues, wrong, answerWrongly }
}

/** Follows what a MIDI line says: the simulated clock of the songs, or an input of this browser. */
export function useMidiFollow(p: {
  active: boolean
  input: string
  running: boolean
  here: number
  steps: Step[]
  cues: Cue[]
  go: (to: number) => void
}) {
  const follower = useRef(new Follower())
  const now = useRef(p)
  now.current = p
  const { active, input, running } = p
  // biome-ignore lint/correctness/useExhaustiveDependencies: another step is counted from its beginning
  useEffect(() => follower.current.moved(), [p.here])
  const hear = useCallback((bytes: Iterable<number>) => {
    for (const b of bytes) {
      const { here, steps, cues, go } = now.current
      const to = follower.current.hear(b, here, steps, cues)
      if (to !== undefined) go(to)
    }
  }, [])
  useEffect(() => {
    if (!active || input !== simulated || !running) return
    hear([0xfa])
    let due = performance.now()
    const timer = setInterval(() => {
      // The clock of the song that is played, 24 to a quarter note.
      const step = now.current.steps[now.current.here]
      const each = step?.length_s && step.clocks ? (1000 * step.length_s) / step.clocks : 20
      for (; due + each <= performance.now(); due += each) hear([0xf8])
    }, 20)
    return () => clearInterval(timer)
  }, [active, input, running, hear])
  useEffect(() => {
    if (!active || input === simulated || !navigator.requestMIDIAccess) return
    let over = false
    let off = () => undefined as undefined
    void navigator.requestMIDIAccess().then(
      (access) => {
        const line = [...access.inputs.values()].find((i) => i.id === input)
        if (over || !line) return
        const listen = (e: MIDIMessageEvent) => e.data && hear(e.data)
        line.addEventListener('midimessage', listen)
        off = () => void line.removeEventListener('midimessage', listen) as undefined
      },
      () => undefined, // the choice of lines says so
    )
    return () => {
      over = true
      off()
    }
  }, [active, input, hear])
}
