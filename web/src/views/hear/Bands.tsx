import styled from 'styled-components'
import { freshId } from '../../api/client'
import { usePartKinds, values } from '../../api/plan'
import type { Band, Part } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Button, IconButton } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { Grid, Wide } from '../../ui/Table'
import { PartRecording } from './PartRecording'
import { WhoPlays } from './WhoPlays'

/** Who plays beside the guitar: the parts of each band, how loud they are, and where they rest. */
export function Bands() {
  const { plan } = useChosen()
  const edit = useEdit()
  const bands = values(plan, 'bands')
  const add = () => {
    const made: Band = { id: freshId(), name: `Band ${bands.length + 1}`, parts: [] }
    return edit.add('bands', `Add ${made.name}`, made)
  }
  return (
    <Stack>
      <Muted>
        Who plays beside the guitar. Balance uses it to say what is heard of each sound among the others, what
        a sound covers, and whether a lead comes through.
      </Muted>
      {bands.map((b) => (
        <BandSheet key={b.id} band={b} />
      ))}
      <div>
        <Button $strong={bands.length === 0} onPress={() => void add()}>
          <Icon name="plus" /> Add a band
        </Button>
      </div>
    </Stack>
  )
}

function BandSheet({ band }: { band: Band }) {
  const { plan, setList } = useChosen()
  const edit = useEdit()
  const several = plan.bands.length > 1
  const put = (label: string, patch: Partial<Band>) =>
    edit.change('bands', band.id, label, (b) => ({ ...b, ...patch }))
  return (
    <Panel aria-label={band.name}>
      <Row>
        <TextField
          label="Name of the band"
          value={band.name}
          onCommit={(name) => put(`Rename ${band.name}`, { name })}
        />
        <NumberField
          label="Whole band, dB over usual"
          width={180}
          value={band.level_db}
          placeholder="0"
          min={-40}
          max={20}
          onCommit={(level_db) => put(`Level of ${band.name}`, { level_db })}
        />
        <NumberField
          label="Home sound, dB over usual"
          width={180}
          value={band.guitar_db}
          placeholder="0"
          min={-40}
          max={20}
          onCommit={(guitar_db) => put(`Level of the guitar in ${band.name}`, { guitar_db })}
        />
        {several && setList && setList.band !== band.id && (
          <Button
            aria-label={`${band.name} plays ${setList.name}`}
            onPress={() =>
              edit.change('set-lists', setList.id, `${band.name} plays ${setList.name}`, (l) => ({
                ...l,
                band: band.id,
              }))
            }
          >
            Plays {setList.name}
          </Button>
        )}
        <IconButton label={`Remove ${band.name}`} onPress={() => edit.remove('bands', band.id, band.name)}>
          <Icon name="cross" />
        </IconButton>
      </Row>
      <Parts band={band} />
      {band.parts.length > 0 && <WhoPlays band={band} />}
    </Panel>
  )
}

function Parts({ band }: { band: Band }) {
  const kinds = usePartKinds()
  const edit = useEdit()
  const put = (part: Part, label: string, patch: Partial<Part>) =>
    edit.change('bands', band.id, `${label} of ${part.name}`, (b) => ({
      ...b,
      parts: b.parts.map((p) => (p.id === part.id ? { ...p, ...patch } : p)),
    }))
  const add = (kind: string) => {
    const found = kinds?.find((k) => k.kind === kind)
    if (!found) return
    const made: Part = { id: freshId(), name: found.name, kind: found.kind as Part['kind'] }
    void edit.change('bands', band.id, `Add ${found.name}`, (b) => ({ ...b, parts: [...b.parts, made] }))
  }
  const options = (kinds ?? []).map((k) => ({ id: k.kind, name: k.name }))
  return (
    <>
      {band.parts.length > 0 && (
        <Wide style={{ maxHeight: 'none' }}>
          <PartsTable aria-label={`Parts of ${band.name}`}>
            <thead>
              <tr>
                <th scope="col" style={{ width: 170 }}>
                  Part
                </th>
                <th scope="col" style={{ width: 180 }}>
                  Kind
                </th>
                <th scope="col" style={{ width: 90 }}>
                  dB over usual
                </th>
                <th scope="col" style={{ width: 110 }}>
                  Brighter, dB an octave
                </th>
                <th scope="col" style={{ width: 90 }}>
                  Octaves up
                </th>
                <th scope="col">Spectrum</th>
                <td style={{ width: 50 }} />
              </tr>
            </thead>
            <tbody>
              {band.parts.map((p) => (
                <tr key={p.id}>
                  <td>
                    <TextField
                      hideLabel
                      label={`Name of ${p.name}`}
                      value={p.name}
                      onCommit={(name) => put(p, 'Name', { name })}
                    />
                  </td>
                  <td>
                    <Select
                      hideLabel
                      label={`Kind of ${p.name}`}
                      value={p.kind}
                      options={options}
                      onChange={(kind) => put(p, 'Kind', { kind: kind as Part['kind'] })}
                    />
                  </td>
                  <td>
                    <NumberField
                      hideLabel
                      label={`Level of ${p.name}, dB over usual`}
                      placeholder="0"
                      width={80}
                      value={p.level_db}
                      min={-60}
                      max={40}
                      onCommit={(level_db) => put(p, 'Level', { level_db })}
                    />
                  </td>
                  <td>
                    <NumberField
                      hideLabel
                      label={`How much brighter ${p.name} is, dB an octave`}
                      placeholder="0"
                      width={80}
                      value={p.tilt_db}
                      min={-12}
                      max={12}
                      onCommit={(tilt_db) => put(p, 'Brightness', { tilt_db })}
                    />
                  </td>
                  <td>
                    <NumberField
                      hideLabel
                      label={`Octaves up of ${p.name}`}
                      placeholder="0"
                      width={80}
                      step={1}
                      value={p.octave}
                      min={-3}
                      max={3}
                      onCommit={(octave) => put(p, 'Octave', { octave })}
                    />
                  </td>
                  <td>
                    <PartRecording part={p} keep={(bands_db) => put(p, 'Recording', { bands_db })} />
                  </td>
                  <td>
                    <IconButton
                      label={`Remove ${p.name} from ${band.name}`}
                      onPress={() =>
                        edit.change('bands', band.id, `Remove ${p.name}`, (b) => ({
                          ...b,
                          parts: b.parts.filter((x) => x.id !== p.id),
                          playing: (b.playing ?? []).filter((x) => x.part !== p.id),
                        }))
                      }
                    >
                      <Icon name="cross" />
                    </IconButton>
                  </td>
                </tr>
              ))}
            </tbody>
          </PartsTable>
        </Wide>
      )}
      <Row>
        <Select
          label="Add a part"
          value={undefined}
          placeholder="Choose a kind"
          options={options}
          onChange={add}
        />
        <Muted as="span">
          Levels and spectra are usual ones of each kind until you say otherwise or bring a recording.
        </Muted>
      </Row>
    </>
  )
}

const PartsTable = styled(Grid)`
  table-layout: fixed; width: 100%; min-width: 830px;
  th, td { padding-right: 10px; }
`
