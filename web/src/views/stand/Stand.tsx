import { useCallback, useEffect, useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import styled from 'styled-components'
import { useKept } from '../../state/kept'
import { useNotices } from '../../state/notices'
import { Button } from '../../ui/controls'
import { Broke } from './Broke'
import { CallASong } from './CallASong'
import { DeviceSheet } from './Devices'
import { More } from './More'
import { inStep } from './midi'
import { Connected, Left, Sound } from './NowAndNext'
import type { NightDesk, State } from './nightDesk'
import { Doings, FloorMap } from './Pressing'
import { Wait } from './pieces'
import { Soundcheck } from './Soundcheck'
import {
  endOf,
  indexOf,
  leaderOf,
  type Place,
  positionsOf,
  type Step,
  stepsOf,
  type Tonight,
  waitsForServer,
} from './tonight'
import { simulated, useCues, useDevices, useMidiFollow } from './useDevices'
import { useAwake, useKeptPage, useMoment, useNight } from './useNight'
import { usePageTurns } from './usePageTurns'

/** The page on the music stand: where the show is, what comes, and what is pressed for it. */
export function Stand() {
  const { show = '' } = useParams()
  const [query] = useSearchParams()
  const rig = query.get('rig') ?? undefined
  const { desk, state } = useNight(show, rig)
  const night = state.held.night
  useKeptPage(night !== undefined)
  const steps = stepsOf(state.held)
  if (state.shut)
    return (
      <Wait role="alert">
        This device has not been let in. <a href="/">Pair it</a>, and come back.
      </Wait>
    )
  if (!night || steps.length === 0)
    return (
      <Wait role={state.error ? 'alert' : 'status'}>
        {state.error ?? (night ? 'The set of this show has no songs yet.' : 'Reading the show…')}
      </Wait>
    )
  return <Running desk={desk} state={state} night={night} steps={steps} />
}

/** What moves a page on. */
export type Follow = 'leader' | 'own' | 'midi'

function Running({
  desk,
  state,
  night,
  steps,
}: {
  desk: NightDesk
  state: State
  night: Tonight
  steps: Step[]
}) {
  const { show, rig } = night.evening
  const [follow, setFollow] = useKept(`stand.follow.${show.id}`, 'own')
  const [leads, setLeads] = useKept(`stand.leads.${show.id}`, '')
  const [sheet, open] = useState<'call' | 'broke' | 'more' | 'check' | 'devices' | undefined>()
  const { say } = useNotices()
  const awake = useAwake()
  const positions = positionsOf(state.held)
  const own = state.held.own ?? positions.find((p) => p.page === desk.page.id)
  const leader = leaderOf(positions.filter((p) => p.page !== desk.page.id))
  const shown = follow === 'leader' && leader ? leader : own
  const here = indexOf(steps, shown)
  const step = steps[here] as Step
  const next = steps[here + 1]
  const place: Place = { entry: step.entry, section: step.section }
  const now = useMoment(desk.now, shown !== undefined && step.length_s !== undefined)
  const go = useCallback(
    (to: number) => {
      const at = steps[Math.max(0, Math.min(steps.length - 1, to))]
      if (!at) return
      if (follow === 'leader') setFollow('own')
      desk.happen({ kind: 'at', entry: at.entry, section: at.section, leads: leads === 'yes' })
    },
    [desk, steps, follow, leads, setFollow],
  )
  // What leads to where a leader stands is told too, so that whoever looks after all pages sees this one go along.
  useEffect(() => {
    if (follow === 'leader' && leader && (own?.entry !== leader.entry || own?.section !== leader.section))
      desk.happen({ kind: 'at', entry: leader.entry, section: leader.section })
  }, [desk, follow, leader, own?.entry, own?.section])
  usePageTurns(sheet === undefined, here, go)
  const cues = inStep(
    steps,
    useCues(show.id, rig.id, `${night.plan} ${night.evening.steps.length} ${night.seq}`),
  )
  const devices = useDevices({
    show: show.id,
    rig: rig.id,
    cues,
    here,
    lastsMs: step.length_s && step.length_s * 1000,
    ended: Boolean(night.evening.ended),
  })
  const [input, setInput] = useKept(`stand.input.${show.id}`, simulated)
  const [clock, runClock] = useState(false)
  useMidiFollow({ active: follow === 'midi', input, running: clock, here, steps, cues, go })
  const undo = (id: string) => desk.happen({ kind: 'undone', of: id, ...place })
  return (
    <Screen id="main" data-stand>
      <title>{`${step.title}, ${show.name} · Envex`}</title>
      <Head>
        <div>
          <h1 title={step.title}>{step.title}</h1>
          <small>
            {night.evening.order.findIndex((o) => o.entry === step.entry) + 1} of {night.evening.order.length}
            , {[...step.facts, rig.name].join(', ')}
          </small>
        </div>
        <Connected state={state} now={desk.now} awake={awake} />
      </Head>
      {devices.armed && (
        <Trouble role="status" aria-label="Armed">
          Armed: sends to {devices.to === simulated ? 'simulated devices' : 'devices'}.{' '}
          {devices.lines.some((l) => l.answer === 'wrong') && 'A device answered wrongly. '}
          <Button onPress={() => devices.arm(false)}>Disarm</Button>
        </Trouble>
      )}
      {state.error && <Trouble role="alert">{state.error}</Trouble>}
      {night.evening.ended && <Trouble role="status">The show has ended.</Trouble>}
      {night.evening.troubles.map((t) => (
        <Trouble key={t.event}>
          {t.name} is out: {t.words}.
        </Trouble>
      ))}
      {waitsForServer(state.held) && (
        <Trouble role="status">
          Kept on this phone. The rest of the night is worked out when the network is back.
        </Trouble>
      )}
      {here === night.evening.from && step.presses.length + step.hands.length > 0 && here > 0 && (
        <Block role="group" aria-label="Press now">
          <small>Press now</small>
          <FloorMap night={night} step={step} />
          <Doings step={step} />
        </Block>
      )}
      <Block role="group" aria-label="Now">
        <small>Now</small>
        <Sound step={step} />
        <Left step={step} since={shown?.since} now={now} />
        {step.early.length > 0 && (
          <Early>
            <b>Make ready now</b>
            {step.early.map((e) => (
              <span key={e}>{e}</span>
            ))}
          </Early>
        )}
      </Block>
      <Block role="group" aria-label="Next">
        <small>Next</small>
        {next ? (
          <>
            {next.entry !== step.entry && (
              <NextSong>
                {next.title}
                <span>
                  {next.segue ? 'straight on' : `${next.gap_s ?? 0} s between`}, {next.facts.join(', ')}
                </span>
              </NextSong>
            )}
            <Sound step={next} verdict />
            <FloorMap night={night} step={next} />
            <Doings step={next} />
          </>
        ) : (
          <b>The end</b>
        )}
      </Block>
      <Foot>
        <Button isDisabled={here === 0} onPress={() => go(here - 1)}>
          Back
        </Button>
        <Button $strong isDisabled={!next} onPress={() => go(here + 1)}>
          {next && next.entry !== step.entry ? `On to ${next.title}` : `On${next ? ` to ${next.label}` : ''}`}
        </Button>
        <nav aria-label="On stage">
          <Button onPress={() => open('call')}>Songs</Button>
          <Button onPress={() => open('broke')}>Broke</Button>
          <Button onPress={() => open('more')}>More</Button>
        </nav>
      </Foot>
      {sheet === 'call' && (
        <CallASong
          night={night}
          steps={steps}
          here={here}
          online={state.online}
          onClose={() => open(undefined)}
          onCall={(song, title, at) => {
            const id = desk.happen({ kind: 'called', song, now: at || undefined, ...place })
            open(undefined)
            say(`${title} comes next.`, { label: 'Undo', act: () => undo(id) })
          }}
        />
      )}
      {sheet === 'broke' && (
        <Broke
          night={night}
          steps={steps}
          breaks={state.held.breaks}
          place={place}
          online={state.online}
          look={(p) => desk.look(p)}
          onClose={() => open(undefined)}
          onBroke={(b, way) => {
            const id = desk.happen({
              kind: 'broke',
              gear: b.gear,
              way: { round: way.round, takes: way.takes },
              ...place,
            })
            open(undefined)
            say(`${b.name} is out. It is in the log.`, { label: 'Undo', act: () => undo(id) })
          }}
          onMended={(of, name) => {
            desk.happen({ kind: 'mended', of, ...place })
            open(undefined)
            say(`${name} works again.`)
          }}
        />
      )}
      {sheet === 'more' && (
        <More
          desk={desk}
          night={night}
          steps={steps}
          positions={positions}
          place={place}
          here={endOf(steps, here)}
          follow={follow === 'leader' || follow === 'midi' ? follow : 'own'}
          onFollow={(f) => setFollow(f)}
          leads={leads === 'yes'}
          onLeads={(on) => setLeads(on ? 'yes' : '')}
          onCheck={() => open('check')}
          onDevices={() => open('devices')}
          input={input}
          inputs={devices.inputs}
          onInput={setInput}
          onLines={devices.ask}
          clock={clock}
          onClock={runClock}
          onClose={() => open(undefined)}
        />
      )}
      {sheet === 'devices' && <DeviceSheet devices={devices} steps={steps} onClose={() => open(undefined)} />}
      {sheet === 'check' && (
        <Soundcheck desk={desk} night={night} held={state.held} onClose={() => open(undefined)} />
      )}
      {state.refused.length > 0 && (
        <Trouble role="alert">
          Not kept: {state.refused.join('; ')}. <Button onPress={() => desk.dismiss()}>Right</Button>
        </Trouble>
      )}
    </Screen>
  )
}

const Screen = styled.main`
  --target: 48px; height: 100%; overflow: auto; background: var(--bg); color: var(--text); display: grid; grid-template-columns: minmax(0, 1fr); gap: 10px; align-content: start;
  padding: 10px 14px 150px; max-width: 760px; margin: 0 auto; outline: none;
`
const Head = styled.header`
  display: flex; justify-content: space-between; gap: 12px; align-items: start;
  > div:first-child { min-width: 0; }
  h1 { font: 600 28px/1.05 var(--face-label); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; margin: 0; }
  small { font-size: 14px; color: var(--muted); }
`
const Block = styled.section`
  background: var(--panel); border: 1px solid var(--line); padding: 12px 14px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 8px; min-width: 0;
  > small { font: 600 15px/1 var(--face-label); letter-spacing: 0.06em; text-transform: uppercase; color: var(--muted); }
`
const Early = styled.div`
  border-left: 4px solid var(--text); padding-left: 10px; display: grid; gap: 2px; font-size: 17px;
  b { font: 600 15px/1.2 var(--face-label); text-transform: uppercase; letter-spacing: 0.04em; color: var(--muted); }
`
const NextSong = styled.div`
  font: 600 22px/1.15 var(--face-label);
  span { display: block; font: 400 14px/1.3 var(--face-body); color: var(--muted); }
`
const Trouble = styled.div`border: 1px solid var(--red); border-left-width: 6px; padding: 8px 12px; font-size: 16px;`
const Foot = styled.footer`
  position: fixed; left: 0; right: 0; bottom: 0; padding: 8px 14px calc(8px + env(safe-area-inset-bottom)); background: var(--bg); border-top: 1px solid var(--line);
  display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 2fr); gap: 8px; max-width: 760px; margin: 0 auto; z-index: 5;
  > button { min-height: 64px; font-size: 20px; justify-content: center; overflow: hidden; text-overflow: ellipsis; }
  nav { grid-column: 1 / -1; display: grid; grid-template-columns: repeat(3, 1fr); gap: 8px; }
  nav button { justify-content: center; min-height: 48px; }
`
