import { useState } from 'react'
import { useSectionGroups } from '../../api/plan'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button, Switch } from '../../ui/controls'
import { NumberField } from '../../ui/fields'
import { Figure, Muted, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

/** What is so of all sections of a name, said once: where you sing, how long they are, the rest before them. */
export function ManySections() {
  const { setList } = useChosen()
  const edit = useEdit()
  const [all, everySong] = useState(false)
  const scope = all ? undefined : setList?.id
  const { data } = useSectionGroups(scope)
  if (!data || data.length === 0) return <Muted>No sections yet.</Muted>
  return (
    <>
      <Muted>
        Verse and Verse 2 are one name here. What you say of a name is said of all its sections
        {scope ? ` in the songs of ${setList?.name}` : ', in every song'}, and undone as one.
      </Muted>
      {setList && <Switch label="Every song, not only this set’s" value={all} onChange={everySong} />}
      <Wide>
        <Grid aria-label="Sections by name">
          <thead>
            <tr>
              <th scope="col">Section</th>
              <th scope="col">How many</th>
              <th scope="col">Sung</th>
              <th scope="col">Say</th>
              <th scope="col">Bars</th>
              <th scope="col">Rest before, beats</th>
            </tr>
          </thead>
          <tbody>
            {data.map((g) => (
              <tr key={g.label}>
                <th scope="row">{g.label}</th>
                <td>
                  <Figure>{g.sections}</Figure> in {g.songs} {g.songs === 1 ? 'song' : 'songs'}
                </td>
                <td>
                  {g.singing === 0
                    ? 'none'
                    : g.singing === g.sections
                      ? 'all'
                      : `${g.singing} of ${g.sections}`}
                </td>
                <td>
                  <Row $gap={4} style={{ flexWrap: 'nowrap' }}>
                    {g.singing < g.sections && (
                      <Button
                        aria-label={`I sing in every ${g.label}`}
                        onPress={() => edit.markSections(g.label, { singing: true }, scope)}
                      >
                        I sing
                      </Button>
                    )}
                    {g.singing > 0 && (
                      <Button
                        aria-label={`I sing in no ${g.label}`}
                        onPress={() => edit.markSections(g.label, { singing: false }, scope)}
                      >
                        I do not
                      </Button>
                    )}
                  </Row>
                </td>
                <td>
                  <NumberField
                    hideLabel
                    label={`Bars of every ${g.label}`}
                    width={84}
                    value={g.bars}
                    placeholder={g.open === g.sections ? 'open' : 'differ'}
                    min={0.25}
                    max={1000}
                    onCommit={(v) => edit.markSections(g.label, { bars: v ?? 0 }, scope)}
                  />
                </td>
                <td>
                  <NumberField
                    hideLabel
                    label={`Rest before every ${g.label}, beats`}
                    width={84}
                    value={g.rest_beats}
                    placeholder="differ"
                    min={0}
                    max={256}
                    onCommit={(v) => edit.markSections(g.label, { rest_beats: v ?? 0 }, scope)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Grid>
      </Wide>
    </>
  )
}
