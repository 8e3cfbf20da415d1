import { useState } from 'react'
import { VerdictMark, verdictWords } from '../../marks/marks'
import { Switch } from '../../ui/controls'
import { Muted } from '../../ui/layout'
import { Choice, Over, Typed } from './Sheets'
import { type Call, endOf, type Step, type Tonight, wayTo } from './tonight'

/** Any song, to be played next: what has to be pressed to get there, and whether that is in time. */
export function CallASong(p: {
  night: Tonight
  steps: Step[]
  here: number
  online: boolean
  onCall: (song: string, title: string, now: boolean) => void
  onClose: () => void
}) {
  const [words, setWords] = useState('')
  const [now, setNow] = useState(false)
  const { night, steps, here } = p
  const planned = (step: Step | undefined) =>
    night.evening.steps.findIndex((s) => s.entry === step?.entry && s.section === step?.section)
  const from = planned(steps[now ? here : endOf(steps, here)])
  const left = new Set(steps.slice(endOf(steps, here) + 1).map((s) => s.song))
  const songs = (night.evening.calls?.songs ?? []).filter((s) =>
    s.title.toLowerCase().includes(words.trim().toLowerCase()),
  )
  return (
    <Over title="Call a song" onClose={p.onClose}>
      <Typed>
        Find
        <input value={words} onChange={(e) => setWords(e.target.value)} />
      </Typed>
      <Switch label="Now: leave the rest of this song out" value={now} onChange={setNow} />
      <ul aria-label="Songs">
        {songs.map((s) => {
          const way = wayTo(night, from, s.song)
          const away = !p.online && !left.has(s.song)
          return (
            <li key={s.song} style={{ marginTop: 8 }}>
              <Choice type="button" disabled={away} onClick={() => p.onCall(s.song, s.title, now)}>
                <b>
                  {way && <VerdictMark verdict={way.verdict} size={16} />}
                  {s.title}
                </b>
                <span>
                  {away ? 'Its sections are not on this phone: wait for the network.' : wayWords(way)}
                </span>
              </Choice>
            </li>
          )
        })}
      </ul>
      {songs.length === 0 && <Muted>No song is called that.</Muted>}
    </Over>
  )
}

/** A way to a song in words. */
function wayWords(way: Call | undefined): string {
  if (!way) return 'The rig has no recipe for its first sound.'
  const acts = [...way.presses.map((x) => x.act), ...way.hands.map((h) => h.action)]
  const what = acts.length > 0 ? acts.join(', ') : 'Nothing to press'
  if (way.verdict === 'impossible') return way.reason
  return `${what}: ${verdictWords(way.verdict)}, ${way.needed_s.toFixed(1)} s of ${way.free_s.toFixed(0)} s.`
}
