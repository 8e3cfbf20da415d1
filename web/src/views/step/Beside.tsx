import type { Report, Rig } from '../../api/types'
import { Assignments } from './Assignments'
import { DoubleStomps } from './DoubleStomps'
import { ReadyEarly } from './ReadyEarly'
import { Timing } from './Timing'

/** What stands beside the floor, under the change of the cursor. */
export function Beside({ rig, report }: { rig: Rig; report: Report }) {
  return (
    <>
      <ReadyEarly />
      <Assignments rig={rig} />
      <DoubleStomps rig={rig} report={report} />
      <Timing rig={rig} />
    </>
  )
}
