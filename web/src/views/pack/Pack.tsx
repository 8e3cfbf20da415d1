import { Stack, Title } from '../../ui/layout'
import { Export } from './Export'
import { History } from './History'
import { Import } from './Import'

/** Files in and out, and everything that was done. */
export function Pack() {
  return (
    <Stack $gap={18}>
      <Title>Pack</Title>
      <Import />
      <Export />
      <History />
    </Stack>
  )
}
