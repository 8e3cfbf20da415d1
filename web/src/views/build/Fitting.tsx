import { useState } from 'react'
import styled from 'styled-components'
import { useBoard, useLookup } from '../../api/plan'
import type { BoardReport, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { FloorPicture } from '../../floor/FloorPicture'
import { useChosen } from '../../state/place'
import { Button, Switch } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { TakeButton } from '../../ui/TakeButton'

/** A better layout beside the one there is, taken whole or in part. */
export function Fitting({ rig, close }: { rig: Rig; close: () => void }) {
  const { plan, setList, destination } = useChosen()
  const edit = useEdit()
  const find = useLookup(plan)
  const [seed, again] = useState(0)
  const [kept, keep] = useState<Set<string>>(new Set())
  const { data: now } = useBoard(rig.id, setList?.id, destination?.id)
  const work = useWork<BoardReport>('/api/floor/fit', {
    rig: rig.id,
    set_list: setList?.id,
    destination: destination?.id,
    seed,
  })
  const found = work.result
  const places = found?.taken?.places ?? {}
  const differs = (id: string) => {
    const a = rig.floor.places?.[id]
    const b = places[id]
    return (
      a?.x_mm !== b?.x_mm ||
      a?.y_mm !== b?.y_mm ||
      (a?.rotation_deg ?? 0) !== (b?.rotation_deg ?? 0) ||
      (a?.under ?? false) !== (b?.under ?? false)
    )
  }
  const moved = [...new Set([...Object.keys(places), ...Object.keys(rig.floor.places ?? {})])].filter(differs)
  const taken = moved.filter((id) => !kept.has(id))
  const name = (id: string) => find('gear', id)?.name ?? id
  const take = async () => {
    const outcome = await edit.change(
      'rigs',
      rig.id,
      taken.length === moved.length ? 'Fit the board' : `Fit ${taken.length} boxes on the board`,
      (r) => {
        const next = { ...r.floor.places }
        for (const id of taken) {
          const to = places[id]
          if (to) next[id] = to
          else delete next[id]
        }
        return { ...r, floor: { ...r.floor, places: next } }
      },
      work.from,
    )
    if (!outcome.problem) close()
  }
  return (
    <Panel role="region" aria-label="Fit">
      <Row $gap={14} style={{ alignItems: 'center' }}>
        <Heading>Fit</Heading>
        {work.busy && <Progress label="Finding places" share={work.progress} cancel={work.cancel} />}
        {work.cancelled && <Button onPress={work.again}>Look again</Button>}
        <Button onPress={close}>Close</Button>
      </Row>
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && now && (
        <>
          <p role="status">{verdict(found, name)}</p>
          <Sides>
            <Side title="Now" data={now} which="before" />
            <Side title="Fitted" data={found} which="after" />
          </Sides>
          {moved.length === 0 ? (
            <Muted>Nothing would move.</Muted>
          ) : (
            <>
              <Row role="group" aria-label="Which boxes move" $gap={14}>
                {moved.map((id) => (
                  <Switch
                    key={id}
                    label={name(id)}
                    value={!kept.has(id)}
                    onChange={(on) => {
                      const next = new Set(kept)
                      if (on) next.delete(id)
                      else next.add(id)
                      keep(next)
                    }}
                  />
                ))}
              </Row>
              <Row>
                <TakeButton
                  $strong
                  fresh={work.fresh}
                  onPress={() => void take()}
                  isDisabled={taken.length === 0}
                >
                  {taken.length === moved.length ? 'Take it all' : `Take ${taken.length} of ${moved.length}`}
                </TakeButton>
                <Button onPress={() => again(seed + 1)}>Another</Button>
              </Row>
            </>
          )}
        </>
      )}
    </Panel>
  )
}

function verdict(found: BoardReport, name: (id: string) => string): string {
  if (found.left_out.length === 0)
    return found.fits ? 'Everything fits.' : 'Everything has a place. The findings say what is still wrong.'
  const without = found.left_out.map(name).join(', ')
  return found.proven
    ? `Not everything fits on this board, proven. Left out: ${without}.`
    : `No place was found for everything. Left out: ${without}.`
}

function Side({ title, data, which }: { title: string; data: BoardReport; which: 'before' | 'after' }) {
  const figure = (x: number | undefined, unit: string, digits: number) =>
    x === undefined ? '' : `${x.toFixed(digits)} ${unit}`
  return (
    <Stack $gap={4}>
      <Heading as="h3">{title}</Heading>
      <FloorPicture label={`${title}: the board`} shown={{ floor: data.floor }} />
      <Muted>
        <Figure>{figure(data.footwork_s?.[which], 's of footwork, ', 1)}</Figure>
        <Figure>{figure(data.cable_m[which], 'm of cable', 2)}</Figure>
      </Muted>
    </Stack>
  )
}

const Sides = styled.div`
  display: grid; grid-template-columns: 1fr 1fr; gap: 12px;
  @media (max-width: 900px) { grid-template-columns: 1fr; }
`
