import { useState } from 'react'
import { freshId } from '../../api/client'
import { useLookup, usePlainBoards } from '../../api/plan'
import type { BoardComparison, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'

/** The rig fitted onto every board that is owned and of every plain size. */
export function Boards({ rig }: { rig: Rig }) {
  const { plan, setList, destination } = useChosen()
  const { data: plain } = usePlainBoards()
  const edit = useEdit()
  const find = useLookup(plan)
  const [asked, ask] = useState(false)
  const work = useWork<BoardComparison>(
    '/api/floor/boards',
    asked && setList ? { rig: rig.id, set_list: setList.id, destination: destination?.id } : undefined,
  )
  if (!setList) return <Muted>Boards are compared for a set: make a set list in Hear.</Muted>
  const found = work.result
  const name = (id: string) => find('gear', id)?.name ?? find('sounds', id)?.name ?? id
  const stand = (id: string) => {
    const label = `Stand on ${found?.boards.find((b) => b.board === id)?.name ?? id}`
    const size = plain?.find((g) => g.id === id)
    if (find('gear', id) || !size)
      return edit.change('rigs', rig.id, label, (r) => ({ ...r, floor: { ...r.floor, board: id } }))
    const own = freshId()
    return edit.addAnd(
      label,
      { kind: 'gear', value: { ...size, id: own } },
      { kind: 'rigs', id: rig.id, update: (r) => ({ ...r, floor: { ...r.floor, board: own } }) },
    )
  }
  return (
    <Panel role="region" aria-label="Boards compared">
      <Row $gap={14} style={{ alignItems: 'center' }}>
        <Heading>Boards compared</Heading>
        {!asked && (
          <Button $strong onPress={() => ask(true)}>
            Compare boards
          </Button>
        )}
        {work.busy && (
          <Progress label="Fitting onto every board" share={work.progress} cancel={() => ask(false)} />
        )}
      </Row>
      <Muted>
        {rig.name} is fitted onto every board you own and onto twelve plain sizes: what finds no place, which
        sounds go with it, and what the rest comes to.
      </Muted>
      {work.refused && <p role="alert">{work.refused}</p>}
      {found && (
        <>
          <p role="status">
            {found.smallest
              ? `The smallest that holds every sound of the set: ${found.boards.find((b) => b.board === found.smallest)?.name}.`
              : 'No board was found that holds every sound of the set.'}
          </p>
          <Wide style={{ maxHeight: 'none' }}>
            <Grid aria-label="Boards">
              <thead>
                <tr>
                  <th scope="col">Board</th>
                  <th scope="col">Sounds</th>
                  <th scope="col">Reach</th>
                  <th scope="col">Footwork</th>
                  <th scope="col">Cable</th>
                  <th scope="col">Weight</th>
                  <th scope="col">Left out</th>
                  <th scope="col" aria-label="Stand on it" />
                </tr>
              </thead>
              <tbody>
                {found.boards.map((b) => (
                  <tr key={b.board}>
                    <th scope="row">
                      {b.name}
                      {b.owned && `, ${b.width_mm} × ${b.depth_mm} mm`}
                    </th>
                    <td>
                      <Figure>
                        {b.kept}/{found.sounds.length}
                      </Figure>
                    </td>
                    <td>
                      <Figure>
                        {b.reached}/{b.total}
                      </Figure>
                    </td>
                    <td style={{ whiteSpace: 'nowrap' }}>
                      <Figure>{b.footwork_s.toFixed(1)} s</Figure>
                    </td>
                    <td style={{ whiteSpace: 'nowrap' }}>
                      <Figure>{b.cable_m.toFixed(2)} m</Figure>
                    </td>
                    <td style={{ whiteSpace: 'nowrap' }}>
                      <Figure>{(b.weight_g.total / 1000).toFixed(1)} kg</Figure>
                    </td>
                    <td>
                      {b.left_out.length === 0
                        ? b.fits
                          ? 'all fits'
                          : `all has a place, ${b.findings} things are wrong`
                        : `${b.left_out.map(name).join(', ')}${b.proven ? ', proven that not all fits' : ''}`}
                    </td>
                    <td>
                      {b.main ? (
                        <Muted>stands on it</Muted>
                      ) : (
                        <TakeButton
                          fresh={work.fresh}
                          aria-label={`Stand on ${b.name}`}
                          onPress={() => void stand(b.board)}
                        >
                          Stand on it
                        </TakeButton>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Grid>
          </Wide>
        </>
      )}
    </Panel>
  )
}
