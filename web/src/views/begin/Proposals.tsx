import { useState } from 'react'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import type { Proposal, ProposedSound, ProposedWay, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { ListenButton } from '../../ui/ListenButton'
import { Muted, Row, Stack } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { TakeButton } from '../../ui/TakeButton'

/** A rig with ways taken: their recipes, and the knobs that they turn for good. */
const withWays = (r: Rig, destination: string | undefined, ways: ProposedWay[], ids: string[]): Rig => {
  const base = Object.assign({}, ...ways.map((w) => w.base ?? {})) as NonNullable<Rig['base']>
  return {
    ...r,
    recipes: [...(r.recipes ?? []), ...ways.map((w, i) => ({ ...w.recipe, id: ids[i] ?? w.recipe.id }))],
    ...(Object.keys(base).length > 0 && !destination && { base: { ...r.base, ...base } }),
    ...(Object.keys(base).length > 0 &&
      destination && {
        destinations: r.destinations?.map((d) =>
          d.id === destination ? { ...d, base: { ...d.base, ...base } } : d,
        ),
      }),
  }
}

/** Recipes for the sounds that have none, with figures: two or three ways each, taken one by one or all. */
export function Proposals({ onTaken }: { onTaken?: () => void }) {
  const { plan, rig, setList, destination } = useChosen()
  const edit = useEdit()
  const [asked, ask] = useState(false)
  const [chosen, choose] = useState<Record<string, number>>({})
  const missing = values(plan, 'sounds').filter((s) => !rig?.recipes?.some((r) => r.sound === s.id))
  const work = useWork<Proposal>(
    '/api/recipes/proposals',
    asked && rig ? { rig: rig.id, set_list: setList?.id, destination: destination?.id } : undefined,
  )
  if (!rig) return <Muted>Make a rig first: recipes say what of it is on.</Muted>
  if (missing.length === 0 && !work.busy) return <Muted>Every sound has a recipe on {rig.name}.</Muted>
  const wayOf = (s: ProposedSound) => s.ways[chosen[s.sound] ?? 0]
  const open = (work.result?.sounds ?? []).filter((s) => missing.some((m) => m.id === s.sound))
  const take = async (sounds: ProposedSound[]) => {
    const ways = sounds.flatMap((s) => wayOf(s) ?? [])
    const ids = ways.map(() => freshId())
    const outcome = await edit.change(
      'rigs',
      rig.id,
      sounds.length === 1
        ? `Take a recipe for ${sounds[0]?.name}`
        : `Take recipes for ${sounds.length} sounds`,
      (r) => withWays(r, destination?.id, ways, ids),
      work.from,
    )
    if (!outcome.problem) onTaken?.()
  }
  const ready = open.filter((s) => s.ways.length > 0)
  return (
    <Stack>
      <Row $gap={14} style={{ alignItems: 'center' }}>
        <Button $strong={!asked} isDisabled={work.busy} onPress={() => (asked ? work.again() : ask(true))}>
          Propose recipes for {missing.length} {missing.length === 1 ? 'sound' : 'sounds'}
        </Button>
        {work.busy && <Progress label="Metering settings" share={work.progress} cancel={work.cancel} />}
        {ready.length > 1 && (
          <TakeButton fresh={work.fresh} onPress={() => void take(ready)}>
            Take all {ready.length}
          </TakeButton>
        )}
      </Row>
      {work.refused && <p role="alert">{work.refused}</p>}
      {open.map((s) => (
        <Sound key={s.sound} aria-label={s.name}>
          <header>
            <b>{s.name}</b>
            {s.ways.length > 0 && (
              <ListenButton
                title={s.name}
                query={{
                  sound: s.sound,
                  proposed: true,
                  values: JSON.stringify({ ...wayOf(s)?.values, ...wayOf(s)?.base }),
                }}
              />
            )}
            {s.ways.length > 0 && (
              <TakeButton fresh={work.fresh} onPress={() => void take([s])}>
                Take this for {s.name}
              </TakeButton>
            )}
          </header>
          {s.part && (
            <Muted>{rig.name} has more settings than were tried: those nearest to the targets were.</Muted>
          )}
          {s.ways.length === 0 && <Muted>{rig.name} does not have what it asks for.</Muted>}
          <div role="radiogroup" aria-label={`Ways to make ${s.name}`}>
            {s.ways.map((w, i) => (
              <Way key={w.recipe.id}>
                <input
                  type="radio"
                  name={`way ${s.sound}`}
                  checked={(chosen[s.sound] ?? 0) === i}
                  onChange={() => choose({ ...chosen, [s.sound]: i })}
                />
                <span>
                  {w.words}
                  <small>
                    {w.within
                      ? 'within its targets'
                      : w.checks
                          .filter((c) => !c.met)
                          .map((c) => c.words)
                          .join(' ')}
                    {w.near && `; its spectrum is ${w.near.words}`}
                  </small>
                </span>
                <Fact>
                  {w.loudness_lu >= 0 ? '+' : '−'}
                  {Math.abs(w.loudness_lu).toFixed(1)} LU
                </Fact>
                <Fact>{Math.round(w.dirt_pct)} % dirt</Fact>
                <Fact>
                  {w.presses} {w.presses === 1 ? 'press' : 'presses'}
                  {w.by_hand > 0 ? `, ${w.by_hand} by hand` : ''}
                </Fact>
              </Way>
            ))}
          </div>
        </Sound>
      ))}
    </Stack>
  )
}

const Sound = styled.section`
  background: var(--panel); border: 1px solid var(--line); padding: 10px 12px; display: grid; gap: 6px;
  header { display: flex; align-items: center; gap: 12px; } header b { flex: 1; } b { font: 600 18px/1.2 var(--face-label); }
`
const Way = styled.label`
  display: grid; grid-template-columns: 20px minmax(0, 1fr) 78px 86px 130px; gap: 10px; align-items: baseline; padding: 5px 0; min-height: 30px; cursor: pointer;
  small { display: block; font-size: 12px; color: var(--muted); } input { width: 16px; height: 16px; accent-color: var(--lit); align-self: center; }
  @media (max-width: 700px) { grid-template-columns: 20px minmax(0, 1fr); > :nth-child(n + 3) { grid-column: 2; } }
`
const Fact = styled.span`font-family: var(--face-figures); font-size: 14px; color: var(--muted);`
