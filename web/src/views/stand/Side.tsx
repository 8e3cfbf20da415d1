import { useParams } from 'react-router'
import styled from 'styled-components'
import { VerdictMark } from '../../marks/marks'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Doings, FloorMap } from './Pressing'
import { Wait } from './pieces'
import {
  ago,
  indexOf,
  leaderOf,
  type Position,
  positionsOf,
  type Step,
  stepsOf,
  type Tonight,
} from './tonight'
import { useMoment, useNight } from './useNight'

/** Every rig of a show at once, as the pages on the music stands have it; and the lead for those that follow. */
export function Side() {
  const { show = '' } = useParams()
  const { desk, state } = useNight(show, undefined)
  const night = state.held.night
  const steps = stepsOf(state.held)
  if (state.shut) return <Wait role="alert">This device has not been let in.</Wait>
  if (!night || steps.length === 0)
    return <Wait role={state.error ? 'alert' : 'status'}>{state.error ?? 'Reading the show…'}</Wait>
  const positions = positionsOf(state.held)
  const here = indexOf(steps, state.held.own ?? leaderOf(positions))
  const at = steps[here]
  const go = (to: number) => {
    const s = steps[to]
    if (s) desk.happen({ kind: 'at', entry: s.entry, section: s.section, leads: true })
  }
  return (
    <Screen id="main" data-stand>
      <title>{`${night.evening.show.name}, all stands · Envex`}</title>
      <header>
        <h1>{night.evening.show.name}</h1>
        <p role="status" aria-label="Connection">
          {state.online ? 'Live' : `Own copy, ${ago(desk.now() - state.held.at)} old`}
        </p>
        <nav aria-label="Lead">
          <Button isDisabled={here === 0} onPress={() => go(here - 1)}>
            Back
          </Button>
          <Button $strong isDisabled={here === steps.length - 1} onPress={() => go(here + 1)}>
            {steps[here + 1] ? `Lead on to ${steps[here + 1]?.title}, ${steps[here + 1]?.label}` : 'The end'}
          </Button>
        </nav>
      </header>
      <p>
        Leading: {at?.title}, {at?.label}
      </p>
      <Columns>
        {night.evening.rigs.map((r) => (
          <OneRig key={r.id} show={show} rig={r.id} own={desk.page.id} />
        ))}
      </Columns>
    </Screen>
  )
}

/** One rig: where its page stands, what sounds, what comes and what is pressed for it. */
function OneRig({ show, rig, own }: { show: string; rig: string; own: string }) {
  const { desk, state } = useNight(show, rig)
  const now = useMoment(desk.now, true)
  const night = state.held.night
  if (!night) return <Column aria-label={rig}>Reading…</Column>
  const steps = stepsOf(state.held)
  const positions = positionsOf(state.held)
  const page = positions.filter((p) => p.rig === rig && p.page !== own).sort((a, b) => b.since - a.since)[0]
  return (
    <Column aria-label={night.evening.rig.name}>
      <h2>
        {night.evening.player ? `${night.evening.player}, ${night.evening.rig.name}` : night.evening.rig.name}
      </h2>
      <Where page={page} now={now} />
      {night.evening.troubles.map((t) => (
        <strong key={t.event}>{t.name} is out</strong>
      ))}
      <NowNext night={night} steps={steps} here={indexOf(steps, page ?? leaderOf(positions))} />
    </Column>
  )
}

function Where({ page, now }: { page: Position | undefined; now: number }) {
  if (!page) return <small>No page of this rig is open: the lead is shown.</small>
  return (
    <small>
      {page.name || 'Its page'}, moved on {ago(now - page.since)} ago
    </small>
  )
}

function NowNext({ night, steps, here }: { night: Tonight; steps: Step[]; here: number }) {
  const step = steps[here]
  const next = steps[here + 1]
  if (!step) return null
  return (
    <>
      <Line step={step} word="Now" />
      {next && (
        <>
          <Line step={next} word="Next" />
          <FloorMap night={night} step={next} />
          <Doings step={next} />
        </>
      )}
    </>
  )
}

function Line({ step, word }: { step: Step; word: string }) {
  return (
    <Sounding role="group" aria-label={word}>
      <small>{word}</small>
      <b style={{ background: tape(step.tape) }}>{step.name}</b>
      <span>
        {step.title}, {step.label}
      </span>
      {step.verdict && word === 'Next' && <VerdictMark verdict={step.verdict} size={18} />}
    </Sounding>
  )
}

const Screen = styled.main`
  --target: 48px; height: 100%; overflow: auto; background: var(--bg); color: var(--text); padding: 14px 18px 40px; display: grid; gap: 12px; align-content: start; outline: none;
  header { display: flex; flex-wrap: wrap; gap: 10px 20px; align-items: center; }
  h1 { font: 600 28px/1.1 var(--face-label); margin: 0; flex: 1; }
  nav { display: flex; gap: 10px; }
  nav button { min-height: 56px; font-size: 17px; }
`
const Columns = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(min(340px, 100%), 1fr)); gap: 14px; align-items: start;`
const Column = styled.section`
  background: var(--panel); border: 1px solid var(--line); padding: 14px; display: grid; grid-template-columns: minmax(0, 1fr); gap: 10px; min-width: 0;
  h2 { font: 600 21px/1.15 var(--face-label); margin: 0; }
  > small { color: var(--muted); font-size: 14px; }
  > strong { color: var(--red); }
`
const Sounding = styled.div`
  display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center;
  small { flex: 1 1 100%; font: 600 14px/1 var(--face-label); text-transform: uppercase; letter-spacing: 0.06em; color: var(--muted); }
  b { font: 600 20px/1.2 var(--face-label); color: var(--onTape); padding: 2px 10px; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { font-size: 17px; }
`
