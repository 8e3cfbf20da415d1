import { Heading as AriaHeading } from 'react-aria-components/Heading'
import { Modal } from 'react-aria-components/Modal'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useKinds, values } from '../../api/plan'
import type { Gear, Kind } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { EffectMark } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { Sheet, Veil } from '../../ui/AskName'
import { Button } from '../../ui/controls'
import { Heading, Stack } from '../../ui/layout'

/** The generic kinds to start from; each arrives complete and is then corrected. */
export function AddGear({ close }: { close: () => void }) {
  const { plan } = usePlace()
  const { data } = useKinds()
  const edit = useEdit()
  const navigate = useNavigate()
  const families = [...new Set((data?.kinds ?? []).map((k) => k.family))]
  const add = (kind: Kind) => {
    const taken = values(plan, 'gear').map((g) => g.name)
    let name = kind.name
    for (let n = 2; taken.includes(name); n += 1) name = `${kind.name} ${n}`
    const gear: Gear = { ...kind.gear, id: freshId(), name, circuit: kind.name }
    close()
    void edit.add('gear', `Add ${name}`, gear)
    navigate(`/own/${gear.id}`)
  }
  return (
    <Veil isOpen isDismissable onOpenChange={(open) => !open && close()}>
      <Modal>
        <Wide>
          <AriaHeading slot="title">Add gear</AriaHeading>
          <Stack>
            {families.map((f) => (
              <div key={f}>
                <Heading as="h3">{f}</Heading>
                <Grid>
                  {(data?.kinds ?? [])
                    .filter((k) => k.family === f)
                    .map((k) => (
                      <Choice key={k.id} onPress={() => add(k)}>
                        <EffectMark
                          effect={k.gear.kind === 'guitar' ? 'guitar' : (k.gear.blocks?.[0]?.effect ?? '')}
                        />
                        <span>
                          <b>{k.name}</b>
                          <small>{k.says}</small>
                        </span>
                      </Choice>
                    ))}
                </Grid>
              </div>
            ))}
          </Stack>
        </Wide>
      </Modal>
    </Veil>
  )
}

const Wide = styled(Sheet)`width: min(860px, 94vw);`
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); gap: 6px; margin-top: 6px;`
const Choice = styled(Button)`
  justify-content: flex-start; text-align: left; padding: 8px; gap: 10px;
  span { display: grid; } b { font-weight: 600; } small { font-size: 12px; color: var(--muted); }
  svg { flex: none; }
`
