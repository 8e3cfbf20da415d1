import { Button as AriaButton } from 'react-aria-components/Button'
import { Disclosure, DisclosurePanel } from 'react-aria-components/Disclosure'
import { Heading as AriaHeading } from 'react-aria-components/Heading'
import styled from 'styled-components'
import { useUsualFeet } from '../../api/plan'
import type { FootProfile, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'

const fields: [keyof FootProfile, string][] = [
  ['a_s', 'Fixed part, s'],
  ['b_s', 'Per bit, s'],
  ['dwell_s', 'Dwell, s'],
  ['width_mm', 'Switch, mm'],
  ['singing_factor', 'Singing ×'],
  ['quick_hand_s', 'Quick hand, s'],
  ['slow_hand_s', 'Slow hand, s'],
  ['guitar_change_s', 'Guitar change, s'],
  ['guitar_handed_s', 'Guitar handed over, s'],
  ['retune_s', 'Tune one string, s'],
  ['capo_s', 'Capo, s'],
  ['box_change_s', 'Box in a swap slot, s'],
  ['hold_s', 'Hold, s'],
  ['double_s', 'Double, s'],
  ['taps', 'Taps'],
  ['lead_beats', 'Lead, beats'],
  ['grace_beats', 'Grace, beats'],
]

/** The player's foot and the leave a change may take; the usual values where left empty. */
export function Timing({ rig }: { rig: Rig }) {
  const edit = useEdit()
  const usual = useUsualFeet()
  return (
    <Disclosure>
      <AriaHeading>
        <Toggle slot="trigger">Foot timing</Toggle>
      </AriaHeading>
      <DisclosurePanel>
        <Muted>
          A move takes the fixed part plus so much per bit of log2(distance / switch + 1). Starting values;
          yours may differ.
        </Muted>
        <Row>
          {fields.map(([key, label]) => (
            <NumberField
              key={key}
              label={label}
              width={98}
              min={0}
              placeholder={usual && String(usual[key])}
              value={rig.profile[key]}
              onCommit={(v) =>
                edit.change('rigs', rig.id, `${label} of the foot`, (r) => ({
                  ...r,
                  profile: { ...r.profile, [key]: v },
                }))
              }
            />
          ))}
          <TextField
            label="Who hands guitars over, tuned"
            placeholder="Nobody"
            value={rig.handed_by ?? ''}
            onCommit={(by) =>
              edit.change('rigs', rig.id, 'Who hands guitars over', (r) => ({
                ...r,
                handed_by: by.trim() || undefined,
              }))
            }
          />
        </Row>
      </DisclosurePanel>
    </Disclosure>
  )
}

const Toggle = styled(
  AriaButton,
)`border: 0; background: none; padding: 4px 0; text-decoration: underline; cursor: pointer; font-size: 14px;`
