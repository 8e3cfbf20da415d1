import { useEffect, useState } from 'react'
import { Button } from '../../ui/controls'
import { Caution, Muted } from '../../ui/layout'
import { Choice, Over } from './Sheets'
import type { Break, Place, Step, Tonight } from './tonight'

/** What broke, and the ways round it: two taps more. */
export function Broke(p: {
  night: Tonight
  steps: Step[]
  breaks: Break[] | undefined
  place: Place
  online: boolean
  look: (place: Place) => Promise<void>
  onBroke: (b: Break, way: Break['ways'][number]) => void
  onMended: (event: string, name: string) => void
  onClose: () => void
}) {
  const [picked, pick] = useState<Break | undefined>()
  const { look, place } = p
  const { entry, section } = place
  useEffect(() => void look({ entry, section }), [look, entry, section])
  const amp = picked && (picked.kind === 'amp' || picked.kind === 'supply')
  return (
    <Over title={picked ? `${picked.name} failed` : 'Something broke'} onClose={p.onClose}>
      {!picked &&
        p.night.evening.troubles.map((t) => (
          <Choice key={t.event} type="button" onClick={() => p.onMended(t.event, t.name)}>
            <b>{t.name} works again</b>
            <span>Now: {t.words}.</span>
          </Choice>
        ))}
      {!picked && !p.breaks && <Muted>{p.online ? 'Looking…' : 'This needs the network once.'}</Muted>}
      {!picked && (
        <ul aria-label="What broke">
          {p.breaks?.map((b) => (
            <li key={b.gear} style={{ marginTop: 8 }}>
              <Choice type="button" onClick={() => pick(b)}>
                <b>{nameOf(b)}</b>
                {b.ways[0] && <span>{leftWords(b.ways[0])}</span>}
              </Choice>
            </li>
          ))}
        </ul>
      )}
      {picked && (
        <>
          <ul aria-label="Ways round">
            {picked.ways.map((w) => (
              <li key={`${w.round} ${w.takes}`} style={{ marginTop: 8 }}>
                <Choice type="button" onClick={() => p.onBroke(picked, w)}>
                  <b>{w.words.charAt(0).toUpperCase() + w.words.slice(1)}</b>
                  <span>{leftWords(w)}</span>
                  {w.lost.map((s) => (
                    <span key={s.recipe}>{lostWords(s)}</span>
                  ))}
                </Choice>
              </li>
            ))}
          </ul>
          <Button onPress={() => pick(undefined)}>Something else broke</Button>
          {amp && (
            <Caution>
              Valve amps hold lethal voltage when unplugged: leave the inside to a qualified tech. A valve amp
              needs its speaker or rated load. Never lift the safety earth.
            </Caution>
          )}
        </>
      )}
    </Over>
  )
}

const nameOf = (b: Break) => (b.kind === 'guitar' ? `${b.name}: a string, or all of it` : b.name)

/** What is left of the night by a way round. */
function leftWords(w: Break['ways'][number]): string {
  const changes = `${w.reached} of ${w.total} changes left in time`
  if (w.hit === 0) return `Every sound stays; ${changes}.`
  return `${w.hit} ${w.hit === 1 ? 'section' : 'sections'} without their sound; ${changes}.`
}

function lostWords(s: Break['ways'][number]['lost'][number]): string {
  if (s.state === 'changed') return `${s.name}: ${s.without}`
  const instead = s.instead?.[0]
  if (!instead) return `${s.name} is lost: ${s.without}`
  return instead.same
    ? `${s.name}: play it with ${s.without}`
    : `${s.name} is lost (${s.without}): play ${instead.name}`
}
