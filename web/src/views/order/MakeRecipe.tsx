import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { Button } from '../../ui/controls'

/** Says that this rig cannot make the cursor's sound yet, and lets it. */
export function MakeRecipe() {
  const { rig, sound } = usePlace()
  const edit = useEdit()
  if (!rig || !sound) return null
  return (
    <Box role="note">
      <span>
        {rig.name} has no recipe for {sound.name}.
      </span>
      <Button
        $strong
        onPress={() => {
          const id = freshId()
          void edit.change('rigs', rig.id, `Make ${sound.name} on ${rig.name}`, (r) => ({
            ...r,
            recipes: [...(r.recipes ?? []), { id, sound: sound.id }],
          }))
        }}
      >
        Make {sound.name} here
      </Button>
    </Box>
  )
}

const Box = styled.div`
  display: flex; gap: 14px; align-items: center; padding: 8px 12px; border: 1px solid var(--red); background: var(--panel);
`
