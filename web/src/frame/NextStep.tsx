import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import styled from 'styled-components'
import { useNext } from '../api/plan'
import { Icon } from '../marks/marks'
import { useKept } from '../state/kept'
import { useChosen } from '../state/place'
import { Button, IconButton } from '../ui/controls'

// What is kept is where the next step led, or one of these: nothing is known yet, and its place is kept all the same, or
// there was none.
const unknown = '?'
const nowhere = 'none'

/** The next thing that would make the biggest difference, one press away, until it is closed for good. */
export function NextStep() {
  const { rig, setList } = useChosen()
  const { data } = useNext(rig?.id, setList?.id)
  const { pathname } = useLocation()
  const navigate = useNavigate()
  const [guide, keepGuide] = useKept('guide')
  const [last, keepLast] = useKept('next', unknown)
  const step = data?.steps[0]
  const leads = data && (step?.where ?? nowhere)
  useEffect(() => {
    if (leads !== undefined) keepLast(leads)
  }, [leads, keepLast])
  // Until it is known its place is kept where there was one last time, so that nothing moves when it comes.
  const expected = step?.where ?? last
  if (guide === 'closed' || expected === nowhere || pathname === expected) return null
  if (!step) return data ? null : <Strip />
  const more = (data?.steps.length ?? 1) - 1
  return (
    <Strip role="region" aria-label="Next step">
      <span>{step.words}</span>
      <Button $strong onPress={() => navigate(step.where)}>
        {step.action}
      </Button>
      {more > 0 && <small>and {more} more</small>}
      <IconButton label="Close the next steps for good" onPress={() => keepGuide('closed')}>
        <Icon name="cross" />
      </IconButton>
    </Strip>
  )
}

const Strip = styled.div`
  display: flex; gap: 14px; align-items: center; padding: 6px 16px; min-height: 45px; background: var(--raised); border-bottom: 1px solid var(--line);
  small { color: var(--muted); font-size: 13px; } > :last-child { margin-left: auto; }
`
