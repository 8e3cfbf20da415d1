import { useCallback, useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { Problem } from '../../api/client'
import type { PlayPress, PlayResult, PlaySong } from '../../api/types'
import { useKept } from '../../state/kept'
import { useNotices } from '../../state/notices'
import { usePlace } from '../../state/place'
import { useIsStand } from '../../state/role'
import { Button, Switch } from '../../ui/controls'
import { Caution, Muted, Row, Stack, Title } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { dueOf, sectionAt, todoOf } from './beats'
import { Extras } from './Extras'
import { HandPads, handsOf } from './HandPads'
import { NowNext } from './NowNext'
import { Pads } from './Pads'
import { Scores } from './Scores'
import { SongStrip } from './SongStrip'
import { useBand } from './useBand'
import { type Source, usePedals } from './usePedals'
import { usePlayed, useScript } from './usePlayed'

/** A rehearsal of the set against the clock, or walked by hand, with the rig's devices simulated. */
export function Play() {
  const { section, rig } = usePlace()
  const { data: script } = useScript()
  const navigate = useNavigate()
  const stand = useIsStand()
  const [picked, pick] = useState<string | undefined>()
  const song = script?.songs.find((s) => s.entry === (picked ?? section?.entry)) ?? script?.songs[0]
  const [onward, goOn] = useState(false)
  const next = (entry: string) => {
    goOn(true)
    pick(entry)
  }
  return (
    <Screen>
      <Row $gap={16} style={{ alignItems: 'center' }}>
        <Button onPress={() => navigate(stand ? '/pack/shows' : '/step')}>Leave</Button>
        <Title>Play</Title>
        {script && song && (
          <Select
            label="Song"
            hideLabel
            value={song.entry}
            options={script.songs.map((s) => ({ id: s.entry, name: s.title }))}
            onChange={(entry) => {
              goOn(false)
              pick(entry)
            }}
          />
        )}
      </Row>
      {script && song && rig ? (
        <Rehearsal
          key={`${rig.id} ${song.entry}`}
          script={script}
          song={song}
          takesFocus={onward}
          onSong={next}
        />
      ) : (
        <Stack>
          <Muted>
            Play rehearses the set against the clock, with the devices of the rig simulated. It needs a set
            list with songs, and a rig with recipes for their sounds.
          </Muted>
        </Stack>
      )}
    </Screen>
  )
}

function Rehearsal({
  script,
  song,
  takesFocus,
  onSong,
}: {
  script: NonNullable<ReturnType<typeof useScript>['data']>
  song: PlaySong
  /** The one before was left by a press inside it, which went with it. */
  takesFocus: boolean
  onSong: (entry: string) => void
}) {
  const [loud, hear] = useState(true)
  const [walking, walk] = useState(false)
  const [hands, judgeHands] = useState(false)
  const [keptLatency, keepLatency] = useKept('latency')
  const latency = Number(keptLatency) || 0
  const [moment, setMoment] = useState(-99)
  const [step, setStep] = useState(0)
  const [result, setResult] = useState<PlayResult | undefined>()
  const [over, finish] = useState(false)
  // What goes on and what ends is one button: the focus stays on it, and comes to it where its own button goes.
  const main = useRef<HTMLButtonElement>(null)
  useEffect(() => {
    if (takesFocus) main.current?.focus()
  }, [takesFocus])
  const presses = useRef<PlayPress[]>([])
  const asked = useRef(0)
  const { judge, keep } = usePlayed()
  const stand = useIsStand()
  const { tell, say } = useNotices()
  const band = useBand(loud, latency)
  const last = song.sections.length - 1
  const first = song.sections[0]
  const following = script.songs[script.songs.findIndex((s) => s.entry === song.entry) + 1]

  const update = useCallback(
    (until: number) => {
      asked.current += 1
      const mine = asked.current
      judge(song.entry, presses.current, until, hands)
        .then((r) => mine === asked.current && setResult(r))
        .catch((e) => tell(e instanceof Problem ? e : new Problem(0, undefined)))
    },
    [judge, song.entry, hands, tell],
  )

  // Walked by hand, a section's moment is the end of the window in which its change is made: it is
  // scored when one goes on.
  const walked = song.sections[step]
  const at = walking && walked ? walkedAt(walked) : moment
  const here = walking ? step : sectionAt(song, moment)

  const made = useCallback(
    (what: Pick<PlayPress, 'switch' | 'hand'>, stamp: number) => {
      const s = song.sections[step]
      const when = walking
        ? Math.min((s?.from_s ?? 0) + 0.01 * (presses.current.length + 1), (s?.until_s ?? 0) - 0.001)
        : band.running
          ? band.at(stamp)
          : -1
      presses.current = [...presses.current, { at_s: when, ...what }]
      update(walking && s ? walkedAt(s) : Math.max(when, band.running ? band.now() : when))
    },
    [band, song, step, walking, update],
  )
  const press = useCallback(
    (key: string, stamp: number, _source?: Source) => made({ switch: key }, stamp),
    [made],
  )
  const pedals = usePedals(script.switches, press)

  useEffect(() => {
    if (!band.running) return
    let lastAsk = 0
    const timer = setInterval(() => {
      const now = band.now()
      setMoment(now)
      if (now > song.length_s + 0.5) {
        band.stop()
        finish(true)
        update(song.length_s)
      } else if (now - lastAsk > 0.5) {
        lastAsk = now
        update(now)
      }
    }, 60)
    return () => clearInterval(timer)
  }, [band, song, update])

  const begin = (from = 0) => {
    main.current?.focus()
    presses.current = []
    setResult(undefined)
    finish(false)
    walk(false)
    void band.start(song, song.sections[from]?.at_s ?? 0)
  }
  const beginWalk = () => {
    main.current?.focus()
    band.stop()
    presses.current = []
    finish(false)
    walk(true)
    setStep(0)
    if (first) update(walkedAt(first))
  }
  const onward = () => {
    if (step >= last) {
      walk(false)
      finish(true)
      update(song.length_s)
      return
    }
    setStep(step + 1)
    const to = song.sections[step + 1]
    if (to) update(walkedAt(to))
  }
  const stop = () => {
    const now = band.now()
    band.stop()
    finish(true)
    update(now)
  }
  const playing = band.running || walking
  if (!first) return <Muted>{song.title} has no sections yet.</Muted>
  return (
    <>
      <Row $gap={14} style={{ alignItems: 'center' }}>
        <Button ref={main} $strong onPress={walking ? onward : band.running ? stop : () => begin()}>
          {walking
            ? step >= last
              ? 'End of the song'
              : `On to ${song.sections[step + 1]?.label}`
            : band.running
              ? 'Stop'
              : `Start ${song.title}`}
        </Button>
        {!playing && <Button onPress={beginWalk}>Walk it by hand</Button>}
        <Switch label="Click" value={loud} onChange={hear} />
        {!playing && handsOf(song).length > 0 && (
          <Switch label="Judge hands too" value={hands} onChange={judgeHands} />
        )}
        <Muted as="span">
          {song.tempo.bpm} bpm, {song.beats} in a bar, {Math.round(song.length_s)} s
        </Muted>
      </Row>
      <Spoken role="status" aria-label="Now and next">
        {playing && spoken(song, here, at, walking)}
      </Spoken>
      <SongStrip song={song} at={walking ? (walked?.at_s ?? 0) : moment} />
      <NowNext song={song} here={here} at={at} running={band.running} result={result} />
      <Pads
        switches={script.switches}
        result={result}
        todo={todoOf(song, here, at, walking)}
        onPress={press}
        learning={pedals.learning}
      />
      {hands && (
        <HandPads
          song={song}
          due={(dueOf(song, here, at, walking)?.by_hand ?? []).map((h) => h.variable)}
          onMove={(variable, stamp) => made({ switch: '', hand: variable }, stamp)}
        />
      )}
      <Scores
        song={song}
        result={result}
        over={over}
        keeping={keep.isPending}
        kept={keep.isSuccess}
        onAgain={() => begin()}
        next={following?.title}
        onNext={() => following && onSong(following.entry)}
        onKeep={
          stand
            ? undefined
            : () =>
                keep.mutate(
                  {
                    entry: song.entry,
                    presses: presses.current,
                    until: result?.until_s ?? song.length_s,
                    hands,
                  },
                  {
                    onSuccess: (k) => say(`${k.title} kept: ${k.made} of ${k.total}.`),
                    onError: (e) => tell(e instanceof Problem ? e : new Problem(0, undefined)),
                  },
                )
        }
      />
      <Extras
        script={script}
        song={song}
        pedals={pedals}
        result={result}
        latency={latency}
        onLatency={(s) => keepLatency(String(s))}
        onSong={onSong}
        onDrill={(position) => {
          const i = song.sections.findIndex((s) => s.position === position)
          if (i >= 0) begin(Math.max(0, i - 1))
        }}
      />
      <Caution>Loudness harms hearing, at side-stage and through headphones: begin low.</Caution>
    </>
  )
}

/** The moment of a section that is walked: just before its change has to stand. */
const walkedAt = (s: PlaySong['sections'][number]) => s.until_s - 0.0005

/** What a rehearsal says of itself: where it is, what comes, and what is pressed now. It changes with the section and when
 * a press falls due, not with the beat. */
function spoken(song: PlaySong, here: number, at: number, walking: boolean): string {
  const now = song.sections[here]
  const next = song.sections[here + 1]
  if (!now) return ''
  const due = dueOf(song, here, at, walking)
  const acts = due ? [...due.presses.map((p) => `${p.label} ${p.action}`), ...due.hands] : []
  return [
    `Now ${now.label}, ${now.name}.`,
    next ? `Next ${next.label}, ${next.name}.` : 'Then the end.',
    acts.length > 0 && `Press ${due === next ? 'next' : 'now'}: ${acts.join(', then ')}.`,
  ]
    .filter(Boolean)
    .join(' ')
}

const Spoken = styled.p`position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); white-space: nowrap;`
const Screen = styled.div`
  position: relative; min-height: 100%; padding: 16px 20px 40px; display: grid; gap: 14px; align-content: start; background: var(--bg); overflow: auto;
`
