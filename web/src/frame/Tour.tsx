import { useEffect, useRef } from 'react'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { Icon } from '../marks/marks'
import { useKept } from '../state/kept'
import { useChosen } from '../state/place'
import { Button, IconButton } from '../ui/controls'

const steps = [
  {
    path: '/step',
    words:
      'The whole night lies across the top. A red triangle is a change that comes too late: press one, and Step shows its presses against the time there is.',
  },
  {
    path: '/step',
    words:
      'Under Findings, each change that fails has repairs: the least that mends it, tried on the whole show. Take one and watch the figure beside Reach.',
  },
  {
    path: '/order',
    words:
      'Order is the chain, lit for the sound under the cursor. Findings say what had better stand elsewhere, why, and what it does on this rig.',
  },
  {
    path: '/balance',
    words:
      'Balance shows every combination of the drives on one map, with the wanted sounds as targets. Listen plays them side by side.',
  },
  {
    path: '/build/board',
    words:
      'Build is the board from above, to scale. Drag a box, or press Fit for the least footwork of the night.',
  },
  {
    path: '/hear/songs',
    words: 'Hear holds the songs, their sections and the sounds they ask for: what the night is judged by.',
  },
  {
    path: '/pack/sheets',
    words: 'Pack prints what goes to the gig. To begin with your own rig, press Type it in.',
  },
]

/** Which step of the tour one is on; undefined when it is not taken. */
function useStep(): [number | undefined, (step: number | undefined) => void] {
  const [kept, keep, leave] = useKept('tour')
  const at = kept === '' ? Number.NaN : Number(kept)
  return [
    at >= 0 && at < steps.length ? at : undefined,
    (step) => (step === undefined ? leave() : keep(String(step))),
  ]
}

/** Begins the tour of the demo. */
export function useTour(): () => void {
  const navigate = useNavigate()
  const [, go] = useStep()
  return () => {
    go(0)
    navigate(steps[0]?.path ?? '/step')
  }
}

/** A tour of the demo in seven steps, which can be left at any point. */
export function Tour() {
  const navigate = useNavigate()
  const { report, go: show } = useChosen()
  const [at, go] = useStep()
  const late = report?.changes.find((c) => c.verdict === 'late')?.position
  // The tour is about something: it begins at the first change that comes too late.
  const shown = useRef(false)
  useEffect(() => {
    if (at !== 0) shown.current = false
    else if (late !== undefined && !shown.current) {
      shown.current = true
      show(late)
    }
  }, [at, late, show])
  const step = at === undefined ? undefined : steps[at]
  if (at === undefined || !step) return null
  const last = at === steps.length - 1
  const to = (next: number | undefined, path: string | undefined) => {
    go(next)
    if (path) navigate(path)
  }
  return (
    <Strip role="region" aria-label="Tour">
      <b>
        {at + 1} of {steps.length}
      </b>
      <p>{step.words}</p>
      {at > 0 && <Button onPress={() => to(at - 1, steps[at - 1]?.path)}>Back</Button>}
      <Button $strong onPress={() => (last ? to(undefined, '/begin') : to(at + 1, steps[at + 1]?.path))}>
        {last ? 'Type it in' : 'Next'}
      </Button>
      <IconButton label="Leave the tour" onPress={() => go(undefined)}>
        <Icon name="cross" />
      </IconButton>
    </Strip>
  )
}

const Strip = styled.section`
  display: flex; gap: 14px; align-items: center; padding: 8px 16px; background: var(--raised); border-bottom: 3px solid var(--tape-yellow);
  b { font: 600 16px/1 var(--face-label); white-space: nowrap; } p { margin: 0; flex: 1; }
`
