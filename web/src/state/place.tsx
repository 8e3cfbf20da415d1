import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react'
import { useLookup, usePlan, useReach, values } from '../api/plan'
import type { Change, ReachSection, Recipe, Report, Rig, SetList, Sound, WholePlan } from '../api/types'

/** Where the player is: which rig and set, and the section of the night the cursor is on. */
export interface Place {
  plan: WholePlan
  rig: Rig | undefined
  setList: SetList | undefined
  report: Report | undefined
  position: number
  section: ReachSection | undefined
  change: Change | undefined
  sound: Sound | undefined
  recipe: Recipe | undefined
  go: (position: number) => void
  pickRig: (id: string) => void
  pickSet: (id: string) => void
  pickShow: (setList: string, rig: string) => void
}

const Context = createContext<Place | undefined>(undefined)

export function usePlace(): Place {
  const place = useContext(Context)
  if (!place) throw new Error('usePlace needs a PlaceProvider around it')
  return place
}

function useKept(key: string): [string, (value: string) => void] {
  const [value, setValue] = useState(() => localStorage.getItem(key) ?? '')
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
  const [kept, keep] = useKept('envex.position')
  const rig = find('rigs', rigId) ?? (plan && values(plan, 'rigs')[0])
  const setList = find('set-lists', setId) ?? (plan && values(plan, 'set-lists')[0])
  const { data: found } = useReach(rig?.id, setList?.id)
  const report = rig && setList ? found : undefined
  const last = (report?.sections.length ?? 1) - 1
  const position = Math.max(0, Math.min(Number(kept) || 0, last))
  const go = useCallback((p: number) => keep(String(Math.max(0, Math.min(p, last)))), [keep, last])

  useEffect(() => {
    document.title = rig ? `Envex: ${rig.name}` : 'Envex'
  }, [rig])

  const place = useMemo<Place | undefined>(() => {
    if (!plan) return undefined
    const section = report?.sections[position]
    const sound = find('sounds', section?.sound)
    return {
      plan,
      rig,
      setList,
      report,
      position,
      section,
      sound,
      change: position > 0 ? report?.changes[position - 1] : undefined,
      // A recipe made just now is there before the report that names it.
      recipe:
        rig?.recipes?.find((r) => r.id === section?.recipe) ??
        rig?.recipes?.find((r) => r.sound === section?.sound),
      go,
      pickRig,
      pickSet,
      pickShow: (s, r) => {
        pickSet(s)
        pickRig(r)
      },
    }
  }, [plan, rig, setList, report, position, find, go, pickRig, pickSet])

  if (!place) return children(false, error)
  return <Context.Provider value={place}>{children(true, null)}</Context.Provider>
}
