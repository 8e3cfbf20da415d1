import { useEffect, useRef } from 'react'
import styled from 'styled-components'
import { useSessionStorage } from 'usehooks-ts'
import { ownName } from '../api/access'
import { answer, client, freshId, Problem } from '../api/client'
import { values } from '../api/plan'
import { useNotices } from '../state/notices'
import { useChosen, usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { pageId } from '../views/stand/pageId'

/** Milliseconds since 1970 by a clock that is not put back while the page is open. */
const clock = () => Math.round(performance.timeOrigin + performance.now())

/** Whose stands the cursor of this page leads: the id of a show; none where it is empty. It ends with the page. */
export const useLed = () => useSessionStorage('envex.lead.show', '')

/** While it leads, where the cursor stands is told to the pages of a show that follow. That it does is seen everywhere. */
export function LeadStands() {
  const [led, lead] = useLed()
  const { plan, setList } = useChosen()
  const { section } = usePlace()
  const { tell } = useNotices()
  const show = values(plan, 'shows').find((s) => s.id === led)
  const there = show !== undefined && show.set_list === setList?.id
  const entry = section?.entry
  const at = section?.section_id
  const rig = show?.rig
  // One after the other, each with its own time: what is sent first comes first.
  const last = useRef<Promise<unknown>>(Promise.resolve())
  useEffect(() => {
    if (!there || !entry) return
    const event = {
      id: freshId(),
      at_ms: clock(),
      page: pageId(),
      name: ownName(),
      kind: 'at' as const,
      rig,
      entry,
      section: at,
      leads: true,
    }
    last.current = last.current
      .then(() =>
        answer(client.POST('/api/night/events', { body: { show: led, now_ms: clock(), events: [event] } })),
      )
      .catch((e) => tell(e instanceof Problem ? e : new Problem(0, undefined)))
  }, [there, led, rig, entry, at, tell])
  if (!show) return null
  return (
    <Strip role="status" aria-label="Leading">
      <span>
        {there
          ? `The cursor leads the stands of ${show.name}.`
          : `${show.name} is another set: the cursor leads nobody until that set is chosen.`}
      </span>
      <Button onPress={() => lead('')}>Stop leading</Button>
    </Strip>
  )
}

const Strip = styled.div`display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: center; padding: 6px 16px; min-height: 45px; background: var(--raised); border-bottom: 1px solid var(--line); border-left: 4px solid var(--tape-lime);`
