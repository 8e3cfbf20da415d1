import { useElectric, usePower } from '../api/plan'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { Figure } from '../ui/layout'
import { TakeButton } from '../ui/TakeButton'
import { usePutBuffer } from '../views/balance/usePutBuffer'
import { FindingCards } from './FindingCards'

/** What is to be said of treble, levels and impedances. */
export function ElectricFindings() {
  const { rig, destination, setList } = useChosen()
  const { data, fresh, from } = useElectric(rig?.id, {
    setList: setList?.id,
    destination: destination?.id,
  })
  const putBuffer = usePutBuffer()
  if (!rig || !data) return null
  return (
    <FindingCards
      rig={rig}
      findings={data.findings}
      fresh={fresh}
      nothing="No treble to speak of is lost, and levels fit."
      more={(f) =>
        (f.rule === 'jump' || f.rule === 'loss') &&
        data.buffer && (
          <p>
            A buffer before {data.buffer.name} would leave{' '}
            <Figure>{(f.rule === 'jump' ? data.buffer.jump_db : data.buffer.worst_db).toFixed(1)} dB</Figure>.
          </p>
        )
      }
      acts={(f) =>
        (f.rule === 'jump' || f.rule === 'loss') &&
        data.buffer && (
          <TakeButton $strong onPress={() => data.buffer && putBuffer(data.buffer, from)}>
            {data.buffer.words}
          </TakeButton>
        )
      }
    />
  )
}

/** What is wrong with what feeds the boxes. */
export function PowerFindings() {
  const { rig, destination } = useChosen()
  const { data, fresh } = usePower(rig?.id, destination?.id)
  const edit = useEdit()
  if (!rig || !data) return null
  const unplug = (names: string[]) =>
    edit.change('rigs', rig.id, `Unplug ${names.join(' and ')}`, (r) => ({
      ...r,
      power: (r.power ?? [])
        .map((x) => ({
          ...x,
          gear: x.gear.filter((g) => !data.loads.some((l) => l.gear === g && names.includes(l.name))),
        }))
        .filter((x) => x.gear.length > 0),
    }))
  return (
    <FindingCards
      rig={rig}
      findings={data.findings}
      fresh={fresh}
      nothing="Every box is fed as it wants."
      acts={(f) =>
        f.gravity === 'danger' &&
        f.names.length > 0 && (
          <TakeButton $strong onPress={() => unplug(f.names)}>
            Unplug {f.names.join(' and ')}
          </TakeButton>
        )
      }
    />
  )
}
