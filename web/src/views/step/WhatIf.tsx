import { useState } from 'react'
import { useKinds, values } from '../../api/plan'
import type { WhatIf as Answer, Rig } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Caution, Figure, Muted, Row } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { TakeButton } from '../../ui/TakeButton'
import { keysOf } from '../order/chain'

/** What adding a pedal would gain: one of the gear pile, or a generic kind. */
export function WhatIf({ rig }: { rig: Rig }) {
  const { plan, setList, destination, here } = useChosen()
  const { data: kinds } = useKinds()
  const edit = useEdit()
  const [picked, pick] = useState<string | undefined>()
  const [kind, id] = (picked ?? ' ').split(' ')
  const work = useWork<Answer>(
    '/api/what-if',
    picked && setList
      ? {
          rig: rig.id,
          set_list: setList.id,
          destination: destination?.id,
          [kind === 'kind' ? 'kind' : 'gear']: id,
        }
      : undefined,
  )
  const inRig = new Set(keysOf(here?.path ?? []).map((k) => k.split('/')[0]))
  const options = [
    ...values(plan, 'gear')
      .filter((g) => ['pedal', 'interface', 'controller'].includes(g.kind) && !inRig.has(g.id))
      .filter(
        (g) =>
          g.kind !== 'controller' ||
          (g.footswitches ?? []).some((s) => s.press?.actions.some((a) => a.kind === 'recall')),
      )
      .map((g) => ({ id: `gear ${g.id}`, name: `${g.name}, owned` })),
    ...(kinds?.kinds ?? [])
      .filter(
        (k) =>
          ['pedal', 'controller'].includes(k.gear.kind) &&
          ((k.gear.blocks ?? []).length > 0 || k.gear.switcher),
      )
      .map((k) => ({ id: `kind ${k.id}`, name: `${k.name}, a generic one` })),
  ]
  const found = work.result
  return (
    <Fold title="Add a pedal">
      <Row>
        <Select label="Pedal" value={picked} options={options} onChange={pick} placeholder="choose one" />
        {work.busy && <Progress label="Trying it" share={work.progress} cancel={() => pick(undefined)} />}
      </Row>
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {found && !work.busy && (
        <section aria-label="What it would gain">
          <p>
            {found.name} {found.where}: reach{' '}
            <Figure>
              {found.reach.reached}/{found.reach.total}
            </Figure>
            , <Figure>{found.before.reached}</Figure> without it; <Figure>{found.reach.presses}</Figure>{' '}
            presses, <Figure>{found.before.presses}</Figure> without.
          </p>
          <p>
            {found.sounds.length > 0
              ? `It makes ${found.sounds.join(', ')} possible.`
              : 'It makes no further sound possible.'}
          </p>
          {found.brings.length > 0 && <p>It adds: {found.brings.join('; ')}.</p>}
          {found.powered && (
            <Caution>
              Asks for {found.powered}. Wrong voltage or polarity kills pedals: check its label first.
            </Caution>
          )}
          <Row>
            <TakeButton
              $strong
              fresh={work.fresh}
              onPress={() => {
                pick(undefined)
                void edit.carryOut(
                  {
                    rig: rig.id,
                    destination: destination?.id,
                    label: `Put ${found.name} in`,
                    edits: found.edits,
                    gear: found.gear,
                  },
                  work.from,
                )
              }}
            >
              Put it in
            </TakeButton>
            <Button onPress={() => pick(undefined)}>Leave it</Button>
          </Row>
        </section>
      )}
    </Fold>
  )
}
