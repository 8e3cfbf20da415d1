import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import styled from 'styled-components'
import type { Listening } from '../api/types'
import { useWork } from '../api/work'
import { Icon } from '../marks/marks'
import { Button, IconButton, Switch } from '../ui/controls'
import { Caution, Figure, Muted } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { useKept } from './kept'

/** What is asked to be listened to: words for it, and the query that renders it. */
export interface Wish {
  title: string
  /** What renders it, where it is not a sound of a rig as it stands. */
  path?: string
  query: Record<string, string | number | boolean | undefined>
}

const Context = createContext<(wish: Wish) => void>(() => undefined)

/** Renders something and plays it. */
export const useListen = () => useContext(Context)

/** Plays what is asked for at the foot of the screen, on whatever view: one sound, or two that are
 * changed between without a gap. */
export function ListenProvider({ children }: { children: ReactNode }) {
  const [wish, setWish] = useState<Wish | undefined>()
  const [matched, match] = useState(false)
  const listen = useCallback((w: Wish) => setWish({ ...w }), [])
  const close = useCallback(() => setWish(undefined), [])
  return (
    <Context.Provider value={listen}>
      {children}
      {wish && <Dock wish={wish} matched={matched} match={match} close={close} />}
    </Context.Provider>
  )
}

function Dock(p: { wish: Wish; matched: boolean; match: (on: boolean) => void; close: () => void }) {
  const [answer, warn] = useKept('listened')
  const warned = answer === 'yes'
  const work = useWork<Listening>(
    p.wish.path ?? '/api/listen',
    warned ? { ...p.wish.query, matched: p.matched } : undefined,
  )
  return (
    <Bar role="region" aria-label="Listen">
      <b>{p.wish.title}</b>
      {!warned ? (
        <>
          <Caution>
            Turn the volume down first, headphones most of all: loudness harms hearing. Then turn it up
            slowly.
          </Caution>
          <Button $strong onPress={() => warn('yes')}>
            It is turned down
          </Button>
        </>
      ) : work.refused ? (
        <Muted role="alert">{work.refused}</Muted>
      ) : work.result ? (
        <Player
          key={work.result.clips.map((c) => c.id).join()}
          listening={work.result}
          matched={p.matched}
          match={p.match}
          renew={work.again}
        />
      ) : (
        <Progress label="Rendering" share={work.progress} cancel={p.close} />
      )}
      <IconButton label="Stop listening" onPress={p.close}>
        <Icon name="cross" />
      </IconButton>
    </Bar>
  )
}

/** All clips run side by side from the same moment, round and round; only one is let through. */
function Player({
  listening,
  matched,
  match,
  renew,
}: {
  listening: Listening
  matched: boolean
  match: (on: boolean) => void
  renew: () => void
}) {
  const clips = listening.clips
  const [heard, hear] = useState(0)
  const [kept, keepVolume] = useKept('volume', '0.4')
  const volume = Number(kept)
  const now = useRef(volume)
  now.current = volume
  const [fault, setFault] = useState<string | undefined>()
  const [ready, setReady] = useState(false)
  const gains = useRef<GainNode[]>([])
  const master = useRef<GainNode | undefined>(undefined)
  const ids = useMemo(() => clips.map((c) => c.id), [clips])
  useEffect(() => {
    const audio = new AudioContext({ sampleRate: 48000 })
    const out = audio.createGain()
    out.gain.value = now.current
    out.connect(audio.destination)
    master.current = out
    let stopped = false
    void Promise.all(
      ids.map(async (id) => {
        const answer = await fetch(`/api/clips/${id}`)
        if (!answer.ok) throw new Error('This clip has expired: render it again.')
        return audio.decodeAudioData(await answer.arrayBuffer())
      }),
    )
      .then((buffers) => {
        if (stopped) return
        const at = audio.currentTime + 0.05
        gains.current = buffers.map((buffer, i) => {
          const loop = audio.createBufferSource()
          loop.buffer = buffer
          loop.loop = true
          const gain = audio.createGain()
          gain.gain.value = i === 0 ? 1 : 0
          loop.connect(gain).connect(out)
          loop.start(at)
          return gain
        })
        setReady(true)
      })
      .catch((e: unknown) => !stopped && setFault(e instanceof Error ? e.message : 'It could not be played.'))
    return () => {
      stopped = true
      void audio.close()
    }
  }, [ids])
  const turn = (to: number) => {
    hear(to)
    gains.current.forEach((g, i) => {
      g.gain.setTargetAtTime(i === to ? 1 : 0, g.context.currentTime, 0.006)
    })
  }
  if (fault)
    return (
      <>
        <Muted role="alert">{fault}</Muted>
        <Button onPress={renew}>Render it again</Button>
      </>
    )
  return (
    <>
      {clips.map((c, i) => (
        <Button
          key={c.id}
          $strong={i === heard}
          aria-pressed={i === heard}
          onPress={() => turn(i)}
          isDisabled={!ready}
        >
          {clips.length > 1 ? `${String.fromCharCode(65 + i)}: ${c.name}` : c.name}
        </Button>
      ))}
      <Muted as="span">
        <Figure>{clips[heard]?.lufs.toFixed(1)} LUFS</Figure> at the speaker, played{' '}
        <Figure>
          {(clips[heard]?.gain_db ?? 0) > 0 ? '+' : ''}
          {clips[heard]?.gain_db.toFixed(1)} dB
        </Figure>
        {(clips[heard]?.ring_s ?? 0) >= 1 && (
          <>
            , rings for <Figure>{clips[heard]?.ring_s?.toFixed(1)} s</Figure>
            {clips[heard]?.faded && ' and was faded there'}
          </>
        )}
      </Muted>
      {clips.length > 1 && <Switch label="Match loudness" value={matched} onChange={match} />}
      <label>
        Volume{' '}
        <input
          type="range"
          min={0}
          max={1}
          step={0.02}
          value={volume}
          onChange={(e) => {
            const v = Number(e.target.value)
            keepVolume(String(v))
            if (master.current) master.current.gain.value = v
          }}
        />
      </label>
    </>
  )
}

const Bar = styled.div`
  position: fixed; left: 0; right: 0; bottom: 0; z-index: 40; display: flex; flex-wrap: wrap; align-items: center; gap: 8px 16px; padding: 8px 16px;
  background: var(--raised); border-top: 2px solid var(--text); font-size: 13px;
  > b { font: 600 15px/1.2 var(--face-label); letter-spacing: 0.03em; text-transform: uppercase; }
  > button:last-child { margin-left: auto; }
  label { display: inline-flex; align-items: center; gap: 8px; }
  input[type='range'] { accent-color: var(--text); width: 110px; }
`
