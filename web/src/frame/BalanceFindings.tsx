import { useEdit } from '../api/plan'
import type { GainMap, Ladder, Placement, Tuning } from '../api/types'
import { useWork } from '../api/work'
import { usePlace } from '../state/place'
import { withPath } from '../state/there'
import { Button } from '../ui/controls'
import { ListenButton } from '../ui/ListenButton'
import { Muted, Row } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { idOf } from '../views/order/chain'
import { PlainCards } from './PlainCards'

interface Said {
  id: string
  title: string
  words: string
  sound?: string
  block?: string
}

/** What is to be said of levels and dirt, with the least that mends it. */
export function BalanceFindings() {
  const { rig, destination, setList } = usePlace()
  const base = rig && { rig: rig.id, destination: destination?.id }
  const map = useWork<GainMap>('/api/gainmap', base && { ...base, dry: undefined })
  const ladder = useWork<Ladder>(
    '/api/levels',
    base && setList ? { ...base, set_list: setList.id, dry: undefined } : undefined,
  )
  if (!rig) return null
  const said: Said[] = [...(map.result?.findings ?? []), ...(ladder.result?.findings ?? [])]
  const about = new Set(
    map.result?.findings.filter((f) => f.id.startsWith('gain:unreached')).map((f) => f.sound),
  )
  const list = said.filter((f) => !(f.id.startsWith('level:target:') && about.has(f.sound)))
  const kept = new Map((rig.settled ?? []).map((s) => [s.finding, s.reason]))
  const open = list.filter((f) => !kept.has(f.id))
  return (
    <>
      {map.busy && <Muted>Metering…</Muted>}
      {!map.busy && map.result && open.length === 0 && (
        <Muted>Every target is met, and nothing is the same twice.</Muted>
      )}
      <PlainCards
        rig={rig}
        findings={list}
        more={(f) =>
          f.sound &&
          (f.id.startsWith('gain:unreached') ||
            f.id.startsWith('gain:missed') ||
            f.id.startsWith('level:target')) && <SoundRepairs sound={f.sound} />
        }
      />
    </>
  )
}

/** A move of the boost, or of a knob or two, that brings a sound into its targets. */
function SoundRepairs({ sound }: { sound: string }) {
  const { plan, rig, here, destination } = usePlace()
  const edit = useEdit()
  const effect = (key: string) => {
    const [gear, block] = key.split('/')
    return plan.gear.find((g) => g.value.id === gear)?.value.blocks?.find((b) => b.id === block)?.effect
  }
  const recipe = here?.recipes?.find((r) => r.sound === sound)
  const boost = Object.entries(recipe?.values ?? {})
    .filter(([k, v]) => k.endsWith('/on') && v === true)
    .map(([k]) => k.slice(0, -3))
    .find((k) => effect(k) === 'boost')
  const base = { rig: rig?.id, destination: destination?.id, dry: undefined }
  const place = useWork<Placement>('/api/boost', boost ? { ...base, block: boost } : undefined)
  const tune = useWork<Tuning>('/api/tune', rig ? { ...base, sound } : undefined)
  if (!rig) return null
  const stands = place.result?.places.find((p) => p.here)
  const better = place.result?.places
    .filter((p) => p.does.find((d) => d.sound === sound)?.met && p.meets >= (stands?.meets ?? 0))
    .filter((p) => p.same_as === undefined)
    .sort((a, b) => a.cost - b.cost)[0]
  const knobs = tune.result?.repairs.filter((r) => r.breaks.length === 0)[0] ?? tune.result?.repairs[0]
  return (
    <>
      {tune.busy && <Progress label="Turning knobs" share={tune.progress} cancel={tune.cancel} />}
      {better && place.result && (
        <Row>
          <Button
            $strong
            onPress={() =>
              void edit.change('rigs', rig.id, `Move ${place.result?.name} ${better.words}`, (r) =>
                withPath(r, destination?.id, here?.path ?? [], () => better.path ?? []),
              )
            }
          >
            Try {place.result.name} {better.words}
          </Button>
          <ListenButton
            title={`${place.result.name} ${better.words}`}
            query={{ sound, order: JSON.stringify((better.path ?? []).map(idOf)) }}
          />
        </Row>
      )}
      {knobs && (
        <div>
          <Button
            onPress={() =>
              void edit.change('rigs', rig.id, knobs.words, (r) => {
                const named = recipe?.values ?? {}
                const own = knobs.moves.filter((m) => m.key in named)
                const shared = knobs.moves.filter((m) => !(m.key in named))
                const set = (list: typeof knobs.moves) => Object.fromEntries(list.map((m) => [m.key, m.to]))
                return {
                  ...r,
                  base: { ...r.base, ...set(shared) },
                  recipes: r.recipes?.map((x) =>
                    x.id === recipe?.id ? { ...x, values: { ...x.values, ...set(own) } } : x,
                  ),
                }
              })
            }
          >
            Turn {knobs.words}
          </Button>
          {knobs.breaks.length > 0 && <Muted>Takes {knobs.breaks.join(', ')} out of theirs.</Muted>}
        </div>
      )}
      {!tune.busy && tune.result && !better && !knobs && <Muted>No one move brings it there.</Muted>}
    </>
  )
}
