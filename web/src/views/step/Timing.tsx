import { Button as AriaButton } from 'react-aria-components/Button'
import { Disclosure, DisclosurePanel } from 'react-aria-components/Disclosure'
import { Heading as AriaHeading } from 'react-aria-components/Heading'
import styled from 'styled-components'
import type { FootProfile, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { NumberField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'

const fields: [keyof FootProfile, string, string][] = [
  ['a_s', 'Fixed part, s', '0.12'],
  ['b_s', 'Per bit, s', '0.14'],
  ['dwell_s', 'Dwell, s', '0.08'],
  ['width_mm', 'Switch, mm', '30'],
  ['singing_factor', 'Singing ×', '1.3'],
  ['quick_hand_s', 'Quick hand, s', '0.4'],
  ['slow_hand_s', 'Slow hand, s', '4'],
  ['guitar_change_s', 'Guitar change, s', '12'],
  ['hold_s', 'Hold, s', '0.6'],
  ['double_s', 'Double, s', '0.3'],
  ['taps', 'Taps', '4'],
  ['lead_beats', 'Lead, beats', '1'],
  ['grace_beats', 'Grace, beats', '0.25'],
]

/** The player's foot and the leave a change may take; the usual values where left empty. */
export function Timing({ rig }: { rig: Rig }) {
  const edit = useEdit()
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
          {fields.map(([key, label, usual]) => (
            <NumberField
              key={key}
              label={label}
              width={98}
              min={0}
              placeholder={usual}
              value={rig.profile[key]}
              onCommit={(v) =>
                edit.change('rigs', rig.id, `${label} of the foot`, (r) => ({
                  ...r,
                  profile: { ...r.profile, [key]: v },
                }))
              }
            />
          ))}
        </Row>
      </DisclosurePanel>
    </Disclosure>
  )
}

const Toggle = styled(
  AriaButton,
)`border: 0; background: none; padding: 4px 0; text-decoration: underline; cursor: pointer; font-size: 14px;`
