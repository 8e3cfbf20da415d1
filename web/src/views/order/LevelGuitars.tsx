import { useState } from 'react'
import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { GuitarsReport, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { signed } from '../../ui/figures'
import { Figure, Muted, Name, Row, Stack, Tape } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'
import { worded } from './lit'

/** The setting that makes one guitar meet the level of another, kept for that guitar. */
export function LevelGuitars({ rig }: { rig: Rig }) {
  if ((rig.guitars?.length ?? 0) < 2) return null
  return (
    <Fold title="Level guitars">
      <Stack style={{ paddingTop: 10 }}>
        <Kept rig={rig} />
        <Levelling rig={rig} />
      </Stack>
    </Fold>
  )
}

/** What is set when a guitar is picked up. */
function Kept({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const edit = useEdit()
  const own = Object.entries(rig.per_guitar ?? {}).filter(([, values]) => Object.keys(values).length > 0)
  if (own.length === 0)
    return (
      <Muted>
        No guitar of {rig.name} has a setting of its own: what recipes do not name stands as it is.
      </Muted>
    )
  const label = (key: string) => plan.variables.find((v) => v.key === key)?.label ?? key
  return (
    <List aria-label="Settings for a guitar">
      {own.map(([guitar, values]) => (
        <li key={guitar}>
          With <Name as="span">{find('gear', guitar)?.name ?? guitar}</Name>:{' '}
          {Object.entries(values)
            .map(([key, v]) => `${label(key)} ${worded(v)}`)
            .join(', ')}{' '}
          <Button
            aria-label={`No setting of its own for ${find('gear', guitar)?.name ?? guitar}`}
            onPress={() =>
              edit.change('rigs', rig.id, `Settings for ${find('gear', guitar)?.name}`, (r) => {
                const { [guitar]: _gone, ...rest } = r.per_guitar ?? {}
                return { ...r, per_guitar: rest }
              })
            }
          >
            Take it away
          </Button>
        </li>
      ))}
    </List>
  )
}

function Levelling({ rig }: { rig: Rig }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const [reference, hold] = useState(rig.guitars?.[0] ?? '')
  const [asked, ask] = useState<object | undefined>()
  const work = useWork<GuitarsReport>('/api/guitars', asked)
  const found = work.result
  return (
    <>
      <Row $gap={14}>
        <Select
          label="Level the others with"
          value={reference}
          options={(rig.guitars ?? []).map((id) => ({ id, name: find('gear', id)?.name ?? id }))}
          onChange={hold}
        />
        <Button $strong onPress={() => ask({ rig: rig.id, reference })}>
          Level guitars
        </Button>
      </Row>
      {work.busy && (
        <Progress label="Playing every sound on both" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <p role="alert">{work.refused}</p>}
      {found?.guitars.map((g) => (
        <OneGuitar
          key={g.guitar}
          rig={rig}
          g={g}
          reference={found.name}
          fresh={work.fresh}
          from={work.from}
        />
      ))}
      {found && <Muted>Loudness and dirt are of models of kinds of circuit.</Muted>}
    </>
  )
}

function OneGuitar(p: {
  rig: Rig
  g: GuitarsReport['guitars'][number]
  reference: string
  fresh: boolean
  from: string | undefined
}) {
  const { g, rig } = p
  const { plan } = useChosen()
  const find = useLookup(plan)
  const edit = useEdit()
  return (
    <section aria-label={`${g.name} against ${p.reference}`}>
      <p>
        <Name as="span">{g.name}</Name> comes to the first stage that clips{' '}
        <Figure>{signed(g.input_lu)} LU</Figure> over {p.reference}. {g.words}
      </p>
      <Wide style={{ maxHeight: 'none' }}>
        <Grid aria-label={`Sounds on ${g.name}`}>
          <thead>
            <tr>
              <th scope="col">Sound</th>
              <th scope="col">as it is</th>
              {g.ways.map((w) => (
                <th key={w.words} scope="col">
                  {w.words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {g.sounds.map((s, i) => (
              <tr key={s.sound}>
                <th scope="row">
                  <Tape $small style={{ background: tape(find('sounds', s.sound)?.tape) }}>
                    {s.name}
                  </Tape>
                </th>
                <td>{apart(s, p.reference)}</td>
                {g.ways.map((w) => (
                  <td key={w.words}>{apart(w.sounds[i] ?? s, p.reference)}</td>
                ))}
              </tr>
            ))}
          </tbody>
          <tfoot>
            {g.ways.length > 0 && (
              <tr>
                <td />
                <td />
                {g.ways.map((w, i) => (
                  <td key={w.words}>
                    <TakeButton
                      $strong={i === 0}
                      fresh={p.fresh}
                      aria-label={`${w.words} with ${g.name}`}
                      onPress={() =>
                        void edit.change('rigs', rig.id, `${w.words} with ${g.name}`, () => w.rig, p.from)
                      }
                    >
                      Set it with {g.name}
                    </TakeButton>
                  </td>
                ))}
              </tr>
            )}
          </tfoot>
        </Grid>
      </Wide>
    </section>
  )
}

type GuitarSound = GuitarsReport['guitars'][number]['sounds'][number]

const apart = (s: GuitarSound, reference: string) =>
  `${signed(s.loudness_lu)} LU, ${Math.round(s.dirt_pct)} % dirt, ${Math.round(s.reference_dirt_pct)} % on ${reference}`

const List = styled.ul`margin: 0; padding: 0; list-style: none; display: grid; gap: 6px; font-size: 14px;`
