import { useState } from 'react'
import { useMeanings } from '../../api/plan'
import type { Gear, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Muted, Row, Stack } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

const candidates = [
  ['1/8', 'eighth'],
  ['1/8.', 'dotted eighth'],
  ['1/4', 'quarter'],
  ['1/8t', 'eighth triplet'],
] as const
const lengths = ['Long', 'Medium', 'Short']

/** The presets of a delay or reverb by what they mean, made and named in one step. */
export function Meanings({ rig, gear }: { rig: Rig; gear: Gear }) {
  const presets = gear.blocks?.some((b) => b.controls?.some((c) => c.kind === 'preset'))
  const delay = gear.blocks?.some((b) => b.effect === 'delay') ?? false
  if (!presets) return null
  return (
    <Fold title="Presets by meaning">
      <Chooser rig={rig} gear={gear} delay={delay} />
    </Fold>
  )
}

function Chooser({ rig, gear, delay }: { rig: Rig; gear: Gear; delay: boolean }) {
  const { setList } = useChosen()
  const edit = useEdit()
  const [notes, setNotes] = useState<string[]>(['1/8', '1/8.'])
  const [repeats, setRepeats] = useState([6, 3, 1])
  const { data, error, fresh, from } = useMeanings(
    rig.id,
    setList?.id,
    gear.id,
    delay ? notes : [],
    delay ? repeats : [],
  )
  if (!setList) return <Muted>Make a set list first: presets are weighed over a set.</Muted>
  const cell = (row: number, column: number) =>
    data?.meanings.find((m) => m.row === row && m.column === column)
  return (
    <Stack $gap={10}>
      {delay && (
        <Row $gap={14}>
          {candidates.map(([note, words]) => (
            <Switch
              key={note}
              label={words}
              value={notes.includes(note)}
              onChange={(on) =>
                setNotes((list) =>
                  on ? [...list, note] : list.length > 1 ? list.filter((n) => n !== note) : list,
                )
              }
            />
          ))}
          {lengths.map((name, i) => (
            <NumberField
              key={name}
              label={`Repeats, ${name.toLowerCase()}`}
              width={110}
              value={repeats[i]}
              min={1}
              max={100}
              onCommit={(v) => v && setRepeats((list) => list.map((x, k) => (k === i ? Math.round(v) : x)))}
            />
          ))}
        </Row>
      )}
      {error && <Muted role="alert">{error.message}</Muted>}
      {!error && data && (
        <>
          <Wide>
            <Grid $tight aria-label={`Presets of ${gear.name} by meaning`}>
              <thead>
                <tr>
                  <td />
                  {data.columns.map((c) => (
                    <th key={c} scope="col">
                      {c || 'Preset'}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {data.rows.map((name, row) => (
                  <tr key={name}>
                    <th scope="row">{name}</th>
                    {data.columns.map((c, column) => {
                      const m = cell(row, column)
                      return (
                        <td key={c}>
                          <b>{m?.preset}</b> {m?.sounds.join(', ')}
                        </td>
                      )
                    })}
                  </tr>
                ))}
              </tbody>
            </Grid>
          </Wide>
          <Muted>
            {data.farthest === 1 ? 'One press' : `At most ${data.farthest} presses`} from any to any other.
          </Muted>
          <Wide>
            <Grid $tight aria-label={`Ways to use the presets of ${gear.name}`}>
              <thead>
                <tr>
                  <th scope="col">Way</th>
                  <th scope="col">Presets</th>
                  <th scope="col">Presses</th>
                  <th scope="col">Taps</th>
                  <th scope="col" />
                </tr>
              </thead>
              <tbody>
                {data.schools.map((s) => (
                  <tr key={s.school}>
                    <th scope="row">{s.name}</th>
                    <td>
                      {s.presets} of {s.have}
                    </td>
                    <td>{s.fits ? s.presses : ''}</td>
                    <td>{s.fits ? s.taps : ''}</td>
                    <td>{s.words}</td>
                  </tr>
                ))}
              </tbody>
            </Grid>
          </Wide>
          {data.findings.map((f) => (
            <p key={f.id}>
              <b>{f.title}.</b> {f.words}
            </p>
          ))}
          {data.words.map((w) => (
            <Muted key={w}>{w}</Muted>
          ))}
          <Row>
            <TakeButton
              fresh={fresh}
              onPress={() =>
                edit.change('rigs', rig.id, `Presets of ${gear.name} by meaning`, () => data.rig, from)
              }
            >
              Make and name these presets
            </TakeButton>
          </Row>
        </>
      )}
    </Stack>
  )
}
