import { useState } from 'react'
import styled from 'styled-components'
import { useDifferences, useRevisions } from '../../api/pack'
import { values } from '../../api/plan'
import type { Collection } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { moment } from '../../ui/dates'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

/** Every version of a thing, what is different between two of them in words, and the way back. */
export function Versions() {
  const { plan, rig } = useChosen()
  const edit = useEdit()
  const [of, setOf] = useState('')
  const [picked, setPicked] = useState<{ id: string; from: number; to: number | undefined } | undefined>()
  const things: { id: string; name: string; kind: Collection }[] = [
    ...values(plan, 'rigs').map((r) => ({ id: r.id, name: r.name, kind: 'rigs' as const })),
    ...values(plan, 'shows').map((s) => ({ id: s.id, name: `${s.name} (show)`, kind: 'shows' as const })),
    ...values(plan, 'set-lists').map((l) => ({
      id: l.id,
      name: `${l.name} (set list)`,
      kind: 'set-lists' as const,
    })),
    ...values(plan, 'bands').map((b) => ({ id: b.id, name: `${b.name} (band)`, kind: 'bands' as const })),
    ...values(plan, 'songs').map((s) => ({ id: s.id, name: `${s.title} (song)`, kind: 'songs' as const })),
    ...values(plan, 'sounds').map((s) => ({ id: s.id, name: `${s.name} (sound)`, kind: 'sounds' as const })),
    ...values(plan, 'gear').map((g) => ({ id: g.id, name: `${g.name} (gear)`, kind: 'gear' as const })),
  ]
  const thing = things.find((t) => t.id === of) ?? things.find((t) => t.id === rig?.id) ?? things[0]
  const { data } = useRevisions(thing?.id)
  const versions = data?.revisions ?? []
  const now = versions[0]?.version
  const chosen = picked && picked.id === thing?.id ? picked : undefined
  // As it is now is whatever the latest version is, so that it stays so through an undo.
  const to = chosen?.to ?? now
  const from = chosen?.from ?? versions[1]?.version
  const { data: between } = useDifferences(thing?.id, from, to)
  if (!thing) return null
  const set = (patch: { from?: number; to?: number | undefined }) =>
    setPicked({ id: thing.id, from: from ?? 1, to: chosen?.to, ...patch })
  const named = versions.map((v) => ({
    id: String(v.version),
    name: `${v.version}: ${v.label}, ${moment(v.at)}`,
  }))
  return (
    <Panel aria-label="Versions">
      <Heading>Versions</Heading>
      <Row>
        <Select label="Of" value={thing.id} options={things} onChange={setOf} />
        {versions.length > 1 && (
          <>
            <Wide>
              <Select
                label="From version"
                value={String(from)}
                options={named}
                onChange={(v) => set({ from: Number(v) })}
              />
            </Wide>
            <Wide>
              <Select
                label="To version"
                value={String(to)}
                options={named}
                onChange={(v) => set({ to: Number(v) === now ? undefined : Number(v) })}
              />
            </Wide>
          </>
        )}
      </Row>
      {versions.length <= 1 && <Muted>There is one version: it has not changed since it was added.</Muted>}
      {versions.length > 1 && between && (
        <Differences aria-label="Differences">
          {between.words.length === 0 && <li>Nothing is different.</li>}
          {between.words.map((w, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two of them may read alike
            <li key={i}>{w}</li>
          ))}
        </Differences>
      )}
      {versions.length > 1 && (
        <List aria-label={`Versions of ${thing.name}`}>
          {versions.map((v) => (
            <li key={v.version}>
              <Figure>{v.version}</Figure>
              <Figure>{moment(v.at)}</Figure>
              <span title={v.label}>{v.label}</span>
              {v.version === now ? (
                <Muted as="span">as it is now</Muted>
              ) : (
                <Row $gap={4}>
                  <Button
                    $plain
                    aria-label={`Compare version ${v.version} with now`}
                    onPress={() => setPicked({ id: thing.id, from: v.version, to: undefined })}
                  >
                    Compare
                  </Button>
                  <Button
                    $plain
                    isDisabled={v.removed}
                    aria-label={`Bring back version ${v.version}`}
                    onPress={() => edit.restore(thing.kind, thing.id, v.version)}
                  >
                    Bring back
                  </Button>
                </Row>
              )}
            </li>
          ))}
        </List>
      )}
    </Panel>
  )
}

const Wide = styled.div`flex: 1 1 200px; max-width: 340px; min-width: 160px;`
const Differences = styled.ul`
  display: grid; gap: 4px; padding: 10px 14px; background: var(--sunk); border-left: 6px solid var(--tape-yellow); list-style: none;
`
const List = styled.ol`
  display: grid; gap: 1px; max-height: 300px; overflow: auto;
  li { display: grid; grid-template-columns: 40px 130px minmax(0, 1fr) auto; gap: 10px; align-items: center; min-height: 32px; }
  li > span:nth-child(3) { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
`
