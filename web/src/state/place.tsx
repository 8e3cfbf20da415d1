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
import { useLocation } from 'react-router'
import { useLookup, useOrder, usePlan, useReach, values } from '../api/plan'
import type {
  Change,
  Destination,
  ReachSection,
  Recipe,
  Report,
  Rig,
  SetList,
  Sound,
  WholePlan,
} from '../api/types'
import { useLatest } from '../ui/useLatest'
import { there } from './there'

/** Where the player is: which rig and set, and the section of the night the cursor is on. */
/** What is looked at, whichever section of the night the cursor is on. */
export interface Chosen {
  plan: WholePlan
  rig: Rig | undefined
  /** Where the rig plugs in; undefined for the rig as it stands. */
  destination: Destination | undefined
  /** The rig as it stands at the destination. */
  here: Rig | undefined
  setList: SetList | undefined
  /** Another rig that the set is compared on. */
  other: Rig | undefined
  pickOther: (id: string) => void
  report: Report | undefined
  /** The sound of the section that the cursor is on at that moment, for what is pressed. */
  soundNow: () => Sound | undefined
  /** Moves the cursor. */
  go: (position: number) => void
  pickRig: (id: string) => void
  pickSet: (id: string) => void
  pickDestination: (id: string) => void
  pickShow: (setList: string, rig: string, destination?: string) => void
}

/** What is looked at, and the section that the cursor is on. */
export interface Place extends Chosen {
  position: number
  /** Changes when the player moves the cursor, and not when the set changes under it. */
  cursor: string
  section: ReachSection | undefined
  change: Change | undefined
  sound: Sound | undefined
  recipe: Recipe | undefined
}

// Two, so that what has nothing to do with the cursor is not drawn anew when it moves.
const ChosenContext = createContext<Chosen | undefined>(undefined)
const Context = createContext<Place | undefined>(undefined)

export function useChosen(): Chosen {
  const chosen = useContext(ChosenContext)
  if (!chosen) throw new Error('useChosen needs a PlaceProvider around it')
  return chosen
}

export function usePlace(): Place {
  const place = useContext(Context)
  if (!place) throw new Error('usePlace needs a PlaceProvider around it')
  return place
}

function useKept(key: string, now?: () => string | undefined): [string, (value: string) => void] {
  const [value, setValue] = useState(() => now?.() ?? localStorage.getItem(key) ?? '')
  return [
    value,
    useCallback(
      (v) => {
        localStorage.setItem(key, v)
        setValue(v)
      },
      [key],
    ),
  ]
}

const nameOf = (s: ReachSection | undefined) => (s ? `${s.entry} ${s.section_id}` : '')

/** Where the cursor stands: it stays with its section when others come or go before it, and where the
 * section itself has gone, at that place of the set. */
function usePosition(report: Report | undefined, cursor: string): number {
  const [place, ...name] = cursor.split(' ')
  const stood = useRef({ cursor, position: Number(place) || 0 })
  const sections = report?.sections ?? []
  const at = sections.findIndex((s) => nameOf(s) === name.join(' '))
  const lost = stood.current.cursor === cursor ? stood.current.position : Number(place) || 0
  const position = at >= 0 ? at : Math.max(0, Math.min(lost, sections.length - 1))
  useEffect(() => {
    if (sections.length > 0) stood.current = { cursor, position }
  }, [cursor, position, sections.length])
  return position
}

/** The number of the section in the address, by which a place in the night can be sent and gone back to. */
const inAddress = (): string | undefined => {
  const at = new URLSearchParams(window.location.search).get('at')
  return at && /^\d{1,4}$/.test(at) ? at : undefined
}

/** Keeps the address at the section of the cursor, and the cursor at the address when that is gone back to. The address is
 * written past the router: no screen is drawn anew for it. */
function useAddress(position: number, ready: boolean, go: (position: number) => void) {
  const { pathname } = useLocation()
  const first = useRef(inAddress())
  useEffect(() => {
    if (!ready) return
    const asked = first.current
    first.current = undefined
    // The cursor begins there; now its section has a name, by which it stays with it.
    if (asked !== undefined) go(Number(asked))
    const to = new URL(window.location.href)
    if (to.pathname !== pathname || to.searchParams.get('at') === String(position)) return
    to.searchParams.set('at', String(position))
    window.history.replaceState(window.history.state, '', to)
  }, [position, ready, go, pathname])
  useEffect(() => {
    const back = () => {
      const at = inAddress()
      if (at !== undefined) go(Number(at))
    }
    window.addEventListener('popstate', back)
    return () => window.removeEventListener('popstate', back)
  }, [go])
}

/** Keeps the place across screens and reloads, and falls back where something has gone. */
export function PlaceProvider({
  children,
}: {
  children: (ready: boolean, error: Error | null) => ReactNode
}) {
  const { data: plan, error } = usePlan()
  const find = useLookup(plan)
  const [rigId, pickRig] = useKept('envex.rig')
  const [setId, pickSet] = useKept('envex.set')
  const [destinationId, pickDestination] = useKept('envex.destination')
  const [cursor, keep] = useKept('envex.cursor', inAddress)
  const [otherId, pickOther] = useKept('envex.other')
  const rig = find('rigs', rigId) ?? (plan && values(plan, 'rigs')[0])
  const setList = find('set-lists', setId) ?? (plan && values(plan, 'set-lists')[0])
  const destination = rig?.destinations?.find((d) => d.id === destinationId)
  const other = otherId === rig?.id ? undefined : find('rigs', otherId)
  const { data: found } = useReach(rig?.id, setList?.id, destination?.id)
  const { data: order } = useOrder(destination && rig?.id, destination?.id)
  const here = useMemo(() => rig && there(rig, destination, order?.path), [rig, destination, order])
  const report = rig && setList ? found : undefined
  const position = usePosition(report, cursor)
  const sections = report?.sections
  const sound = find('sounds', sections?.[position]?.sound)
  const latestSound = useLatest(sound)
  const soundNow = useCallback(() => latestSound.now(), [latestSound])
  const latest = useLatest(sections)
  const go = useCallback(
    (p: number) => {
      const known = latest.now()
      const at = Math.max(0, Math.min(p, (known?.length ?? 1) - 1))
      keep(`${at} ${nameOf(known?.[at])}`)
    },
    [keep, latest],
  )

  useAddress(position, (sections?.length ?? 0) > 0, go)

  const pickShow = useCallback(
    (s: string, r: string, d?: string) => {
      pickSet(s)
      pickRig(r)
      pickDestination(d ?? '')
    },
    [pickSet, pickRig, pickDestination],
  )
  const chosen = useMemo<Chosen | undefined>(
    () =>
      plan && {
        plan,
        rig,
        destination,
        here,
        setList,
        other,
        pickOther,
        report,
        soundNow,
        go,
        pickRig,
        pickSet,
        pickDestination,
        pickShow,
      },
    [
      plan,
      rig,
      destination,
      here,
      setList,
      other,
      report,
      soundNow,
      go,
      pickRig,
      pickSet,
      pickDestination,
      pickOther,
      pickShow,
    ],
  )
  const place = useMemo<Place | undefined>(() => {
    if (!chosen) return undefined
    const section = report?.sections[position]
    return {
      ...chosen,
      position,
      cursor,
      section,
      sound,
      change: position > 0 ? report?.changes[position - 1] : undefined,
      // A recipe made just now is there before the report that names it.
      recipe:
        here?.recipes?.find((r) => r.id === section?.recipe) ??
        here?.recipes?.find((r) => r.sound === section?.sound),
    }
  }, [chosen, report, position, cursor, sound, here])

  if (!chosen || !place) return children(false, error)
  return (
    <ChosenContext value={chosen}>
      <Context value={place}>{children(true, null)}</Context>
    </ChosenContext>
  )
}
