import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import styled from 'styled-components'
import { answer, client, Problem } from '../../api/client'
import { bring } from '../../api/recordings'
import { useEdit } from '../../edits/useEdit'
import { Button } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Panel, Row, Stack } from '../../ui/layout'

const saidOf = (e: unknown) => (e instanceof Problem ? e.message : 'It could not be read.')

interface Brought {
  id: string
  file: string
}

/** A sound that is wanted, from a recording of it: what it shows becomes the targets of a new sound. */
export function SoundRecording() {
  const edit = useEdit()
  const [recording, brought] = useState<Brought>()
  const [home, homeBrought] = useState<Brought>()
  const [name, called] = useState('')
  const [bpm, tempo] = useState<number | undefined>()
  const [refused, refuse] = useState('')
  const [bringing, work] = useState(false)
  const look = useQuery({
    queryKey: ['estimate', recording?.id, home?.id, name, bpm],
    enabled: Boolean(recording),
    retry: false,
    placeholderData: (before) => (recording ? before : undefined),
    queryFn: () =>
      answer(
        client.GET('/api/recordings/estimate', {
          params: { query: { recording: recording?.id ?? '', home: home?.id, name, bpm } },
        }),
      ),
  })
  const busy = bringing || look.isFetching
  const found = look.isError ? undefined : look.data
  const pick = async (files: FileList | null, take: (b: Brought) => void) => {
    const file = files?.[0]
    if (!file) return
    refuse('')
    work(true)
    try {
      const taken = await bring(file)
      take({ id: taken.id, file: file.name })
    } catch (e) {
      refuse(saidOf(e))
    }
    work(false)
  }
  const add = async () => {
    if (!found) return
    await edit.add('sounds', `Add ${found.sound.name}`, found.sound)
    brought(undefined)
    homeBrought(undefined)
    called('')
  }
  const repeats = found?.recording.repeats
  return (
    <Panel aria-label="A sound from a recording">
      <Stack>
        <Muted>
          Record some seconds of the sound by itself: chords that ring, then a chord stopped by hand and left
          to ring out. Another recording of your home sound, made the same way, says how loud it is over home.
        </Muted>
        <Row style={{ alignItems: 'center' }}>
          <FileTrigger
            acceptedFileTypes={['audio/wav', '.wav']}
            onSelect={(f) =>
              void pick(f, (b) => {
                brought(b)
                called(name || b.file.replace(/\.wav$/i, '').slice(0, 60))
              })
            }
          >
            <Button $strong={!recording} isDisabled={busy}>
              {recording ? 'Another recording' : 'Bring a recording'}
            </Button>
          </FileTrigger>
          {recording && (
            <FileTrigger
              acceptedFileTypes={['audio/wav', '.wav']}
              onSelect={(f) => void pick(f, homeBrought)}
            >
              <Button isDisabled={busy}>{home ? 'Another recording of home' : 'Bring home as well'}</Button>
            </FileTrigger>
          )}
          <Muted role="status">
            {busy ? 'Looking at it …' : [recording?.file, home?.file].filter(Boolean).join(', home: ')}
          </Muted>
        </Row>
        {(refused || look.isError) && <Muted role="alert">{refused || saidOf(look.error)}</Muted>}
        {found && (
          <>
            <Figures>
              <Range name="Dirt" unit="%" figure={found.recording.dirt_pct} from={0} to={100} />
              {found.recording.over_home_lu && (
                <Range name="Over home" unit="LU" figure={found.recording.over_home_lu} from={-12} to={12} />
              )}
              {repeats && <Range name="First repeat" unit="dB" figure={repeats.level_db} from={-30} to={0} />}
              {found.recording.tail && !found.recording.tail.at_most && (
                <Range name="Tail" unit="s" figure={found.recording.tail.s} from={0} to={6} />
              )}
            </Figures>
            {repeats && (
              <p>
                Repeats every {Math.round(repeats.ms.is)} ms, {repeats.heard} heard.
              </p>
            )}
            <Said>
              {(found.recording.words ?? []).map((w) => (
                <li key={w}>{w}</li>
              ))}
            </Said>
            <Row>
              <TextField label="Name" value={name} onCommit={called} />
              <NumberField
                label="Played at, bpm"
                width={120}
                value={bpm}
                min={20}
                max={400}
                onCommit={tempo}
              />
              <Button $strong isDisabled={busy} onPress={() => void add()}>
                Make it a sound
              </Button>
            </Row>
          </>
        )}
      </Stack>
    </Panel>
  )
}

/** An estimate along its scale: where it is, and how far off it may be. */
function Range(p: {
  name: string
  unit: string
  figure: { is: number; low: number; high: number }
  from: number
  to: number
}) {
  const at = (v: number) => Math.min(Math.max(((v - p.from) / (p.to - p.from)) * 100, 0), 100)
  const n = (v: number) => (p.unit === 's' ? v.toFixed(1) : Math.round(v).toString())
  return (
    <div>
      <dt>{p.name}</dt>
      <dd>
        <Scale aria-hidden="true">
          <b style={{ left: `${at(p.figure.low)}%`, width: `${at(p.figure.high) - at(p.figure.low)}%` }} />
          <i style={{ left: `${at(p.figure.is)}%` }} />
        </Scale>
        <span>
          {n(p.figure.is)} {p.unit}{' '}
          <Muted as="span">
            {n(p.figure.low)} to {n(p.figure.high)}
          </Muted>
        </span>
      </dd>
    </div>
  )
}

const Figures = styled.dl`
  margin: 0; display: grid; gap: 10px; max-width: 620px;
  > div { display: grid; grid-template-columns: 110px 1fr; align-items: center; gap: 12px; }
  dt { font: 600 14px/1.2 var(--face-label); }
  dd { margin: 0; display: grid; grid-template-columns: minmax(120px, 1fr) 150px; gap: 12px; align-items: center; }
`
const Scale = styled.span`
  position: relative; display: block; height: 14px; border-bottom: 1px solid var(--line);
  b { position: absolute; top: 3px; height: 8px; background: var(--edge); opacity: 0.6; }
  i { position: absolute; top: 0; width: 3px; height: 14px; margin-left: -1.5px; background: var(--text); }
`
const Said = styled.ul`margin: 0; padding-left: 18px; font-size: 14px; line-height: 1.5; color: var(--muted);`
