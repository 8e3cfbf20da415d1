import { useState } from 'react'
import { answer, client, freshId } from '../../api/client'
import { useDialled, useLookup } from '../../api/plan'
import type { Dialled, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { Button } from '../../ui/controls'
import { today } from '../../ui/dates'
import { TextField } from '../../ui/fields'
import { Figure, Heading, Muted, Name, Panel, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

/** Where knobs stood when it sounded good: kept, compared with how they stand now, and brought back. */
export function FoundGood({ rig }: { rig: Rig }) {
  const { destination } = usePlace()
  const { data, fresh } = useDialled(rig.id, destination?.id)
  const edit = useEdit()
  const kept = rig.dialled ?? []
  return (
    <Panel aria-label="Found good" role="region">
      <Heading>Found good</Heading>
      <Keep rig={rig} now={fresh ? data?.now : undefined} />
      {kept.length === 0 && (
        <Muted>Nothing is kept yet. When it sounds good at a rehearsal, keep where the knobs stand.</Muted>
      )}
      {kept.map((d) => {
        const set = data?.sets.find((s) => s.id === d.id)
        return (
          <section key={d.id} aria-label={d.name}>
            <Row>
              <Name>{d.name}</Name>
              <Muted as="span">{[d.date, d.place, d.volume, d.notes].filter(Boolean).join(', ')}</Muted>
              {set && set.moved.length > 0 && (
                <TakeButton
                  fresh={fresh}
                  aria-label={`Bring ${d.name} back`}
                  onPress={() =>
                    void bringBack(edit, rig, `Bring ${d.name} back`, {
                      destination: destination?.id,
                      set: d.id,
                    })
                  }
                >
                  Bring it back
                </TakeButton>
              )}
              <Button
                aria-label={`Forget ${d.name}`}
                onPress={() =>
                  edit.change('rigs', rig.id, `Forget ${d.name}`, (r) => ({
                    ...r,
                    dialled: (r.dialled ?? []).filter((x) => x.id !== d.id),
                  }))
                }
              >
                Forget
              </Button>
            </Row>
            {set && set.moved.length === 0 && <Muted>Every knob stands where it stood.</Muted>}
            {set && set.moved.length > 0 && (
              <Wide>
                <Grid aria-label={`Knobs that stand elsewhere than in ${d.name}`}>
                  <thead>
                    <tr>
                      <th scope="col">Knob</th>
                      <th scope="col">Then</th>
                      <th scope="col">Now</th>
                    </tr>
                  </thead>
                  <tbody>
                    {set.moved.map((m) => (
                      <tr key={m.key}>
                        <th scope="row">{m.name}</th>
                        <td>
                          <Figure>{m.then}</Figure>
                        </td>
                        <td>
                          <Figure>{m.now}</Figure>
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </Grid>
              </Wide>
            )}
            {set && set.gone > 0 && <Muted>{set.gone} knobs of it are not in the rig any more.</Muted>}
          </section>
        )
      })}
      {data?.amps.map((a) => (
        <p key={a.amp}>
          Amps like {a.name} stood at{' '}
          {a.knobs.map((k) => `${k.name} ${k.mean} (${k.low} to ${k.high})`).join(', ')} in {a.sets}{' '}
          {a.sets === 1 ? 'set' : 'sets'}.{' '}
          <TakeButton
            fresh={fresh}
            aria-label={`Start ${a.name} there`}
            onPress={() =>
              void bringBack(edit, rig, `Start ${a.name} where amps like it stood`, {
                destination: destination?.id,
                amp: a.amp,
              })
            }
          >
            Start there
          </TakeButton>
        </p>
      ))}
    </Panel>
  )
}

async function bringBack(
  edit: ReturnType<typeof useEdit>,
  rig: Rig,
  label: string,
  which: { destination?: string; set?: string; amp?: string },
) {
  const { rig: next } = await answer(
    client.GET('/api/dialled/rig', { params: { query: { rig: rig.id, ...which } } }),
  )
  await edit.change('rigs', rig.id, label, () => next)
}

function Keep({ rig, now }: { rig: Rig; now: Dialled['values'] | undefined }) {
  const edit = useEdit()
  const { plan, recipe } = usePlace()
  const find = useLookup(plan)
  const [note, write] = useState({ name: '', place: '', volume: '' })
  const [first] = rig.guitars ?? []
  const played = recipe?.guitar ?? first
  const keep = () => {
    if (!now || note.name.trim() === '') return
    const made: Dialled = {
      id: freshId(),
      name: note.name.trim(),
      date: today(),
      place: note.place || undefined,
      volume: note.volume || undefined,
      guitar: played,
      values: now,
    }
    void edit.change('rigs', rig.id, `Keep ${made.name}`, (r) => ({
      ...r,
      dialled: [...(r.dialled ?? []), made],
    }))
    write({ name: '', place: '', volume: '' })
  }
  return (
    <Row>
      <TextField
        label="Keep it as"
        placeholder="Rehearsal, second hour"
        value={note.name}
        onCommit={(name) => write((n) => ({ ...n, name }))}
      />
      <TextField label="Room" value={note.place} onCommit={(place) => write((n) => ({ ...n, place }))} />
      <TextField
        label="How loud"
        value={note.volume}
        onCommit={(volume) => write((n) => ({ ...n, volume }))}
      />
      <Button $strong onPress={keep}>
        Keep where the knobs stand
      </Button>
      {played && <Muted as="span">with {find('gear', played)?.name}</Muted>}
    </Row>
  )
}
