import { type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import { freshId } from '../api/client'
import { values } from '../api/plan'
import type { Rig } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import type { Act } from '../ui/Actions'
import { AskName } from '../ui/dialogs'
import { copyOf } from './copyOf'

/** What can be done with rigs as wholes. */
export function useRigActs(): { list: Act[]; dialog: ReactNode } {
  const { plan, rig, pickRig } = useChosen()
  const edit = useEdit()
  const navigate = useNavigate()
  const [asking, ask] = useState<'new' | 'copy' | 'rename' | undefined>()
  const done = async (name: string) => {
    ask(undefined)
    if (asking === 'rename' && rig) {
      await edit.change('rigs', rig.id, `Rename ${rig.name} to ${name}`, (r) => ({ ...r, name }))
      return
    }
    const made: Rig =
      asking === 'copy' && rig
        ? copyOf(rig, name)
        : {
            id: freshId(),
            name,
            floor: {},
            profile: {},
            guitars: values(plan, 'gear')
              .filter((g) => g.kind === 'guitar')
              .slice(0, 1)
              .map((g) => g.id),
          }
    pickRig(made.id)
    await edit.add('rigs', `Add ${name}`, made)
  }
  const list: Act[] = [
    { id: 'type', name: 'Type a rig', run: () => navigate('/begin') },
    { id: 'new', name: 'New rig', run: () => ask('new') },
    { id: 'copy', name: 'Duplicate this rig', run: () => ask('copy'), disabled: !rig },
    { id: 'rename', name: 'Rename this rig', run: () => ask('rename'), disabled: !rig },
    {
      id: 'remove',
      name: 'Remove this rig',
      run: () => rig && void edit.remove('rigs', rig.id, rig.name),
      disabled: !rig,
    },
  ]
  const titles = { new: 'New rig', copy: 'Duplicate rig', rename: 'Rename rig' }
  const dialog = asking && (
    <AskName
      title={titles[asking]}
      initial={asking === 'rename' ? rig?.name : asking === 'copy' ? `${rig?.name} copy` : ''}
      onDone={(name) => void done(name)}
      onCancel={() => ask(undefined)}
    />
  )
  return { list, dialog }
}
