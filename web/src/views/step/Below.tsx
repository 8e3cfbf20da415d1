import type { Rig } from '../../api/types'
import { SideBySide } from '../../frame/SideBySide'
import { Loops } from '../order/Loops'
import { Clocks } from './Clocks'
import { Compared } from './Compared'
import { MidiMap } from './MidiMap'
import { Programs } from './Programs'
import { WhatIf } from './WhatIf'

/** What stands below the night and the floor. It is fetched after them. */
export function Below({ rig, other }: { rig: Rig; other: Rig | undefined }) {
  return (
    <>
      {other && <Compared rig={rig} other={other} />}
      <SideBySide title="The set faster and slower" rig={rig.id} query={{ tempo: [-8, -4, 4, 8] }} />
      <Programs rig={rig} />
      <Loops rig={rig} />
      <MidiMap rig={rig} />
      <Clocks rig={rig} />
      <WhatIf rig={rig} />
    </>
  )
}
