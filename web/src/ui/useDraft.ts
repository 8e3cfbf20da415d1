import { useEffect, useRef, useState } from 'react'
import { Problem } from '../api/client'
import type { Outcome } from '../edits/desk'
import { useNotices } from '../state/notices'
import { useDrafts } from './drafts'

/** A value that is being edited in a field and is not kept yet. */
export interface Draft<T> {
  /** Whether something is typed that is not kept. */
  dirty: boolean
  /** What is typed, else the value that is saved. */
  shown: T
  /** Whether another value was saved elsewhere since the typing began: one has to be chosen. */
  clash: boolean
  /** Why what was typed was not kept. */
  trouble: string | undefined
  type: (value: T) => void
  /** Keeps what is typed, unless there is a clash. */
  commit: () => void
  /** Keeps what is typed over what was saved elsewhere. */
  insist: () => void
  /** Keeps a value at once. */
  send: (value: T) => void
  /** Goes back to the value as it is saved. */
  drop: () => void
}

/** Holds what is typed into a field apart from the value that is saved, so that neither an answer nor
 * another page takes it away. What is refused comes back as it was typed, with the reason. */
export function useDraft<T>(p: {
  label: string
  value: T
  words: (value: T) => string
  onCommit: (value: T) => unknown
}): Draft<T> {
  const { put, clear } = useDrafts()
  const { remind } = useNotices()
  const [draft, setDraft] = useState<{ typed: T; base: T } | undefined>()
  const [trouble, setTrouble] = useState<string | undefined>()
  const key = useRef(Symbol(p.label))
  const now = useRef({ ...p, draft, gone: false })
  now.current = { ...p, draft, gone: now.current.gone }
  const clash = draft !== undefined && !Object.is(p.value, draft.base) && !Object.is(p.value, draft.typed)

  const send = (typed: T, base: T) => {
    setDraft(undefined)
    setTrouble(undefined)
    now.current.draft = undefined
    void Promise.resolve(now.current.onCommit(typed)).then((done) => {
      const problem = (done as Outcome | undefined)?.problem
      if (!(problem instanceof Problem)) return
      if (now.current.gone) remind(now.current.label, now.current.words(typed))
      else {
        setDraft((other) => other ?? { typed, base })
        setTrouble([problem.message, ...problem.details.map((d) => d.message)].join(' '))
      }
    })
  }
  const drop = () => {
    setDraft(undefined)
    setTrouble(undefined)
    now.current.draft = undefined
  }
  const commit = () => {
    const { draft: d, value } = now.current
    if (!d) return
    if (Object.is(d.typed, value)) drop()
    else if (Object.is(value, d.base)) send(d.typed, d.base)
  }
  const insist = () => {
    const { draft: d, value } = now.current
    if (d) send(d.typed, value)
  }

  // What is not kept is asked about before the view is left, and is not lost without a word when the
  // field goes by itself.
  const acts = useRef({ insist, drop })
  acts.current = { insist, drop }
  const text = draft && p.words(draft.typed)
  const ready = !clash && trouble === undefined
  useEffect(() => {
    if (text === undefined) clear(key.current)
    else
      put(key.current, {
        label: p.label,
        text,
        ready,
        keep: () => acts.current.insist(),
        drop: () => acts.current.drop(),
      })
  }, [text, ready, p.label, put, clear])
  useEffect(() => {
    now.current.gone = false
    const [own, latest] = [key.current, now]
    return () => {
      clear(own)
      const { draft: d, label, words } = latest.current
      latest.current.gone = true
      if (d) remind(label, words(d.typed))
    }
  }, [clear, remind])

  return {
    dirty: draft !== undefined,
    shown: draft ? draft.typed : p.value,
    clash,
    trouble: clash ? undefined : trouble,
    type: (typed) => setDraft((d) => ({ typed, base: d ? d.base : p.value })),
    commit,
    send: (typed) => send(typed, p.value),
    insist,
    drop,
  }
}
