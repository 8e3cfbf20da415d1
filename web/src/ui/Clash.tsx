import { Text } from 'react-aria-components/Text'
import styled from 'styled-components'
import { Button } from './controls'
import { Row } from './layout'
import type { Draft } from './useDraft'

/** Under a field: what was saved elsewhere while it was typed into, to choose from, or why what was
 * typed was not kept. */
export function Clash<T>({ draft, theirs }: { draft: Draft<T>; theirs: string }) {
  if (draft.clash)
    return (
      <Note role="alert">
        Saved elsewhere meanwhile: {theirs === '' ? 'nothing' : `“${theirs}”`}.
        <Row $gap={6}>
          <Button onPress={draft.insist}>Keep mine</Button>
          <Button onPress={draft.drop}>Take theirs</Button>
        </Row>
      </Note>
    )
  if (draft.trouble)
    return (
      <Note>
        <Text slot="errorMessage">{draft.trouble}</Text>
      </Note>
    )
  return null
}

const Note = styled.div`font-size: 12px; color: var(--text); border-left: 3px solid var(--red); padding: 2px 8px; display: grid; gap: 4px;`
